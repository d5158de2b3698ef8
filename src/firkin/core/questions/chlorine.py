"""Thinning bleach and peroxide for surfaces, with the fading of an old bottle.

Source: WHO, Cleaning and disinfection of environmental surfaces in the context of COVID-19, May 2020;
CDC: parts of water to one of bleach = stock / wanted - 1.
"""

from dataclasses import dataclass

from firkin.core.catalogue import Material, cautions, find, rule_lines
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line
from firkin.core.measures import QS, Quantity, Strength, Working, WorkLine, amount_words, figures, rounded_down
from firkin.core.questions.declaration import Answer, Asked, Choices, Field, Given, Kind, Question
from firkin.core.questions.pictures import Filled, Layer
from firkin.core.questions.wording import strength_field
from firkin.core.texts import uncapped

#: Household bleach, whose fading and keeping stand in the catalogue.
BLEACH = find("sodium-hypochlorite")


@dataclass(frozen=True, slots=True)
class Surface:
    """A surface solution: mL of stock and water, parts of water to one of stock, the stock counted."""

    bleach_mL: float
    water_mL: float
    parts_water: float
    assumed_stock_pct: float
    working: Working


def faded(stock_pct: float, age_months: float) -> float:
    """What is counted of a bottle's label strength after ``age_months``, in per cent.

    >>> round(faded(5.0, 6.0), 3)
    4.0
    """
    if age_months < 0:
        raise CannotReckon("A bottle is 0 months old or more.").at("age_months")
    return float(stock_pct * BLEACH.kept_in_six_months ** (age_months / 6.0))


def surface_solution(stock: Strength, target: Strength, make_mL: float, age_months: float = 0.0) -> Surface:
    """How to thin bleach (or peroxide, with age 0) to ``make_mL`` of ``target``.

    The low end of a range is counted. Label arithmetic: per cent by weight is counted as by volume,
    which errs on the strong side. Raises CannotReckon when the (faded) stock is below the target.

    >>> made = surface_solution(Strength.of(5.0, "w/w"), Strength.of(0.5, "w/w"), 1000.0)
    >>> round(made.parts_water, 6), round(made.bleach_mL, 6), round(made.water_mL, 6)
    (9.0, 100.0, 900.0)
    """
    assumed = faded(stock.low, age_months)
    wanted = target.high
    if make_mL <= 0:
        raise CannotReckon("Make more than 0 mL.").at("make")
    if not wanted:
        raise CannotReckon("A target of 0 % is plain water.").at("target")
    if wanted > assumed * (1 + 1e-12):
        raise CannotReckon(
            f"{target} cannot be made from this bottle: {figures(assumed)} % is counted of it. "
            f"At most {figures(assumed)} % is possible, used straight."
        ).at("target")
    parts = assumed / wanted - 1.0
    bleach = make_mL / (parts + 1.0)
    lines = [
        WorkLine("Parts of water to one of stock", f"{figures(assumed)} ÷ {figures(wanted)} − 1", parts, "parts"),
        WorkLine("Stock", f"{figures(make_mL)} mL ÷ ({figures(parts)} + 1)", bleach, "mL"),
        WorkLine("Water", f"{figures(make_mL)} − {figures(bleach)}", make_mL - bleach, "mL"),
    ]
    if age_months:
        fade = WorkLine(
            "Counted of the label after fading",
            f"{figures(stock.low)} % × {figures(BLEACH.kept_in_six_months)} ^ ({figures(age_months)} ÷ 6)",
            assumed,
            "%",
        )
        lines.insert(0, fade)
    return Surface(bleach, make_mL - bleach, parts, assumed, tuple(lines))


_LINES = ("surface-chlorine-01", "surface-chlorine-05", "surface-peroxide")


def _actives() -> Choices:
    return [("sodium-hypochlorite", "Bleach (sodium hypochlorite)"), ("hydrogen-peroxide", "Hydrogen peroxide")]


def _purposes() -> Choices:
    return [("", "a strength of my own"), *((key, rule_lines()[key].name) for key in _LINES)]


def _target(asked: Asked) -> Strength:
    """The strength written, or that of the rule line chosen, which must be of the active asked about."""
    if asked["target"] is not None or not asked["rule"]:
        if asked["target"] is None:
            raise CannotReckon("Choose what it is for, or write a strength such as 1000 ppm.").at("target")
        target: Strength = asked["target"]
        return target
    limit = rule_lines()[asked["rule"]].limits[0]
    if limit.active != asked.active.id:
        raise CannotReckon(f"That rule is for {uncapped(find(limit.active).name)}.").at("rule")
    assert limit.minimum is not None
    return Strength.of(limit.minimum, asked.active.basis)


#: What the per cent on a bottle of bleach is of: the label's wording decides.
_LABELS = (
    ("", "the label does not say"),
    ("chlorine", "available chlorine"),
    ("hypochlorite", "sodium hypochlorite"),
)


def _as_chlorine(stock: Strength) -> Strength:
    """A per cent of sodium hypochlorite as available chlorine."""
    return BLEACH.read_strength(f"{stock} sodium hypochlorite")


def _check_stock(active: Material, stock: Strength) -> None:
    """Refuse what is no bleach or peroxide, and a strength that none of them is sold in."""
    if active.written not in dict(_actives()):
        names = " or ".join(uncapped(name) for _, name in _actives())
        raise CannotReckon(f"{active.name} is not asked about here: {names}.").at("active")
    most = max(high for _, high in active.sold)
    if stock.high > most * _ROOM:
        dry = " Granules of 65 to 70 % are weighed, not poured." if "chlorine" in active.roles else ""
        raise CannotReckon(f"{active.called} is not sold at {stock}: {figures(most)} % is the most.{dry}").at("stock")


#: A label may say a little more than what is usual.
_ROOM = 1.05


def _answer(asked: Asked) -> Answer:
    _check_stock(asked.active, asked["stock"])
    active, stock, target, make = asked.active, asked["stock"], _target(asked), asked["make"].mL
    if "chlorine" in active.roles and asked["label"] == "hypochlorite":
        stock = _as_chlorine(stock)
    bleach = "chlorine" in active.roles
    age = (asked["age_months"] or 0.0) if bleach else 0.0
    made = surface_solution(stock, target, make, age)
    rows = [
        (active.name, amount_words(made.bleach_mL)),
        ("Cold water", amount_words(made.water_mL)),
        ("It holds", f"{figures(target.high)} %, or {figures(target.high * 10_000)} ppm"),
    ]
    says, warns = [], [cautions()["bleach-mix" if bleach else "peroxide-acid"].text]
    if bleach:
        says.append(_wording(asked["label"], stock))
        says.append(
            f"Pour it away {BLEACH.discard_h:g} hours after making (WHO, May 2020). Keep it dark, closed and labelled."
        )
        says.append("Clean first: dirt uses chlorine up.")
        if age:
            rows.insert(0, ("Counted of the label", f"{figures(made.assumed_stock_pct)} %"))
            says.append("Fading is counted as a fifth lost in six months at room temperature (from memory).")
        if BLEACH.trusted_months is not None and age > BLEACH.trusted_months:
            warns.append("A bottle more than a year old cannot be trusted. Use a fresh one.")
    elif asked["age_months"]:
        says.append("Age is counted for bleach only; an opened bottle of peroxide fades too, so use a fresh one.")
    if asked["rule"] and asked["target"] is None:
        says.append(f"{rule_lines()[asked['rule']].source}.")
    return Answer(
        {
            "bleach_mL": made.bleach_mL,
            "water_mL": made.water_mL,
            "parts_water_per_part_bleach": made.parts_water,
            "assumed_stock_pct": made.assumed_stock_pct,
        },
        made.working,
        f"1 : {figures(rounded_down(made.parts_water, 3), 3)}",
        "parts, stock to water",
        tuple(rows),
        tuple(says),
        tuple(warns),
        Filled(
            (
                Layer("Water", "water", make - made.bleach_mL, amount=amount_words(make - made.bleach_mL)),
                Layer(active.name, "mist", make, amount=amount_words(made.bleach_mL)),
            ),
            make,
        ),
        ("bleach-fresh",) if bleach else ("peroxide-corrosive",),
        _formula(active, made, stock, make, asked["rule"] if asked["target"] is None else None),
    )


def _wording(label: str | None, stock: Strength) -> str:
    """What the per cent was taken to be of."""
    if label == "hypochlorite":
        return f"Sodium hypochlorite, counted as {figures(stock.value)} % available chlorine (70.9 ÷ 74.4 by weight)."
    if label == "chlorine":
        return "Available chlorine, as the label says."
    weaker = figures(_as_chlorine(stock).value)
    return (
        "The per cent is counted as available chlorine, as CDC and WHO count it. Read the label: where it says sodium "
        f"hypochlorite, this bottle holds {weaker} %; choose that above, and take more of it."
    )


def _formula(active: Material, made: Surface, stock: Strength, make_mL: float, rule: str | None) -> Formula:
    lines = (
        Line(active, Quantity(made.bleach_mL, "mL"), Strength.of(made.assumed_stock_pct, stock.basis)),
        Line(find("water"), Quantity(0.0, QS)),
    )
    return Formula("Unnamed", lines, "surface", make=Quantity(make_mL, "mL"), guidelines=(rule,) if rule else ())


CHLORINE = Question(
    "chlorine",
    "Surfaces",
    "How much bleach or peroxide for a surface?",
    "From the bottle’s label and age to parts of water. Made fresh, and poured away after a day.",
    "Strength",
    (
        Field("active", Kind.ACTIVE, "What", "sodium-hypochlorite", choices=_actives, fallback="sodium-hypochlorite"),
        strength_field(
            "stock", "Strength on the label", "5 %", "Per cent by weight or volume, available chlorine, or ppm."
        ),
        Field(
            "label",
            Kind.CHOICE,
            "The per cent is of",
            choices=lambda: _LABELS,
            help="6 % of sodium hypochlorite is 5.7 % available chlorine.",
            optional=True,
        ),
        Field(
            "age_months",
            Kind.NUMBER,
            "Age of the bottle, months",
            "0",
            hint="0",
            optional=True,
            least=0.0,
            most=1200.0,
        ),
        Field("rule", Kind.CHOICE, "For", "surface-chlorine-01", choices=_purposes, optional=True),
        Field("target", Kind.STRENGTH, "Strength of my own", hint="1000 ppm", optional=True),
        Field("make", Kind.VOLUME, "Make", "1 L", hint="1 L"),
    ),
    (
        Given("bleach_mL", "stock to measure"),
        Given("water_mL", "water to it"),
        Given("parts_water_per_part_bleach", "parts of water to one of stock"),
        Given("assumed_stock_pct", "what is counted of the label after fading"),
    ),
    _answer,
    about="sodium-hypochlorite",
)
