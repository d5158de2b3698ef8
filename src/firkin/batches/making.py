"""A batch being made: its tasks in order, what has been measured, the strength as it stands."""

import uuid
from copy import copy
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import cached_property
from math import prod

from django.db import transaction

from firkin.accounts.models import User
from firkin.batches.models import Batch, BatchLine, Entry, State, Wait
from firkin.batches.tasks import Task, tasks_of
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, Step
from firkin.core.method import quarantined, steps_of
from firkin.core.numerals import figures
from firkin.core.quantities import QS, Quantity
from firkin.core.reckoning import Reckoning, reckon
from firkin.core.rescuing import Rescue
from firkin.core.strengths import Strength, read_strength
from firkin.core.waits import QUARANTINE_H, hours_words
from firkin.shelf.models import Stock

#: How far a measured amount may be off before the maker is asked what to do, as a share of it.
TOLERANCE = 0.02
#: What is taken back by an undo.
_UNDOABLE = (Entry.Kind.POUR, Entry.Kind.PORTION, Entry.Kind.STEP, Entry.Kind.TIMER, Entry.Kind.DECIDE)


@dataclass(frozen=True, slots=True)
class Choice:
    """One way to go on after too much or too little: its word, what it comes to, and whether it can be."""

    key: str
    words: str
    result: Reckoning
    trouble: str = ""


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


class Making:
    """A batch's progress, worked out from its entries."""

    def __init__(self, batch: Batch) -> None:
        self.batch = batch
        self.formula = batch.formula()
        self.tasks = tasks_of(self.formula)
        self.topping = next((task.line for task in self.tasks if task.kind == "top-up"), None)
        self.lines: list[BatchLine] = list(batch.lines.select_related("stock__workshop"))
        entries = list(batch.entries.all())
        taken_back = {entry.undoes_id for entry in entries if entry.undoes_id}
        self.standing = [entry for entry in entries if entry.pk not in taken_back]

    def _and_then(self, entry: Entry) -> "Making":
        """The progress with one entry more, without asking the database again."""
        later = object.__new__(Making)
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

    def is_done(self, task: Task) -> bool:
        """True when the task's entry stands."""
        return task.line in self.measured if task.line is not None else task.step in self._done_steps

    @cached_property
    def position(self) -> int | None:
        """The place of the first task not done; None when all are."""
        return next((i for i, task in enumerate(self.tasks) if not self.is_done(task)), None)

    @property
    def task(self) -> Task | None:
        """The first task not done."""
        return None if self.position is None else self.tasks[self.position]

    @property
    def unfinished(self) -> bool:
        """True while any task is left to do."""
        return self.position is not None

    @property
    def last(self) -> Entry | None:
        """The last entry that can be taken back."""
        return next((entry for entry in reversed(self.standing) if entry.kind in _UNDOABLE), None)

    @cached_property
    def factor(self) -> float:
        """By how much everything still to come is scaled, after what was decided."""
        return prod(float(e.data.get("factor", 1.0)) for e in self.standing if e.kind == Entry.Kind.DECIDE)

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

        Once something was poured over or short, the top-up still goes to the planned mark.
        """
        assert task.line is not None
        factor = 1.0 if task.line in self.measured else self.factor
        if task.kind == "top-up" and self.formula.make is not None:
            return self.formula.make.times(self.factor)
        row = self.lines[task.line]
        by_weight = row.amount.kind == "mass" or self.formula.lines[task.line].material.solid
        return Quantity(row.planned_g * factor, "g") if by_weight else Quantity(row.planned_mL * factor, "mL")

    def portion_target(self, task: Task) -> Quantity:
        """What one addition comes to."""
        return self.target(task).times(1.0 / task.portions)

    def target_g(self, task: Task) -> float:
        """What to measure, in g, for the scale."""
        assert task.line is not None
        return self._grams(task.line, self.target(task))

    def as_planned(self) -> Formula:
        """The formula with what is asked for, as if nothing were measured yet."""
        lines = []
        for position, line in enumerate(self.formula.lines):
            asked = Quantity(self.lines[position].planned_g * self.factor, "g")
            amount = Quantity(0.0, QS) if position == self.topping else asked
            lines.append(replace(line, amount=amount, strength=self.lines[position].strength))
        make = self.formula.make.times(self.factor) if self.formula.make and self.topping is not None else None
        return replace(self.formula, lines=tuple(lines), make=make)

    def as_measured(self, factor: float = 1.0) -> Formula:
        """The formula with what was really measured, and the plan for the rest, ``factor`` times."""
        lines: list[Line] = []
        make = self.formula.make.times(self.factor * factor) if self.formula.make else None
        for position, line in enumerate(self.formula.lines):
            entry = self.measured.get(position)
            poured = self._poured(entry)
            if position == self.topping:
                make = poured or make
                lines.append(replace(line, amount=Quantity(0.0, QS)))
                continue
            level = entry is not None and entry.data.get("level")  # topped up before a rescue: as worked out then
            planned = self.target(Task("pour", 0, "", line=position))
            amount = planned if poured is None or level else poured
            if entry is None:
                amount = amount.times(factor)
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
        if self.unfinished:
            scaled = self._reckoned(self.as_measured(deviation.factor))
            vessel = self.batch.vessel
            size = scaled.total.volume_mL
            too_much = vessel is not None and size > vessel.volume_mL
            trouble = f"It comes to {size:.0f} mL, more than {vessel.name} holds." if vessel and too_much else ""
            found.append(Choice("scale", "Scale everything still to come", scaled, trouble))
        return found

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

    # what the maker confirms

    def measure(self, task: Task, amount: Quantity, user: User | None, key: uuid.UUID) -> None:
        """Write down what was measured for a line, take it from its stock, and conclude when it was the last."""
        assert task.line is not None
        row, topping = self.lines[task.line], task.kind == "top-up"
        name = self.formula.lines[task.line].material.name
        with transaction.atomic():
            planned = None if topping else self._grams(task.line, self.target(task))
            entry = self.batch.write(
                Entry.Kind.POUR,
                user,
                line=row,
                step=max(task.step, 0),
                amount_value=amount.value,
                amount_unit=amount.unit,
                text=f"{name}{', topped up to' if topping else ''}",
                data={"level": True} if topping else {"planned": planned, **self._asked(task.line)},
                key=key,
            )
            after = self._and_then(entry)
            if row.stock is not None:
                grams = after.result.lines[task.line].mass_g if not after.overfull else self._grams(task.line, amount)
                row.stock.take(Quantity(grams, "g"), self._use(entry))
            after._finish(user)

    def _asked(self, position: int) -> dict[str, object]:
        """What is asked of a line now, kept with its entry: a rescue may plan it anew."""
        row = self.lines[position]
        return {"asked_mL": row.planned_mL * self.factor, "strength": str(row.strength or "")}

    def _use(self, entry: Entry) -> str:
        return f"batch {self.batch.code}, entry {entry.pk}"

    def tick(self, task: Task, user: User | None, key: uuid.UUID) -> None:
        """Write down that something was done."""
        with transaction.atomic():
            entry = self.batch.write(Entry.Kind.STEP, user, step=task.step, text=task.text, key=key)
            self._and_then(entry)._finish(user)

    def portion(self, task: Task, user: User | None, key: uuid.UUID) -> None:
        """Write down that one addition more is in; the last one is written with the amount."""
        place = self.tasks.index(task)
        number = self.portions_in(task) + 1
        text = f"Addition {number} of {task.portions}"
        self.batch.write(Entry.Kind.PORTION, user, step=max(task.step, 0), text=text, data={"task": place}, key=key)

    def start_timer(self, task: Task, user: User | None, key: uuid.UUID) -> None:
        """Start the timer of a task; it goes on whatever happens to the page or the server."""
        if task.timer_h is not None:
            data = {"task": self.tasks.index(task), "hours": task.timer_h}
            text = f"Timer of {hours_words(task.timer_h)}"
            self.batch.write(Entry.Kind.TIMER, user, step=max(task.step, 0), text=text, data=data, key=key)

    def decide(self, choice: str, user: User | None, key: uuid.UUID) -> None:
        """Go on after too much or too little: leave it, or scale what is still to come."""
        deviation = self.deviation
        if deviation is None or choice not in ("accept", "scale"):
            return
        factor = deviation.factor if choice == "scale" else 1.0
        words = f"Everything still to come, {figures(factor)} times" if choice == "scale" else "Left as it is"
        with transaction.atomic():
            entry = self.batch.write(Entry.Kind.DECIDE, user, text=words, data={"factor": factor}, key=key)
            self._and_then(entry)._finish(user)

    def take_back(self, entry: Entry, user: User | None) -> None:
        """Take an entry back by another; what it took from a stock goes back too."""
        with transaction.atomic():
            self.batch.write(Entry.Kind.UNDO, user, undoes=entry, text=f"Taken back: {entry.text}")
            stock = next((row.stock for row in self.lines if row.pk == entry.line_id), None)
            if stock is not None:
                taken = sum(use.mass_g for use in stock.uses.filter(reason=self._use(entry)))
                stock.take(Quantity(taken, "g"), f"{self._use(entry)}, taken back", sign=-1)

    def _finish(self, user: User | None) -> None:
        """Made, when nothing is left to do or to decide."""
        if self.batch.state == State.MAKING and not self.unfinished and self.deviation is None:
            self.batch.finish_making(user)
            self.batch.conclude(self.result)

    def begin_wait(self, task: Task, user: User | None, key: uuid.UUID | None = None) -> Wait:
        """Tick off a task that is a wait, and begin it."""
        if task.wait_h is None:
            raise CannotReckon("There is nothing to wait for here.")
        with transaction.atomic():
            self.batch.write(Entry.Kind.STEP, user, step=task.step, text=task.text, key=key or uuid.uuid4())
            last = task == self.tasks[-1]
            wait = self.batch.rest(task.wait_h, task.do, task.text, user, last=last)
            if last:
                self.batch.conclude(self.result)
        return wait

    def rescued(self, help_: Rescue, measured: Strength | None = None) -> Formula:
        """The formula as measured, with what a rescue adds, its steps, and the quarantine again where there is one.

        When the batch measured another strength than the record says, its alcohol counts as so much weaker or
        stronger from now on: a record is not trusted against a reading.
        """
        worked = self.result
        active = worked.main
        off = measured.value / active.lower if measured and active and active.is_alcohol and active.lower else 1.0
        lines = [
            replace(line, amount=Quantity(worked.lines[i].mass_g, "g"), strength=self._really(i, off))
            for i, line in enumerate(self.formula.lines[: len(worked.lines)])
        ]
        steps = list(steps_of(self.formula))
        for addition in help_.additions:
            lines.append(Line(addition.material, addition.amount, addition.strength, note="rescue"))
            text = " ".join(help_.advice)
            steps.append(Step("rescue", text, (len(lines) - 1,), portions=addition.portions))
        if quarantined(self.formula):
            text = "Keep it closed for 72 hours again: something new went in."
            steps.append(Step("quarantine", text, wait_h=QUARANTINE_H))
        return replace(self.formula, lines=tuple(lines), steps=tuple(steps), make=None)

    def _really(self, at: int, off: float) -> Strength | None:
        """The strength a line's stock counts with after a reading was ``off`` times the record."""
        strength = self.lines[at].strength
        if strength is None or off == 1.0 or self.formula.lines[at].material.alcohol is None:
            return strength
        return Strength.of(min(100.0, round(strength.value * off, 2)), strength.basis)

    def with_stocks(self, stocks: dict[int, Stock]) -> Formula:
        """The frozen formula with the strengths of the bottles really at hand."""
        lines = tuple(
            replace(line, strength=stocks[position].strength or line.strength) if position in stocks else line
            for position, line in enumerate(self.formula.lines)
        )
        return replace(self.formula, lines=lines)
