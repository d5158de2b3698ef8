"""A batch being made: its tasks in order, what has been measured, the strength as it stands."""

import uuid
from dataclasses import dataclass, replace
from functools import cached_property

from firkin.accounts.models import User
from firkin.batches.models import Batch, BatchLine, Entry, Wait
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, Step
from firkin.core.method import steps_of
from firkin.core.quantities import QS, Quantity
from firkin.core.reckoning import Reckoning, reckon
from firkin.shelf.models import Stock


@dataclass(frozen=True, slots=True)
class Task:
    """One thing to tick off: a line to measure, something to do, or a wait to begin."""

    kind: str  # "pour", "top-up", "do" or "wait"
    step: int
    text: str
    line: int | None = None
    wait_h: float | None = None
    do: str = ""
    portions: int = 1


def tasks_of(formula: Formula) -> tuple[Task, ...]:
    """The tasks of a formula's steps; lines that no step names are poured first.

    A q.s. line tops up to the mark when it comes last; poured earlier, it is measured as planned.
    """
    steps = steps_of(formula)
    named = {line for step in steps for line in step.lines}
    loose = tuple(i for i in range(len(formula.lines)) if i not in named)
    tasks = [_pour(-1, Step("pour", ""), line) for line in loose]
    for position, step in enumerate(steps):
        seen = {task.line for task in tasks}
        pours = [_pour(position, step, line) for line in step.lines if line not in seen]
        tasks += pours
        if step.wait_h is not None:
            tasks.append(Task("wait", position, step.text, wait_h=step.wait_h, do=step.do))
        elif not pours:
            tasks.append(Task("do", position, step.text or step.do, do=step.do, portions=step.portions))
    last = next((task.line for task in reversed(tasks) if task.line is not None), None)
    return tuple(
        replace(task, kind="top-up") if task.line is not None and task.line == last == formula.topped_up else task
        for task in tasks
    )


def _pour(position: int, step: Step, line: int) -> Task:
    return Task("pour", position, step.text, line=line, do=step.do, portions=step.portions)


class Making:
    """A batch's progress, worked out from its entries."""

    def __init__(self, batch: Batch) -> None:
        self.batch = batch
        self.formula = batch.formula()
        self.tasks = tasks_of(self.formula)
        self.topping = next((task.line for task in self.tasks if task.kind == "top-up"), None)
        self.lines: list[BatchLine] = list(batch.lines.select_related("stock"))
        taken_back = {entry.undoes_id for entry in batch.entries.all() if entry.undoes_id}
        self.standing = [entry for entry in batch.entries.all() if entry.pk not in taken_back]

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

    def target(self, task: Task) -> Quantity:
        """What to measure: the planned amount, or the size to top up to.

        Once something was poured over or short, the top-up still goes to the planned mark.
        """
        assert task.line is not None
        if task.kind == "top-up" and self.formula.make is not None:
            return self.formula.make
        row = self.lines[task.line]
        by_weight = row.amount.kind == "mass" or self.formula.lines[task.line].material.solid
        return Quantity(row.planned_g, "g") if by_weight else Quantity(row.planned_mL, "mL")

    def as_measured(self) -> Formula:
        """The formula with what was really measured, and the plan for the rest."""
        lines: list[Line] = []
        make = self.formula.make
        for position, line in enumerate(self.formula.lines):
            entry = self.measured.get(position)
            if position == self.topping:
                if entry is not None and entry.amount_value is not None:
                    make = Quantity(entry.amount_value, entry.amount_unit)
                lines.append(replace(line, amount=Quantity(0.0, QS)))
                continue
            amount = self.target(Task("pour", 0, "", line=position))
            if entry is not None and entry.amount_value is not None:
                amount = Quantity(entry.amount_value, entry.amount_unit)
            lines.append(replace(line, amount=amount, strength=self.lines[position].strength))
        return replace(self.formula, lines=tuple(lines), make=make if self.topping is not None else None)

    @cached_property
    def result(self) -> Reckoning:
        """The reckoning of what was measured; without the top-up once there is no room for it."""
        formula = self.as_measured()
        try:
            return reckon(formula)
        except CannotReckon:
            if formula.topped_up is None:
                raise
            kept = tuple(line for line in formula.lines if line.amount.kind != "qs")
            return reckon(replace(formula, lines=kept, make=None))

    @property
    def overfull(self) -> bool:
        """True when what was poured leaves no room to top up."""
        return len(self.result.lines) < len(self.formula.lines)

    def begin_wait(self, task: Task, user: User | None, key: uuid.UUID | None = None) -> Wait:
        """Tick off a task that is a wait, and begin it."""
        if task.wait_h is None:
            raise CannotReckon("There is nothing to wait for here.")
        self.batch.write(Entry.Kind.STEP, user, step=task.step, text=task.text, key=key or uuid.uuid4())
        last = task == self.tasks[-1]
        return self.batch.rest(task.wait_h, task.do, task.text, user, last=last)

    def with_stocks(self, stocks: dict[int, Stock]) -> Formula:
        """The frozen formula with the strengths of the bottles really at hand."""
        lines = tuple(
            replace(line, strength=stocks[position].strength or line.strength) if position in stocks else line
            for position, line in enumerate(self.formula.lines)
        )
        return replace(self.formula, lines=lines)
