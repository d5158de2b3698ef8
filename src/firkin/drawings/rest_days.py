"""A rest, day by day: how much of it is over, what is to be done on the way, and when it is ready."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from firkin.drawings.svg import drawing, tag, text

WIDTH = 460.0
_GUTTER, _ACROSS, _HIGH, _GAP = 46.0, 14, 34.0, 4.0
_FEW, _FEW_HIGH = 7, 44.0
_DAY = timedelta(days=1)


@dataclass(frozen=True, slots=True)
class DaysOfRest:
    """A rest in the maker's own time: from when until when, the hour it is, and what there is to do on a day of it."""

    start: datetime
    ready: datetime
    now: datetime
    due: Mapping[date, str]

    @property
    def days(self) -> list[date]:
        """Each day that some of the rest falls on; the first one alone where a clock was put back meanwhile."""
        many = max(0, (self.ready.date() - self.start.date()).days) + 1
        return [self.start.date() + _DAY * n for n in range(many)]

    @property
    def to_do(self) -> dict[date, str]:
        """What there is to do on days of the rest."""
        return {day: what for day, what in self.due.items() if self.start.date() <= day <= self.ready.date()}


def rest_days(rest: DaysOfRest) -> str:
    """Draw the days of a rest, each filled as far as it is over.

    Up to seven days stand side by side, each as wide as the others; more of them stand two weeks a row.
    """
    parts, height = _side_by_side(rest) if len(rest.days) <= _FEW else _in_rows(rest)
    if rest.to_do:
        words = ", ".join(dict.fromkeys(what.lower() for what in rest.to_do.values()))
        parts.append(_dot(_GUTTER + 6.0, height + 14.0))
        parts.append(text(_GUTTER + 18.0, height + 19.0, f"to do that day: {words}", "day-word"))
        height += 26.0
    return drawing(WIDTH, height + 4.0, _words(rest), parts, "rest-days")


def _words(rest: DaysOfRest) -> str:
    over, whole = min(rest.now, rest.ready) - rest.start, rest.ready - rest.start
    if over >= whole:
        said = "all of it is over"
    elif whole > _DAY * _FEW:
        said = f"{over.days} of {whole.days} days are over"
    else:
        said = f"{over / timedelta(hours=1):.0f} of {whole / timedelta(hours=1):.0f} h are over"
    said = f"The rest, day by day: {said}; ready {rest.ready:%a %-d %B, %H:%M}."
    if rest.to_do:
        said += f" To do: {'; '.join(f'{day:%-d %B} {what}' for day, what in rest.to_do.items())}."
    return said


def _part(day: date, until: datetime) -> float:
    """How much of a day has gone by at an hour, 0 to 1."""
    if until.date() != day:
        return float(until.date() > day)
    return (until - until.replace(hour=0, minute=0, second=0, microsecond=0)) / _DAY


def _dot(x: float, y: float) -> str:
    return tag("circle", cx=x, cy=y, r=3.5, klass="day-due")


def _cell(rest: DaysOfRest, day: date, x: float, y: float, width: float, height: float) -> list[str]:
    """One day: the part of it that is rest, of that the part that is over, and where now and the end are."""
    first, last, now = (_part(day, moment) for moment in (rest.start, rest.ready, rest.now))
    frame = {"x": x, "y": y, "width": width, "height": height, "rx": 3.0}
    parts = [tag("rect", **frame, klass="day")]
    for end, klass in ((last, "day-rest"), (min(last, now), "day-over")):
        if end > first:
            parts.append(tag("rect", x=x + width * first, y=y, width=width * (end - first), height=height, klass=klass))
    upright = {"y1": y - 4.0, "y2": y + height + 4.0}
    if rest.now.date() == day:
        parts.append(tag("rect", **frame, klass="day-today"))
        parts.append(tag("line", x1=x + width * now, x2=x + width * now, **upright, klass="now"))
    if rest.ready.date() == day:
        parts.append(tag("line", x1=x + width * last, x2=x + width * last, **upright, klass="rest-end"))
    return parts


def _side_by_side(rest: DaysOfRest) -> tuple[list[str], float]:
    """A few days in one row, and how high they stand."""
    days, top = rest.days, 30.0
    wide = (WIDTH - 8.0) / len(days)
    parts = []
    for place, day in enumerate(days):
        x = 4.0 + wide * place
        parts.append(text(x + wide / 2 - 1.0, 18.0, f"{day:%a %-d}", "day-name", "middle"))
        parts += _cell(rest, day, x, top, wide - 2.0, _FEW_HIGH)
        if day in rest.to_do:
            parts.append(_dot(x + wide / 2 - 1.0, top + _FEW_HIGH - 9.0))
    at = 4.0 + wide * (len(days) - 1) + (wide - 2.0) * _part(days[-1], rest.ready)
    side, offset = ("end", 4.0) if at > WIDTH / 2 else ("start", -4.0)
    below = top + _FEW_HIGH + 22.0
    parts.append(text(at + offset, below, f"ready {rest.ready:%H:%M}", "day-ready", side))
    return parts, below + 4.0


def _in_rows(rest: DaysOfRest) -> tuple[list[str], float]:
    """Many days, two weeks a row, and how high they stand."""
    days, top, height = rest.days, 24.0, 0.0
    monday = days[0] - _DAY * days[0].weekday()
    wide = (WIDTH - _GUTTER - 4.0) / _ACROSS
    parts = [
        text(_GUTTER + wide * (place + 0.5), 16.0, (monday + _DAY * place).strftime("%a")[0], "day-name", "middle")
        for place in range(_ACROSS)
    ]
    for day in days:
        row, place = divmod((day - monday).days, _ACROSS)
        x, y = _GUTTER + wide * place, top + (_HIGH + _GAP) * row
        first = day.day == 1
        if first or day == days[0]:
            parts.append(text(4.0, y + 17.0, f"{day:%b}", "day-month"))
        parts += _cell(rest, day, x, y, wide - 3.0, _HIGH)
        parts.append(text(x + wide / 2 - 1.5, y + 17.0, str(day.day), "day-first" if first else "day-number", "middle"))
        if day in rest.to_do:
            parts.append(_dot(x + wide / 2 - 1.5, y + _HIGH - 5.0))
        height = y + _HIGH
    parts.append(text(WIDTH - 4.0, height + 20.0, f"ready {rest.ready:%a %-d %b, %H:%M}", "day-ready", "end"))
    return parts, height + 24.0
