"""How a strength is spread: the density of what batches come to, over the rule lines."""

import math
from collections.abc import Callable, Sequence

from firkin.core.measures import figures
from firkin.drawings.svg import drawing, tag, text

WIDTH, LEFT, RIGHT = 620.0, 18.0, 602.0
_TOP, _FLOOR = 44.0, 190.0
#: So many marks the strip has at the most.
_MARKS = 7
#: A spread of fewer points than this is drawn as wide as this, to be seen.
_THIN = 4.0


def sureness(
    lowest: float,
    highest: float,
    heights: Sequence[float],
    nominal: float,
    minimum: float | None,
    maximum: float | None,
    rule: str,
) -> str:
    """Draw it: per cent from left to right; what falls outside the rule in another ink. ``heights`` are equal steps.

    What can be below 0, as caustic left over is, has its 0 within.
    """
    ends = [value for value in (lowest, highest, nominal, minimum, maximum) if value is not None]
    wide = max(max(ends) - min(ends), 0.4)
    low, high = min(ends) - 0.08 * wide, min(100.0, max(ends) + 0.08 * wide)
    low = max(0.0, low) if min(ends) >= 0.0 else low

    def x(pct: float) -> float:
        return LEFT + (RIGHT - LEFT) * (pct - low) / (high - low)

    parts = [tag("rect", x=LEFT, y=_TOP, width=RIGHT - LEFT, height=_FLOOR - _TOP, klass="sure-ground")]
    left, right = x(minimum if minimum is not None else low), x(maximum if maximum is not None else high)
    if minimum is not None or maximum is not None:
        parts.append(
            tag("rect", x=left, y=_TOP, width=max(0.0, right - left), height=_FLOOR - _TOP, klass="sure-holds")
        )
    thin = x(highest) - x(lowest) < _THIN
    step = (highest - lowest) / max(1, len(heights))
    for place, height in enumerate(heights):
        start, end = lowest + step * place, lowest + step * (place + 1)
        if not height:
            continue
        middle = (start + end) / 2.0
        outside = (minimum is not None and middle < minimum) or (maximum is not None and middle > maximum)
        tall = (_FLOOR - _TOP - 6.0) * height
        parts.append(
            tag(
                "rect",
                x=x(start) - _THIN / 2.0 if thin else x(start),
                y=_FLOOR - tall,
                width=_THIN if thin else max(x(end) - x(start), 1.0),
                height=tall,
                klass="sure-out" if outside else "sure-in",
            )
        )
    for limit in (minimum, maximum):
        if limit is not None:
            parts.append(tag("line", x1=x(limit), x2=x(limit), y1=_TOP - 6.0, y2=_FLOOR + 6.0, klass="sure-rule"))
    if minimum is not None or maximum is not None:
        at = x(minimum) if minimum is not None else x(maximum if maximum is not None else high)
        beyond = at + 7.0 * len(rule) > RIGHT
        parts.append(
            text(at - 6.0 if beyond else at + 6.0, _TOP - 9.0, rule, "sure-name", "end" if beyond else "start")
        )
    centre = x(nominal)
    parts.append(tag("line", x1=centre, x2=centre, y1=_TOP, y2=_FLOOR, klass="sure-planned"))
    side = "end" if centre > WIDTH * 0.6 else "start"
    words = f"planned {figures(nominal, 3 if nominal < 10.0 else 4)} %".replace("-", "−")
    parts.append(text(centre + (-6.0 if side == "end" else 6.0), _TOP + 16.0, words, "sure-word", side))
    parts += _axis(low, high, x)
    title = f"What batches come to: {figures(lowest)} to {figures(highest)} %, planned {figures(nominal)} %. {rule}"
    return drawing(WIDTH, _FLOOR + 34.0, title, parts, "sure")


def _axis(low: float, high: float, x: Callable[[float], float]) -> list[str]:
    """The marks of the strip, at round figures."""
    rough = (high - low) / _MARKS
    size = 10.0 ** math.floor(math.log10(rough))
    step = next(one * size for one in (1.0, 2.0, 5.0, 10.0) if one * size >= rough)
    parts = [tag("line", x1=LEFT, x2=RIGHT, y1=_FLOOR, y2=_FLOOR, klass="sure-floor")]
    at = math.ceil(low / step) * step
    while at <= high + 1e-9:
        place = x(at)
        parts.append(tag("line", x1=place, x2=place, y1=_FLOOR, y2=_FLOOR + 5.0, klass="tick"))
        parts.append(text(place, _FLOOR + 20.0, f"{figures(round(at, 6))} %".replace("-", "−"), "scale", "middle"))
        at += step
    return parts
