"""The vessel: layers to scale in order of addition, with cumulative fill marks."""

from collections.abc import Sequence

from firkin.core.measures import amount_words
from firkin.core.questions import Layer
from firkin.drawings.svg import drawing, spread, tag, text

WIDTH = 460.0
#: Words need so much height inside the vessel.
_WRITTEN = 13.0
#: What goes in is written into its layer where that is so high.
_WRITTEN_IN = 22.0
#: The words of two marks stand so far apart; two lines each, on a phone in larger letters.
_APART = 40.0
_TOP, _DEPTH, _LEFT, _BODY = 26.0, 236.0, 22.0, 132.0


def vessel(layers: Sequence[Layer], finished_mL: float, capacity_mL: float | None = None, free: str = "") -> str:
    """Draw a straight-walled jug: layers to scale, a mark for each level, the brim if known, the ``free`` space."""
    tallest = max([finished_mL, *(layer.level_mL for layer in layers)])
    whole = capacity_mL if capacity_mL and capacity_mL >= tallest else tallest * 1.1
    bottom = _TOP + _DEPTH

    def height(mL: float) -> float:
        return bottom - _DEPTH * mL / whole

    parts = [_patterns()]
    below = 0.0
    for layer in layers:
        top, base = height(layer.level_mL), height(below)
        if base - top > 0.0:
            box = {"x": _LEFT, "y": top, "width": _BODY, "height": base - top}
            parts.append(tag("rect", **box, klass=f"layer layer-{layer.kind}"))
            parts.append(tag("rect", **box, klass="layer-weave", fill=f"url(#weave-{layer.kind})"))
            parts.append(tag("line", x1=_LEFT, x2=_LEFT + _BODY, y1=top, y2=top, klass="level"))
            if layer.amount and base - top >= _WRITTEN_IN:
                parts.append(
                    text(_LEFT + _BODY / 2.0, (top + base) / 2.0 + 6.0, layer.amount, "layer-amount", "middle")
                )
        below = max(below, layer.level_mL)
    parts.append(_outline(bottom))
    levels = [layer.level_mL for layer in layers]
    order = sorted(range(len(layers)), key=lambda i: -levels[i])
    lowest_mark = max(bottom - 8.0, _TOP + _APART * (len(layers) - 1))
    places = spread([height(levels[i]) for i in order], _APART, _TOP, lowest_mark)
    for i, y in zip(order, places, strict=True):
        parts += _fill_mark(layers[i], i + 1, height(levels[i]), y)
    if capacity_mL and capacity_mL >= tallest:
        parts.append(text(_LEFT + _BODY / 2.0, _TOP - 10.0, f"brim {amount_words(capacity_mL)}", "brim", "middle"))
    top = height(tallest)
    if free and capacity_mL and top - _TOP >= _WRITTEN:
        parts.append(text(_LEFT + _BODY / 2.0, (top + _TOP) / 2.0 + 4.0, free, "brim", "middle"))
    height_needed = max([bottom + 14.0, *(y + 24.0 for y in places)])
    return drawing(WIDTH, height_needed, _words(layers), parts, "vessel")


def _fill_mark(layer: Layer, order: int, at: float, y: float) -> list[str]:
    wall = _LEFT + _BODY
    does = "top up to" if layer.top_up else "fill to"
    return [
        tag("line", x1=wall - 12.0, x2=wall + 4.0, y1=at, y2=at, klass="fill-tick"),
        tag(
            "polyline",
            points=f"{wall + 4:.1f},{at:.1f} {wall + 16:.1f},{y:.1f} {wall + 24:.1f},{y:.1f}",
            klass="leader",
        ),
        tag("circle", cx=wall + 36.0, cy=y, r=10.0, klass="order"),
        text(wall + 36.0, y + 4.0, str(layer.order or order), "order-number", "middle"),
        text(wall + 53.0, y - 3.0, layer.name, "fill-name"),
        text(wall + 53.0, y + 15.5, f"{does} {amount_words(layer.level_mL)}", "fill-level"),
    ]


def _outline(bottom: float) -> str:
    """The jug's wall: open above, a lip on the left, a foot below."""
    left, right, top = _LEFT, _LEFT + _BODY, _TOP
    path = (
        f"M {left - 12:.1f} {top - 10:.1f} Q {left - 2:.1f} {top - 6:.1f} {left:.1f} {top + 8:.1f} "
        f"V {bottom:.1f} H {right:.1f} V {top - 8:.1f}"
    )
    foot = tag("line", x1=left - 6.0, x2=right + 6.0, y1=bottom + 5.0, y2=bottom + 5.0, klass="foot")
    return tag("path", d=path, klass="wall") + foot


def _patterns() -> str:
    """A weave for each look, so that layers differ without colour too."""
    strokes = {
        "alcohol": "M0 8 L8 0",
        "water": "M0 4 H8",
        "gel": "M4 2 V6",
        "honey": "M0 0 L8 8",
        "soap": "M0 4 H8 M4 0 V8",
        "mist": "M2 2 h1 M6 6 h1",
        "plain": "",
    }
    weaves = [
        tag(
            "pattern",
            tag("path", d=stroke or "M0 0", klass="weave"),
            id=f"weave-{kind}",
            width=8,
            height=8,
            patternUnits="userSpaceOnUse",
        )
        for kind, stroke in strokes.items()
    ]
    return tag("defs", *weaves)


def _words(layers: Sequence[Layer]) -> str:
    said = [
        f"{layer.order or at}. {layer.name}, {'top up' if layer.top_up else 'fill'} to {amount_words(layer.level_mL)}"
        for at, layer in enumerate(layers, start=1)
    ]
    return "Fill marks in order of addition: " + "; ".join(said) + "."
