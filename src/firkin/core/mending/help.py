"""What would help a batch that came out wrong, as plain data: advice, additions, how they are worked in."""

from dataclasses import dataclass

from firkin.core.catalogue import Material
from firkin.core.formula import Step
from firkin.core.measures import Quantity, Strength, rounded_up

#: A night, in hours: what comes of soap and gels is told next day (common practice, no source).
OVERNIGHT_H = 12.0
EVEN = "Close the vessel and mix gently until even."


@dataclass(frozen=True, slots=True)
class Addition:
    """Something to add: a material of a strength, how much, in how many additions, and what is minded at it."""

    material: Material
    amount: Quantity
    strength: Strength | None = None
    portions: int = 1
    caution: str = ""


@dataclass(frozen=True, slots=True)
class Rescue:
    """What would help: sentences, what to add, how it is mixed in and the rest it needs by itself.

    Without additions it is advice alone. ``left`` is the share of what went in that is still there. ``aim`` is the
    strength in % v/v that the first addition brings the batch to: at least that, or with ``thins`` at most; with
    ``keeps`` it is thinned down to it, and no further.
    """

    trouble: str
    advice: tuple[str, ...]
    additions: tuple[Addition, ...] = ()
    mix: str = EVEN
    rest: Step | None = None
    left: float = 1.0
    aim: float | None = None
    thins: bool = False
    keeps: bool = False


@dataclass(frozen=True, slots=True)
class Seen:
    """What the maker knows: a strength measured, a stock to use, the mass now, grams of soap a litre that worked,
    grams of citric acid that take a known excess of base back, and the strength in % v/v that is aimed at where that is
    not its rule."""

    now: Strength | None = None
    stock: tuple[Material, Strength] | None = None
    mass_g: float | None = None
    soap_g_per_L: float | None = None
    citric_g: float | None = None
    aim_pct: float | None = None


#: Nothing but the trouble itself is known.
UNSEEN = Seen()


def in_mL(value: float) -> Quantity:
    """An amount to add, rounded up as a maker measures it."""
    return Quantity(rounded_up(value, 3), "mL")


def in_g(value: float) -> Quantity:
    """An amount to add, rounded up as a maker weighs it."""
    return Quantity(rounded_up(value, 3), "g")


def overnight(text: str) -> Step:
    """A rest over night, covered."""
    return Step("set", text, wait_h=OVERNIGHT_H)
