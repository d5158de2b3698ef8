"""A batch left standing half made: how long nothing went in, and what that does to what is in by now."""

from dataclasses import dataclass
from datetime import datetime, timedelta

from firkin.core.bench.journal import Entry, EntryKind
from firkin.core.bench.progress import Progress
from firkin.core.formula import Reckoning
from firkin.core.measures import hours_words

#: From so many hours on it is said, and of alcohol and caustic (common practice, no source).
LONG_H = 12.0
#: Chlorine that is mixed is made anew each day (WHO, Cleaning and disinfection of environmental surfaces, May 2020).
CHLORINE_H = 24.0
#: Water with nothing in it that keeps it does for a day (common practice, no source).
WET_H = 24.0
#: From so much alcohol on, in % by mass of all, it keeps what it is in (from memory).
KEEPS_PCT = 15.0
#: What keeps, or kills, what would grow in it.
_KEEPS = frozenset({"preservative", "strong-acid", "free-acid", "base", "chlorine", "oxidiser"})
_DOING = frozenset({EntryKind.POUR, EntryKind.PORTION, EntryKind.STEP, EntryKind.TIMER})


@dataclass(frozen=True, slots=True)
class Standing:
    """How long a batch stood half made, h, and what to do about what is in it; ``spoilt`` where that is to go away."""

    hours: float
    says: tuple[str, ...]
    spoilt: bool = False

    @property
    def words(self) -> str:
        """How long, as it is said.

        >>> Standing(192.0, ()).words
        '8 days'
        """
        return hours_words(self.hours)


def left_standing(progress: Progress, now: datetime) -> Standing | None:
    """How long nothing was done with what is in the vessel, and what that means; None where it is not long.

    A ferment is meant to stand, and a dry mix may.

    Args:
        progress: a batch as far as it has come.
        now: the moment of asking, aware of its zone.

    >>> from datetime import UTC, datetime
    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> from firkin.core.measures import Quantity
    >>> rub = house_formulas()["who-one"].formula
    >>> poured = Entry(1, EntryKind.POUR, datetime(2026, 11, 20, tzinfo=UTC), line=0, amount=Quantity(833.3, "mL"))
    >>> stood = left_standing(Progress(rub, plan_of(rub), (poured,)), datetime(2026, 11, 28, tzinfo=UTC))
    >>> stood.words, stood.says[0]
    ('8 days', 'Alcohol leaves an open jug: measure its strength before you go on.')
    """
    done = sorted((entry for entry in progress.standing if entry.kind in _DOING), key=lambda entry: entry.at)
    if not done:
        return None
    ends = [_busy_until(progress, entry) for entry in done]
    starts = [*(entry.at for entry in done[1:]), now]
    last = None
    for place, start in enumerate(starts):
        hours = (start - max(ends[: place + 1])).total_seconds() / 3600.0
        last = _stood(progress, done[place], hours) if hours >= LONG_H else None
        if last is not None and last.spoilt:
            return last  # and what goes in later mends nothing
    return last


def _stood(progress: Progress, entry: Entry, hours: float) -> Standing | None:
    """What so many hours without a hand meant for what was in by an entry."""
    by_then = [one for one in progress.standing if one.number <= entry.number]
    there = Progress(progress.formula, progress.planned, by_then).in_vessel
    if there is None or there.formula.family == "ferment" or progress.formula.dry:
        return None
    spoilt, says = _what_becomes(there, hours)
    return Standing(hours, says, spoilt)


def _busy_until(progress: Progress, entry: Entry) -> datetime:
    """When what an entry began was over: a timer's end, or that of a rest the recipe asks for."""
    hours = entry.hours
    if entry.kind is EntryKind.STEP and entry.step is not None:
        place = progress.since_moved(entry, entry.step, "step")
        hours += next((task.wait_h or 0.0 for task in progress.tasks if task.line is None and task.step == place), 0.0)
    return entry.at + timedelta(hours=hours)


def _what_becomes(there: Reckoning, hours: float) -> tuple[bool, tuple[str, ...]]:
    """Whether it is to go away, and what is said."""
    roles = {role for line in there.formula.lines for role in line.material.roles}
    spirit_g = sum(
        worked.mass_g for line, worked in zip(there.formula.lines, there.lines, strict=True) if line.material.alcohol
    )
    if "chlorine" in roles and hours >= CHLORINE_H:
        return True, ("Mixed chlorine is made anew each day (WHO). Pour it away with much water, and begin again.",)
    keeps = 100.0 * spirit_g / there.total.mass_g >= KEEPS_PCT or bool(_KEEPS & roles)
    if "water" in roles and not keeps and hours >= WET_H:
        return True, ("It is wet, and nothing in it keeps germs down. After a day, throw it away and begin again.",)
    says = []
    if spirit_g:
        says.append("Alcohol leaves an open jug: measure its strength before you go on.")
    if "base" in roles:
        says.append(
            "Caustic takes up air: go by pH from here, not by weight. Keep it covered, named, and out of reach."
        )
    says.append("Look at it and smell it. If it is cloudy, specked or smells off, throw it away.")
    return False, tuple(says)
