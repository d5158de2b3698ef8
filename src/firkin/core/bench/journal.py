"""A batch's journal as plain data: entries are only ever added; an undo names the one it takes back."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from typing import Any

from firkin.core.measures import Quantity


class EntryKind(StrEnum):
    """What kind of thing is written; its words stand beside it."""

    STATE = "state"
    POUR = "pour"
    PORTION = "portion"
    STEP = "step"
    TIMER = "timer"
    DECIDE = "decide"
    UNDO = "undo"
    READING = "reading"
    OBSERVE = "observe"
    RESCUE = "rescue"
    DUE = "due"
    NOTE = "note"


#: How the journal calls each kind.
ENTRY_WORDS = {
    EntryKind.STATE: "stage",
    EntryKind.POUR: "measured",
    EntryKind.PORTION: "addition",
    EntryKind.STEP: "done",
    EntryKind.TIMER: "timer",
    EntryKind.DECIDE: "decided",
    EntryKind.UNDO: "taken back",
    EntryKind.READING: "reading",
    EntryKind.OBSERVE: "looked at",
    EntryKind.RESCUE: "rescue",
    EntryKind.DUE: "came due",
    EntryKind.NOTE: "note",
}
#: What is taken back by an undo while it is being made.
UNDOABLE = (EntryKind.POUR, EntryKind.PORTION, EntryKind.STEP, EntryKind.TIMER, EntryKind.DECIDE)
#: What is taken back from the page that follows it, while nothing was written after it.
UNDOABLE_AFTERWARDS = (
    *(EntryKind.READING, EntryKind.OBSERVE, EntryKind.NOTE, EntryKind.DUE, EntryKind.STATE, EntryKind.RESCUE),
)


@dataclass(frozen=True, slots=True)
class Entry:
    """One thing written. ``number`` grows in the order of writing; ``line`` and ``step`` are positions.

    ``data`` holds what belongs to the kind: of a pour what was ``planned`` for the line, in g; of a decision its
    ``factor``, and whether it is for the ``whole`` batch; of a reading ``what``, ``value`` and ``celsius``.
    """

    number: int
    kind: EntryKind
    at: datetime
    text: str = ""
    line: int | None = None
    step: int | None = None
    amount: Quantity | None = None
    data: Mapping[str, Any] = field(default_factory=dict)
    undoes: int | None = None

    @property
    def simulated(self) -> bool:
        """True for what a simulated instrument showed: it is kept, and counts for nothing."""
        return bool(self.data.get("simulated"))


def standing(entries: Iterable[Entry]) -> tuple[Entry, ...]:
    """The entries that stand, in order: without those taken back.

    >>> from datetime import UTC
    >>> day = datetime(2026, 5, 1, tzinfo=UTC)
    >>> written = (Entry(1, EntryKind.STEP, day), Entry(2, EntryKind.UNDO, day, undoes=1))
    >>> [entry.kind.value for entry in standing(written)]
    ['undo']
    """
    entries = tuple(entries)
    taken_back = {entry.undoes for entry in entries if entry.undoes is not None}
    return tuple(entry for entry in entries if entry.number not in taken_back)
