"""What became of one filled bottle, told by what happened to it: where it is, with whom, and how long it was in use."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime
from enum import StrEnum


class BottleEventKind(StrEnum):
    """What can happen to a filled bottle."""

    GIVEN = "given"  # somebody, or a place, has it
    OPENED = "opened"
    LOADS = "loads"  # so many loads or washes were done from it
    USED_UP = "used-up"
    BACK = "back"  # here again: full as it went, or empty where it was used up
    THROWN = "thrown"  # what was in it was thrown away
    LOST = "lost"
    REFILLED = "refilled"  # emptied into use and filled again, from any batch
    CALLED = "called"  # its holder was told to bring it back
    DEALT = "dealt"  # what was called back is dealt with


class BottleIs(StrEnum):
    """Where a bottle is."""

    STORE = "store"  # full, here
    OUT = "out"  # full or in use, with somebody
    EMPTY_OUT = "empty-out"  # used up, not back
    BACK = "back"  # empty, here
    THROWN = "thrown"
    LOST = "lost"


#: The words on screen.
EVENT_WORDS = {
    BottleEventKind.GIVEN: "given to",
    BottleEventKind.OPENED: "opened",
    BottleEventKind.LOADS: "loads done",
    BottleEventKind.USED_UP: "used up",
    BottleEventKind.BACK: "back",
    BottleEventKind.THROWN: "thrown away",
    BottleEventKind.LOST: "lost",
    BottleEventKind.REFILLED: "refilled",
    BottleEventKind.CALLED: "called back",
    BottleEventKind.DEALT: "dealt with",
}
IS_WORDS = {
    BottleIs.STORE: "in the store",
    BottleIs.OUT: "out",
    BottleIs.EMPTY_OUT: "used up, not back",
    BottleIs.BACK: "empty, back here",
    BottleIs.THROWN: "thrown away",
    BottleIs.LOST: "lost",
}
_K, _B = BottleEventKind, BottleIs
_FULL = frozenset({_B.STORE, _B.OUT})
#: In which places each can happen. A recall reaches every bottle, also one that is said to be used up.
_WHERE = {
    _K.GIVEN: frozenset({_B.STORE, _B.OUT}),
    _K.OPENED: _FULL,
    _K.LOADS: _FULL,
    _K.USED_UP: _FULL,
    _K.BACK: frozenset({_B.OUT, _B.EMPTY_OUT, _B.LOST}),
    _K.THROWN: _FULL,
    _K.LOST: frozenset({_B.STORE, _B.OUT, _B.EMPTY_OUT}),
    _K.REFILLED: frozenset({_B.STORE, _B.OUT, _B.EMPTY_OUT, _B.BACK}),
    _K.CALLED: frozenset(_B),
    _K.DEALT: frozenset(_B),
}


@dataclass(frozen=True, slots=True)
class Happened:
    """One thing that happened to a bottle; ``holder`` is who got it, by a number of the caller's."""

    kind: BottleEventKind
    at: datetime
    holder: int | None = None
    loads: float | None = None


@dataclass(frozen=True, slots=True)
class Whereabouts:
    """Where a bottle is, who has or last had it, and from when to when what is in it was in use.

    ``loads`` were done from it, as far as anybody wrote them down. ``used`` is true only for what was used up: what was
    thrown away or lost says nothing of how fast it is used.
    """

    place: BottleIs = BottleIs.STORE
    holder: int | None = None
    given: datetime | None = None
    opened: datetime | None = None
    ended: datetime | None = None
    used: bool = False
    loads: float = 0.0
    called: bool = False
    dealt: bool = False

    @property
    def full(self) -> bool:
        """True while there is something in it to use."""
        return self.place in _FULL

    @property
    def begun(self) -> datetime | None:
        """From when it counts as in use: opened, or else given."""
        return self.opened or self.given


def can_happen(kind: BottleEventKind, there: Whereabouts) -> bool:
    """True for what can happen to a bottle where it is now.

    Args:
        kind: what is to happen.
        there: where the bottle is.

    >>> can_happen(BottleEventKind.USED_UP, Whereabouts()), can_happen(BottleEventKind.BACK, Whereabouts())
    (True, False)
    """
    if kind is BottleEventKind.OPENED and there.opened is not None:
        return False
    return there.place in _WHERE[kind]


def whereabouts_of(events: Iterable[Happened]) -> Whereabouts:
    """What became of a bottle by what happened to it, in the order it was written. Undone ones are left away before.

    Args:
        events: what happened to it, in the order it was written.

    >>> from datetime import UTC
    >>> day = datetime(2026, 5, 1, tzinfo=UTC)
    >>> there = whereabouts_of([Happened(BottleEventKind.GIVEN, day, 7), Happened(BottleEventKind.USED_UP, day)])
    >>> there.place.value, there.holder, there.used
    ('empty-out', 7, True)
    """
    there = Whereabouts()
    for event in events:
        there = _after(there, event)
    return there


def _after(there: Whereabouts, event: Happened) -> Whereabouts:
    """Where a bottle is after one thing more."""
    away = there.place in (BottleIs.OUT, BottleIs.EMPTY_OUT)
    match event.kind:
        case BottleEventKind.GIVEN:
            return replace(there, place=BottleIs.OUT, holder=event.holder, given=there.given or event.at)
        case BottleEventKind.OPENED:
            return replace(there, opened=there.opened or event.at)
        case BottleEventKind.LOADS:
            return replace(there, loads=there.loads + (event.loads or 0.0), opened=there.opened or event.at)
        case BottleEventKind.USED_UP:
            place = BottleIs.EMPTY_OUT if away else BottleIs.BACK
            return replace(there, place=place, ended=event.at, used=True)
        case BottleEventKind.REFILLED:  # what was in it before is used up; the bottle goes on with what is in it now
            return replace(there, place=BottleIs.BACK, ended=there.ended or event.at, used=True)
        case BottleEventKind.BACK:
            return replace(there, place=BottleIs.BACK if there.ended else BottleIs.STORE)
        case BottleEventKind.THROWN:
            return replace(there, place=BottleIs.THROWN, ended=event.at)
        case BottleEventKind.LOST:
            return replace(there, place=BottleIs.LOST, ended=there.ended or event.at)
        case BottleEventKind.CALLED:
            return replace(there, called=True, dealt=False)
        case BottleEventKind.DEALT:
            return replace(there, dealt=True)
