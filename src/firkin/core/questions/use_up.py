"""Using up what is left of a bottle: which of the other bottles bring it to a strength, and how much of each."""

from collections.abc import Sequence
from dataclasses import dataclass

from firkin.core.catalogue import Material, Stock, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, levels
from firkin.core.measures import Quantity, Strength, Working, WorkLine, amount_words, figures, rounded_down
from firkin.core.questions.bases import comes_to, counted, fraction, grams_per_mL, range_rows, range_says
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Filled, Layer
from firkin.core.questions.wording import ALCOHOL_CAUTIONS, HIGH, LOW, active_field, doubt_rows, strength_field
from firkin.core.texts import quoted


@dataclass(frozen=True, slots=True)
class UsedUp:
    """mL of each stock, in their order, what it comes to in mL and g, and at which strengths on the target's basis."""

    volumes_mL: tuple[float, ...]
    make_mL: float
    mass_g: float
    low: float
    high: float
    working: Working


def use_up(
    active: Material, stocks: Sequence[Stock], target: Strength, use: int, use_mL: float, make_mL: float | None = None
) -> UsedUp:
    """Use up ``use_mL`` of stock number ``use``: what joins it to come to ``target``, at 20 degC.

    Without ``make_mL`` it is joined by the one stock farthest on the other side of the target, so that least is
    added. With it the strongest and the weakest of the others share the rest. Contraction is counted; masses add.
    Raises CannotReckon where no stock stands on the other side, or the size cannot be met.

    >>> from firkin.core.catalogue import find
    >>> named = lambda name, value: Stock(name, "ethanol", Strength.of(value, "v/v"))
    >>> three = (named("old", 50.0), named("can", 96.0), named("water", 0.0))
    >>> made = use_up(find("ethanol"), three, Strength.of(70.0, "v/v"), 0, 200.0, 1000.0)
    >>> [round(v) for v in made.volumes_mL], round(made.make_mL)
    ([200, 625, 195], 1000)
    >>> [round(v) for v in use_up(find("ethanol"), three, Strength.of(70.0, "v/v"), 0, 200.0).volumes_mL]
    [200, 146, 0]
    """
    shares = [fraction(active, counted(stock.strength)) for stock in stocks]
    wanted = fraction(active, target)
    if not wanted:
        raise CannotReckon("A target of 0 % is plain water.").at("target")
    if use_mL <= 0:
        raise CannotReckon("There is nothing to use up.").at("use", "volume")
    used_g = use_mL * grams_per_mL(active, shares[use])
    others = [i for i in range(len(stocks)) if i != use]
    if make_mL is None:
        masses = _least(stocks, shares, target, wanted, use, used_g)
    else:
        masses = _to_size(active, stocks, shares, target, wanted, use, used_g, make_mL)
    whole = sum(masses)
    volumes = tuple(max(0.0, mass) / grams_per_mL(active, share) for mass, share in zip(masses, shares, strict=True))
    working = [
        WorkLine(
            f"{stocks[use].name}, by weight", f"{figures(use_mL)} mL × {figures(used_g / use_mL)} g/mL", used_g, "g"
        ),
        WorkLine("Active in it", f"{figures(used_g)} g × {figures(100 * shares[use])} %", used_g * shares[use], "g"),
        WorkLine("Active wanted", f"{figures(whole)} g × {figures(100 * wanted)} %", whole * wanted, "g"),
    ]
    working += [
        WorkLine(
            f"{stocks[i].name}, to measure",
            f"{figures(masses[i])} g ÷ {figures(grams_per_mL(active, shares[i]))} g/mL",
            volumes[i],
            "mL",
        )
        for i in others
        if volumes[i] > 0
    ]
    made = whole / active.density_at(wanted)
    working.append(
        WorkLine("It comes to", f"{figures(whole)} g ÷ {figures(active.density_at(wanted))} g/mL", made, "mL")
    )
    low, high = comes_to(active, [(mL, one.strength) for mL, one in zip(volumes, stocks, strict=True)], target)
    return UsedUp(volumes, made, whole, low, high, tuple(working))


def _least(
    stocks: Sequence[Stock], shares: Sequence[float], target: Strength, wanted: float, use: int, used_g: float
) -> list[float]:
    """Grams of each where the stock farthest on the other side joins, if the bottle is not at the target already."""
    masses = [0.0] * len(stocks)
    masses[use] = used_g
    if abs(shares[use] - wanted) <= 1e-9:
        return masses
    over = shares[use] > wanted
    fit = [i for i, share in enumerate(shares) if i != use and share != wanted and (share < wanted) == over]
    if not fit:
        side = "weaker" if over else "stronger"
        raise CannotReckon(
            f"{stocks[use].name} is at {stocks[use].strength}: to come to {target} it needs something {side} than "
            f"that. {'Water, 0 %, always is.' if over else 'None of the others is.'}"
        ).at("stocks")
    other = max(fit, key=lambda i: abs(shares[i] - wanted))
    masses[other] = used_g * (wanted - shares[use]) / (shares[other] - wanted)
    return masses


def _to_size(
    active: Material,
    stocks: Sequence[Stock],
    shares: Sequence[float],
    target: Strength,
    wanted: float,
    use: int,
    used_g: float,
    make_mL: float,
) -> list[float]:
    """Grams of each where the strongest and the weakest of the others make up the size."""
    others = [i for i in range(len(stocks)) if i != use]
    strong, weak = max(others, key=lambda i: shares[i]), min(others, key=lambda i: shares[i])
    if shares[strong] == shares[weak]:
        raise CannotReckon(
            "To come to a size, two bottles of different strengths must join what is left; water is one."
        ).at("stocks")
    whole = make_mL * active.density_at(wanted)
    rest = whole - used_g
    strong_g = (whole * wanted - used_g * shares[use] - rest * shares[weak]) / (shares[strong] - shares[weak])
    if strong_g < -1e-9 * whole:
        most = whole * (wanted - shares[weak]) / (shares[use] - shares[weak]) / grams_per_mL(active, shares[use])
        raise CannotReckon(
            f"What is left of {stocks[use].name} holds more than {amount_words(make_mL)} of {target} needs; "
            f"use at most {figures(rounded_down(most))} mL of it, or make more."
        ).at("use", "volume")
    if rest - strong_g < -1e-9 * whole:
        raise CannotReckon(
            f"{target} cannot be reached with so much of {stocks[use].name} in {amount_words(make_mL)}; use less of "
            f"it, or take something stronger than {stocks[strong].strength}."
        ).at("target")
    masses = [0.0] * len(stocks)
    masses[use], masses[strong], masses[weak] = used_g, max(0.0, strong_g), max(0.0, rest - strong_g)
    return masses


def _answer(asked: Asked) -> Answer:
    active, target, use = asked.active, asked["target"], asked["use"]
    stocks = [Stock(row["name"] or str(row["strength"]), active.id, row["strength"]) for row in asked["stocks"]]
    wanted = (use["name"] or stocks[0].name).lower()
    place = next((i for i, stock in enumerate(stocks) if wanted in (stock.name.lower(), str(stock.strength))), None)
    if place is None:
        known = ", ".join(stock.name for stock in stocks)
        raise CannotReckon(f"{quoted(use['name'])} is none of the stocks; expected one of {known}.").at("use", "name")
    make = asked["make"].mL if asked["make"] is not None else None
    made = use_up(active, stocks, target, place, use["volume"].mL, make)
    rows = [
        (f"{stock.name}, {stock.strength}" if stock.name != str(stock.strength) else stock.name, amount_words(volume))
        for stock, volume in zip(stocks, made.volumes_mL, strict=True)
    ]
    rows += [("It comes to", amount_words(made.make_mL)), *range_rows(active, made.low, made.high, target)]
    rows += doubt_rows(active, made.make_mL, made.mass_g)
    lines: list[Line] = []
    names: list[tuple[str, str]] = []
    for stock, volume in zip(stocks, made.volumes_mL, strict=True):
        if volume > 0:
            water = not stock.strength.value
            strength = None if water else stock.strength
            lines.append(Line(find("water") if water else active, Quantity(volume, "mL"), strength))
            names.append((stock.name, "water" if water else ("alcohol", "honey")[len(names) % 2]))
    formula = Formula("Unnamed", tuple(lines), "liquid-rub")
    layers = tuple(
        Layer(name, kind, level, amount=amount_words(line.amount.value))
        for (name, kind), level, line in zip(names, levels(formula), formula.lines, strict=True)
    )
    added = [(volume, stock.name) for stock, volume in zip(stocks, made.volumes_mL, strict=True)]
    most = max((one for i, one in enumerate(added) if i != place), default=(0.0, "anything else"))
    least = "Without a size, the bottle farthest from the target joins: that adds least."
    says = (*([least] if make is None else []), *range_says(*(stock.strength for stock in stocks)))
    return Answer(
        {"volumes_mL": list(made.volumes_mL), "make_mL": made.make_mL, "low": made.low, "high": made.high},
        made.working,
        figures(most[0]),
        f"mL of {most[1]}",
        tuple(rows),
        says,
        picture=Filled(layers, made.make_mL),
        cautions=ALCOHOL_CAUTIONS,
        formula=formula,
    )


USE_UP = Question(
    "use-up",
    "Use up a bottle",
    "How far does the rest of a bottle go?",
    "Name the bottles there are, water too, and how much is left of the one to finish.",
    "Strength",
    (
        active_field(),
        Field(
            "stocks",
            Kind.GROUP,
            "Bottles",
            rows=(2, 8),
            row_labels=("One bottle", "Another", "And"),
            fields=(
                Field("name", Kind.NAME, "Called", ("old bottle", "can", "water"), hint="can", optional=True),
                Field("strength", Kind.STRENGTH, "Strength", ("50 %", "96 %", "0 %"), hint="0 % is water"),
            ),
        ),
        Field(
            "use",
            Kind.GROUP,
            "",
            fields=(
                Field("name", Kind.NAME, "The one to finish", "old bottle", hint="old bottle", optional=True),
                Field("volume", Kind.VOLUME, "All that is left of it", "200 mL", hint="200 mL"),
            ),
        ),
        strength_field("target", "Bring it to", "70 %"),
        Field(
            "make",
            Kind.VOLUME,
            "Make",
            "1 L",
            hint="as it comes",
            help="Empty: as little as brings it there.",
            optional=True,
        ),
    ),
    (
        Given("volumes_mL", "what to measure of each stock, in their order", "numbers"),
        Given("make_mL", "what it comes to"),
        LOW,
        HIGH,
    ),
    _answer,
)
