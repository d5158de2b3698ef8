"""A batch's journal as plain data: entries are only ever added; an undo names the one it takes back."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from typing import Any

from firkin.core.measures import Quantity, Strength, read_strength


class EntryKind(StrEnum):
    """What kind of thing is written; its words stand beside it."""

    STATE = "state"
    POUR = "pour"
    LEFT_OUT = "left-out"
    BOTTLE = "bottle"
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
    EntryKind.LEFT_OUT: "left out",
    EntryKind.BOTTLE: "other bottle",
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
UNDOABLE = (
    *(EntryKind.POUR, EntryKind.LEFT_OUT, EntryKind.BOTTLE),
    *(EntryKind.PORTION, EntryKind.STEP, EntryKind.TIMER, EntryKind.DECIDE),
)
#: What is taken back from the page that follows it, while nothing was written after it.
UNDOABLE_AFTERWARDS = (
    *(EntryKind.READING, EntryKind.OBSERVE, EntryKind.NOTE, EntryKind.DUE, EntryKind.STATE, EntryKind.RESCUE),
    *(EntryKind.LEFT_OUT, EntryKind.BOTTLE),
)


@dataclass(frozen=True, slots=True)
class Asked:
    """What was asked of a line when it was measured or left out: g, and where it was kept also mL and the strength."""

    g: float
    mL: float | None = None
    strength: Strength | None = None


@dataclass(frozen=True, slots=True)
class Decision:
    """How it goes on after too much or too little: what is to come is scaled by ``factor``; with ``whole`` also what is
    in, and ``add`` is the place of the line of which what is lacking goes in.
    """

    factor: float = 1.0
    whole: bool = False
    add: int | None = None


@dataclass(frozen=True, slots=True)
class Moves:
    """Where steps were put in while it was made, by the places of step and task at hand, and how many of them."""

    step: int
    task: int
    added: int


@dataclass(frozen=True, slots=True)
class Read:
    """What an instrument showed: which of READINGS, its value, and how warm the liquid was, in °C."""

    what: str
    value: float
    celsius: float | None = None


@dataclass(frozen=True, slots=True)
class Entry:
    """One thing written. ``number`` grows in the order of writing; ``line`` and ``step`` are positions.

    ``data`` is what a file or a database keeps of it; what belongs to a kind is read from it by name, here and nowhere
    else.
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

    @property
    def asked(self) -> Asked | None:
        """What was asked of its line; None where that was not kept, and of a top-up."""
        if self.data.get("planned") is None:
            return None
        mL, strength = self.data.get("asked_mL"), self.data.get("strength")
        return Asked(
            float(self.data["planned"]),
            None if mL is None else float(mL),
            read_strength(strength) if strength else None,
        )

    @property
    def level(self) -> bool:
        """True for a mark it was topped up to."""
        return bool(self.data.get("level"))

    @property
    def by_reading(self) -> bool:
        """True for what went in until a reading said that it was enough."""
        return bool(self.data.get("approach"))

    @property
    def decision(self) -> Decision | None:
        """What was decided; None for any other kind."""
        if self.kind is not EntryKind.DECIDE:
            return None
        add = self.data.get("add")
        factor = float(self.data.get("factor", 1.0))
        return Decision(factor, bool(self.data.get("whole")), None if add is None else int(add))

    @property
    def adds(self) -> bool:
        """True when the batch was planned anew with it, from what was in the vessel: a fix, or something put in."""
        return bool(self.data.get("adds"))

    @property
    def moves(self) -> Moves | None:
        """The steps that were put in with it; None where none were."""
        if "added" not in self.data:
            return None
        return Moves(int(self.data["step"]), int(self.data["task"]), int(self.data["added"]))

    @property
    def left(self) -> float:
        """The share of what was in that is still there after it: less than 1 once it boiled over."""
        return float(self.data.get("left", 1.0))

    @property
    def gone_mL(self) -> float:
        """mL that were not kept: they wait for no bottle."""
        return float(self.data.get("gone_mL", 0.0))

    @property
    def place(self) -> int | None:
        """The place of the task it was written at; None where that was not kept."""
        return int(self.data["task"]) if "task" in self.data else None

    @property
    def dose(self) -> tuple[float, float | None] | None:
        """Of a small addition how much went in, and what was read after it; None for anything else."""
        if self.kind is not EntryKind.PORTION or "amount" not in self.data:
            return None
        reading = self.data.get("reading")
        return float(self.data["amount"]), None if reading is None else float(reading)

    @property
    def hours(self) -> float:
        """Of a timer, how long it runs."""
        return float(self.data.get("hours", 0.0))

    @property
    def read(self) -> Read | None:
        """What was read; None for any other kind."""
        if self.kind is not EntryKind.READING:
            return None
        celsius = self.data.get("celsius")
        return Read(self.data["what"], float(self.data["value"]), None if celsius is None else float(celsius))

    @property
    def seen(self) -> Mapping[str, int]:
        """Of a look, the level of each aspect; nothing of anything else."""
        there = self.data.get("seen", {}) if self.kind is EntryKind.OBSERVE else {}
        return {aspect: int(level) for aspect, level in there.items()}

    @property
    def strength(self) -> Strength | None:
        """Of a line's bottle, the strength on its label."""
        written = self.data.get("strength") if self.kind is EntryKind.BOTTLE else None
        return read_strength(written) if written else None

    @property
    def void(self) -> bool:
        """True for a line left out because it never was of this batch."""
        return self.kind is EntryKind.LEFT_OUT and bool(self.data.get("void"))


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
