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
    """Draw the zones side by side, each as wide as the others, and the pointer of the value; past the end, at it."""
    width = (RIGHT - LEFT) / len(picture.zones)
    begins = [0.0, *(zone.until for zone in picture.zones)]
    place = next((i for i, zone in enumerate(picture.zones) if picture.value <= zone.until), len(picture.zones) - 1)
    within = min(1.0, (picture.value - begins[place]) / (begins[place + 1] - begins[place]))
    at = LEFT + width * (place + within)
    parts = []
    for i, zone in enumerate(picture.zones):
        left = LEFT + width * i
        parts.append(tag("rect", x=left, y=44.0, width=width, height=22.0, klass=f"zone zone-{i}"))
        parts.append(tag("line", x1=left, x2=left, y1=44.0, y2=72.0, klass="tick"))
        parts.append(text(left, 86.0, figures(begins[i]), "scale", "middle" if i else "start"))
        klass = "mark-text strong" if i == place else "axis"
        parts.append(text(left + width / 2.0, 106.0, zone.name, klass, "middle"))
    side = "end" if at > WIDTH * 0.6 else "start"
    parts.append(tag("polygon", points=f"{at:.2f},44 {at - 7:.2f},30 {at + 7:.2f},30", klass="mark-true"))
    parts.append(text(at + (-11.0 if side == "end" else 11.0), 34.0, picture.words, "mark-text strong", side))
    said = ", ".join(f"{zone.name} up to {figures(zone.until)}" for zone in picture.zones)
    return drawing(WIDTH, 114.0, f"{picture.words}, {picture.zones[place].name}, on a scale: {said}.", parts, "zones")
