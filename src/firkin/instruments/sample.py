"""What a simulated instrument is held into."""

from dataclasses import dataclass


@dataclass
class Sample:
    """A liquid: its pH, its ethanol in % v/v at 20 degC, and how warm it is in degC."""

    ph: float = 7.0
    strength_pct: float = 0.0
    celsius: float = 20.0
