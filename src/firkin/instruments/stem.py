"""A simulated alcoholmeter with its thermometer, read to half a mark."""

import random

from firkin.core.questions import expected_reading


class SimulatedAlcoholmeter:
    """A stem marked every half per cent by volume at 20 degC (OIML R 22 for what it does at other temperatures).

    >>> SimulatedAlcoholmeter(seed=1).read(80.0, 20.0)
    (80.0, 20.0)
    """

    def __init__(self, seed: int | None = None, mark_pct: float = 0.5) -> None:
        self._random = random.Random(seed)  # noqa: S311  noise, no secret
        self._mark = mark_pct

    def read(self, true_pct: float, celsius: float) -> tuple[float, float]:
        """The mark and the thermometer for a strength at 20 degC."""
        reading, _ = expected_reading(true_pct, celsius)
        seen = round((reading + self._random.gauss(0.0, 0.1)) / self._mark) * self._mark
        return min(100.0, max(0.0, seen)), round(celsius * 2.0) / 2.0
