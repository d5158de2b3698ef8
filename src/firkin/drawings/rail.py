"""The strength rail: a scale from 0 to 100 %, windows of rule lines, marks with whiskers."""

from collections.abc import Sequence

from firkin.core.measures import figures
from firkin.core.questions import Mark, Window
from firkin.drawings.svg import drawing, tag, text

WIDTH, LEFT, RIGHT = 460.0, 16.0, 444.0
_TRACK, _SCALE, _LEADING = 24.0, 30.0, 20.0
_NAME_GAP, _LETTER = 7.0, 8.0  # before a window's edge; the widest a letter of its name is, on a phone too


def _x(percent: float) -> float:
    return LEFT + (RIGHT - LEFT) * percent / 100.0


def strength_rail(windows: Sequence[Window], marks: Sequence[Mark]) -> str:
    """Draw the rail: windows above the scale, each active's marks below it."""
    top = 4.0
    scale = top + _TRACK * len(windows) + 8.0
    parts = [plumb for mark in marks for plumb in _plumb(mark, scale, top, windows)]
    for place, window in enumerate(windows):
        parts += _window(window, top + _TRACK * place)
    y = scale + _SCALE
    for mark in marks:
        said = _mark_captions(mark)
        parts += _mark(mark, said, y)
        y += _LEADING * len(said) + 10.0
    return drawing(WIDTH, y, _words(windows, marks), [*_scale(scale), *parts], "rail")


def _scale(y: float) -> list[str]:
    parts = [tag("rect", x=LEFT, y=y - 3.0, width=RIGHT - LEFT, height=6.0, rx=3.0, klass="rail-wood")]
    for percent in range(0, 101, 5):
        long = percent % 10 == 0
        parts.append(
            tag(
                "line",
                x1=_x(percent),
                x2=_x(percent),
                y1=y - 3.0,
                y2=y + (8.0 if long else 5.0),
                klass="tick",
            )
        )
        if percent % 20 == 0:
            anchor = {0: "start", 100: "end"}.get(percent, "middle")
            parts.append(text(_x(percent), y + 20.0, f"{percent} %", "scale", anchor))
    return parts


def _window(window: Window, y: float) -> list[str]:
    left = _x(window.minimum if window.minimum is not None else 0.0)
    right = _x(window.maximum if window.maximum is not None else 100.0)
    open_end = window.maximum is None
    bar = tag("rect", x=left, y=y, width=right - left, height=_TRACK - 6.0, rx=3.0, klass=f"window {window.verdict}")
    edge = tag("line", x1=left, x2=left, y1=y, y2=y + _TRACK - 2.0, klass="window-edge")
    parts = [bar, edge]
    if not open_end:
        parts.append(tag("line", x1=right, x2=right, y1=y, y2=y + _TRACK - 2.0, klass="window-edge"))
    parts.append(text(left - _NAME_GAP, y + 13.5, window.name, "window-name", "end"))
    return parts


def _mark_captions(mark: Mark) -> list[str]:
    """What is written beside a mark, a line each, the most telling first."""
    if abs(mark.true - mark.label) < 0.05:
        said = [f"{mark.name}: {figures(mark.true)} % by label and true"]
    else:
        said = [f"{mark.name}: true {figures(mark.true)} %", f"label {figures(mark.label)} %"]
    if mark.high - mark.low > 0.05:
        said.append(f"range {figures(mark.low)} to {figures(mark.high)} %")
    return said


def _plumb(mark: Mark, scale: float, top: float, windows: Sequence[Window]) -> list[str]:
    """The plumb line of a mark through the windows; it leaves their names and the numbers of the scale alone."""
    x = _x(mark.true)
    free = [top + _TRACK * i for i, window in enumerate(windows) if not _in_name(window, x)]
    ends = [(y, y + _TRACK) for y in free]
    ends += [(top + _TRACK * len(windows), scale + 9.0), (scale + 24.0, scale + _SCALE + 8.0)]
    return [tag("line", x1=x, x2=x, y1=y1, y2=y2, klass="plumb") for y1, y2 in ends]


def _in_name(window: Window, x: float) -> bool:
    """True where the name written before a window stands in the way."""
    end = _x(window.minimum if window.minimum is not None else 0.0) - _NAME_GAP
    return end - _LETTER * len(window.name) - 3.0 < x < end + 3.0


def _mark(mark: Mark, said: Sequence[str], y: float) -> list[str]:
    centre = y + 8.0
    parts: list[str] = []
    if mark.high - mark.low > 0.05:
        low, high = _x(mark.low), _x(mark.high)
        parts.append(tag("line", x1=low, x2=high, y1=centre, y2=centre, klass="whisker"))
        parts += [tag("line", x1=end, x2=end, y1=centre - 6.0, y2=centre + 6.0, klass="whisker") for end in (low, high)]
    parts.append(_diamond(_x(mark.label), centre, 6.0, "mark-label"))
    parts.append(_diamond(_x(mark.true), centre, 4.5, "mark-true"))
    side = "end" if mark.true > 50.0 else "start"
    at = _x(min(mark.low, mark.label)) - 12.0 if side == "end" else _x(max(mark.high, mark.label)) + 12.0
    for line, words in enumerate(said):
        klass = "mark-text" if line else "mark-text strong"
        parts.append(text(at, centre + 4.5 + _LEADING * line, words, klass, side))
    return parts


def _diamond(x: float, y: float, size: float, klass: str) -> str:
    points = f"{x:.2f},{y - size:.2f} {x + size:.2f},{y:.2f} {x:.2f},{y + size:.2f} {x - size:.2f},{y:.2f}"
    return tag("polygon", points=points, klass=klass)


def _words(windows: Sequence[Window], marks: Sequence[Mark]) -> str:
    said = [f"{mark.name} {figures(mark.label)} % by label, {figures(mark.true)} % true" for mark in marks]
    said += [f"rule line {window.name}: {window.verdict or 'not judged'}" for window in windows]
    return "Strength rail. " + "; ".join(said) + "."
