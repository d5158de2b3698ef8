"""The fill strip: marks at true millimetres to stick beside a straight-walled container, and a control ruler."""

import math
from collections.abc import Sequence

from firkin.core.errors import CannotReckon
from firkin.core.numerals import figures
from firkin.core.working import amount_words
from firkin.drawings.svg import spread, tag, text
from firkin.drawings.vessel import Layer

WIDTH_MM = 100.0
TALLEST_MM = 260.0  # what an A4 sheet prints
RULER_MM = 50.0
_STRIP = 58.0
_INK = "#2b2620"


def height_mm(volume_mL: float, inner_diameter_mm: float) -> float:
    """How high a volume stands in a cylinder.

    >>> round(height_mm(500.0, 68.0), 1)
    137.7
    """
    return volume_mL * 1000.0 / (math.pi * (inner_diameter_mm / 2.0) ** 2)


def fill_strip(name: str, layers: Sequence[Layer], inner_diameter_mm: float) -> str:
    """A stand-alone SVG of true size: a mark for each level from the inside bottom, and a 50 mm ruler.

    Raises CannotReckon for a diameter of nothing, or a strip taller than a sheet.
    """
    if not 5.0 <= inner_diameter_mm <= 2000.0:
        raise CannotReckon("An inner diameter is between 5 and 2000 mm.").at("diameter")
    tops = [height_mm(layer.level_mL, inner_diameter_mm) for layer in layers]
    tallest = max([RULER_MM, *tops])
    if tallest > TALLEST_MM:
        raise CannotReckon(
            f"The highest mark would stand at {figures(tallest)} mm, more than a sheet prints. "
            "Take a wider container, or make less."
        ).at("diameter")
    high = tallest + 22.0
    foot = high - 6.0
    parts = [
        _line(1.0, 1.0, foot - tallest - 8.0, foot),
        _line(_STRIP, _STRIP, foot - tallest - 8.0, foot),
        _line(1.0, _STRIP, foot, foot, 0.6),
        _text(3.0, foot + 4.0, "foot: the inside bottom", 2.8),
        _text(3.0, foot - tallest - 10.0, f"{name}, inside {figures(inner_diameter_mm)} mm", 3.2, bold=True),
    ]
    order = sorted(range(len(layers)), key=lambda i: -tops[i])
    places = spread([foot - tops[i] for i in order], 7.4, foot - tallest - 2.0, foot - 1.0)
    for i, place in zip(order, places, strict=True):
        at = foot - tops[i]
        parts.append(_line(1.0, 12.0, at, at, 0.4))
        parts.append(_line(12.0, 14.5, at, place, 0.2))
        words = "top up to" if layers[i].top_up else "fill to"
        parts.append(_text(15.0, place + 1.0, f"{i + 1}. {layers[i].name}", 2.9, bold=True))
        parts.append(_text(15.0, place + 4.2, f"{words} {amount_words(layers[i].level_mL)}", 2.6))
    parts += _ruler(_STRIP + 14.0, foot)
    return tag(
        "svg",
        tag("title", "Fill strip at true size"),
        *parts,
        xmlns="http://www.w3.org/2000/svg",
        width=f"{WIDTH_MM:g}mm",
        height=f"{high:.2f}mm",
        viewBox=f"0 0 {WIDTH_MM:g} {high:.2f}",
    )


def _ruler(x: float, foot: float) -> list[str]:
    """A ruler to lay a real one beside: if it is not 50 mm long, the printer scales."""
    parts = [_line(x, x, foot - RULER_MM, foot, 0.3)]
    for millimetre in range(0, int(RULER_MM) + 1, 5):
        y = foot - millimetre
        parts.append(_line(x, x + (4.0 if millimetre % 10 == 0 else 2.5), y, y))
        if millimetre % 10 == 0:
            parts.append(_text(x + 5.0, y + 1.0, str(millimetre), 2.6))
    parts.append(_text(x - 2.0, foot + 4.0, "control: 50 mm", 2.6))
    return parts


def _line(x1: float, x2: float, y1: float, y2: float, wide: float = 0.25) -> str:
    return tag("line", x1=x1, x2=x2, y1=y1, y2=y2, stroke=_INK, stroke_width=wide)


def _text(x: float, y: float, words: str, size: float, *, bold: bool = False) -> str:
    weight = 700 if bold else 400
    face = "'Source Sans 3', Arial, sans-serif"
    return tag("g", text(x, y, words), font_family=face, font_size=size, font_weight=weight, fill=_INK)
