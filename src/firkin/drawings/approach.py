"""An approach to a pH or a thickness: what was read against how much is in, and the window it is led to."""

from collections.abc import Sequence

from firkin.core.measures import figures
from firkin.drawings.svg import drawing, tag, text

WIDTH, HEIGHT = 460.0, 210.0
_LEFT, _RIGHT, _TOP, _FOOT = 58.0, 440.0, 16.0, 168.0


def approach_curve(
    points: Sequence[tuple[float, float]],
    window: tuple[float, float],
    planned: float,
    unit: str,
    name: str,
    levels: Sequence[str] = (),
) -> str:
    """Readings against the amount that is in; the window a band, the plan a mark; ``levels`` name what is read."""
    readings = [reading for _, reading in points]
    named = [levels[int(reading)] if levels else figures(reading, 3) for reading in readings]
    margin = 0.0 if levels else 1.0
    low = 0.0 if levels else min([window[0], *readings]) - margin
    high = float(len(levels) - 1) if levels else max([window[1], *readings]) + margin
    most = 1.1 * max([planned, *(total for total, _ in points)])

    def x(total: float) -> float:
        return _LEFT + (_RIGHT - _LEFT) * total / most

    def y(reading: float) -> float:
        return _FOOT - (_FOOT - _TOP) * (reading - low) / (high - low)

    band_top, band_foot = y(min(window[1], high)), y(window[0])
    parts = [
        tag(
            "rect",
            x=_LEFT,
            y=band_top,
            width=_RIGHT - _LEFT,
            height=max(2.0, band_foot - band_top),
            klass="window-band",
        ),
        tag("line", x1=_LEFT, x2=_RIGHT, y1=_FOOT, y2=_FOOT, klass="series-level"),
        tag("line", x1=x(planned), x2=x(planned), y1=_TOP, y2=_FOOT, klass="plan-mark"),
        text(x(planned), _FOOT + 18.0, f"planned {figures(planned, 3)} {unit}", "series-day", "middle"),
        text(_LEFT, _FOOT + 18.0, "0", "series-day", "middle"),
    ]
    ends = [(float(i), word) for i, word in enumerate(levels)] or [(end, figures(end)) for end in window]
    parts += [text(_LEFT - 8.0, y(at) + 4.0, word, "series-word", "end") for at, word in ends]
    path = " ".join(f"{'M' if i == 0 else 'L'}{x(a):.1f} {y(b):.1f}" for i, (a, b) in enumerate(points))
    if points:
        parts.append(tag("path", d=path, klass="series-line"))
    for i, (total, reading) in enumerate(points):
        parts.append(tag("circle", cx=x(total), cy=y(reading), r=4.5, klass="series-dot"))
        if i == len(points) - 1:
            parts.append(text(x(total), y(reading) - 10.0, named[i], "series-value", "middle"))
    said = "; ".join(f"{figures(a, 3)} {unit}: {word}" for (a, _), word in zip(points, named, strict=True)) or "none"
    return drawing(WIDTH, HEIGHT, f"{name}, read after each addition: {said}.", parts, "series approach")
