"""The time line: batches at rest, from when to when, and where now is."""

from collections.abc import Sequence
from dataclasses import dataclass

from firkin.drawings.svg import drawing, tag, text

WIDTH, LEFT = 760.0, 12.0
_ROW = 58.0


@dataclass(frozen=True, slots=True)
class Rest:
    """One wait, in hours before (negative) or after now."""

    name: str
    what: str
    start_h: float
    ready_h: float
    ready_words: str


def time_line(rests: Sequence[Rest], narrow: bool = False) -> str:
    """Draw each wait as a stave on its own row, filled as far as it is done; now is a line through all.

    A narrow one is for a phone: half as wide, its words in two lines.
    """
    width, row_high = (400.0, 84.0) if narrow else (WIDTH, _ROW)
    right = width - LEFT
    first = min([-6.0, *(rest.start_h for rest in rests)])
    last = max([6.0, *(rest.ready_h for rest in rests)])
    pad = (last - first) * 0.03
    first, last = first - pad, last + pad

    def x(hours: float) -> float:
        return LEFT + (right - LEFT) * (hours - first) / (last - first)

    height = 26.0 + row_high * len(rests)
    rows = [30.0 + row_high * row for row in range(len(rests))]
    through = [(y + 16.0, y + 34.0) for y in rows] if narrow else [(20.0, height)]
    parts = [tag("line", x1=x(0.0), x2=x(0.0), y1=y1, y2=y2, klass="now") for y1, y2 in through]
    parts.append(text(min(max(x(0.0), LEFT + 14.0), right - 14.0), 16.0, "now", "now-word", "middle"))
    for y, rest in zip(rows, rests, strict=True):
        done = min(0.0, rest.ready_h)
        bar = y + 20.0
        words = f"{rest.what} · {rest.ready_words}"
        parts.append(text(LEFT, y + 12.0, rest.name, "rest-name"))
        at, below, side = (LEFT, bar + 30.0, "start") if narrow else (right, y + 12.0, "end")
        parts.append(text(at, below, words, "rest-free", side))
        parts.append(tag("rect", x=LEFT, y=bar + 4.0, width=right - LEFT, height=2.0, klass="rest-ground"))
        start, free = x(rest.start_h), x(rest.ready_h)
        klass = "rest-stave" + (" rest-over" if rest.ready_h <= 0 else "")
        parts.append(tag("rect", x=start, y=bar, width=max(free - start, 3.0), height=10.0, rx=2.0, klass=klass))
        parts.append(
            tag(
                "rect",
                x=start,
                y=bar,
                width=max(x(done) - start, 0.0),
                height=10.0,
                rx=2.0,
                klass="rest-done",
            )
        )
        parts.append(tag("line", x1=free, x2=free, y1=bar - 3.0, y2=bar + 13.0, klass="rest-end"))
    said = "; ".join(f"{rest.name}: {rest.what}, {rest.ready_words}" for rest in rests)
    klass = "time-line-narrow" if narrow else "time-line"
    return drawing(width, height + 4.0, f"Batches at rest. {said}.", parts, klass)
