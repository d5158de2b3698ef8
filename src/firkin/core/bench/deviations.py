"""Too much or too little of a line: how far it is off, and the ways to go on."""

from dataclasses import dataclass

from firkin.core.bench.journal import Entry, EntryKind
from firkin.core.bench.progress import TOLERANCE, Progress, reckoned
from firkin.core.formula import Reckoning
from firkin.core.measures import Quantity, amount_words, figures, weight_words


@dataclass(frozen=True, slots=True)
class Choice:
    """One way to go on after too much or too little: its word, what it comes to, whether it can be, what it adds."""

    key: str
    words: str
    result: Reckoning
    trouble: str = ""
    adds: str = ""


@dataclass(frozen=True, slots=True)
class Deviation:
    """A line measured otherwise than planned, and not decided on yet; ``factor`` is measured over planned."""

    entry: Entry
    line: int
    target: Quantity
    factor: float

    @property
    def over(self) -> bool:
        """True when it was too much."""
        return self.factor > 1.0

    @property
    def measured(self) -> Quantity:
        """What was measured."""
        assert self.entry.amount is not None
        return self.entry.amount

    @property
    def planned(self) -> Quantity:
        """What was planned, in the unit it was measured in."""
        return self.measured.times(1.0 / self.factor)

    @property
    def off_pct(self) -> float:
        """How far it is off, in per cent of the target."""
        return abs(self.factor - 1.0) * 100.0


@dataclass(frozen=True, slots=True)
class Vessel:
    """The vessel a batch is made in: its name, and what it holds in mL."""

    name: str
    volume_mL: float


def deviation_of(progress: Progress) -> Deviation | None:
    """The last line measured, when it is off by more than the tolerance and nothing was decided on it yet.

    >>> from datetime import UTC, datetime
    >>> from firkin.core.bench.progress import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> plan = plan_of(rub)
    >>> poured = Entry(1, EntryKind.POUR, datetime(2026, 5, 1, tzinfo=UTC), line=0,
    ...                amount=Quantity(916.6, "mL"), data={"planned": plan[0].g})
    >>> round(deviation_of(Progress(rub, plan, (poured,))).off_pct)
    10
    """
    last = next((e for e in reversed(progress.standing) if e.kind in (EntryKind.POUR, EntryKind.DECIDE)), None)
    if last is None or last.kind is EntryKind.DECIDE or last.data.get("planned") is None:
        return None
    if last.line is None or last.amount is None or last.line == progress.topping:
        return None
    target = Quantity(float(last.data["planned"]), "g")
    factor = progress.grams(last.line, last.amount) / target.value if target.value else 1.0
    return Deviation(last, last.line, target, factor) if abs(factor - 1.0) > TOLERANCE else None


def choices(progress: Progress, deviation: Deviation, vessel: Vessel | None = None) -> list[Choice]:
    """The ways to go on, each with what the batch would come to."""
    found = [Choice("accept", "Leave it, and go on as planned", progress.result)]
    others = progress.measured.keys() - {deviation.line}
    if (deviation.over and others) or (progress.unfinished and not others):
        scaled = reckoned(progress.as_planned(deviation.factor))
        size = scaled.total.volume_mL
        trouble = ""
        if vessel is not None and size > vessel.volume_mL:
            trouble = f"It comes to {figures(size)} mL, more than {vessel.name} holds."
        words = "Scale the whole batch to match" if others else "Scale everything still to come"
        found.append(Choice("scale", words, scaled, trouble, _additions(progress, deviation) if others else ""))
    return found


def _additions(progress: Progress, deviation: Deviation) -> str:
    """What scaling the whole batch puts in once more: "160 mL more ethanol"."""
    said = []
    for position, entry in progress.measured.items():
        planned, line = progress.plan[position], progress.formula.lines[position]
        if position in (deviation.line, progress.topping) or entry.amount is None or "planned" not in entry.data:
            continue
        wanted = float(entry.data["planned"]) * progress.scaled_since[position] * deviation.factor
        missing = wanted - progress.grams(position, entry.amount)
        if missing > TOLERANCE * wanted:
            words = weight_words(missing) if line.solid else amount_words(missing * planned.mL / planned.g)
            said.append(f"{words} more {line.material.name.lower()}")
    return ", ".join(said)
