"""A simulated pH meter: it drifts with time since it was last set in a buffer, and its slope ages."""

import random

from firkin.instruments.sample import Sample

_DRIFT_PER_DAY = 0.04
_DAY_S = 86400.0


class SimulatedPhMeter:
    """A meter of 0.01 pH that must be calibrated, held into a sample.

    >>> meter = SimulatedPhMeter(Sample(ph=7.0), seed=3, offset=0.3)
    >>> meter.read(0.0) > 7.2
    True
    >>> meter.calibrate(7.0, 0.0)
    >>> abs(meter.read(60.0) - 7.0) < 0.05
    True
    """

    def __init__(self, sample: Sample, seed: int | None = None, offset: float = 0.12, slope: float = 0.97) -> None:
        self._sample = sample
        self._random = random.Random(seed)  # noqa: S311  noise, no secret
        self._offset = offset
        self._slope = slope
        self._set_at: float | None = None

    def calibrate(self, buffer_ph: float, now: float) -> None:
        """Set it in a buffer: its offset there is nothing from now on."""
        self._offset = (1.0 - self._slope) * (buffer_ph - 7.0)
        self._set_at = now

    def read(self, now: float) -> float:
        """What it shows in its sample, 0.01 at a time."""
        since = now - self._set_at if self._set_at is not None else _DAY_S
        drift = _DRIFT_PER_DAY * min(since / _DAY_S, 10.0)
        shown = 7.0 + (self._sample.ph - 7.0) * self._slope + self._offset + drift + self._random.gauss(0.0, 0.01)
        return round(min(14.0, max(0.0, shown)), 2)

    def days_since_set(self, now: float) -> float | None:
        """Days since it was set in a buffer; None when it never was."""
        return None if self._set_at is None else (now - self._set_at) / _DAY_S
