"""What somebody says of a recipe beside its amounts: claims to be held against the reckoning.

A formula of the maker's own makes none of them; a recipe heard somewhere does.
"""

from dataclasses import dataclass

from firkin.core.measures import Quantity, Strength


@dataclass(frozen=True, slots=True)
class LineClaims:
    """What is said of one line.

    ``words`` what it was called, ``share_pct`` the share of the batch it is said to be, ``on_hand`` the strength
    of the bottle that is really there, ``misread_pct`` a figure given in per cent that can only be proof, ``guessed`` a
    name that was misspelt, as it stands in the text, ``heaped`` that a spoon or cup was not level, ``assumed`` that the
    strength was not said and is the usual one of what was named, ``talked`` that it may only be talked about,
    ``twice`` that it stands there in another amount too, ``beside`` a strength near it that was not taken for its own,
    ``unitless`` that its figure, or the mark it is topped up to, was told without a unit and counted like those before,
    ``another`` an amount near it that was not taken for its own.
    """

    words: str = ""
    share_pct: float | None = None
    on_hand: Strength | None = None
    misread_pct: float | None = None
    guessed: str = ""
    heaped: bool = False
    assumed: bool = False
    talked: bool = False
    twice: bool = False
    beside: Strength | None = None
    unitless: bool = False
    another: Quantity | None = None


UNCLAIMED_LINE = LineClaims()


@dataclass(frozen=True, slots=True)
class Claims:
    """What is said of the whole: its size, the vessel it goes in, loads, the dose of one, money, and which
    material is said to kill germs; ``glass`` that the vessel is of glass."""

    size: Quantity | None = None
    vessel: Quantity | None = None
    loads: float | None = None
    dose: Quantity | None = None
    cost: float | None = None
    cost_per_load: float | None = None
    kills: str = ""
    glass: bool = False


UNCLAIMED = Claims()
