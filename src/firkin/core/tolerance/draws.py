"""A batch drawn many times at once: the same formula as everything else, with an array of draws in place of a number.

A smooth curve (density, volume fraction) is sampled between the least and the largest value drawn and read off in a
straight line between samples; the error of that is below a ten-millionth of the strength. A property of the tests
holds one draw of it against formula.reckon.
"""

from collections.abc import Callable, Sequence
from dataclasses import fields, replace
from typing import Any, cast

import numpy as np
import numpy.typing as npt

from firkin.core.densities import ALCOHOLS, Solution, ethanol_water_density
from firkin.core.formula import Counted, Formula, Line, Nature, Pot, counted_actives, measured_out, nature
from firkin.core.measures import Strength

Array = npt.NDArray[np.float64]
#: What formula.work_out gives: the pot, and grams of each line.
Planned = tuple[Pot, list[float]]

#: Into so many pieces a curve is cut between the ends of what was drawn.
_SAMPLES = 257
_WATER = 0.9982  # g/mL at 20 degC, as in densities.solutions


def read_along(curve: Callable[[float], float], at: Array | float) -> Any:
    """A smooth curve at every value of an array."""
    if not isinstance(at, np.ndarray):
        return curve(at)
    low, high = float(at.min()), float(at.max())
    if high - low < 1e-12:
        return np.full(at.shape, curve(low))
    levels = np.array([curve(float(value)) for value in np.linspace(low, high, _SAMPLES)])
    along = (at - low) * ((_SAMPLES - 1) / (high - low))
    piece = np.clip(along.astype(np.intp), 0, _SAMPLES - 2)  # pieces of one length: found without a search
    return levels[piece] + (along - piece) * np.diff(levels)[piece]


class Draws(Pot):
    """A pot whose stocks, masses and volumes are arrays of one value a draw."""

    def along(self, curve: Callable[[float], float], at: Any) -> Any:
        """A smooth curve at every draw."""
        return read_along(curve, at)

    def at_least_none(self, mass_g: Any) -> Any:
        """Masses that may have come out negative, as what can be poured."""
        return np.maximum(0.0, mass_g)

    def _volume(self, content: Sequence[Any], celsius: float) -> Any:
        ethanol, isopropanol, water, residue = content[:4]
        volume = residue + self._alcohol_water(ethanol, isopropanol, 0.0 if self.dry else water, celsius)
        for (solution, dry), grams in zip(self._solutes.items(), content[4:], strict=False):
            volume = volume + self._added(solution, grams, water, dry)
        return volume

    def _alcohol_water(self, ethanol: Any, isopropanol: Any, water: Any, celsius: float) -> Any:
        both = ethanol + isopropanol
        if not np.any(isopropanol > 0.0):
            return self._mixed(lambda share: ethanol_water_density(share, celsius), ethanol, water)
        share = np.divide(isopropanol, both, out=np.zeros_like(both), where=both > 0.0)
        density = ALCOHOLS["isopropanol"].density
        volume = self._mixed(lambda one: density(one, celsius), isopropanol, water * share)
        if np.any(ethanol > 0.0):
            rest = self._mixed(lambda one: ethanol_water_density(one, celsius), ethanol, water * (1.0 - share))
            volume = volume + rest
        return volume

    def _mixed(self, density: Callable[[float], float], alcohol: Any, water: Any) -> Any:
        whole = np.asarray(alcohol + water, dtype=float)
        fraction = np.divide(alcohol, whole, out=np.zeros_like(whole), where=whole > 0.0)
        return whole / read_along(density, np.clip(fraction, 0.0, 1.0))

    def _added(self, solution: Solution, grams: Any, water: Any, dry: float) -> Any:
        held = water * solution.reach / (1.0 - solution.reach) if solution.reach < 1.0 else grams
        dissolved = np.minimum(grams, held)
        whole = np.asarray(dissolved + water, dtype=float)
        share = np.divide(dissolved, whole, out=np.zeros_like(whole), where=whole > 0.0)
        return (grams - dissolved) / dry + whole / read_along(solution.density, share) - water / _WATER

    def _solve(self, masses_g: list[Any], volume_mL: Any, direction_g: list[Any]) -> Any:
        """The mass added along a direction until every draw's volume fits; Newton's way with the last slope found."""
        whole = sum(direction_g)
        start = self._content(masses_g)
        per_gram = self._content([d / whole for d in direction_g])

        def missing(added: Any) -> Any:
            content = [a + added * b for a, b in zip(start, per_gram, strict=True)]
            return volume_mL - self._volume(content, self.celsius)

        gap_before = np.asarray(missing(0.0), dtype=float)
        before = np.zeros_like(gap_before)
        now = gap_before / self._volume(per_gram, self.celsius)
        for _ in range(12):
            gap = missing(now)
            if float(np.max(np.abs(gap) / volume_mL)) <= 1e-9:
                break
            change = gap - gap_before
            step = np.divide(gap * (now - before), change, out=np.zeros_like(gap), where=change != 0.0)
            before, gap_before, now = now, gap, np.maximum(0.0, now - step)
        return now


def drawn_nature(line: Line, strengths: Array, celsius: float) -> Nature:
    """What a stock is at every strength drawn, in per cent on the basis of its label."""
    counted = line.counted_strength
    assert counted is not None

    def at(value: float) -> Nature:
        return nature(line.material, line.material.mass_fraction(Strength.of(value, counted.basis)), celsius)

    low, high = float(strengths.min()), float(strengths.max())
    if high - low < 1e-12:
        return at(low)
    grid = np.linspace(low, high, _SAMPLES)
    sampled = [at(float(value)) for value in grid]
    first = sampled[0]
    varying = {
        field.name: np.interp(strengths, grid, [getattr(one, field.name) for one in sampled])
        for field in fields(Nature)
        if isinstance(getattr(first, field.name), float)
        and any(getattr(one, field.name) != getattr(first, field.name) for one in sampled)
    }
    return replace(first, **cast(Any, varying))


def drawn_batch(
    formula: Formula, planned: Planned, errors: Sequence[Array], strengths: Sequence[Array | None]
) -> tuple[Formula, Draws, list[Any]]:
    """The formula with its stocks as drawn, the pot they make, and grams of each line, at every draw.

    ``errors`` are how far each line's amount is off, as fractions of it; ``strengths`` that of each line's stock, None
    where it is as the formula says.
    """
    pot, masses = planned
    natures = [
        stock if strength is None else drawn_nature(line, strength, formula.temperature)
        for line, stock, strength in zip(formula.lines, pot.natures, strengths, strict=True)
    ]
    drawn = replace(
        formula,
        lines=tuple(
            line if strength is None else replace(line, strength=_as_drawn(line, strength))
            for line, strength in zip(formula.lines, strengths, strict=True)
        ),
    )
    there = Draws(natures, formula.temperature, formula.dry)
    return drawn, there, measured_out(formula, pot, masses, there, cast(Sequence[float], errors))


def drawn_actives(
    formula: Formula, planned: Planned, errors: Sequence[Array], strengths: Sequence[Array | None]
) -> dict[str, Counted]:
    """Every active of the formula at every draw of ``drawn_batch``, in per cent, before the doubt of the table."""
    return counted_actives(*drawn_batch(formula, planned, errors, strengths))


def _as_drawn(line: Line, strengths: Array) -> Strength:
    counted = line.counted_strength
    assert counted is not None
    values = cast(float, strengths)
    return Strength(values, values, values, counted.basis)
