"""Kitchen measures: exact amounts as short combinations of what a kitchen really has.

The search is exact: over all combinations of up to three measures it takes the one with the fewest fillings,
then the fewest kinds, among those within the measures' own error; if none is, the nearest one.
"""

import math
from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from functools import cache
from itertools import combinations

from firkin.core import datafiles
from firkin.core.bench.progress import Progress
from firkin.core.catalogue import Verdict
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, Reckoning, reckon
from firkin.core.measures import Quantity, figures

MOST_FILLINGS = 24
#: How many measures of a drawer are tried for one amount.
MOST_MEASURES = 12
MOST_KINDS = 3
#: Above this share off, a measure is hopeless and weighing is suggested.
HOPELESS = 0.10
#: How much of the measures' own error is used where rounding to it would leave no room.
_CLOSER = 0.25
#: A share within which two amounts are the same.
_EXACT = 0.002


@dataclass(frozen=True, slots=True)
class Measure:
    """One measure: size in mL (or g), its graduation if it is read off, its error in per cent."""

    name: str
    size: float
    error_pct: float
    step: float | None = None


@dataclass(frozen=True, slots=True)
class Kitchen:
    """A set of measures; ``weighs`` when they are in grams. ``scale`` stands beside measures of volume."""

    id: str
    name: str
    measures: tuple[Measure, ...]
    weighs: bool = False
    scale: Measure | None = None


@dataclass(frozen=True, slots=True)
class Combination:
    """Fillings of measures that come to ``total``, in mL or g; ``error`` is the measures' own, likewise."""

    parts: tuple[tuple[float, Measure], ...]
    total: float
    error: float
    unit: str = "mL"

    @property
    def words(self) -> str:
        """ "3 cup + 2 tbsp": whole fillings by number, a graduated one by its mark."""
        said = []
        for amount, measure in self.parts:
            place = "on the scale" if self.unit == "g" else f"in the {measure.name}"
            if measure.step is None:
                said.append(f"{figures(amount / measure.size)} × {measure.name}")
            elif amount > measure.size:
                fulls = int(amount / measure.size + 1e-9)
                rest = amount - fulls * measure.size
                more = f" + {figures(rest)} {self.unit} {place}" if rest > 1e-9 else ""
                said.append(f"{fulls} × {measure.name} full{more}")
            else:
                said.append(f"{figures(amount)} {self.unit} {place}")
        return " + ".join(said)


@cache
def kitchens() -> dict[str, Kitchen]:
    """Every kitchen by id.

    >>> kitchens()["us"].measures[2].name
    'cup'
    """
    return {
        key: Kitchen(key, row["name"], tuple(Measure(**m) for m in row["measures"]), row.get("weighs", False))
        for key, row in datafiles.toml("bench/kitchens.toml").items()
    }


def measure_out(
    amount: float, measures: Sequence[Measure], side: str = "near", unit: str = "mL", slack: float = 1.0
) -> Combination:
    """The shortest combination for an amount in ``unit``; ``side`` "up" or "down" allows no other side.

    It may be off by ``slack`` times the measures' own error, so that a longer one comes closer.

    Raises CannotReckon when nothing can be measured on that side.

    >>> measure_out(187.8, kitchens()["us"].measures).words
    '1 × 1/2 cup + 1 × 1/4 cup + 1 × tbsp'
    """
    if amount <= 0:
        raise CannotReckon("There is nothing to measure.")
    search = _Search(amount, side, unit, slack)
    for kinds in range(1, MOST_KINDS + 1):
        for chosen in combinations(_candidates(amount, measures), kinds):
            search.fill(chosen, amount, (), 0, 0.0)
    found = search.best or search.nearest
    if found is None:
        raise CannotReckon(f"{figures(amount)} cannot be measured with these.")
    return found


def _candidates(amount: float, measures: Sequence[Measure]) -> list[Measure]:
    """The measures worth trying for an amount, the largest first: all of a usual kitchen, and of a drawer full of them
    the largest that fit and the smallest, so that the search stays short."""
    ordered = sorted(measures, key=lambda measure: -measure.size)
    if len(ordered) <= MOST_MEASURES:
        return ordered
    above = [measure for measure in ordered if measure.size > amount]
    below = [measure for measure in ordered if measure.size <= amount]
    small = MOST_MEASURES // 3
    fit = [*above[-1:], *below]
    return fit if len(fit) <= MOST_MEASURES else [*fit[: MOST_MEASURES - small], *fit[-small:]]


def exactly(amount: float, mass_g: float, kitchen: Kitchen) -> Combination | None:
    """The combination for an amount that was rounded to a kitchen before, in its unit; None if it was not.

    What only the scale beside the measures could measure is weighed.

    >>> exactly(236.588, 236.0, kitchens()["us"]).words
    '1 × cup'
    """
    tries = [(amount, kitchen.measures, "g" if kitchen.weighs else "mL")]
    tries += [(mass_g, (kitchen.scale,), "g")] if kitchen.scale else []
    for wanted, measures, unit in tries:
        found = measure_out(wanted, measures, unit=unit, slack=_EXACT)
        if abs(found.total - wanted) <= _EXACT * wanted:
            return found
    return None


class _Search:
    """The search of measure_out: goes through the fillings and keeps the best within the measures' error.

    ``nearest`` is the nearest of those looked at, for amounts no combination reaches within the error.
    """

    def __init__(self, amount: float, side: str, unit: str, slack: float) -> None:
        self.amount, self.side, self.unit, self.slack = amount, side, unit, slack
        self.best: Combination | None = None
        self.nearest: Combination | None = None
        self._cost: tuple[float, int, float] = (MOST_FILLINGS + 1, 0, 0.0)

    def fill(
        self,
        chosen: Sequence[Measure],
        left: float,
        parts: tuple[tuple[float, Measure], ...],
        fillings: int,
        error: float,
    ) -> None:
        """Use every one of ``chosen``, the largest first; the last one takes up what is left."""
        measure, rest = chosen[0], chosen[1:]
        if not rest:
            for count in self._counts(measure, left, error):
                self._look(parts, count * (measure.step or measure.size), measure, fillings, error)
            return
        room = int(min(left / measure.size + 1e-9, self._cost[0] - fillings - len(rest)))
        for count in range(1, room + 1):
            poured = count * measure.size
            more = poured * measure.error_pct / 100.0
            self.fill(rest, left - poured, (*parts, (poured, measure)), fillings + count, error + more)

    def _counts(self, measure: Measure, left: float, error: float) -> set[int]:
        """Of the last measure: the numbers just below and above, and the fewest within the error."""
        unit = measure.step or measure.size
        fewest = math.ceil((left - error * self.slack) / (unit * (1.0 + self.slack * measure.error_pct / 100.0)) - 1e-9)
        around = {math.floor(left / unit + 1e-9), math.ceil(left / unit - 1e-9)}
        return {count for count in {fewest, *around} if count >= 1}

    def _look(
        self,
        parts: tuple[tuple[float, Measure], ...],
        poured: float,
        measure: Measure,
        fillings: int,
        error: float,
    ) -> None:
        total = sum(amount for amount, _ in parts) + poured
        wrong = {"up": total < self.amount - 1e-9, "down": total > self.amount + 1e-9}
        fillings += math.ceil(poured / measure.size - 1e-9)
        if wrong.get(self.side) or fillings > MOST_FILLINGS:
            return
        off = abs(total - self.amount)
        error += poured * measure.error_pct / 100.0
        cost = (fillings, len(parts) + 1, off)
        closer = self.nearest is None or off < abs(self.nearest.total - self.amount) - 1e-12
        better = off <= self.slack * error and cost < self._cost
        if closer or better:
            found = Combination((*parts, (poured, measure)), total, error, self.unit)
            self.nearest = found if closer else self.nearest
            if better:
                self.best, self._cost = found, cost


@dataclass(frozen=True, slots=True)
class RoundedLine:
    """One line as the kitchen measures it; None where only weighing, or nothing, would do."""

    combination: Combination | None
    off: float  # share by which it differs from the exact amount
    weigh: bool
    rinse: bool


@dataclass(frozen=True, slots=True)
class Rounded:
    """A formula in kitchen measures: its lines, its own reckoning, and the line that hurts most."""

    kitchen: Kitchen
    lines: tuple[RoundedLine, ...]
    result: Reckoning
    worst: int | None
    guarded: bool


def in_measures(progress: Progress, position: int, kitchen: Kitchen) -> str:
    """What is planned of a line in the measures it was laid out with, so that the line holds; empty where none fits.

    After the batch was scaled it is rounded anew, with every other line.

    >>> from firkin.core.bench.progress import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = in_kitchen(reckon(house_formulas()["who-one"].formula), kitchens()["metric"]).result.formula
    >>> in_measures(Progress(rub, plan_of(rub), ()), 0, kitchens()["metric"])
    '850 mL in the litre jug'
    """
    if progress.factor != 1.0:
        scaled = in_kitchen(reckon(progress.as_planned()), kitchen).lines[position].combination
        return scaled.words if scaled else ""
    planned = progress.plan[position]
    found = exactly(planned.g if kitchen.weighs else planned.loose_mL or planned.mL, planned.g, kitchen)
    return found.words if found else ""


def in_kitchen(exact: Reckoning, kitchen: Kitchen) -> Rounded:
    """Round every line of a reckoned formula to a kitchen's measures, the active guarded.

    When rounding to the nearest would bring an active below a minimum it holds exactly, or leave no room to top
    up, the lines of that active are rounded up and all others down. A q.s. line still tops up to its mark. The
    verdict counts how well these measures measure.

    Raises CannotReckon when the measures are too coarse for this size.

    >>> from firkin.core.formula import house_formulas
    >>> rub = in_kitchen(reckon(house_formulas()["who-one"].formula), kitchens()["metric"])
    >>> rub.lines[0].combination.words, rub.result.verdicts[0].verdict.value
    ('850 mL in the litre jug', 'meets')
    """
    holding = {one.active for one in exact.verdicts if one.minimum is not None and one.verdict != Verdict.SHORT}
    try:
        rounded = _round(exact, kitchen)
        fallen = holding & {one.active for one in rounded.result.verdicts if one.verdict == Verdict.SHORT}
        if not fallen:
            return rounded
    except CannotReckon:
        fallen = holding
    for slack in (1.0, _CLOSER):
        try:
            return replace(_round(exact, kitchen, fallen, slack), guarded=True)
        except CannotReckon:
            continue
    raise CannotReckon(
        "These measures are too coarse for this size: rounded, they leave no room to top up. Make more, or weigh."
    ).at("make")


def _round(exact: Reckoning, kitchen: Kitchen, up: Collection[str] | None = None, slack: float = 1.0) -> Rounded:
    """Round to the nearest; or these materials up and all others down."""
    formula = exact.formula
    lines: list[RoundedLine] = []
    amounts: list[Quantity] = []
    for line, worked in zip(formula.lines, exact.lines, strict=True):
        if line.amount.kind == "qs":
            lines.append(RoundedLine(None, 0.0, weigh=False, rinse=False))
            amounts.append(line.amount)
            continue
        amount = worked.mass_g if kitchen.weighs else worked.loose_mL
        side = "near" if up is None else ("up" if line.material.id in up else "down")
        try:
            found: Combination | None = measure_out(
                amount, kitchen.measures, side, "g" if kitchen.weighs else "mL", slack
            )
        except CannotReckon:
            found = None
        off = 1.0 if found is None else abs(found.total - amount) / amount
        hopeless = off > HOPELESS and not kitchen.weighs
        unit = "g" if kitchen.weighs else "mL"
        if hopeless and kitchen.scale is not None:
            weighed = _weigh(worked.mass_g, kitchen.scale, side)
            if weighed is not None and abs(weighed.total - worked.mass_g) / worked.mass_g < off:
                found, amount, unit, off = weighed, worked.mass_g, "g", abs(weighed.total / worked.mass_g - 1.0)
        lines.append(RoundedLine(found, off, hopeless, rinse="viscous" in line.material.roles))
        taken = found.total if found is not None and (not hopeless or unit == "g") else amount
        amounts.append(Quantity(taken, unit))
    make = formula.make if formula.topped_up is not None else None
    measured = _with(formula, amounts, make)
    result = reckon(replace(measured, lines=tuple(map(_as_good_as, measured.lines, lines))))
    return Rounded(kitchen, tuple(lines), result, _worst(exact, lines, amounts), guarded=False)


def _as_good_as(line: Line, rounded: RoundedLine) -> Line:
    """The line with the error of measuring it so: it widens the range, and the verdict with it."""
    found = rounded.combination
    return line if found is None else replace(line, error=min(0.49, max(line.error, found.error / found.total)))


def _weigh(mass_g: float, scale: Measure, side: str) -> Combination | None:
    try:
        return measure_out(mass_g, (scale,), side, "g")
    except CannotReckon:
        return None


def _with(formula: Formula, amounts: Sequence[Quantity], make: Quantity | None) -> Formula:
    lines = tuple(replace(line, amount=amount) for line, amount in zip(formula.lines, amounts, strict=True))
    return replace(formula, lines=lines, make=make)


def _worst(exact: Reckoning, lines: Sequence[RoundedLine], amounts: Sequence[Quantity]) -> int | None:
    """The line whose rounding alone moves an active most; None when none moves it by 0.05 points."""
    formula, worst, most = exact.formula, None, 0.05
    plain = [
        line.amount if line.amount.kind == "qs" else Quantity(worked.mass_g, "g")
        for line, worked in zip(formula.lines, exact.lines, strict=True)
    ]
    make = formula.make if formula.topped_up is not None else None
    for i, line in enumerate(lines):
        if line.combination is None or not line.off:
            continue
        alone = reckon(_with(formula, [amounts[i] if j == i else amount for j, amount in enumerate(plain)], make))
        moved = max((abs(a.lower - b.lower) for a, b in zip(alone.actives, exact.actives, strict=True)), default=0.0)
        if moved > most:
            worst, most = i, moved
    return worst
