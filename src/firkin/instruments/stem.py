"""A simulated alcoholmeter with its thermometer, read to half a mark."""

import random

from firkin.core.questions import expected_reading
from firkin.instruments.sample import Sample


class SimulatedAlcoholmeter:
    """A stem marked every half per cent by volume at 20 degC (OIML R 22 for what it does at other temperatures).

    >>> SimulatedAlcoholmeter(Sample(strength_pct=80.0), seed=1).read()
    (80.0, 20.0)
    """

    def __init__(self, sample: Sample, seed: int | None = None, mark_pct: float = 0.5) -> None:
        self._sample = sample
        self._random = random.Random(seed)  # noqa: S311  noise, no secret
        self._mark = mark_pct

    def read(self) -> tuple[float, float]:
        """The mark and the thermometer in its sample."""
        celsius = self._sample.celsius
        reading, _ = expected_reading(self._sample.strength_pct, celsius)
        seen = round((reading + self._random.gauss(0.0, 0.1)) / self._mark) * self._mark
        return min(100.0, max(0.0, seen)), round(celsius * 2.0) / 2.0
