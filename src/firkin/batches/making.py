"""A batch being made: what the maker confirms, each in one entry, and rescues."""

import uuid
from dataclasses import replace

from django.db import transaction

from firkin.accounts.models import User
from firkin.batches.models import Entry, State, Wait
from firkin.batches.progress import Progress
from firkin.batches.tasks import Task
from firkin.core.bench import Rescue, quarantined, steps_of
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, Step
from firkin.core.measures import QUARANTINE_H, Quantity, Strength, figures, hours_words
from firkin.shelf.models import Stock


def _summed(one: Quantity, other: Quantity) -> Quantity | None:
    """The sum of two amounts in one unit; None of two."""
    return Quantity(one.value + other.value, one.unit) if one.unit == other.unit else None


class Making(Progress):
    """A batch's progress, with what can be confirmed of it."""

    def measure(self, task: Task, amount: Quantity, user: User | None, key: uuid.UUID) -> None:
        """Write down what was measured for a line, take it from its stock, and conclude when it was the last."""
        assert task.line is not None
        row, topping = self.lines[task.line], task.kind == "top-up"
        name = self.formula.lines[task.line].material.name
        before = None if topping else self._poured(self.measured.get(task.line))
        already_g = self._grams(task.line, before) if before else 0.0
        with transaction.atomic():
            planned = None if topping else already_g + self._grams(task.line, self.target(task))
            if before is not None:
                name = f"{name}, {amount.words} more: in all"
                amount = _summed(before, amount) or Quantity(already_g + self._grams(task.line, amount), "g")
            entry = self.batch.write(
                Entry.Kind.POUR,
                user,
                line=row,
                step=max(task.step, 0),
                amount_value=amount.value,
                amount_unit=amount.unit,
                text=f"{name}{', topped up to' if topping else ''}",
                data={"level": True} if planned is None else self._asked(task.line, planned),
                key=key,
            )
            after = self._and_then(entry)
            if row.stock is not None:
                grams = after.result.lines[task.line].mass_g if not after.overfull else self._grams(task.line, amount)
                row.stock.take(Quantity(grams - already_g, "g"), self._use(entry))
            after._finish(user)

    def _asked(self, position: int, planned_g: float) -> dict[str, object]:
        """What is asked of a line now, kept with its entry: a rescue may plan it anew."""
        row = self.lines[position]
        times = planned_g / row.planned_g if row.planned_g else 1.0
        return {"planned": planned_g, "asked_mL": row.planned_mL * times, "strength": str(row.strength or "")}

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
        """Go on after too much or too little: leave it, or scale the batch to it."""
        deviation = self.deviation
        if deviation is None or choice not in [one.key for one in self.choices(deviation) if not one.trouble]:
            return
        scaled = choice == "scale"
        factor = deviation.factor if scaled else 1.0
        words = f"The whole batch, {figures(factor)} times" if scaled else "Left as it is"
        with transaction.atomic():
            data = {"factor": factor, "whole": scaled}
            entry = self.batch.write(Entry.Kind.DECIDE, user, text=words, data=data, key=key)
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
