"""A season drawn over weeks: how much of each product there is, where batches stand, the evenings, what to buy by when.

Numbers in, SVG out. Days count from the first; the page places nothing.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from firkin.drawings.svg import drawing, tag, text

WIDTH = 1180.0
LEFT, RIGHT = 206.0, 1166.0
_TOP, _PRODUCT, _LEVEL, _TALL = 34.0, 104.0, 54.0, 20.0
_VESSEL, _EVENINGS, _BUY = 30.0, 46.0, 22.0
#: Words of one line of text take about this many units a letter.
_LETTER = 6.6

#: From a day to its place from the left.
Along = Callable[[float], float]


@dataclass(frozen=True, slots=True)
class Block:
    """A batch: the day it starts and is ready, its words, its address on the page; ``pinned`` where it stays,
    ``running`` where it is real already."""

    start: int
    free: int
    words: str
    href: str = ""
    pinned: bool = False
    running: bool = False
    chosen: bool = False
    key: str = ""


@dataclass(frozen=True, slots=True)
class ProductRow:
    """One product: its name and what is said of it, mL before and after each day, its batches, and what stands out.

    ``needs`` are marks (day, words), ``short`` (day, until, words); ``band`` the low and high of a play ahead, in mL.
    ``ground`` names its colour.
    """

    name: str
    says: str
    before: Sequence[float]
    after: Sequence[float]
    blocks: Sequence[Block]
    needs: Sequence[tuple[int, str]] = ()
    short: Sequence[tuple[int, int, str]] = ()
    band: tuple[Sequence[float], Sequence[float]] | None = None
    ground: str = "plain"


@dataclass(frozen=True, slots=True)
class VesselRow:
    """One vessel: its name, and what stands in it from day to day."""

    name: str
    blocks: Sequence[Block]


@dataclass(frozen=True, slots=True)
class SeasonPicture:
    """Everything drawn. ``weeks`` are the days weeks begin on, with their dates in words."""

    days: int
    weeks: Sequence[tuple[int, str]]
    products: Sequence[ProductRow]
    vessels: Sequence[VesselRow]
    evenings: Sequence[tuple[int, float]]
    most_minutes: float
    buy: Sequence[tuple[int, str]] = ()
    title: str = ""


def season(picture: SeasonPicture) -> str:
    """Draw it."""

    def x(day: float) -> float:
        return LEFT + (RIGHT - LEFT) * day / picture.days

    parts: list[str] = []
    y = _TOP
    rows: list[str] = []
    for one in picture.products:
        rows += _product(one, picture.days, x, y)
        y += _PRODUCT
    for vessel in picture.vessels:
        rows += _vessel(vessel, x, y, picture.days)
        y += _VESSEL
    rows += _evenings(picture, x, y)
    y += _EVENINGS
    if picture.buy:
        bought, height = _bought(picture, x, y)
        rows += bought
        y += height
    for day, words in picture.weeks:
        parts.append(tag("line", x1=x(day), x2=x(day), y1=_TOP - 8.0, y2=y, klass="week"))
        fits = x(day) + 3.0 + len(words) * _LETTER < WIDTH
        at = x(day) + 3.0 if fits else x(day) - 3.0
        parts.append(text(at, _TOP - 16.0, words, "week-word", "start" if fits else "end"))
    parts.insert(0, tag("rect", x=x(0), y=_TOP - 8.0, width=x(1) - x(0), height=y - _TOP + 8.0, klass="today"))
    return drawing(WIDTH, y + 6.0, picture.title, [*parts, *rows], "season")


def _product(row: ProductRow, days: int, x: Along, y: float) -> list[str]:
    most = max([*row.before, *row.after, *(row.band[1] if row.band else ()), 1.0])
    floor = y + 18.0 + _LEVEL

    def height(mL: float) -> float:
        return floor - (_LEVEL - 4.0) * min(mL, most) / most

    parts = [
        text(12.0, y + 40.0, _fitting(row.name, 25), "season-name"),
        text(12.0, y + 58.0, _fitting(row.says, 34), "season-says"),
        tag("rect", x=LEFT, y=y + 18.0, width=RIGHT - LEFT, height=_LEVEL, klass="level-ground"),
    ]
    points = [f"{x(0):.1f},{floor:.1f}"]
    for day in range(days):
        points += [f"{x(day):.1f},{height(row.before[day]):.1f}", f"{x(day + 1):.1f},{height(row.after[day]):.1f}"]
    points.append(f"{x(days):.1f},{floor:.1f}")
    parts.append(tag("polygon", points=" ".join(points), klass=f"level {row.ground}"))
    if row.band is not None:
        low, high = row.band
        upper = [f"{x(day + 1):.1f},{height(mL):.1f}" for day, mL in enumerate(high)]
        lower = [f"{x(day + 1):.1f},{height(mL):.1f}" for day, mL in reversed(list(enumerate(low)))]
        parts.append(tag("polygon", points=" ".join([*upper, *lower]), klass="band"))
    parts.append(tag("polyline", points=" ".join(points[1:-1]), klass="level-line"))
    for day, until, words in row.short:
        wide = max(x(until) - x(day), 8.0)
        parts.append(tag("rect", x=x(day), y=y + 18.0, width=wide, height=_LEVEL, klass="dry"))
        at_end = x(day) + len(words) * _LETTER > RIGHT
        parts.append(
            text(x(day) - 4.0 if at_end else x(day) + 5.0, y + 33.0, words, "dry-word", "end" if at_end else "start")
        )
    parts.append(tag("rect", x=LEFT, y=y + 18.0, width=RIGHT - LEFT, height=_LEVEL, klass="level-frame"))
    taken = -1e9
    for day, words in row.needs:
        at = x(day)
        parts.append(tag("path", d=f"M{at - 5:.1f} {y + 8:.1f}h10l-5 8z", klass="need"))
        if at + 8.0 > taken:
            fits = at + 9.0 + len(words) * _LETTER < RIGHT
            parts.append(text(at + 9.0 if fits else at - 9.0, y + 15.0, words, "need-word", "start" if fits else "end"))
            taken = at + 14.0 + len(words) * _LETTER
    parts += _casks(row.blocks, x, floor + 6.0)
    return parts


def _casks(blocks: Sequence[Block], x: Along, y: float) -> list[str]:
    """Each batch as a small cask on the day it is started, its wait a tail, its size beside it."""
    parts = []
    below = -1e9
    ordered = sorted(blocks, key=lambda block: (block.start, block.free))
    for at, one in enumerate(ordered):
        start, free = max(x(one.start), LEFT - 8.0), min(x(one.free), RIGHT)
        klass = "cask" + " pinned" * one.pinned + " running" * one.running + " chosen" * one.chosen
        inner = [
            tag("rect", x=start - 2.0, y=y - 4.5, width=max(free - start, 30.0) + 52.0, height=27.0, klass="reach"),
            tag("rect", x=start, y=y + 3.0, width=max(free - start, 0.0), height=8.0, klass="wait"),
            tag("path", d=f"M{start:.1f} {y:.1f}q9 -3 18 0q3 8 0 15q-9 3 -18 0q-3 -7 0 -15z", klass="wood"),
            tag("line", x1=start - 1.0, x2=start + 19.0, y1=y + 4.0, y2=y + 4.0, klass="hoop"),
            tag("line", x1=start - 1.0, x2=start + 19.0, y1=y + 11.0, y2=y + 11.0, klass="hoop"),
        ]
        if one.pinned:
            inner.append(tag("circle", cx=start + 9.0, cy=y + 7.5, r=3.0, klass="pin"))
        beyond, wide = max(free, start + 18.0) + 6.0, len(one.words) * _LETTER
        at_end = beyond + wide > RIGHT + 10.0
        left = start - 6.0 - wide if at_end else beyond
        follows = x(ordered[at + 1].start) if at + 1 < len(ordered) else RIGHT + 60.0
        said, top = one.words, y + 12.0
        if left + wide > follows and not at_end:  # the next cask stands there: below it, or not at all
            left, top = max(start, below), y + 27.0
            said = one.words if left - start < 90.0 else ""
            below = left + wide + 8.0 if said else below
        words = text(left, top, said, "cask-word") if said else ""
        content = "".join([*inner, words])
        if one.href:
            said_of = {"href": one.href, "klass": klass, "data_batch": one.key, "aria_label": one.words}
            parts.append(tag("a", content, **said_of))
        else:
            parts.append(tag("g", content, klass=klass))
    return parts


def _vessel(row: VesselRow, x: Along, y: float, days: int) -> list[str]:
    parts = [
        text(12.0, y + 17.0, _fitting(row.name, 25), "season-name small"),
        tag("rect", x=LEFT, y=y + 3.0, width=RIGHT - LEFT, height=_TALL, klass="stand-ground"),
    ]
    blocks = sorted(row.blocks, key=lambda block: block.start)
    for at, one in enumerate(blocks):
        start, free = max(x(one.start), LEFT), min(x(max(one.free, one.start + 1)), RIGHT)
        room = (x(blocks[at + 1].start) if at + 1 < len(blocks) else RIGHT) - free - 8.0
        parts.append(
            tag(
                "rect",
                x=start,
                y=y + 3.0,
                width=free - start,
                height=_TALL,
                rx=2.0,
                klass="stand" + " running" * one.running,
            )
        )
        if len(one.words) * _LETTER < free - start - 4.0:
            parts.append(text(start + 4.0, y + 17.0, one.words, "stand-word"))
        elif len(one.words) * _LETTER < room:
            parts.append(text(free + 4.0, y + 17.0, one.words, "stand-word beside"))
    return parts


def _evenings(picture: SeasonPicture, x: Along, y: float) -> list[str]:
    base = y + _EVENINGS - 12.0
    parts = [
        text(12.0, base - 8.0, "Evenings", "season-name small"),
        tag("line", x1=LEFT, x2=RIGHT, y1=base, y2=base, klass="ground"),
    ]
    for at, (day, minutes) in enumerate(picture.evenings):
        follows = x(picture.evenings[at + 1][0]) if at + 1 < len(picture.evenings) else RIGHT + 8.0
        tall = max(3.0, 26.0 * min(1.0, minutes / max(picture.most_minutes, 1.0)))
        wide = max(6.0, x(1) - x(0) - 3.0)
        parts.append(tag("rect", x=x(day) + 1.0, y=base - tall, width=wide, height=tall, klass="evening"))
        words = f"{minutes:.0f} min"
        if x(day) + wide + 4.0 + len(words) * _LETTER < follows:
            parts.append(text(x(day) + wide + 4.0, base - 4.0, words, "evening-word"))
    return parts


def _bought(picture: SeasonPicture, x: Along, y: float) -> tuple[list[str], float]:
    """A flag on the day each thing is to be ordered; words that would meet go a line lower."""
    parts = [text(12.0, y + 14.0, "Order by", "season-name small")]
    ends = [-1e9]
    for day, words in picture.buy:
        at, wide = x(day), 22.0 + len(words) * _LETTER
        left = at + wide > RIGHT
        line = next((i for i, end in enumerate(ends) if (at - wide if left else at) > end), len(ends))
        if line == len(ends):
            ends.append(-1e9)
        ends[line] = at + (14.0 if left else wide)
        top = y + _BUY * line
        parts.append(tag("path", d=f"M{at:.1f} {top + 17:.1f}v-16h12l-4 5l4 5h-12", klass="flag"))
        parts.append(text(at - 6.0 if left else at + 17.0, top + 12.0, words, "flag-word", "end" if left else "start"))
    return parts, _BUY * len(ends) + 6.0


def _fitting(words: str, letters: int) -> str:
    return words if len(words) <= letters else words[: letters - 1].rstrip() + "…"
