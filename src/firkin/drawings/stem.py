"""The stem of an alcoholmeter: its scale, where it floats, and the true strength beside it."""

from firkin.core.densities import ethanol
from firkin.core.measures import figures
from firkin.drawings.svg import drawing, tag, text

WIDTH, HEIGHT = 460.0, 330.0
_TOP, _BOTTOM, _CENTRE = 20.0, 250.0, 150.0


def alcoholmeter_stem(reading: float, true: float, celsius: float) -> str:
    """Draw the stem with the liquid's surface at ``reading``; the scale is spaced as density spaces it."""
    heaviest, lightest = ethanol.density(0.0), ethanol.density(1.0)

    def y(percent: float) -> float:
        density = ethanol.density(ethanol.mass_fraction(percent / 100.0))
        # a floating stem sinks as 1 / density
        depth = (1.0 / density - 1.0 / heaviest) / (1.0 / lightest - 1.0 / heaviest)
        return _BOTTOM - (_BOTTOM - _TOP) * depth

    surface = y(reading)
    parts = [
        tag("rect", x=40.0, y=surface, width=220.0, height=HEIGHT - 14.0 - surface, klass="layer-alcohol"),
        tag("path", d=f"M40 {_TOP} V{HEIGHT - 14:.1f} H260 V{_TOP}", klass="wall"),
        tag(
            "rect",
            x=_CENTRE - 17.0,
            y=_TOP - 8.0,
            width=34.0,
            height=_BOTTOM - _TOP + 20.0,
            rx=8.0,
            klass="stem",
        ),
        tag("ellipse", cx=_CENTRE, cy=_BOTTOM + 34.0, rx=27.0, ry=26.0, klass="stem"),
    ]
    for percent in range(0, 101, 10):
        at = y(percent)
        long = percent % 20 == 0
        parts.append(tag("line", x1=_CENTRE - 17.0, x2=_CENTRE - (3.0 if long else 9.0), y1=at, y2=at, klass="tick"))
        if long:
            parts.append(text(_CENTRE + 14.0, at + 4.0, str(percent), "stem-number", "end"))
    parts.append(tag("line", x1=40.0, x2=260.0, y1=surface, y2=surface, klass="surface"))
    apart = 0.0 if abs(y(true) - surface) >= 30.0 else (15.0 if y(true) >= surface else -15.0)
    for at, place, words, klass in (
        (surface, surface - apart, f"reads {figures(reading, 3)} at {figures(celsius)} °C", "mark-text"),
        (y(true), y(true) + apart, f"true {figures(true, 3)} % v/v at 20 °C", "mark-text strong"),
    ):
        points = f"{_CENTRE + 17:.1f},{at:.1f} 268,{at:.1f} 280,{place:.1f}"
        parts.append(tag("polyline", points=points, klass="leader"))
        parts.append(text(284.0, place + 4.5, words, klass))
    title = f"An alcoholmeter reading {figures(reading)} at {figures(celsius)} °C: true {figures(true)} % v/v at 20 °C."
    return drawing(WIDTH, HEIGHT, title, parts, "stem-drawing")
