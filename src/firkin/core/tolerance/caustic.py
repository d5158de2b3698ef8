"""How sure it is that acid and caustic meet: the caustic left over, or lacking, at every draw, in moles of protons."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from firkin.core.formula import Formula, Line, Reckoning, reckon, work_out
from firkin.core.measures import Strength
from firkin.core.questions import SURE_BY_MOLES, counted_as, neutrality
from firkin.core.tolerance.draws import Array, drawn_batch, read_along
from firkin.core.tolerance.errors import Measure, parts_of, ranges_of
from firkin.core.tolerance.spread import Errors, Ranked, Spread, Strengths, heights, propagated


@dataclass(frozen=True, slots=True)
class SpareCaustic:
    """Base left over, in per cent of the base that went in; below 0 where acid is left.

    ``share_near_pct`` of the draws end within ``window_pct`` of neutral; ``share_over_pct`` have more base left than
    that, ``share_acid_pct`` more acid.
    """

    nominal: float
    mean: float
    sd: float
    sd_linear: float
    percentiles: tuple[float, float, float]
    window_pct: float
    share_near_pct: float
    share_over_pct: float
    share_acid_pct: float
    ranked: tuple[Ranked, ...]
    lowest: float
    highest: float
    density: tuple[float, ...]
    draws: int


def how_neutral(
    formula: Formula, measures: Sequence[Measure], draws: int = 100_000, seed: int = 0
) -> SpareCaustic | None:
    """How the caustic left over spreads with these tools and bottles; None where there is no acid, or no base.

    Molar masses count as exact, though that of LABSA is a mean.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        measures: how far each line is off when it is measured, in the order of the lines.
        draws: how many batches are drawn at random.
        seed: starts the generator of random numbers; the same seed gives the same answer.

    Raises:
        CannotReckon: as formula.work_out does, and where there is not one measure a line.

    >>> from firkin.core.formula import house_formulas
    >>> dish = house_formulas()["dish-gentle"].formula
    >>> sure = how_neutral(dish, [Measure(systematic=0.001)] * len(dish.lines), draws=1000, seed=1)
    >>> sure.share_near_pct, abs(sure.mean) < 1.0
    (100.0, True)
    """
    result = reckon(formula)
    if neutrality(result) is None:
        return None
    planned = work_out(formula)
    parts, ranges = parts_of(formula, *planned, measures), ranges_of(formula, measures)

    def spare(errors: Errors, strengths: Strengths) -> Array:
        _, _, masses = drawn_batch(formula, planned, errors, strengths)
        acid, base = (_protons(result, masses, strengths, *roles) for roles in (("acid", ""), ("base", "carbonate")))
        return np.asarray(100.0 * (base - acid) / base)

    values = np.broadcast_to(spare(*Spread(draws, seed).draw(len(formula.lines), parts, ranges)), (draws,))
    linear = propagated(spare, len(formula.lines), parts, ranges)
    window = 100.0 * SURE_BY_MOLES
    over, acid_left = (100.0 * float(share.mean()) for share in (values > window, values < -window))
    low, middle, high = (float(value) for value in np.percentile(values, (5, 50, 95)))
    return SpareCaustic(
        linear.nominal,
        float(values.mean()),
        float(values.std()),
        linear.sd,
        (low, middle, high),
        window,
        100.0 - over - acid_left,
        over,
        acid_left,
        linear.ranked,
        float(values.min()),
        float(values.max()),
        heights(values),
        draws,
    )


def _protons(result: Reckoning, masses: Sequence[Any], strengths: Strengths, role: str, without: str) -> Any:
    """Moles of protons that all lines of a role give or take up, at every draw."""
    total: Any = 0.0
    for i, (line, strength) in enumerate(zip(result.formula.lines, strengths, strict=True)):
        if counted_as(result, i, role, without):
            total = (
                total + masses[i] * _share(line, strength) / (line.material.molar_mass or 1.0) * line.material.groups
            )
    return total


def _share(line: Line, strength: Array | None) -> Any:
    """The active's share of a stock by weight, at every draw of its strength."""

    def share(counted: Strength | None) -> float:
        fraction = line.material.mass_fraction(counted or line.material.usual_strength)
        return 1.0 if fraction is None else fraction

    counted = line.counted_strength
    if strength is None or counted is None:
        return share(counted)
    return read_along(lambda value: share(Strength.of(value, counted.basis)), strength)
