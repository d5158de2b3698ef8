"""What the bench asks of an instrument. A real device needs no more than these methods.

Times are seconds on any clock that only goes forward; the caller says what time it is.
"""

from dataclasses import dataclass
from typing import Protocol


@dataclass(frozen=True, slots=True)
class Weight:
    """What a scale shows: g after tare, whether it has settled, whether it is overloaded."""

    grams: float
    settled: bool
    overload: bool = False


class Scale(Protocol):
    """A kitchen scale."""

    resolution_g: float
    capacity_g: float

    def read(self, now: float) -> Weight:
        """What it shows at a time."""

    def tare(self, now: float) -> None:
        """Show nothing for what stands on it."""


class PhMeter(Protocol):
    """A pH meter."""

    def read(self, now: float) -> float:
        """The pH it shows."""

    def calibrate(self, buffer_ph: float, now: float) -> None:
        """Set it in a buffer of a known pH."""

    def days_since_set(self, now: float) -> float | None:
        """Days since it was set in a buffer; None when it never was."""


class Alcoholmeter(Protocol):
    """A glass alcoholmeter for 20 degC, with its thermometer."""

    def read(self) -> tuple[float, float]:
        """The mark on the stem in % v/v, and the thermometer in degC."""
