"""The time line: batches at rest, from when to when, and where now is."""

from collections.abc import Sequence
from dataclasses import dataclass

from firkin.drawings.svg import drawing, tag, text

WIDTH, LEFT, RIGHT = 760.0, 12.0, 748.0
_ROW = 58.0


@dataclass(frozen=True, slots=True)
class Rest:
    """One wait, in hours before (negative) or after now."""

    name: str
    what: str
    start_h: float
    free_h: float
    free_words: str


def time_line(rests: Sequence[Rest]) -> str:
    """Draw each wait as a stave on its own row, filled as far as it is done; now is a line through all."""
    first = min([-6.0, *(rest.start_h for rest in rests)])
    last = max([6.0, *(rest.free_h for rest in rests)])
    pad = (last - first) * 0.03
    first, last = first - pad, last + pad

    def x(hours: float) -> float:
        return LEFT + (RIGHT - LEFT) * (hours - first) / (last - first)

    height = 26.0 + _ROW * len(rests)
    parts = [tag("line", x1=x(0.0), x2=x(0.0), y1=20.0, y2=height, klass="now")]
    parts.append(text(min(max(x(0.0), LEFT + 14.0), RIGHT - 14.0), 14.0, "now", "now-word", "middle"))
    for row, rest in enumerate(rests):
        y = 30.0 + _ROW * row
        done = min(0.0, rest.free_h)
        parts.append(text(LEFT, y + 12.0, rest.name, "rest-name"))
        parts.append(text(RIGHT, y + 12.0, f"{rest.what} · {rest.free_words}", "rest-free", "end"))
        bar = y + 20.0
        parts.append(tag("rect", x=LEFT, y=bar + 4.0, width=RIGHT - LEFT, height=2.0, klass="rest-ground"))
        start, free = x(rest.start_h), x(rest.free_h)
        klass = "rest-stave" + (" rest-over" if rest.free_h <= 0 else "")
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
    said = "; ".join(f"{rest.name}: {rest.what}, {rest.free_words}" for rest in rests)
    return drawing(WIDTH, height + 4.0, f"Batches at rest. {said}.", parts, "time-line")
