"""Small changes to a formula, each giving a new one: what a finding's fix or a substitute does to it.

Steps name their lines by position, so every change that moves lines renumbers them.
"""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

from firkin.core.catalogue import Material, find
from firkin.core.formula.formula import Formula, Line, Step
from firkin.core.formula.reckoning import Reckoning
from firkin.core.measures import Quantity, rounded

_DIGITS = 4


def with_line(formula: Formula, at: int, **changes: Any) -> Formula:
    """The formula with one line changed.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        at: position of the line, from 0.
        changes: fields of the line, with their new values.

    >>> from firkin.core.formula.house import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> str(with_line(rub, 2, amount=Quantity(20.0, "mL")).lines[2].amount)
    '20 mL'
    """
    lines = list(formula.lines)
    lines[at] = replace(lines[at], **changes)
    return replace(formula, lines=tuple(lines))


def reordered(formula: Formula, order: Iterable[int]) -> Formula:
    """The formula with its lines in another order; what ``order`` leaves out is gone.

    >>> from firkin.core.formula.house import house_formulas
    >>> gel = house_formulas()["xanthan-gel"].formula
    >>> turned = reordered(gel, (1, 0, 2, 3, 4))
    >>> turned.lines[0].material.id, turned.steps[0].lines
    ('xanthan-gum', (1,))
    """
    order = tuple(order)
    steps = _renumbered(formula.steps, {old: new for new, old in enumerate(order)})
    return replace(formula, lines=tuple(formula.lines[i] for i in order), steps=steps)


def _renumbered(steps: Iterable[Step], places: Mapping[int, int]) -> tuple[Step, ...]:
    """Steps whose lines stand in other places; a line without a place is gone."""
    return tuple(replace(step, lines=tuple(places[at] for at in step.lines if at in places)) for step in steps)


def without_lines(steps: Iterable[Step], gone: int) -> tuple[Step, ...]:
    """Steps of a formula that lost a line.

    >>> without_lines([Step("mix", "Mix.", (0, 2))], 0)[0].lines
    (1,)
    """
    steps = tuple(steps)
    most = max((at for step in steps for at in step.lines), default=-1)
    return _renumbered(steps, {at: at - (at > gone) for at in range(most + 1) if at != gone})


def without(formula: Formula, *gone: int) -> Formula | None:
    """The formula without some lines; None when nothing would be left.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        gone: positions of the lines that go, from 0.

    >>> from firkin.core.formula.house import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> [line.material.id for line in without(rub, 2).lines], without(rub, 0, 1, 2, 3)
    (['ethanol', 'hydrogen-peroxide', 'water'], None)
    """
    left = [i for i in range(len(formula.lines)) if i not in gone]
    return reordered(formula, left) if left else None


def moved(formula: Formula, at: int, to: int) -> Formula:
    """The formula with one line moved to another place.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        at: position of the line, from 0.
        to: position it goes to, from 0.

    >>> from firkin.core.formula.house import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> [line.material.id for line in moved(rub, 0, 2).lines]
    ['hydrogen-peroxide', 'glycerol', 'ethanol', 'water']
    """
    order = [i for i in range(len(formula.lines)) if i != at]
    order.insert(to, at)
    return reordered(formula, order)


def scaled_lines(formula: Formula, positions: Iterable[int], factor: float, digits: int = _DIGITS) -> Formula:
    """The formula with the amounts of some lines multiplied, whatever their unit; per cents still add up to 100.

    Amounts are kept to so many figures.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        positions: the lines that are changed, from 0.
        factor: what their amounts are multiplied by.
        digits: significant figures.

    >>> from firkin.core.formula.house import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> [str(line.amount) for line in scaled_lines(rub, (0, 1), 0.5).lines]
    ['416.6 mL', '20.85 mL', '14.5 mL', 'q.s.']
    """
    chosen = set(positions)
    lines = [
        _measured_anew(line, _tidy(line.amount, factor, digits)) if i in chosen and line.amount.kind != "qs" else line
        for i, line in enumerate(formula.lines)
    ]
    if all(line.amount.kind == "percent" for line in lines):
        whole = sum(line.amount.value for line in lines)
        lines = [replace(line, amount=Quantity(line.amount.value * 100.0 / whole, "%")) for line in lines]
    return replace(formula, lines=tuple(lines))


def with_mass(result: Reckoning, at: int, mass_g: float) -> Formula:
    """The reckoned formula with one line brought to a mass, in the unit it has.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.
        at: position of the line, from 0.
        mass_g: grams the line is to have.

    >>> from firkin.core.formula.house import house_formulas
    >>> from firkin.core.formula.reckoning import reckon
    >>> rub = reckon(house_formulas()["who-one"].formula)
    >>> str(with_mass(rub, 2, rub.lines[2].mass_g * 2).lines[2].amount)
    '29 mL'
    """
    now = result.lines[at].mass_g
    line = result.formula.lines[at]
    amount = _tidy(line.amount, mass_g / now) if now else Quantity(mass_g, "g")
    lines = list(result.formula.lines)
    lines[at] = _measured_anew(line, amount)
    return replace(result.formula, lines=tuple(lines))


def _measured_anew(line: Line, amount: Quantity) -> Line:
    """The line with another amount; what was said of its share of the batch said it of the old one."""
    return replace(line, amount=amount, claims=replace(line.claims, share_pct=None))


def swapped(formula: Formula, at: int, material: str) -> Formula:
    """The formula with another material in one line, in the same amount, at its usual strength.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        at: position of the line, from 0.
        material: id or name of the other material.

    >>> from firkin.core.formula.house import house_formulas
    >>> other = swapped(house_formulas()["who-one"].formula, 0, "isopropanol").lines[0]
    >>> other.material.id, str(other.amount)
    ('isopropanol', '833.3 mL')
    """
    return with_line(formula, at, material=find(material), strength=None)


def added(result: Reckoning, material: str, mass_g: float, at: int | None = None) -> Formula:
    """The reckoned formula with a line more, of a mass; in per cent where everything is, out of the water's share.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.
        material: id or name of what is added.
        mass_g: grams of it.
        at: position of the new line, from 0; the last where it is None.

    >>> from firkin.core.formula.house import house_formulas
    >>> from firkin.core.formula.reckoning import reckon
    >>> foam = reckon(house_formulas()["foam-plain"].formula)
    >>> str(added(foam, "phenoxyethanol", 4.0).lines[-1].amount)
    '3.613 mL'
    """
    formula, kind = result.formula, find(material)
    amount = _amount_like(result, kind, mass_g)
    lines = list(formula.lines)
    if amount.kind == "percent":
        water = formula.water
        if water is not None and lines[water].amount.value > amount.value:
            left = lines[water].amount.value - amount.value
            lines[water] = replace(lines[water], amount=Quantity(rounded(left, _DIGITS), "%"))
    end = len(lines)
    lines.append(Line(kind, amount))
    grown = replace(formula, lines=tuple(lines))
    return grown if at is None else moved(grown, end, at)


def _amount_like(result: Reckoning, material: Material, mass_g: float) -> Quantity:
    """A mass of a material in the manner the formula gives its amounts."""
    formula, total = result.formula, result.total
    volume_mL = mass_g / material.density
    if all(line.amount.kind == "percent" for line in formula.lines):
        share = volume_mL / total.volume_mL if formula.basis == "volume" else mass_g / total.mass_g
        return Quantity(rounded(100.0 * share, _DIGITS), "%")
    scale = 1.0  # amounts in mL and g may stand for a batch of another size
    if formula.topped_up is None and all(line.amount.kind in ("volume", "mass") for line in formula.lines):
        first = formula.lines[0].amount
        worked = result.lines[0]
        now = (
            worked.mass_g
            if first.kind == "mass"
            else worked.mass_g / _measured(formula.lines[0], worked.volume_mL, worked.mass_g)
        )
        scale = now / (first.g if first.kind == "mass" else first.mL)
    if material.solid:
        return Quantity(rounded(mass_g / scale, _DIGITS), "g")
    return Quantity(rounded(volume_mL / scale, _DIGITS), "mL")


def _measured(line: Line, volume_mL: float, mass_g: float) -> float:
    """g/mL by which a measured volume of this line became its mass."""
    return line.bulk or mass_g / volume_mL


def _tidy(amount: Quantity, factor: float, digits: int = _DIGITS) -> Quantity:
    return Quantity(rounded(amount.value * factor, digits), amount.unit)
