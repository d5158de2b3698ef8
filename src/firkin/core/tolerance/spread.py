"""Errors drawn (JCGM 101:2008), and propagated (JCGM 100:2008, 5), whatever it is that they spread."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from firkin.core.tolerance.draws import Array
from firkin.core.tolerance.errors import Part, Ranged

#: A central difference is taken over this share of each half-width.
_STEP = 0.01
#: Of what is reckoned, as a share: what the arithmetic itself is off by.
_HAIR = 1e-6
#: Steps of a drawn density.
_BINS = 48

Errors = Sequence[Array]
Strengths = Sequence[Array | None]


class Spread:
    """Draws of every error, seeded: the same seed gives the same draws."""

    def __init__(self, draws: int, seed: int) -> None:
        self.draws = draws
        self._generator = np.random.default_rng(seed)

    def rectangle(self, count: int = 1) -> Array:
        """Draws between -1 and 1, each as likely; the mean of ``count`` of them where there are several."""
        if count > 12:  # by then the mean of rectangles is a bell: the error in its tails is below a thousandth
            return np.asarray(self._generator.standard_normal(self.draws) / np.sqrt(3.0 * count))
        total = np.zeros(self.draws)
        for _ in range(count):
            total += self._generator.random(self.draws)
        return np.asarray(total * (2.0 / count) - 1.0)

    def draw(
        self, lines: int, parts: Sequence[Part], ranges: Sequence[Ranged]
    ) -> tuple[list[Array], list[Array | None]]:
        """Each line's error, as a fraction of its amount, and its stock's strength, None where that is no range."""
        errors: list[Array] = [np.zeros(self.draws) for _ in range(lines)]
        for part in parts:
            drawn = self.rectangle(part.count)
            for line, half in part.moves.items():
                errors[line] = errors[line] + half * drawn
        strengths: list[Array | None] = [None] * lines
        for one in ranges:
            drawn = one.middle + one.half * self.rectangle()
            for line in one.lines:
                strengths[line] = drawn
        return errors, strengths


@dataclass(frozen=True, slots=True)
class Ranked:
    """One line and the per cent of the variance that comes of it; below 0 where it takes back what another brings."""

    line: int
    share_of_variance_pct: float


@dataclass(frozen=True, slots=True)
class Propagated:
    """What is reckoned without errors, each line's share, the standard deviation, and the share of what is besides."""

    nominal: float
    ranked: tuple[Ranked, ...]
    sd: float
    other_share_pct: float


def propagated(
    reckoned: Callable[[Errors, Strengths], Array],
    lines: int,
    parts: Sequence[Part],
    ranges: Sequence[Ranged],
    other: Callable[[float], float] = lambda _: 0.0,
) -> Propagated:
    """By the law of propagation. ``other`` gives the half-width of an error besides, by what is reckoned without any.

    The sensitivity to each error through each line is a central difference, all of them reckoned at once.
    """
    columns = [(part, line) for part in parts for line in part.moves]
    stocks = [(one, line) for one in ranges for line in one.lines]
    width = 2 * (len(columns) + len(stocks)) + 1
    errors = [np.zeros(width) for _ in range(lines)]
    for at, (part, line) in enumerate(columns):
        errors[line][2 * at : 2 * at + 2] = (part.moves[line] * _STEP, -part.moves[line] * _STEP)
    strengths: list[Array | None] = [None] * lines
    for at, (one, line) in enumerate(stocks, start=len(columns)):
        column = np.full(width, one.middle)
        column[2 * at : 2 * at + 2] += (one.half * _STEP, -one.half * _STEP)
        strengths[line] = column
    values = np.broadcast_to(reckoned(errors, strengths), (width,))
    slopes = (values[0:-1:2] - values[1:-1:2]) / (2.0 * _STEP)
    by_line = dict.fromkeys(range(lines), 0.0)
    variance = gross = 0.0
    sources: list[tuple[object, int, float]] = [(part, line, part.variance) for part, line in columns]
    sources += [(one, line, 1.0 / 3.0) for one, line in stocks]
    for at, (source, line, weight) in enumerate(sources):
        together = sum(slopes[nth] for nth, (one, _, _) in enumerate(sources) if one is source)
        by_line[line] += float(weight * slopes[at] * together)
        variance += float(weight * slopes[at] * together)
        gross += float(weight * slopes[at] ** 2)
    nominal = float(values[-1])
    besides = other(nominal) ** 2 / 3.0
    variance += besides
    hair = max(1.0, abs(nominal), math.sqrt(gross))
    nothing = variance <= (_HAIR * hair) ** 2  # errors that cancel leave rounding alone
    ranked = tuple(
        Ranked(line, 0.0 if nothing else 100.0 * share / variance)
        for line, share in sorted(by_line.items(), key=lambda one: -one[1])
    )
    if nothing:
        return Propagated(nominal, ranked, 0.0, 0.0)
    return Propagated(nominal, ranked, float(np.sqrt(variance)), 100.0 * besides / variance)


def heights(values: Array) -> tuple[float, ...]:
    """A density for a drawing: the heights of equal steps from the least to the largest value, the tallest 1."""
    lowest, highest = float(values.min()), float(values.max())
    if highest - lowest < 1e-9:
        return (1.0,)
    counts, _ = np.histogram(values, bins=_BINS, range=(lowest, highest))
    return tuple(float(count) / float(counts.max()) for count in counts)
