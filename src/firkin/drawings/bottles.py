"""Bottles in a row, as high as they hold, each filled to its mark."""

from firkin.core.measures import amount_words
from firkin.core.questions import Bottles
from firkin.drawings.svg import drawing, tag, text

WIDTH = 460.0
_TALLEST, _GROUND, _GAP = 130.0, 160.0, 10.0
#: So many bottles of one kind are drawn; beyond that their number says it.
MOST_DRAWN = 6


def bottles(picture: Bottles) -> str:
    """Draw each kind of bottle to scale among the others: heights go by the cube root of what they hold."""
    kinds = picture.bottles
    largest = max((kind.brim_mL for kind in kinds), default=1.0)
    drawn = [min(kind.count, MOST_DRAWN) for kind in kinds]
    sizes = [(kind.brim_mL / largest) ** (1.0 / 3.0) for kind in kinds]
    whole = sum(count * size for count, size in zip(drawn, sizes, strict=True)) or 1.0
    width = min(58.0, (WIDTH - 20.0 - _GAP * (sum(drawn) + len(kinds))) / whole)
    parts, x, y = [], 10.0, _GROUND + 22.0
    for kind, count, size in zip(kinds, drawn, sizes, strict=True):
        for _ in range(count):
            parts += _bottle(
                x, width * size, _TALLEST * size * min(1.0, width / 40.0), kind.fill_mL / kind.brim_mL, picture.kind
            )
            x += width * size + _GAP
        x += _GAP
        parts.append(text(10.0, y, f"{kind.count} × {kind.name}", "fill-name"))
        parts.append(text(WIDTH - 10.0, y, f"{amount_words(kind.fill_mL)} each", "fill-level", "end"))
        y += 20.0
    if picture.left_mL:
        parts.append(text(10.0, y, f"left over: {amount_words(picture.left_mL)}", "mark-text strong"))
        y += 20.0
    parts.append(tag("line", x1=4.0, x2=WIDTH - 4.0, y1=_GROUND, y2=_GROUND, klass="ground"))
    said = "; ".join(f"{kind.count} × {kind.name}, {amount_words(kind.fill_mL)} each" for kind in kinds) or "none"
    left = f", {amount_words(picture.left_mL)} left over" if picture.left_mL else ""
    return drawing(WIDTH, y - 8.0, f"Bottles to fill: {said}{left}.", parts, "bottles")


def _bottle(x: float, width: float, height: float, full: float, look: str) -> list[str]:
    """One bottle: a body with its fill, shoulders and a neck."""
    body = height * 0.74
    top = _GROUND - body
    level = _GROUND - body * min(1.0, full)
    neck = width * 0.34
    left, right = x + (width - neck) / 2.0, x + (width + neck) / 2.0
    outline = (
        f"M {x:.1f} {_GROUND:.1f} V {top + width * 0.2:.1f} Q {x:.1f} {top:.1f} {left:.1f} {top - height * 0.06:.1f} "
        f"V {_GROUND - height:.1f} H {right:.1f} V {top - height * 0.06:.1f} "
        f"Q {x + width:.1f} {top:.1f} {x + width:.1f} {top + width * 0.2:.1f} V {_GROUND:.1f} Z"
    )
    return [
        tag("rect", x=x, y=level, width=width, height=_GROUND - level, rx=2.0, klass=f"layer-{look}"),
        tag("path", d=outline, klass="wall"),
    ]
