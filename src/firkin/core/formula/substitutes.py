"""Substitutes: another material, or another strength of it, in a formula's line, with the amounts solved again."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache

from firkin.core import datafiles
from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotReckon
from firkin.core.formula.changes import with_line
from firkin.core.formula.formula import Formula, Line
from firkin.core.formula.reckoning import Reckoning, reckon
from firkin.core.measures import Quantity, Strength, figures, rounded, rounded_down, rounded_up
from firkin.core.texts import uncapped

#: The rule line that says of one alcohol what another says of the other.
_SAME_LINE = {"who-ethanol": "who-isopropanol", "who-isopropanol": "who-ethanol"}
_DIGITS = 4
_HAIR = 1e-6  # points: less is rounding of floats
_ROUNDS = 12


@dataclass(frozen=True, slots=True)
class Substitute:
    """What may stand in for a material; ``how`` its amount is found, ``note`` what changes besides."""

    to: str
    how: str  # "active", "volume", "mass" or "share"
    note: str = ""
    factor: float = 1.0


@cache
def _known() -> dict[str, tuple[Substitute, ...]]:
    found: dict[str, list[Substitute]] = {}
    for row in datafiles.toml("formula/substitutes.toml")["substitute"]:
        for old in row["from"]:
            found.setdefault(old, []).append(Substitute(row["to"], row["how"], row["note"], row.get("factor", 1.0)))
    return {old: tuple(those) for old, those in found.items()}


def substitutes(material: Material) -> tuple[Substitute, ...]:
    """What may stand in for a material; itself, in another strength, where it has one to speak of.

    Args:
        material: a material of the catalogue or the workshop, known or not.

    >>> [other.to for other in substitutes(find("glycerol"))]
    ['propylene-glycol', 'propanediol']
    """
    itself = (Substitute(material.id, "active"),) if _has_strength(material) else ()
    return itself + _known().get(material.id, ())


def substitute(formula: Formula, at: int, to: str, strength: Strength | None = None) -> Formula:
    """The formula with another material, or another strength, in line ``at``, and the amounts solved again.

    An active keeps its strength in the batch: its amount changes, and water gives or takes the difference; without
    water, the stock alone changes.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        at: position of the line, from 0.
        to: id or name of what goes in instead.
        strength: its strength; the usual one where it is None.

    Raises:
        CannotReckon: where that cannot be, with the best that can.

    >>> from firkin.core.formula.house import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> other = substitute(rub, 0, "isopropanol", Strength.of(99.8, "v/v"))
    >>> str(other.lines[0].amount), round(reckon(other).active("isopropanol").label, 2)
    ('801.6 mL', 80.0)
    """
    line = formula.lines[at]
    chosen = next((other for other in substitutes(line.material) if other.to == to), None)
    if chosen is None:
        raise CannotReckon(
            f"Firkin knows nothing of {uncapped(find(to).name)} in place of {uncapped(line.material.name)}."
        )
    result = reckon(formula)
    material = find(to)
    if chosen.how == "active":
        return _same_active(result, at, material, strength or material.usual_strength)
    new = replace(line, material=material, strength=strength if _has_strength(material) else None)
    return with_line(formula, at, **_changes(new, _amount(result, at, material, chosen)))


def with_bottles(formula: Formula, strengths: Mapping[int, Strength]) -> tuple[Formula, tuple[str, ...]]:
    """The formula as it is made from bottles of these strengths, by the position of their lines; and what that changes.

    An alcohol counts with the strength of its bottle, as topping up and the verdict then say. Of anything else that has
    a strength (a surfactant, caustic, bleach, peroxide) so much more or less goes in that the batch holds what was
    written.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        strengths: strength of the bottle by position of the line.

    Raises:
        CannotReckon: with the line's place, where that cannot be.

    >>> from firkin.core.formula.house import house_formulas
    >>> dish, said = with_bottles(house_formulas()["dish-gentle"].formula, {3: Strength.of(28.0, "w/w")})
    >>> str(dish.lines[3].amount), said
    ('20 %', ('Sodium laureth sulfate (SLES) is written for 70 % w/w and the bottle is 28 % w/w: 2.5 times as much.',))
    """
    said = []
    for at, strength in strengths.items():
        line = formula.lines[at]
        written = line.counted_strength
        if line.material.alcohol is not None or not _has_strength(line.material) or written is None:
            formula = with_line(formula, at, strength=strength)
        elif strength != written:
            before = reckon(formula).lines[at].mass_g
            try:
                formula = substitute(formula, at, line.material.id, strength)
            except CannotReckon as error:
                raise error.at("lines", at) from None
            times = figures(reckon(formula).lines[at].mass_g / before, 3)
            name = line.material.name
            said.append(f"{name} is written for {written} and the bottle is {strength}: {times} times as much.")
    return formula, tuple(said)


def as_much_from(line: Line, strength: Strength) -> float:
    """How many times as much of a line goes in from a bottle of another strength, by weight, to bring the same of it.

    1 for alcohol, which goes in as written and counts with the strength it has, and for what has no strength.

    Args:
        line: a line as it is written.
        strength: strength of the bottle.

    >>> from firkin.core.formula.house import house_formulas
    >>> round(as_much_from(house_formulas()["dish-gentle"].formula.lines[3], Strength.of(28.0, "w/w")), 6)
    2.5
    """
    was = line.counted_strength
    if line.material.alcohol is not None or not _has_strength(line.material) or was is None:
        return 1.0
    old, new = line.material.mass_fraction(was), line.material.mass_fraction(strength)
    return old / new if old and new else 1.0


def _has_strength(material: Material) -> bool:
    return material.reports == "active" or "surfactant" in material.roles or material.id == "caustic-soda"


def _changes(line: Line, amount: Quantity) -> dict[str, object]:
    return {"material": line.material, "strength": line.strength, "amount": amount}


def _amount(result: Reckoning, at: int, material: Material, chosen: Substitute) -> Quantity:
    """The amount of the new material: as much by volume or by mass, or a share of the batch."""
    line, worked = result.formula.lines[at], result.lines[at]
    if line.amount.kind == "qs":
        return line.amount
    if chosen.how == "share":
        grams = result.total.mass_g * chosen.factor / 100.0
    elif chosen.how == "mass":
        grams = worked.mass_g * chosen.factor
    else:
        grams = worked.volume_mL * chosen.factor * material.density
    by_volume = line.amount.kind == "volume" or (
        line.amount.kind in ("part", "percent") and result.formula.basis == "volume"
    )
    if not by_volume or chosen.how == "volume":
        scale = chosen.factor if chosen.how == "volume" else grams / worked.mass_g
    else:  # a measured volume of another powder
        old = line.bulk or worked.mass_g / worked.volume_mL
        scale = (grams / (material.bulk or material.density)) / (worked.mass_g / old)
    return Quantity(rounded(line.amount.value * scale, _DIGITS), line.amount.unit)


def _same_active(result: Reckoning, at: int, material: Material, strength: Strength | None) -> Formula:
    """The batch's active as it was, from another stock."""
    formula, line = result.formula, result.formula.lines[at]
    old = line.counted_strength
    if strength is None or old is None or not strength.value or not old.value:
        raise CannotReckon(f"Say how strong the {uncapped(material.name)} is.")
    by_weight = formula.by_weight(at)
    per_old, per_new = _brings(line.material, old, by_weight), _brings(material, strength, by_weight)
    found = _solved(result, at, material, strength, per_old, per_new)
    own = [one for one in result.verdicts if one.active == line.material.id and not one.verdict.fails]
    held = [one.minimum for one in own if one.minimum is not None]
    for _ in range(_ROUNDS):
        # weighed, another stock takes up another room: the line that was held is held by label arithmetic too
        after = reckon(found).active(material.id)
        if not held or after is None or after.lower >= max(held) - _HAIR:
            break
        per_old *= max(held) / after.lower * (1 + _HAIR)
        found = _solved(result, at, material, strength, per_old, per_new)
    return found


def _solved(
    result: Reckoning, at: int, material: Material, strength: Strength, per_old: float, per_new: float
) -> Formula:
    """The formula with a stock that brings ``per_new`` of active a mL, or a g, where the old brought ``per_old``."""
    formula, line = result.formula, result.formula.lines[at]
    factor = per_old / per_new
    guidelines = formula.guidelines
    if material is not line.material:
        guidelines = tuple(_SAME_LINE.get(key, key) for key in guidelines)
    formula = replace(formula, guidelines=guidelines)
    formula = with_line(formula, at, material=material, strength=strength)
    if line.amount.kind == "qs":
        return formula
    water = next((i for i, other in enumerate(formula.lines) if "water" in other.material.roles and i != at), None)
    if formula.topped_up is not None:
        scaled = with_line(formula, at, amount=_times(formula.lines[at], factor))
        _must_work(scaled, material, strength)
        return scaled
    if water is not None and formula.lines[water].amount.kind == line.amount.kind:
        return _water_gives(formula, at, water, factor, strength)
    return _stock_alone(result, formula, at, per_old, per_new)


def _brings(material: Material, strength: Strength, by_weight: bool) -> float:
    """Active in a mL, or in a g, of a stock: alcohol by volume, everything else by mass."""
    fraction = material.mass_fraction(strength) or 0.0
    density = material.density_at(fraction)
    in_a_mL = material.alcohol.as_volume(strength).fraction if material.alcohol is not None else fraction * density
    return in_a_mL / density if by_weight else in_a_mL


def _times(line: Line, factor: float) -> Quantity:
    """The amount times a factor, in four figures; of an alcohol never less."""
    value = line.amount.value * factor
    tidy = rounded_up(value, _DIGITS) if line.material.alcohol is not None else rounded(value, _DIGITS)
    return Quantity(tidy, line.amount.unit)


def _must_work(formula: Formula, material: Material, strength: Strength) -> None:
    try:
        reckon(formula)
    except CannotReckon:
        raise CannotReckon(
            f"{material.name} of {strength} is too weak: it would not leave room in the batch for the rest."
        ) from None


def _water_gives(formula: Formula, at: int, water: int, factor: float, strength: Strength) -> Formula:
    """The stock's amount times ``factor``; the water takes up the difference, in the unit it has."""
    stock, other = formula.lines[at].amount, formula.lines[water].amount
    new = _times(formula.lines[at], factor)
    in_units = stock.value - new.value
    if stock.kind in ("volume", "mass"):
        in_units = (
            (stock.mL - new.mL) / other.mL if stock.kind == "volume" else (stock.g - new.g) / other.g
        ) * other.value
    left = other.value + in_units
    if left < 0:
        raise CannotReckon(
            f"{strength} is too weak for this strength: even without water it would not reach it. "
            "Use a stronger stock, or make it weaker."
        )
    changed = with_line(formula, at, amount=new)
    if left == 0:
        return changed
    return with_line(changed, water, amount=Quantity(rounded(left, _DIGITS + 2), other.unit))


def _stock_alone(result: Reckoning, formula: Formula, at: int, per_old: float, per_new: float) -> Formula:
    """No water to give or take: so much of the new stock that the strength, by label or by weight, stays."""
    worked = result.lines[at]
    by_weight = result.formula.by_weight(at)
    own, whole = worked.volume_mL, result.total.sum_of_volumes_mL
    if by_weight:
        own, whole = worked.mass_g, result.total.mass_g
    others = whole - own
    target = own * per_old / whole
    if others <= 0:
        return formula
    if per_new <= target:
        best = 100.0 * own * per_new / whole
        raise CannotReckon(
            f"That stock is no stronger than the batch is to be. In the same amounts it would come to "
            f"{figures(rounded_down(best))} %."
        )
    needed = target * others / (per_new - target)
    return with_line(formula, at, amount=_times(formula.lines[at], needed / own))
