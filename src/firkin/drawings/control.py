"""A figure over batches with its limits: the mean, the band between the limits, and the batches outside it."""

from collections.abc import Callable, Sequence

from firkin.core.measures import figures
from firkin.core.use import Chart
from firkin.drawings.svg import drawing, tag, text

_HEIGHT, _TOP, _FOOT, _LEFT, _STEP = 168.0, 30.0, 126.0, 54.0, 66.0
_LABELLED = 12


def control_chart(name: str, unit: str, labels: Sequence[str], chart: Chart) -> str:
    """Draw it, oldest batch at the left; without limits where there are too few batches."""
    values = chart.values
    width = max(330.0, _LEFT + _STEP * len(values) + 20.0)
    ends = [*values, *(end for end in (chart.low, chart.high) if end is not None)]
    low, high = min(ends), max(ends)
    span, middle = max(high - low, abs(high) * 0.05, 1e-9), (low + high) / 2.0

    def x(place: int) -> float:
        return _LEFT + _STEP * (place + 0.5)

    def y(value: float) -> float:
        return (_FOOT + _TOP) / 2.0 - (_FOOT - _TOP) * (value - middle) / span

    parts = []
    right = width - 14.0
    if chart.low is not None and chart.high is not None and chart.mean is not None:
        band = {"y": y(chart.high), "height": max(1.0, y(chart.low) - y(chart.high))}
        parts.append(tag("rect", x=_LEFT, width=right - _LEFT, **band, klass="window-band"))
        parts.append(tag("line", x1=_LEFT, x2=right, y1=y(chart.mean), y2=y(chart.mean), klass="series-level"))
        for end in _apart([chart.high, chart.mean, chart.low], y):
            parts.append(text(_LEFT - 6.0, y(end) + 4.0, figures(end, 3), "series-word", "end"))
    path = " ".join(f"{'M' if i == 0 else 'L'}{x(i):.1f} {y(value):.1f}" for i, value in enumerate(values))
    parts.append(tag("path", d=path, klass="series-line"))
    every = max(1, len(values) // _LABELLED)
    for i, (label, value) in enumerate(zip(labels, values, strict=True)):
        outside = i in chart.outside
        parts.append(
            tag("circle", cx=x(i), cy=y(value), r=5.5 if outside else 4.5, klass="out-dot" if outside else "series-dot")
        )
        if outside or i % every == 0 or i == len(values) - 1:
            parts.append(text(x(i), y(value) - 11.0, figures(value, 3), "series-value", "middle"))
            parts.append(text(x(i), 154.0, label, "series-day", "middle"))
    said = "; ".join(
        f"{label} {figures(value, 3)} {unit}{' outside' if i in chart.outside else ''}".strip()
        for i, (label, value) in enumerate(zip(labels, values, strict=True))
    )
    return drawing(width, _HEIGHT, f"{name}: {said}.", parts, "series")


def _apart(values: Sequence[float], place: Callable[[float], float]) -> list[float]:
    """Of values whose words would touch, the first."""
    kept: list[float] = []
    for value in values:
        if all(abs(place(value) - place(other)) > 13.0 for other in kept):
            kept.append(value)
    return kept
