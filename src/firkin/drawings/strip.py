"""The fill strip: marks at true millimetres to stick beside a straight-walled container, and a control ruler."""

import math
from collections.abc import Sequence

from firkin.core.errors import CannotReckon
from firkin.core.measures import amount_words, figures
from firkin.core.questions import Layer
from firkin.drawings.paper import Paper, Run, Stroke
from firkin.drawings.svg import spread

WIDTH_MM = 100.0
TALLEST_MM = 260.0  # what an A4 sheet prints
RULER_MM = 50.0
_STRIP = 58.0


def height_mm(volume_mL: float, inner_diameter_mm: float) -> float:
    """How high a volume stands in a cylinder.

    >>> round(height_mm(500.0, 68.0), 1)
    137.7
    """
    return volume_mL * 1000.0 / (math.pi * (inner_diameter_mm / 2.0) ** 2)


def fill_strip(name: str, layers: Sequence[Layer], inner_diameter_mm: float) -> Paper:
    """The strip at true size: a mark for each level from the inside bottom, and a 50 mm ruler.

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
    strokes = [
        Stroke(1.0, foot - tallest - 8.0, 1.0, foot),
        Stroke(_STRIP, foot - tallest - 8.0, _STRIP, foot),
        Stroke(1.0, foot, _STRIP, foot, 0.6),
    ]
    runs = [
        Run(3.0, foot + 4.0, "foot: the inside bottom", "text", 2.8),
        Run(3.0, foot - tallest - 10.0, f"{name}, inside {figures(inner_diameter_mm)} mm", "strong", 3.2),
    ]
    order = sorted(range(len(layers)), key=lambda i: -tops[i])
    places = spread([foot - tops[i] for i in order], 7.4, foot - tallest - 2.0, foot - 1.0)
    for i, place in zip(order, places, strict=True):
        at = foot - tops[i]
        strokes += [Stroke(1.0, at, 12.0, at, 0.4), Stroke(12.0, at, 14.5, place, 0.2)]
        words = "top up to" if layers[i].top_up else "fill to"
        runs.append(Run(15.0, place + 1.0, f"{i + 1}. {layers[i].name}", "strong", 2.9))
        runs.append(Run(15.0, place + 4.2, f"{words} {amount_words(layers[i].level_mL)}", "text", 2.6))
    ticks, numbers = _ruler(_STRIP + 14.0, foot)
    title = "Fill strip at true size"
    return Paper(WIDTH_MM, round(high, 2), title, (*runs, *numbers), (*strokes, *ticks))


def _ruler(x: float, foot: float) -> tuple[list[Stroke], list[Run]]:
    """A ruler to lay a real one beside: if it is not 50 mm long, the printer scales."""
    ticks = [Stroke(x, foot - RULER_MM, x, foot, 0.3)]
    numbers = [Run(x - 2.0, foot + 4.0, "control: 50 mm", "text", 2.6)]
    for millimetre in range(0, int(RULER_MM) + 1, 5):
        y = foot - millimetre
        ticks.append(Stroke(x, y, x + (4.0 if millimetre % 10 == 0 else 2.5), y))
        if millimetre % 10 == 0:
            numbers.append(Run(x + 5.0, y + 1.0, str(millimetre), "text", 2.6))
    return ticks, numbers
