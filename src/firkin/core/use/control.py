"""How a figure of a formula's batches runs: the limits of an individuals control chart, and the batches outside them.

NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2.2: the mean, plus and minus 3/1.128 of the mean moving range.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

#: 3 over d2 for ranges of two values (NIST/SEMATECH, 6.3.2.2).
_SPREAD = 3.0 / 1.128
#: Of fewer values limits say nothing (common practice, no source).
LEAST_POINTS = 5


@dataclass(frozen=True, slots=True)
class Chart:
    """Values in their order, their mean, and the limits; None of them where there are too few values."""

    values: tuple[float, ...]
    mean: float | None = None
    low: float | None = None
    high: float | None = None

    @property
    def outside(self) -> tuple[int, ...]:
        """The places of the values beyond the limits; a value on a limit is within."""
        if self.low is None or self.high is None:
            return ()
        slack = 1e-9 * max(1.0, abs(self.high), abs(self.low))
        return tuple(i for i, one in enumerate(self.values) if not self.low - slack <= one <= self.high + slack)


def chart_of(values: Sequence[float]) -> Chart:
    """The chart of a figure over batches, oldest first.

    The flow rates of the handbook's example:

    Args:
        values: one figure of each batch, oldest first, all in one unit.

    >>> chart = chart_of([49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1])
    >>> round(chart.mean, 2), round(chart.low, 4), round(chart.high, 4), chart.outside
    (50.81, 45.8159, 55.8041, ())
    """
    if len(values) < LEAST_POINTS:
        return Chart(tuple(values))
    mean = sum(values) / len(values)
    moving = sum(abs(b - a) for a, b in pairwise(values)) / (len(values) - 1)
    return Chart(tuple(values), mean, mean - _SPREAD * moving, mean + _SPREAD * moving)
