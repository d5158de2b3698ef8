"""A batch being made, as its entries say: its tasks in order, what has been measured, the strength as it stands."""

from copy import copy
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import cached_property
from math import prod
from typing import Self

from firkin.batches.models import Batch, BatchLine, Entry
from firkin.batches.tasks import Task, tasks_of
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, Reckoning, reckon
from firkin.core.measures import QS, Quantity, amount_words, read_strength, weight_words

#: How far a measured amount may be off before the maker is asked what to do, as a share of it.
TOLERANCE = 0.02
#: What is taken back by an undo.
_UNDOABLE = (Entry.Kind.POUR, Entry.Kind.PORTION, Entry.Kind.STEP, Entry.Kind.TIMER, Entry.Kind.DECIDE)


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
    """A line measured otherwise than planned, and not decided on yet."""

    entry: Entry
    line: int
    target: Quantity
    factor: float

    @property
    def over(self) -> bool:
        """True when it was too much."""
        return self.factor > 1.0

    @property
    def planned(self) -> Quantity:
        """What was planned, in the unit it was measured in."""
        return self.entry.amount.times(1.0 / self.factor)

    @property
    def off_pct(self) -> float:
        """How far it is off, in per cent of the target."""
        return abs(self.factor - 1.0) * 100.0


class Progress:
    """How far a batch is, worked out from its entries: tasks, targets, what was measured, the strength as it stands."""

    def __init__(self, batch: Batch) -> None:
        self.batch = batch
        self.formula = batch.formula()
        self.tasks = tasks_of(self.formula)
        self.topping = next((task.line for task in self.tasks if task.kind == "top-up"), None)
        self.lines: list[BatchLine] = list(batch.lines.select_related("stock__workshop"))
        entries = list(batch.entries.all())
        taken_back = {entry.undoes_id for entry in entries if entry.undoes_id}
        self.standing = [entry for entry in entries if entry.pk not in taken_back]

    def _and_then(self, entry: Entry) -> Self:
        """The progress with one entry more, without asking the database again."""
        later = object.__new__(type(self))
        for name in ("batch", "formula", "tasks", "topping", "lines"):
            setattr(later, name, getattr(self, name))
        later.standing = [*self.standing, entry]
        return later

    @cached_property
    def measured(self) -> dict[int, Entry]:
        """The entry that stands for each line measured so far, by position."""
        positions = {row.pk: row.position for row in self.lines}
        return {
            positions[entry.line_id]: entry
            for entry in self.standing
            if entry.kind == Entry.Kind.POUR and entry.line_id is not None
        }

    @cached_property
    def _done_steps(self) -> set[int]:
        return {e.step for e in self.standing if e.kind == Entry.Kind.STEP and e.step is not None}

    @cached_property
    def _scaled_since(self) -> dict[int, float]:
        """By how much the batch was scaled since a line was last measured, by position."""
        positions = {row.pk: row.position for row in self.lines}
        since: dict[int, float] = {}
        for entry in self.standing:
            if entry.kind == Entry.Kind.POUR and entry.line_id is not None:
                since[positions[entry.line_id]] = 1.0
            elif entry.kind == Entry.Kind.DECIDE and entry.data.get("whole"):
                since = {position: factor * float(entry.data["factor"]) for position, factor in since.items()}
        return since

    def _missing_g(self, position: int) -> float:
        """How much more of a measured line is wanted because the batch was scaled since, g; 0 when it is enough."""
        entry, poured = self.measured[position], self._poured(self.measured[position])
        since = self._scaled_since.get(position, 1.0)
        if since == 1.0 or poured is None or "planned" not in entry.data:
            return 0.0
        wanted = float(entry.data["planned"]) * since
        missing = wanted - self._grams(position, poured)
        return missing if missing > TOLERANCE * wanted else 0.0

    def is_done(self, task: Task) -> bool:
        """True when the task's entry stands, and is enough."""
        if task.line is None:
            return task.step in self._done_steps
        if task.line not in self.measured:
            return False
        if task.line == self.topping:
            return self._scaled_since.get(task.line, 1.0) == 1.0
        return not self._missing_g(task.line)

    @cached_property
    def position(self) -> int | None:
        """The place of the first task not done; None when all are."""
        return next((i for i, task in enumerate(self.tasks) if not self.is_done(task)), None)

    @property
    def task(self) -> Task | None:
        """The first task not done."""
        return None if self.position is None else self.tasks[self.position]

    @property
    def turn(self) -> int | None:
        """The place of the task as a form names it: another one each time a line is asked for again."""
        rounds = sum(bool(entry.data.get("whole")) for entry in self.standing if entry.kind == Entry.Kind.DECIDE)
        return None if self.position is None else self.position + rounds * len(self.tasks)

    @property
    def unfinished(self) -> bool:
        """True while any task is left to do."""
        return self.position is not None

    @property
    def last(self) -> Entry | None:
        """The last entry that can be taken back."""
        return next((entry for entry in reversed(self.standing) if entry.kind in _UNDOABLE), None)

    @property
    def more(self) -> bool:
        """True when the task asks for more of a line that is in already."""
        return self.task is not None and self.task.line in self.measured and self.task.line != self.topping

    @cached_property
    def factor(self) -> float:
        """By how much what is still to come is scaled, after what was decided since it was planned.

        A rescue that adds something plans anew from what is in the vessel: what was decided before is in its amounts.
        """
        rescued = [i for i, e in enumerate(self.standing) if e.kind == Entry.Kind.RESCUE and e.data.get("adds")]
        since = self.standing[rescued[-1] :] if rescued else self.standing
        return prod(float(e.data.get("factor", 1.0)) for e in since if e.kind == Entry.Kind.DECIDE)

    def portions_in(self, task: Task) -> int:
        """How many additions of a task are in."""
        return sum(e.kind == Entry.Kind.PORTION and e.data.get("task") == self.tasks.index(task) for e in self.standing)

    def timer_end(self, task: Task) -> datetime | None:
        """When the timer of a task runs out; None when it was not started."""
        for entry in reversed(self.standing):
            if entry.kind == Entry.Kind.TIMER and entry.data.get("task") == self.tasks.index(task):
                return entry.at + timedelta(hours=float(entry.data["hours"]))
        return None

    def target(self, task: Task) -> Quantity:
        """What to measure: the planned amount, or the size to top up to, scaled by what was decided since.

        Of a line that is in already, what is still missing of it. Once something was poured over or short and left so,
        the top-up still goes to the planned mark.
        """
        assert task.line is not None
        if task.kind == "top-up" and self.formula.make is not None:
            return self.formula.make.times(self.factor)
        row = self.lines[task.line]
        factor = self.factor
        if task.line in self.measured:
            factor = self._missing_g(task.line) / row.planned_g if row.planned_g else 0.0
        by_weight = row.amount.kind == "mass" or self.formula.lines[task.line].material.solid
        return Quantity(row.planned_g * factor, "g") if by_weight else Quantity(row.planned_mL * factor, "mL")

    def portion_target(self, task: Task) -> Quantity:
        """What one addition comes to."""
        return self.target(task).times(1.0 / task.portions)

    def target_g(self, task: Task) -> float:
        """What to measure, in g, for the scale."""
        assert task.line is not None
        return self._grams(task.line, self.target(task))

    def as_planned(self, factor: float = 1.0) -> Formula:
        """The formula ``factor`` times what is asked for, with at least what is in already."""
        lines = []
        for position, line in enumerate(self.formula.lines):
            asked = self.lines[position].planned_g * self.factor * factor
            poured = self._poured(self.measured.get(position))
            if poured is not None and position != self.topping and "planned" in self.measured[position].data:
                asked = max(self._grams(position, poured), asked)
            amount = Quantity(0.0, QS) if position == self.topping else Quantity(asked, "g")
            lines.append(replace(line, amount=amount, strength=self.lines[position].strength))
        make = self.formula.make.times(self.factor * factor) if self.formula.make and self.topping is not None else None
        return replace(self.formula, lines=tuple(lines), make=make)

    def as_measured(self) -> Formula:
        """The formula with what was really measured, and the plan for the rest."""
        lines: list[Line] = []
        make = self.formula.make.times(self.factor) if self.formula.make else None
        for position, line in enumerate(self.formula.lines):
            entry = self.measured.get(position)
            poured = self._poured(entry)
            if position == self.topping:
                make = poured if poured and self._scaled_since.get(position, 1.0) == 1.0 else make
                lines.append(replace(line, amount=Quantity(0.0, QS)))
                continue
            if poured is None:
                amount = self.target(Task("pour", 0, "", line=position))
            elif entry is not None and entry.data.get("level"):  # topped up before a rescue: as worked out then
                amount = Quantity(self.lines[position].planned_g, "g")
            elif self._missing_g(position):
                amount = Quantity(self._grams(position, poured) + self._missing_g(position), "g")
            else:
                amount = poured
            lines.append(replace(line, amount=amount, strength=self.lines[position].strength))
        return replace(self.formula, lines=tuple(lines), make=make if self.topping is not None else None)

    @staticmethod
    def _poured(entry: Entry | None) -> Quantity | None:
        if entry is None or entry.amount_value is None:
            return None
        return Quantity(entry.amount_value, entry.amount_unit)

    @cached_property
    def result(self) -> Reckoning:
        """The reckoning of what was measured; without the top-up once there is no room for it."""
        return self._reckoned(self.as_measured())

    def _reckoned(self, formula: Formula) -> Reckoning:
        try:
            return reckon(formula)
        except CannotReckon:
            if formula.topped_up is None:
                raise
            kept = tuple(line for line in formula.lines if line.amount.kind != "qs")
            return reckon(replace(formula, lines=kept, make=None))

    @cached_property
    def in_bottles(self) -> Reckoning:
        """What is in a bottle: the batch as measured, cut with its water."""
        if not self.batch.cut:
            return self.result
        made = self.result
        lines = [
            replace(line, amount=Quantity(worked.mass_g, "g"))
            for line, worked in zip(made.formula.lines, made.lines, strict=True)
        ]
        lines.append(Line(find("water"), Quantity(made.total.volume_mL * self.batch.cut, "mL")))
        return reckon(replace(made.formula, lines=tuple(lines), make=None))

    @property
    def overfull(self) -> bool:
        """True when what was poured leaves no room to top up."""
        return len(self.result.lines) < len(self.formula.lines)

    @cached_property
    def deviation(self) -> Deviation | None:
        """The last line measured, when it is off by more than the tolerance and nothing was decided on it yet."""
        last = next((e for e in reversed(self.standing) if e.kind in (Entry.Kind.POUR, Entry.Kind.DECIDE)), None)
        if last is None or last.kind == Entry.Kind.DECIDE or last.data.get("planned") is None:
            return None
        position = next((p for p, entry in self.measured.items() if entry.pk == last.pk), None)
        poured = self._poured(last)
        if position is None or poured is None or position == self.topping:
            return None
        target = Quantity(float(last.data["planned"]), "g")
        factor = self._grams(position, poured) / target.value if target.value else 1.0
        return Deviation(last, position, target, factor) if abs(factor - 1.0) > TOLERANCE else None

    def _grams(self, position: int, amount: Quantity) -> float:
        """What a measured amount of a line weighs."""
        if amount.kind == "mass":
            return amount.g
        line = replace(self.formula.lines[position], amount=amount, strength=self.lines[position].strength)
        return reckon(Formula("One line", (line,), temperature=self.formula.temperature)).total.mass_g

    def choices(self, deviation: Deviation) -> list[Choice]:
        """The ways to go on, each with what the batch would come to."""
        found = [Choice("accept", "Leave it, and go on as planned", self.result)]
        others = self.measured.keys() - {deviation.line}
        if (deviation.over and others) or (self.unfinished and not others):
            scaled = self._reckoned(self.as_planned(deviation.factor))
            vessel = self.batch.vessel
            size = scaled.total.volume_mL
            too_much = vessel is not None and size > vessel.volume_mL
            trouble = f"It comes to {size:.0f} mL, more than {vessel.name} holds." if vessel and too_much else ""
            words = "Scale the whole batch to match" if others else "Scale everything still to come"
            found.append(Choice("scale", words, scaled, trouble, self._additions(deviation) if others else ""))
        return found

    def _additions(self, deviation: Deviation) -> str:
        """What scaling the whole batch puts in once more: "160 mL more ethanol"."""
        said = []
        for position, entry in self.measured.items():
            poured, row = self._poured(entry), self.lines[position]
            if position in (deviation.line, self.topping) or poured is None or "planned" not in entry.data:
                continue
            wanted = float(entry.data["planned"]) * self._scaled_since[position] * deviation.factor
            missing = wanted - self._grams(position, poured)
            if missing > TOLERANCE * wanted:
                solid = self.formula.lines[position].material.solid
                words = weight_words(missing) if solid else amount_words(missing * row.planned_mL / row.planned_g)
                said.append(f"{words} more {self.formula.lines[position].material.name.lower()}")
        return ", ".join(said)

    def record(self) -> list[tuple[Line, BatchLine, Entry | None]]:
        """Each line with what was asked for when it was measured, whatever a rescue planned since, and its entry."""
        rows = []
        for line, row in zip(self.formula.lines, self.lines, strict=True):
            entry = self.measured.get(row.position)
            shown = copy(row)
            if entry is not None and "asked_mL" in entry.data:
                shown.planned_g, shown.planned_mL = float(entry.data["planned"]), float(entry.data["asked_mL"])
                shown.strength = read_strength(entry.data["strength"]) if entry.data["strength"] else None
            rows.append((line, shown, entry))
        return rows
