"""A ferment over its weeks: what its pH, gas, smell and mould say, whether it is ready, what came of it strained.

All from common practice, no source: the pH below about 4, the ninety days, and how long a pH must hold.
"""

from dataclasses import dataclass
from datetime import datetime

from firkin.core.bench.dues import READY_DAY
from firkin.core.bench.journal import EntryKind
from firkin.core.bench.looks import ASPECTS
from firkin.core.bench.progress import Progress
from firkin.core.bench.tasks import TaskKind
from firkin.core.catalogue import families
from firkin.core.measures import figures

#: How many days apart two readings within the window must be, before the pH counts as held.
HELD_DAYS = 7.0
#: Past this day a ferment that never gave gas is not working.
_GAS_BY_DAY = 14.0
_DAY_S = 86_400.0


@dataclass(frozen=True, slots=True)
class Fermenting:
    """How a ferment is: days since it began, pH by day, its window, what stands for and against its being ready.

    ``lacks`` is what is missing or not known yet; ``alarms`` what says that something is wrong.
    """

    day: float
    ph: tuple[tuple[float, float], ...]
    window: tuple[float, float]
    lacks: tuple[str, ...]
    alarms: tuple[str, ...]

    @property
    def ready(self) -> bool:
        """True when nothing lacks and nothing is wrong."""
        return not self.lacks and not self.alarms


def began(progress: Progress) -> datetime | None:
    """When it was closed to ferment: when its wait was ticked off; None while it was not.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["citrus-ferment"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> began(progress) is None
    True
    """
    steps = {task.step for task in progress.tasks if task.kind is TaskKind.WAIT and task.do == "ferment"}
    ticked = [entry.at for entry in progress.standing if entry.kind is EntryKind.STEP and entry.step in steps]
    return ticked[0] if ticked else None


def fermenting(progress: Progress, now: datetime) -> Fermenting | None:
    """How a ferment is at an hour; None for anything else, and before it began.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        now: the hour it is asked for, with its time zone.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["citrus-ferment"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> from datetime import UTC, datetime
    >>> fermenting(progress, datetime(2026, 5, 1, tzinfo=UTC)) is None
    True
    """
    family = families()[progress.formula.family]
    start = began(progress)
    if family.id != "ferment" or start is None:
        return None

    def day(at: datetime) -> float:
        return max(0.0, (at - start).total_seconds() / _DAY_S)

    low, high = family.ph
    read = [(entry.at, entry.read) for entry in progress.readings]
    ph = tuple((day(at), shown.value) for at, shown in read if shown is not None and shown.what == "ph")
    seen = _seen(progress, start)
    lacks, alarms = [], []
    if day(now) < READY_DAY:
        lacks.append(f"It is ready about day {READY_DAY}; this is day {int(day(now))}.")
    if not ph:
        lacks.append(f"Its pH was never read. It should be {figures(low)} to {figures(high)}.")
    elif not low <= ph[-1][1] <= high:
        lacks.append(f"Its last pH is {figures(ph[-1][1])}. It should be {figures(low)} to {figures(high)}.")
    else:
        held = _held_for(ph, low, high)
        if held < HELD_DAYS:
            lacks.append(
                f"Its pH stayed within {figures(low)} to {figures(high)} for {figures(held, 2)} days: "
                "read it again a week after the first."
            )
    for aspect in ("smell", "mould"):
        if aspect not in seen:
            lacks.append(f"Its {ASPECTS[aspect][0].lower()} was never looked at.")
    if seen.get("mould", (0.0, 0))[1] == len(ASPECTS["mould"][1]) - 1:
        alarms.append("Coloured or fuzzy mould grows on it: pour it away, and do not breathe it in.")
    if seen.get("smell", (0.0, 0))[1] == len(ASPECTS["smell"][1]) - 1:
        alarms.append("It smells off: it has spoilt. Pour it away.")
    if day(now) >= _GAS_BY_DAY and "gas" in seen and not _ever(progress, "gas"):
        alarms.append("It never gave gas: too cold, too little sugar, or a lid that leaks. It may not be fermenting.")
    return Fermenting(day(now), ph, (low, high), tuple(lacks), tuple(alarms))


def _held_for(ph: tuple[tuple[float, float], ...], low: float, high: float) -> float:
    """Days between the last reading and the first of the readings within the window that lead up to it."""
    first = last = ph[-1][0]
    for at, value in reversed(ph):
        if not low <= value <= high:
            break
        first = at
    return last - first


def _seen(progress: Progress, start: datetime) -> dict[str, tuple[float, int]]:
    """The last level of each aspect looked at, with its day."""
    seen: dict[str, tuple[float, int]] = {}
    for entry in progress.standing:
        for aspect, level in entry.seen.items():
            seen[aspect] = (entry.at - start).total_seconds() / _DAY_S, level
    return seen


def _ever(progress: Progress, aspect: str) -> bool:
    """True when an aspect was ever seen above its first level."""
    return any(entry.seen.get(aspect, 0) > 0 for entry in progress.standing)
