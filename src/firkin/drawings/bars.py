"""Bars to one scale, and a scale with named zones and a pointer."""

from collections.abc import Sequence

from firkin.core.measures import figures
from firkin.core.questions import Bar, Scale
from firkin.drawings.svg import drawing, tag, text

WIDTH, LEFT, RIGHT = 460.0, 14.0, 446.0
_BAR, _GAP = 22.0, 26.0


def bars(drawn: Sequence[Bar]) -> str:
    """Draw bars one below the other, each under its name, as long as its value."""
    longest = max((bar.value for bar in drawn), default=0.0) or 1.0
    parts, y = [], 18.0
    for bar in drawn:
        length = (RIGHT - LEFT) * bar.value / longest
        parts.append(text(LEFT, y, bar.name, "fill-name"))
        parts.append(text(RIGHT, y, bar.words, "mark-text strong", "end"))
        box = {"x": LEFT, "y": y + 7.0, "width": length, "height": _BAR}
        parts.append(tag("rect", x=LEFT, y=y + 7.0, width=RIGHT - LEFT, height=_BAR, klass="bar-bed"))
        parts.append(tag("rect", **box, klass=f"bar layer-{bar.kind}"))
        y += _BAR + _GAP + 7.0
    said = "; ".join(f"{bar.name}: {bar.words}" for bar in drawn)
    return drawing(WIDTH, y - 6.0, f"To one scale: {said}.", parts, "bars")


def scale(picture: Scale) -> str:
    """Draw a scale from 0 with its zones, and the pointer of the value; beyond the end it stands at the end."""
    end = picture.zones[-1].until

    def x(value: float) -> float:
        return LEFT + (RIGHT - LEFT) * min(value, end) / end

    parts, begin = [], 0.0
    for place, zone in enumerate(picture.zones):
        box = {"x": x(begin), "y": 44.0, "width": x(zone.until) - x(begin), "height": 22.0}
        parts.append(tag("rect", **box, klass=f"zone zone-{place}"))
        parts.append(tag("line", x1=x(begin), x2=x(begin), y1=44.0, y2=72.0, klass="tick"))
        parts.append(text(x(begin), 86.0, figures(begin), "scale", "start" if not begin else "middle"))
        low = 104.0 if place % 2 else 122.0
        parts.append(tag("line", x1=x(begin) + 4.0, x2=x(begin) + 4.0, y1=66.0, y2=low - 12.0, klass="leader"))
        parts.append(text(x(begin) + 8.0, low, zone.name, "axis"))
        begin = zone.until
    at = x(picture.value)
    side = "end" if at > WIDTH * 0.6 else "start"
    parts.append(tag("polygon", points=f"{at:.2f},44 {at - 7:.2f},30 {at + 7:.2f},30", klass="mark-true"))
    parts.append(text(at + (-11.0 if side == "end" else 11.0), 34.0, picture.words, "mark-text strong", side))
    said = ", ".join(f"{zone.name} up to {figures(zone.until)}" for zone in picture.zones)
    return drawing(WIDTH, 130.0, f"{picture.words} on a scale: {said}.", parts, "zones")
