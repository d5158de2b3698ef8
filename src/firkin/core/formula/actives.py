"""The actives of a batch: by label arithmetic, true, and with their worst cases."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from firkin.core.catalogue import find
from firkin.core.densities import ALCOHOLS
from firkin.core.formula.formula import Formula, Line, pot_of
from firkin.core.formula.mixture import Pot
from firkin.core.formula.usual_steps import tops_last
from firkin.core.measures import Side

SURFACTANTS = "surfactant-matter"


@dataclass(frozen=True, slots=True)
class Active:
    """One active of the batch, in per cent on ``basis``.

    ``label`` is label arithmetic, ``true`` counts contraction (the same as label for what is not an
    alcohol), ``low`` and ``high`` are the worst cases over both and over every uncertainty.
    """

    active: str
    name: str
    basis: str
    label: float
    true: float
    low: float
    high: float
    pct_ww: float
    pct_wv: float

    @property
    def lower(self) -> float:
        """The nominal strength a minimum is judged by."""
        return min(self.label, self.true)

    @property
    def higher(self) -> float:
        """The nominal strength a maximum is judged by."""
        return max(self.label, self.true)

    @property
    def apart(self) -> bool:
        """True where label and true strength differ by what is worth a word: a twentieth of a point."""
        return abs(self.label - self.true) > 0.05

    @property
    def on_label(self) -> bool:
        """True where its strength stands on the label of a bottle."""
        return self.is_alcohol or self.active == SURFACTANTS or find(self.active).on_label

    @property
    def is_alcohol(self) -> bool:
        """True for the actives with a true strength of their own."""
        return self.active in ALCOHOLS


@dataclass(frozen=True, slots=True)
class Counted:
    """One active as it is counted, before anything is said of how sure it is: per cent on ``basis``, and g.

    ``doubt`` is by how many points the table's own doubt moves the true strength, ``label_doubt`` the label one.
    """

    name: str
    basis: str
    label: float
    true: float
    mass_g: float
    doubt: float = 0.0
    label_doubt: float = 0.0


def actives_of(formula: Formula, pot: Pot, masses: list[float]) -> tuple[Active, ...]:
    """Every active in order of first appearance, without the ranges of the stocks."""
    counted = counted_actives(formula, pot, masses)
    if not counted:
        return ()
    mass, volume_20 = sum(masses), pot.volume(masses, 20.0)
    return tuple(
        Active(
            key,
            one.name,
            f"% {one.basis}",
            one.label,
            one.true,
            min(one.label - one.label_doubt, one.true - one.doubt),
            _capped(key, max(one.label + one.label_doubt, one.true + one.doubt)),
            100.0 * one.mass_g / mass,
            100.0 * one.mass_g / volume_20,
        )
        for key, one in counted.items()
    )


def _capped(key: str, high: float) -> float:
    return min(100.0, high) if key in ALCOHOLS else high


def counted_actives(formula: Formula, pot: Pot, masses: list[float]) -> dict[str, Counted]:
    """Every active as it is counted, by its id in order of first appearance.

    Its figures are arrays where the pot is one of many draws.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        pot: what the lines make together.
        masses: grams of each line, in order.

    >>> from firkin.core.formula.formula import work_out
    >>> from firkin.core.formula.house import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> pot, masses = work_out(rub)
    >>> round(counted_actives(rub, pot, masses)["ethanol"].label, 1)
    80.0
    """
    order: dict[str, list[int]] = {}
    for i, line in enumerate(formula.lines):
        material = line.material
        if material.reports:
            order.setdefault(material.id, []).append(i)
        elif "surfactant" in material.roles:
            order.setdefault(SURFACTANTS, []).append(i)
    if not order:
        return {}
    volumes = [pot.line_volume(i, mass) for i, mass in enumerate(masses)]
    made_up = formula.topped_up is not None or formula.made_up
    finished = pot.volume(masses)
    batch = _Batch(
        formula,
        pot,
        masses,
        volumes,
        sum(masses),
        finished if made_up else sum(volumes),
        pot.volume(masses, 20.0) if formula.temperature != 20.0 else finished,
        made_up,
    )
    return {
        key: _alcohol(key, where, batch) if key in ALCOHOLS else _other(key, where, batch)
        for key, where in order.items()
    }


@dataclass(frozen=True, slots=True)
class _Batch:
    formula: Formula
    pot: Pot
    masses: list[float]
    volumes: list[float]
    mass: float
    label_volume: float
    volume_20: float
    made_up: bool


def _alcohol(key: str, where: list[int], batch: _Batch) -> Counted:
    alcohol = ALCOHOLS[key]
    label_mL = mass = 0.0
    for i in where:
        fraction = batch.pot.natures[i].active
        strength = batch.formula.lines[i].counted_strength
        if strength is not None and strength.basis == "v/v":
            label_mL += batch.volumes[i] * strength.fraction
        else:
            label_mL += batch.volumes[i] * batch.pot.along(alcohol.volume_fraction, fraction)
        mass += batch.masses[i] * fraction
    label = 100.0 * label_mL / batch.label_volume
    true = 100.0 * mass / alcohol.pure_density / batch.volume_20
    doubt = 0.0 if _needs_no_table(batch, where) else true * alcohol.density_uncertainty * batch.volume_20 / batch.mass
    label_doubt = 0.0 if all(_by_label(batch.formula, i) for i in where) else doubt
    return Counted(alcohol.name, "v/v", label, true, mass, doubt, label_doubt)


def _by_label(formula: Formula, index: int) -> bool:
    """True where the alcohol a line brings is its volume times the label, and no density comes into it."""
    strength = formula.lines[index].counted_strength
    return not formula.by_weight(index) and strength is not None and strength.basis == "v/v"


def _needs_no_table(batch: _Batch, where: list[int]) -> bool:
    """True where no density of the mixture is needed: used straight, or made up to a volume by volumes."""
    if not all(_by_label(batch.formula, i) for i in where):
        return False
    make = batch.formula.make
    return len(batch.masses) == 1 or (batch.made_up and make is not None and make.kind == "volume")


def _other(key: str, where: list[int], batch: _Batch) -> Counted:
    first = batch.formula.lines[where[0]].material
    mass = sum(batch.masses[i] * batch.pot.natures[i].active for i in where)
    if key == SURFACTANTS:
        name, basis = "Active matter", "w/w"
        label = 100.0 * mass / batch.mass
    elif first.reports == "share":
        name, basis = first.name, first.basis
        mass, volume = _as_supplied(where, batch)
        label = 100.0 * (volume / batch.label_volume if basis == "v/v" else mass / batch.mass)
    elif first.counts_strength_by_volume:
        name, basis = first.name, first.basis
        label = sum(batch.volumes[i] * _per_mL(i, batch) for i in where) / batch.label_volume
    else:
        name, basis = first.name, first.basis
        label = 100.0 * mass / batch.mass
    return Counted(name, basis, label, label, mass)


def _as_supplied(where: list[int], batch: _Batch) -> tuple[float, float]:
    """Grams and mL of what is counted as supplied; of one sold thinned, what it holds."""
    mass = volume = 0.0
    for i in where:
        material, thinned = batch.formula.lines[i].material, batch.formula.lines[i].strength is not None
        share = batch.pot.natures[i].active if thinned else 1.0
        mass += batch.masses[i] * share
        volume += batch.masses[i] * share / material.density_at(1.0) if thinned else batch.volumes[i]
    return mass, volume


def _per_mL(index: int, batch: _Batch) -> float:
    """Per cent as label arithmetic counts it: the label's own figure, or w/v where that is asked for."""
    line = batch.formula.lines[index]
    strength = line.counted_strength
    assert strength is not None
    if strength.basis == line.material.basis:
        return strength.value
    stock = batch.pot.natures[index]
    return 100.0 * stock.active * stock.settled


def with_worst_cases(
    formula: Formula, pot: Pot, masses: list[float], nominal: tuple[Active, ...]
) -> tuple[Active, ...]:
    """The actives with low and high from every stock's range and every amount's measuring error.

    Each end is a whole reckoning of its own, so an amount that stands above and below the line of a
    fraction moves in both places at once and is not counted twice.
    """
    widened = []
    for now in nominal:
        low, high = (_at_end(formula, pot, masses, now.active, side) for side in Side)
        widened.append(replace(now, low=min(now.low, low.low, high.low), high=max(now.high, low.high, high.high)))
    return tuple(widened)


def _at_end(formula: Formula, pot: Pot, masses: list[float], key: str, side: Side) -> Active:
    """One active at its worst: its own stocks at their end and measured so, the others the other way."""
    end = formula.at_end(side)
    end_pot = pot_of(end)
    sign = -1.0 if side is Side.LOW else 1.0
    # What tops the batch up is no active: reaching too high thins, so it is off the way of the others.
    errors = [sign * line.error * (1.0 if _counts_for(line, key) else -1.0) for line in formula.lines]
    if formula.topped_up is not None and tops_last(formula):
        errors[formula.topped_up] = -sign * formula.lines[formula.topped_up].error
    moved = measured_out(formula, pot, masses, end_pot, errors)
    return next(active for active in actives_of(end, end_pot, moved) if active.active == key)


def measured_out(
    formula: Formula, pot: Pot, masses: Sequence[float], there: Pot, errors: Sequence[float]
) -> list[float]:
    """Grams of each line as it really went in: ``masses`` planned of ``pot``, measured from the stocks of ``there``.

    ``errors`` are how far each amount was off, as fractions of it. What is measured by volume brings the mass of the
    stock that is there; what tops the batch up follows the others, and is off by that share of the whole.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        pot: what was planned.
        masses: grams of each line as planned, in order.
        there: the same pot with the stocks that are really there.
        errors: for each line how far it was off, as a fraction: 0.05 is 5 % too much.

    >>> from firkin.core.formula.formula import work_out
    >>> from firkin.core.formula.house import house_formulas
    >>> rub = house_formulas()["aloe-sixty"].formula
    >>> pot, masses = work_out(rub)
    >>> out = measured_out(rub, pot, masses, pot, [0.1] + [0.0] * (len(masses) - 1))
    >>> [round(is_in / planned, 2) for is_in, planned in zip(out, masses, strict=True)]
    [1.1, 1.0]
    """
    moved = []
    for i, mass in enumerate(masses):
        as_stock = mass if formula.by_weight(i) else mass / pot.natures[i].measured * there.natures[i].measured
        moved.append(as_stock * (1.0 + errors[i]))
    topped = formula.topped_up if tops_last(formula) else None  # poured earlier, it is measured as worked out
    if topped is not None and formula.make is not None:
        reach = 1.0 + errors[topped]
        moved[topped] = 0.0
        if formula.make.kind == "volume":
            moved[topped] = there.at_least_none(there.top_up(moved, topped, formula.make.mL * reach))
        else:
            moved[topped] = there.at_least_none(formula.make.g * reach - sum(moved))
    return moved


def _counts_for(line: Line, key: str) -> bool:
    return line.material.id == key or (key == SURFACTANTS and "surfactant" in line.material.roles)
