"""Smooth curves through tabulated points."""

from bisect import bisect_right
from collections.abc import Sequence


class PiecewiseCubic:
    """A cubic Hermite curve through increasing ``x`` with given or estimated slopes.

    Without ``slopes`` each inner slope is that of the parabola through a point and its neighbours
    (de Boor, A Practical Guide to Splines, ch. IV). Two points are joined by a straight line. Outside the
    table the end piece is continued.

    >>> curve = PiecewiseCubic([0.0, 1.0, 2.0, 3.0], [0.0, 1.0, 4.0, 9.0])
    >>> round(curve(1.5), 9)
    2.25
    """

    __slots__ = ("_last", "_pieces", "_x")

    def __init__(self, x: Sequence[float], y: Sequence[float], slopes: Sequence[float] | None = None) -> None:
        slopes = _parabola_slopes(x, y) if slopes is None else slopes
        self._x = list(x)
        self._last = len(x) - 2
        self._pieces = []
        for i in range(len(x) - 1):
            h = x[i + 1] - x[i]
            secant = (y[i + 1] - y[i]) / h
            c2 = (3 * secant - 2 * slopes[i] - slopes[i + 1]) / h
            c3 = (slopes[i] + slopes[i + 1] - 2 * secant) / (h * h)
            self._pieces.append((x[i], y[i], slopes[i], c2, c3))

    def __call__(self, x: float) -> float:
        """The value at ``x``."""
        i = bisect_right(self._x, x) - 1
        x0, c0, c1, c2, c3 = self._pieces[0 if i < 0 else min(i, self._last)]
        d = x - x0
        return c0 + d * (c1 + d * (c2 + d * c3))


def _parabola_slopes(x: Sequence[float], y: Sequence[float]) -> list[float]:
    last = len(x) - 1
    if last == 1:  # two points: straight
        return [(y[1] - y[0]) / (x[1] - x[0])] * 2
    slopes = []
    for i in range(len(x)):
        j = min(max(i, 1), last - 1)
        left, right = x[j] - x[j - 1], x[j + 1] - x[j]
        first = (y[j] - y[j - 1]) / left
        second = ((y[j + 1] - y[j]) / right - first) / (left + right)
        slopes.append(first + second * (2 * x[i] - x[j - 1] - x[j]))
    return slopes
