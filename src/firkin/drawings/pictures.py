"""The drawing of an answer, from the picture core made of it."""

from collections.abc import Iterable
from typing import Protocol, TypeVar

from firkin.core.questions import (
    Additives,
    Bars,
    Bottles,
    Filled,
    Levelled,
    Picture,
    Rail,
    Scale,
    Stem,
)
from firkin.drawings.bars import bars, scale
from firkin.drawings.bottles import bottles
from firkin.drawings.curve import additive_curve
from firkin.drawings.levelling import levelling
from firkin.drawings.rail import strength_rail
from firkin.drawings.stem import alcoholmeter_stem
from firkin.drawings.vessel import vessel


def drawn_picture(picture: Picture | None) -> str:
    """The SVG of a picture; empty without one."""
    match picture:
        case None:
            return ""
        case Filled():
            return vessel(picture.layers, picture.finished_mL, picture.capacity_mL, picture.free)
        case Rail():
            return strength_rail(picture.windows, picture.marks)
        case Levelled():
            return levelling(picture.first, picture.second, picture.target)
        case Additives():
            return additive_curve(picture.stocks, picture.lines, picture.share_pct)
        case Stem():
            return alcoholmeter_stem(picture.reading, picture.true, picture.celsius)
        case Bars():
            return bars(picture.bars)
        case Scale():
            return scale(picture)
        case Bottles():
            return bottles(picture)


class Pictured(Protocol):
    """Whatever may have a picture."""

    @property
    def picture(self) -> Picture | None:
        """The picture, if it has one."""


_P = TypeVar("_P", bound=Pictured)


def with_drawings(found: Iterable[_P]) -> list[tuple[_P, str]]:
    """Each with the SVG of its picture."""
    return [(one, drawn_picture(one.picture)) for one in found]
