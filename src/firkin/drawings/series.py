"""Small series: one aspect of a batch over days, or one number over batches."""

from collections.abc import Sequence

from firkin.core.measures import figures
from firkin.drawings.svg import drawing, tag, text

_WIDTH, _LEFT, _RIGHT = 350.0, 116.0, 336.0


def _day(days: float) -> str:
    """Days since a batch was made, to the tenth: nobody writes down a look to the second."""
    return figures(round(days, 1), 3)


def aspect_series(name: str, points: Sequence[tuple[float, int]], words: Sequence[str]) -> str:
    """Levels of one aspect against days; each level named at the left, the days along the foot."""
    height = 22.0 * len(words) + 30.0
    last = max(1.0, *(day for day, _ in points))

    def x(day: float) -> float:
        return _LEFT + 10.0 + (_RIGHT - _LEFT - 20.0) * day / last

    def y(level: int) -> float:
        return 14.0 + 22.0 * (len(words) - 1 - level)

    parts = []
    for level, word in enumerate(words):
        parts.append(tag("line", x1=_LEFT, x2=_RIGHT, y1=y(level), y2=y(level), klass="series-level"))
        parts.append(text(_LEFT - 8.0, y(level) + 4.0, word, "series-word", "end"))
    path = " ".join(f"{'M' if i == 0 else 'L'}{x(day):.1f} {y(level):.1f}" for i, (day, level) in enumerate(points))
    parts.append(tag("path", d=path, klass="series-line"))
    parts += [tag("circle", cx=x(day), cy=y(level), r=4.5, klass="series-dot") for day, level in points]
    foot = height - 6.0
    parts.append(text(x(0.0), foot, "day 0", "series-day", "middle"))
    if last >= 1.0:
        parts.append(text(x(last), foot, f"day {_day(last)}", "series-day", "middle"))
    said = "; ".join(f"day {_day(day)} {words[level]}" for day, level in points)
    return drawing(_WIDTH, height, f"{name}: {said}.", parts, "series")


def number_series(name: str, unit: str, points: Sequence[tuple[str, float]]) -> str:
    """One number over batches in order, each named below and valued above its dot."""
    width = max(260.0, 84.0 * len(points) + 30.0)
    height = 118.0
    values = [value for _, value in points]
    low, high = min(values), max(values)
    span = max(high - low, abs(high) * 0.05, 1e-9)  # a difference nobody can measure is no slope

    def x(place: int) -> float:
        return width / 2 if len(points) == 1 else 46.0 + (width - 92.0) * place / (len(points) - 1)

    def y(value: float) -> float:
        return 78.0 - 42.0 * (value - low) / span

    path = " ".join(f"{'M' if i == 0 else 'L'}{x(i):.1f} {y(value):.1f}" for i, value in enumerate(values))
    parts = [tag("path", d=path, klass="series-line")]
    for i, (label, value) in enumerate(points):
        parts.append(tag("circle", cx=x(i), cy=y(value), r=4.5, klass="series-dot"))
        parts.append(text(x(i), y(value) - 11.0, f"{figures(value, 3)} {unit}".strip(), "series-value", "middle"))
        parts.append(text(x(i), 104.0, label, "series-day", "middle"))
    said = "; ".join(f"{label} {figures(value, 3)} {unit}".strip() for label, value in points)
    return drawing(width, height, f"{name}: {said}.", parts, "series")


def reading_series(
    name: str, points: Sequence[tuple[float, float]], window: tuple[float, float], until: float = 1.0
) -> str:
    """Readings against days ``until`` today; the window they should come into a band, the last one in figures."""
    width, height, left, right, top, foot = 460.0, 180.0, 44.0, 440.0, 18.0, 146.0
    values = [value for _, value in points]
    low, high = min([window[0], *values]) - 0.5, max([window[1], *values]) + 0.5
    last = max([1.0, until, *(day for day, _ in points)])

    def x(day: float) -> float:
        return left + (right - left) * day / last

    def y(value: float) -> float:
        return foot - (foot - top) * (value - low) / (high - low)

    band = {"x": left, "width": right - left, "y": y(window[1]), "height": y(window[0]) - y(window[1])}
    parts = [tag("rect", **band, klass="window-band")]
    parts += [text(left - 8.0, y(end) + 4.0, figures(end), "series-word", "end") for end in window]
    parts.append(tag("line", x1=left, x2=right, y1=foot, y2=foot, klass="series-level"))
    path = " ".join(f"{'M' if i == 0 else 'L'}{x(day):.1f} {y(value):.1f}" for i, (day, value) in enumerate(points))
    if points:
        parts.append(tag("path", d=path, klass="series-line"))
    parts += [tag("circle", cx=x(day), cy=y(value), r=4.5, klass="series-dot") for day, value in points]
    if points:
        parts.append(text(x(points[-1][0]), y(values[-1]) - 10.0, figures(values[-1], 3), "series-value", "middle"))
    parts.append(text(left, height - 14.0, "day 0", "series-day", "middle"))
    parts.append(text(right, height - 14.0, f"day {_day(last)}", "series-day", "end"))
    said = "; ".join(f"day {_day(day)} {figures(value, 3)}" for day, value in points) or "none yet"
    aim = f"{figures(window[0])} to {figures(window[1])}"
    return drawing(width, height, f"{name}, aimed at {aim}: {said}.", parts, "series")
