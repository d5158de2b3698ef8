"""Kitchen measures: exact amounts as short combinations of what a kitchen really has.

The search is exact: over all combinations of up to three measures it takes the one with the fewest fillings,
then the fewest kinds, among those within the measures' own error; if none is, the nearest one.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from itertools import combinations

from firkin.core import datafiles
from firkin.core.errors import CannotReckon
from firkin.core.measures import figures

MOST_FILLINGS = 24
#: How many measures of a drawer are tried for one amount.
MOST_MEASURES = 12
MOST_KINDS = 3
#: A share within which two amounts are the same.
_EXACT = 0.002
#: A band that every amount lies in.
ANY = (0.0, math.inf)


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
    def fillings(self) -> int:
        """How often something is filled."""
        return sum(math.ceil(amount / measure.size - 1e-9) for amount, measure in self.parts)

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
        for key, row in datafiles.toml("kitchen/kitchens.toml").items()
    }


def measure_out(
    amount: float,
    measures: Sequence[Measure],
    side: str = "near",
    unit: str = "mL",
    slack: float = 1.0,
    band: tuple[float, float] = ANY,
) -> Combination:
    """The shortest combination for an amount in ``unit``; ``side`` "up" or "down" allows no other side.

    It may be off by ``slack`` times the measures' own error, so that a longer one comes closer. ``band`` is what it
    must lie in, from and to.

    Raises CannotReckon when nothing can be measured on that side, or within the band.

    >>> measure_out(187.8, kitchens()["us"].measures).words
    '1 × 1/2 cup + 1 × 1/4 cup + 1 × tbsp'
    """
    if amount <= 0:
        raise CannotReckon("There is nothing to measure.")
    search = _Search(amount, side, unit, slack, band)
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
        try:
            found = measure_out(wanted, measures, unit=unit, slack=_EXACT)
        except CannotReckon:  # more fillings than anybody counts
            continue
        if abs(found.total - wanted) <= _EXACT * wanted:
            return found
    return None


class _Search:
    """The search of measure_out: goes through the fillings and keeps the best within the measures' error.

    ``nearest`` is the nearest of those looked at, for amounts no combination reaches within the error.
    """

    def __init__(self, amount: float, side: str, unit: str, slack: float, band: tuple[float, float]) -> None:
        self.amount, self.side, self.unit, self.slack, self.band = amount, side, unit, slack, band
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
        """Of the last measure: the numbers just below and above, and the fewest within the error and the band."""
        unit = measure.step or measure.size
        fewest = math.ceil((left - error * self.slack) / (unit * (1.0 + self.slack * measure.error_pct / 100.0)) - 1e-9)
        least = math.ceil((self.band[0] - self.amount + left) / unit - 1e-9)
        around = {math.floor(left / unit + 1e-9), math.ceil(left / unit - 1e-9)}
        return {count for count in {max(1, fewest, least), *around} if count >= 1}

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
        if wrong.get(self.side) or fillings > MOST_FILLINGS or not self.band[0] <= total <= self.band[1]:
            return
        off = abs(total - self.amount)
        error += poured * measure.error_pct / 100.0
        cost = (fillings, len(parts) + 1, off)
        closer = self.nearest is None or self._comes_closer(off, fillings, self.nearest)
        better = off <= self.slack * error and cost < self._cost
        if closer or better:
            found = Combination((*parts, (poured, measure)), total, error, self.unit)
            self.nearest = found if closer else self.nearest
            if better:
                self.best, self._cost = found, cost

    def _comes_closer(self, off: float, fillings: int, nearest: Combination) -> bool:
        """True for what is nearer than the nearest so far, or as near in fewer fillings."""
        gain = abs(nearest.total - self.amount) - off
        return gain > 1e-9 * self.amount or (gain > -1e-9 * self.amount and fillings < nearest.fillings)
