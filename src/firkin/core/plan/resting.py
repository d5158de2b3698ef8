"""When it rests, is looked after again and again, or is worked for a time."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import zip_longest

from firkin.core.plan.clauses import Clause, told_of
from firkin.core.plan.numbers import Time, times_in
from firkin.core.plan.words import words

#: What is stirred or shaken up to this is stood beside; a longer time is no work of the hands.
_BESIDE_H = 0.5
#: "Two weeks in the cupboard, shake it every day": so long a time beside it is a rest.
_BESIDE_IT_H = 24.0
#: "It takes a second to come out" is no rest.
_A_MOMENT_H = 3.0 / 3600.0
_WORKED = re.compile(r"\b(?:stir|whisk|mix|shake|beat|blend|boil|simmer|heat|whip|knead|turn)\w*\b")
#: "After three months you strain it": the time has passed, and so it rested.
_AFTER = re.compile(r"\bafter (?:about )?$")
#: "Leave it overnight. The next day ...": so near, it is the end of that night.
_NEXT_DAY = re.compile(r"(?:the )?next (?:day|morning)")
_A_NIGHT_H, _RIGHT_BEHIND = 8.0, 45
_THAT_IS = re.compile(
    r"\s*[,(–-]?\s*(?:so|that.s|that is|say|i\.e\.|meaning|or|about)?\s*(?:about |at least |roughly |a good )?"
)


@dataclass(frozen=True, slots=True)
class Pause:
    """A time of a procedure: a rest, work beside it, or something to do again and again for a time."""

    kind: str  # rest, work, again
    hours: float
    start: int
    end: int
    every_h: float | None = None


def pauses_of(plain: str, clauses: Sequence[Clause]) -> Iterator[Pause]:
    """The rests, timed works and repeats of a text, in its order."""
    last: Pause | None = None
    for clause in clauses:
        told = told_of(plain, clause)
        again = words("again").search(plain, clause.start, clause.end)
        if told:
            continue
        times = times_in(plain, clause.start, clause.end)
        if again is not None:
            start, end = _between_commas(plain, clause, again.start())
            mine = [time for time in times if start <= time.start < end]
            times = [time for time in times if time not in mine and time.hours >= _BESIDE_IT_H]
            long = max((time.hours for time in (*mine, *times)), default=0.0)
            yield Pause("again", long, start, end, _every(again.group()))
        for time, after in zip_longest(times, times[1:]):
            said_again = after is not None and not _NEXT_DAY.fullmatch(plain, after.start, after.end)
            if said_again and after is not None and _THAT_IS.fullmatch(plain, time.end, after.start):
                continue  # "till tomorrow, so twelve hours" is one rest
            pause = _pause(plain, clause, time)
            if pause is None or (last is not None and _ends_it(plain, last, time)):
                continue
            last = pause if pause.kind == "rest" else last
            yield pause


def _ends_it(plain: str, rest: Pause, time: Time) -> bool:
    """True for the end of the rest told right before: "leave it overnight, and the next day bottle it"."""
    said = plain[time.start : time.end]
    return _NEXT_DAY.fullmatch(said) is not None and rest.hours >= _A_NIGHT_H and time.start - rest.end <= _RIGHT_BEHIND


def _between_commas(plain: str, clause: Clause, at: int) -> tuple[int, int]:
    """The stretch of a clause around a place, up to the commas on either side."""
    start = max(plain.rfind(",", clause.start, at) + 1, clause.start)
    end = plain.find(",", at, clause.end)
    return start, clause.end if end < 0 else end


def _pause(plain: str, clause: Clause, time: Time) -> Pause | None:
    around = plain[clause.start : clause.end]
    sentence = plain[clause.first : clause.last]
    before, behind = (
        plain[max(clause.start, time.start - 30) : time.start],
        plain[time.end : min(clause.end, time.end + 22)],
    )
    near = re.split(r"[,:;(]", before)[-1] + plain[time.start : time.end] + re.split(r"[,:;)]", behind)[0]
    if words("lasting").search(near) or time.hours <= _A_MOMENT_H:
        return None
    worked = _WORKED.search(around)
    if worked is not None and time.hours <= _BESIDE_H and not words("resting").search(around):
        return Pause("work", time.hours, time.start, time.end)
    alone = len(re.sub(r"\W+", " ", around).split()) <= 6
    rests = words("resting").search(around) or words("resting").search(sentence) or _AFTER.search(plain[: time.start])
    return Pause("rest", time.hours, time.start, time.end) if rests or alone else None


def _every(said: str) -> float:
    if "hour" in said:
        return 1.0
    if "week" in said:
        return 168.0
    third = re.search(r"(second|other|third|two|three) ", said)
    return 24.0 * ({"second": 2, "other": 2, "two": 2, "third": 3, "three": 3}[third[1]] if third else 1)
