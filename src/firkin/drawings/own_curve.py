"""The maker's own curve: how thick it came out against grams of soap in a litre, a dot for each batch."""

from collections.abc import Sequence

from firkin.core.measures import figures
from firkin.drawings.svg import drawing, tag, text

WIDTH, HEIGHT = 460.0, 190.0
_LEFT, _RIGHT, _TOP, _FOOT = 104.0, 440.0, 16.0, 146.0


def own_curve_drawn(points: Sequence[tuple[float, int]], levels: Sequence[str], suggested: float) -> str:
    """Batches as dots by grams a litre and level; what to try next a mark on the foot."""
    most = 1.15 * max([suggested, *(grams for grams, _ in points)])

    def x(grams: float) -> float:
        return _LEFT + (_RIGHT - _LEFT) * grams / most

    def y(level: int) -> float:
        return _FOOT - (_FOOT - _TOP - 8.0) * level / (len(levels) - 1) - 8.0

    parts = []
    for level, word in enumerate(levels):
        parts.append(tag("line", x1=_LEFT, x2=_RIGHT, y1=y(level), y2=y(level), klass="series-level"))
        parts.append(text(_LEFT - 8.0, y(level) + 4.0, word, "series-word", "end"))
    parts.append(tag("line", x1=x(suggested), x2=x(suggested), y1=_TOP, y2=_FOOT, klass="plan-mark"))
    parts.append(text(x(suggested), _FOOT + 16.0, f"try {figures(suggested, 2)} g/L", "series-value", "middle"))
    parts += [tag("circle", cx=x(grams), cy=y(level), r=5.0, klass="series-dot") for grams, level in points]
    parts.append(text(_LEFT, _FOOT + 34.0, "0", "series-day", "middle"))
    parts.append(text(_RIGHT, _FOOT + 34.0, f"{figures(most, 2)} g of soap in a litre", "series-day", "end"))
    said = "; ".join(f"{figures(grams, 3)} g/L {levels[level]}" for grams, level in points) or "no batch yet"
    words = f"Thickness next day by grams of soap in a litre: {said}. Next: {figures(suggested, 2)} g/L."
    return drawing(WIDTH, HEIGHT, words, parts, "series")
