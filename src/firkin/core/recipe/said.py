"""What a figure in a recipe's text comes to: an amount, a per cent, a time."""

from dataclasses import dataclass

from firkin.core.catalogue import Material
from firkin.core.measures import Quantity, Strength, figures

#: How far an amount may be off the share it is said to be, and the sum of amounts off the whole (common practice).
SHARE_SLACK = 0.10


def bigness(size: Quantity) -> float:
    """How big a size is, in mL or g; 0 for parts, per cents and q.s.

    >>> bigness(Quantity(2.0, "L")), bigness(Quantity(1.0, "kg")), bigness(Quantity(3.0, "part"))
    (2000.0, 1000.0, 0.0)
    """
    return size.mL if size.kind == "volume" else size.g if size.kind == "mass" else 0.0


@dataclass(frozen=True, slots=True)
class Amount:
    """So much of something. ``quantity`` is None where that cannot be said in a unit, or can be read two ways."""

    quantity: Quantity | None
    wording: str = ""
    filled: str = ""


@dataclass(frozen=True, slots=True)
class Percent:
    """A strength, or a share: a number or a range, and what it is counted in; ``degrees`` where "95°" is written."""

    low: float
    high: float
    unit: str = "%"
    degrees: bool = False

    @property
    def middle(self) -> float:
        """The number, of a range its middle."""
        return (self.low + self.high) / 2.0

    @property
    def words(self) -> str:
        """As it reads back: "90-91 % v/v", "190 proof"."""
        ends = figures(self.low, 10) if self.low == self.high else f"{figures(self.low, 10)}-{figures(self.high, 10)}"
        return f"{ends} {self.unit}"

    def strength(self, material: Material) -> Strength:
        """The strength it is of a material; CannotReckon where it can be none."""
        return material.read_strength(self.words)


@dataclass(frozen=True, slots=True)
class Lasting:
    """How long something takes: a number, and of what."""

    number: float
    unit: str
