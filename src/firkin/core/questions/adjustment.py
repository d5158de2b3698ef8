"""Lifting a weak batch, or thinning a strong one. At 20 degC, by masses and the density of the mixture."""

from dataclasses import dataclass

from firkin.core.catalogue import Material, find, materials
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line
from firkin.core.measures import (
    Quantity,
    Strength,
    Working,
    WorkLine,
    amount_words,
    figures,
    rounded_down,
    rounded_up,
    weight_words,
)
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
from firkin.core.questions.declaration import Answer, Asked, Choices, Field, Given, Kind, Question
from firkin.core.questions.pictures import Filled, Layer
from firkin.core.questions.wording import ALCOHOL_CAUTIONS, HIGH, LOW, active_field, doubt_rows, doubts, strength_field


@dataclass(frozen=True, slots=True)
class Adjustment:
    """What to add to a batch, in mL and g, by density and by label arithmetic, and what it becomes.

    ``low`` and ``high`` are the strengths it can then have, in per cent on the target's basis.
    """

    add_mL: float
    add_g: float
    label_add_mL: float
    new_volume_mL: float
    new_mass_g: float
    low: float
    high: float
    working: Working

    def pour_off(self, batch_mL: float, room_mL: float) -> float:
        """How many mL of the batch to take out first so that the rest, adjusted, fits ``room_mL``."""
        return max(0.0, batch_mL * (1.0 - room_mL / self.new_volume_mL))


def strengthen(active: Material, batch_mL: float, now: Strength, stock: Strength, target: Strength) -> Adjustment:
    """How much of a stronger stock lifts a weak batch to ``target``.

    Args:
        active: the active whose strength is meant.
        batch_mL: volume of the batch, mL.
        now: strength of the batch as it is; its ends are its worst cases.
        stock: strength of what is added.
        target: strength it is to come to.

    Raises:
        CannotReckon: when the batch already holds it or the stock is not above it.

    >>> from firkin.core.catalogue import find
    >>> percent = lambda value: Strength.of(value, "v/v")
    >>> lift = strengthen(find("isopropanol"), 750.0, percent(52.5), percent(91.0), percent(60.0))
    >>> round(lift.label_add_mL, 1)
    181.5
    """
    has, brings, wants = (fraction(active, one) for one in (counted(now), counted(stock), target))
    if wants <= has:
        raise CannotReckon(
            f"The batch is at {both(active, counted(now))} already, and needs nothing to hold {both(active, target)}; "
            "to bring it down, weaken it."
        ).at("target")
    if brings <= wants:
        raise CannotReckon(
            f"A stock of {both(active, counted(stock))} cannot lift a batch to {both(active, target)}; it must be "
            "stronger. With it the batch stays below the stock."
        ).at("with")
    return _adjust(active, batch_mL, now, stock, target)


def weaken(active: Material, batch_mL: float, now: Strength, thinner: Strength, target: Strength) -> Adjustment:
    """How much water (0 %) or weaker stock thins a batch to ``target``.

    Args:
        active: the active whose strength is meant.
        batch_mL: volume of the batch, mL.
        now: strength of the batch as it is; its ends are its worst cases.
        thinner: strength of what is added; water is 0 %.
        target: strength it is to come to.

    Raises:
        CannotReckon: when the batch is already below it or the thinner is not.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.questions.blending import WATER
    >>> percent = lambda value: Strength.of(value, "v/v")
    >>> thin = weaken(find("ethanol"), 1000.0, percent(90.0), WATER, percent(70.0))
    >>> round(thin.add_mL, 1), round(thin.label_add_mL, 1)
    (310.0, 285.7)
    """
    if not target.value:
        raise CannotReckon("No amount of water brings a batch to 0 %; name what it should still hold.").at("target")
    has, brings, wants = (fraction(active, one) for one in (counted(now), counted(thinner), target))
    if wants >= has:
        raise CannotReckon(
            f"The batch is at {both(active, counted(now))} already; to lift it to {both(active, target)}, "
            "strengthen it."
        ).at("target")
    if brings >= wants:
        raise CannotReckon(
            f"{both(active, counted(thinner))} cannot thin a batch to {both(active, target)}; it must be weaker. "
            "Water, 0 %, always can."
        ).at("with")
    return _adjust(active, batch_mL, now, thinner, target)


def _adjust(active: Material, batch_mL: float, now: Strength, other: Strength, target: Strength) -> Adjustment:
    if batch_mL <= 0:
        raise CannotReckon("A batch has more than 0 mL.").at("batch")
    low_now, low_other = counted(now), counted(other)
    has, brings, wants = (fraction(active, one) for one in (low_now, low_other, target))
    batch_g = batch_mL * grams_per_mL(active, has)
    add_g = batch_g * (wants - has) / (brings - wants)
    add_mL = add_g / grams_per_mL(active, brings)
    new_volume = (batch_g + add_g) / active.density_at(wants)
    basis = label_basis(active, target)
    is_at, adds, aim = (label_pct(active, one, basis) for one in (low_now, low_other, target))
    label = batch_mL * (aim - is_at) / (adds - aim)
    working = (
        WorkLine(
            "The batch weighs", f"{figures(batch_mL)} mL × {figures(grams_per_mL(active, has))} g/mL", batch_g, "g"
        ),
        WorkLine(
            "To add, by weight",
            f"{figures(batch_g)} g × ({figures(100 * wants)} − {figures(100 * has)}) ÷ "
            f"({figures(100 * brings)} − {figures(100 * wants)})",
            add_g,
            "g",
        ),
        WorkLine("To add", f"{figures(add_g)} g ÷ {figures(grams_per_mL(active, brings))} g/mL", add_mL, "mL"),
        WorkLine(
            "Label arithmetic would say",
            f"{figures(batch_mL)} × ({figures(aim)} − {figures(is_at)}) ÷ ({figures(adds)} − {figures(aim)})",
            label,
            "mL",
        ),
        WorkLine(
            "The batch becomes",
            f"({figures(batch_g)} + {figures(add_g)}) g ÷ {figures(active.density_at(wants))} g/mL",
            new_volume,
            "mL",
        ),
    )
    low, high = comes_to(active, ((batch_mL, now), (add_mL, other)), target)
    return Adjustment(add_mL, add_g, label, new_volume, batch_g + add_g, low, high, working)


def _thickeners() -> Choices:
    return [("", "none"), *((one.id, one.name) for one in materials().values() if "thickener" in one.roles)]


def _answer(asked: Asked) -> Answer:
    material, batch = asked.active, asked["batch"].mL
    now, other, target = asked["now"], asked["with"], asked["target"]
    lifting = asked.ask == "strengthen"
    if not asked.ask:
        lifting = fraction(material, target) > fraction(material, counted(now))
    changed = (strengthen if lifting else weaken)(material, batch, now, other, target)
    add = max(changed.add_mL, changed.label_add_mL) if lifting else min(changed.add_mL, changed.label_add_mL)
    rows = (
        ("By density", f"{amount_words(changed.add_mL)}, or {weight_words(changed.add_g)}"),
        ("By label arithmetic", amount_words(changed.label_add_mL)),
        ("The batch becomes about", amount_words(changed.new_volume_mL)),
        *range_rows(material, changed.low, changed.high, target),
        *doubt_rows(material, changed.new_volume_mL, changed.new_mass_g),
    )
    warns = []
    room = asked["room"].mL if asked["room"] is not None else None
    if room is not None and changed.new_volume_mL > room:
        off = changed.pour_off(batch, room)
        warns.append(
            f"The vessel holds {amount_words(room)}: take {amount_words(off)} of the batch out first, "
            f"then add {amount_words(add * (1.0 - off / batch))}."
        )
    if add > batch:
        warns.append("That is more than the batch itself. Check what went in first: the amounts look wrong.")
    warns += _gel_warnings(material, asked["thickener"], target)
    holds = "it holds the line both ways" if lifting else "it does not fall below the target either way"
    layers = (
        Layer("The batch", "alcohol", batch, amount=amount_words(batch)),
        Layer("Added", "honey" if other.value else "water", changed.new_volume_mL, amount=amount_words(add)),
    )
    lines = (
        Line(material, Quantity(batch, "mL"), now, note="the batch as it was"),
        Line(material if other.value else find("water"), Quantity(add, "mL"), other if other.value else None),
    )
    return Answer(
        {
            "add_mL": changed.add_mL,
            "label_add_mL": changed.label_add_mL,
            "new_volume_mL": changed.new_volume_mL,
            "low": changed.low,
            "high": changed.high,
        },
        changed.working,
        figures(rounded_up(add) if lifting else rounded_down(add)),
        "mL to add",
        rows,
        (f"The cautious one of the two is shown large: {holds}.", *range_says(now, other), *doubts(material)),
        tuple(warns),
        Filled(layers, changed.new_volume_mL, room),
        ALCOHOL_CAUTIONS,
        Formula("Unnamed", lines, "liquid-rub"),
    )


def _gel_warnings(active: Material, thickener: str | None, target: Strength) -> list[str]:
    if not thickener:
        return []
    name, limit = find(thickener).name, find(thickener).alcohol_limit_ww
    weight = 100.0 * fraction(active, target)
    if limit is None:
        return [
            f"{name}: grades differ in how much alcohol they stand; ask the supplier before going to "
            f"{figures(weight, 3)} % by weight."
        ]
    if weight > limit:
        return [
            f"{name} stands {figures(limit)} % alcohol by weight, no more; this would be {figures(weight, 3)} %. "
            "The gel would collapse."
        ]
    return []


STRENGTHEN = Question(
    "strengthen",
    "Lift a batch",
    "How do I lift a weak batch, or thin a strong one?",
    "What to add, what it becomes, and whether the vessel holds it.",
    "Strength",
    (
        active_field("isopropanol"),
        Field("batch", Kind.VOLUME, "The batch is", "750 mL", hint="750 mL"),
        strength_field("now", "It holds now", "52.5 %"),
        strength_field("target", "It should hold", "60 %"),
        strength_field("with", "Add this", "91 %", "A stock to lift it; water is 0 %. Or a stock on your shelf."),
        Field("room", Kind.VOLUME, "The vessel holds", "1 L", hint="1 L", optional=True),
        Field("thickener", Kind.CHOICE, "Thickener in it", choices=_thickeners, optional=True),
    ),
    (
        Given("add_mL", "what to add, contraction counted"),
        Given("label_add_mL", "what label arithmetic would add"),
        Given("new_volume_mL", "what the batch becomes"),
        LOW,
        HIGH,
    ),
    _answer,
    also=("weaken",),
)
