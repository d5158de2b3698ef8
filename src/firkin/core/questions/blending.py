"""Two bottles into one strength.

Parts by label arithmetic are the alligation of the pharmacist; volumes come from masses and the
density of the mixture, so contraction counts. At 20 degC.
"""

from dataclasses import dataclass

from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line
from firkin.core.measures import Quantity, Strength, Working, WorkLine, amount_words, figures, weight_words
from firkin.core.questions.bases import (
    both,
    comes_to,
    counted,
    fraction,
    grams_per_mL,
    label_basis,
    label_pct,
    range_rows,
    range_says,
)
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Block, Levelled
from firkin.core.questions.wording import ALCOHOL_CAUTIONS, HIGH, LOW, active_field, doubt_rows, doubts, strength_field

WATER = Strength.of(0.0, "v/v")


@dataclass(frozen=True, slots=True)
class Blend:
    """Parts by label arithmetic, mL of each to measure, and the strength that results, in per cent.

    ``true``, ``low`` and ``high`` are on the target's basis, the ends those of the labels' ranges.
    """

    parts: tuple[float, float]
    volumes_mL: tuple[float, float]
    masses_g: tuple[float, float]
    true: float
    low: float
    high: float
    working: Working


def blend(active: Material, stocks: tuple[Strength, Strength], target: Strength, make_mL: float) -> Blend:
    """How to blend two stocks to ``make_mL`` of ``target``; one of them may be water (0 %).

    Bases may differ: parts by label are by volume for an alcohol. Ranges are reckoned at their weaker ends. Raises
    CannotReckon when the target does not lie between the stocks.

    >>> from firkin.core.catalogue import find
    >>> percent = lambda value: Strength.of(value, "v/v")
    >>> two = blend(find("ethanol"), (percent(95.0), percent(50.0)), percent(70.0), 1000.0)
    >>> two.parts, [round(v, 1) for v in two.volumes_mL]
    ((20.0, 25.0), [435.9, 571.9])
    """
    ends = [counted(stock) for stock in stocks]
    first, second = (fraction(active, end) for end in ends)
    wanted = fraction(active, target)
    low, high = sorted((first, second))
    if first == second or not low * (1 - 1e-9) <= wanted <= high * (1 + 1e-9):
        weak, strong = sorted(ends, key=lambda end: fraction(active, end))
        raise CannotReckon(
            f"{both(active, target)} is not between {both(active, weak)} and {both(active, strong)}. "
            "Two bottles reach only what lies between them."
        ).at("target")
    wanted = min(max(wanted, low), high)  # a float's last digit beyond an end is that end
    density = active.density_at(wanted)
    whole_g = make_mL * density
    first_g = whole_g * (wanted - second) / (first - second)
    masses = (first_g, whole_g - first_g)
    volumes = (masses[0] / grams_per_mL(active, first), masses[1] / grams_per_mL(active, second))
    basis = label_basis(active, target)
    one, other, aim = (label_pct(active, strength, basis) for strength in (*ends, target))
    parts = (abs(aim - other), abs(one - aim))
    working = (
        WorkLine(f"Parts of {stocks[0]}, by label, % {basis}", f"|{figures(aim)} − {figures(other)}|", parts[0], ""),
        WorkLine(f"Parts of {stocks[1]}, by label, % {basis}", f"|{figures(one)} − {figures(aim)}|", parts[1], ""),
        WorkLine("Weight of the blend", f"{figures(make_mL)} mL × {figures(density)} g/mL", whole_g, "g"),
        WorkLine(
            f"Of it {stocks[0]}, by weight",
            f"{figures(whole_g)} g × ({figures(100 * wanted)} − {figures(100 * second)}) ÷ "
            f"({figures(100 * first)} − {figures(100 * second)})",
            masses[0],
            "g",
        ),
        WorkLine(
            f"{stocks[0]} to measure",
            f"{figures(masses[0])} g ÷ {figures(grams_per_mL(active, first))} g/mL",
            volumes[0],
            "mL",
        ),
        WorkLine(
            f"{stocks[1]} to measure",
            f"{figures(masses[1])} g ÷ {figures(grams_per_mL(active, second))} g/mL",
            volumes[1],
            "mL",
        ),
        WorkLine(
            "They shrink by",
            f"{figures(sum(volumes))} − {figures(make_mL)}",
            sum(volumes) - make_mL,
            "mL",
        ),
    )
    low, high = comes_to(active, list(zip(volumes, stocks, strict=True)), target)
    return Blend(parts, volumes, masses, target.value, low, high, working)


def _answer(asked: Asked) -> Answer:
    material, make, stocks, target = asked.active, asked["make"].mL, asked["stocks"], asked["target"]
    blended = blend(material, (stocks[0], stocks[1]), target, make)
    basis = label_basis(material, target)
    blocks = [
        Block(name, label_pct(material, counted(strength), basis), parts, volume)
        for name, strength, parts, volume in zip(
            ("first", "second"), stocks, blended.parts, blended.volumes_mL, strict=True
        )
    ]
    rows = [
        (f"{word} bottle, {strength}", f"{amount_words(volume)}, or {weight_words(mass)}")
        for word, strength, volume, mass in zip(
            ("First", "Second"), stocks, blended.volumes_mL, blended.masses_g, strict=True
        )
    ]
    rows.append(("Poured together", amount_words(sum(blended.volumes_mL))))
    rows.append(("It comes to", amount_words(make)))
    rows += range_rows(material, blended.low, blended.high, target)
    rows += doubt_rows(material, make, sum(blended.masses_g))
    lines = tuple(
        Line(material, Quantity(volume, "mL"), strength)
        for volume, strength in zip(blended.volumes_mL, stocks, strict=True)
        if volume > 0
    )
    return Answer(
        {
            "parts": list(blended.parts),
            "volumes_mL": list(blended.volumes_mL),
            "true": blended.true,
            "low": blended.low,
            "high": blended.high,
        },
        blended.working,
        f"{figures(blended.parts[0])} : {figures(blended.parts[1])}",
        "parts, first to second",
        tuple(rows),
        (*range_says(*stocks), *doubts(material)),
        picture=Levelled(blocks[0], blocks[1], label_pct(material, target, basis)),
        cautions=ALCOHOL_CAUTIONS,
        formula=Formula("Unnamed", lines, "liquid-rub"),
    )


BLEND = Question(
    "blend",
    "Blend",
    "How do I blend two bottles to a strength?",
    "What stands above the level in the strong bottle fills what is missing in the weak one.",
    "Strength",
    (
        active_field(),
        Field(
            "stocks",
            Kind.STRENGTH,
            "Bottles",
            ("95 %", "50 %"),
            hint="95 %",
            rows=(2, 2),
            row_labels=("First bottle", "Second bottle"),
        ),
        strength_field("target", "Blend them to", "70 %"),
        Field("make", Kind.VOLUME, "Make", "1 L", hint="1 L"),
    ),
    (
        Given("parts", "parts of each by label arithmetic", "numbers"),
        Given("volumes_mL", "what to measure of each, contraction counted", "numbers"),
        Given("true", "true strength in per cent, on the target’s basis"),
        LOW,
        HIGH,
    ),
    _answer,
)
