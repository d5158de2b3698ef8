"""A batch being made: what the maker confirms, each in one entry, and rescues."""

import uuid

from django.db import transaction

from firkin.accounts.models import User
from firkin.batches.models import Batch, BatchLine, Entry, State, Wait
from firkin.core.bench import (
    Choice,
    Deviation,
    EntryKind,
    Progress,
    Reads,
    Recorded,
    Task,
    TaskKind,
    Vessel,
    approach_of,
    choices,
    decided,
    deviation_of,
    reading_words,
    seen_words,
)
from firkin.core.bench import Entry as Written
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, with_bottles, with_bulk
from firkin.core.measures import Quantity, figures, hours_words
from firkin.core.mending import with_extra
from firkin.shelf.models import Stock


def _summed(one: Quantity, other: Quantity) -> Quantity | None:
    """The sum of two amounts in one unit; None of two."""
    return Quantity(one.value + other.value, one.unit) if one.unit == other.unit else None


class Making:
    """A batch with its lines and its progress, and what can be confirmed of it."""

    def __init__(self, batch: Batch) -> None:
        self.batch = batch
        self.lines = list(batch.lines.all())
        self.progress = batch.progress(self.lines)

    @property
    def deviation(self) -> Deviation | None:
        """A line measured otherwise than planned, and not decided on yet."""
        return deviation_of(self.progress)

    def choices(self, deviation: Deviation) -> list[Choice]:
        """The ways to go on after it, in the vessel it is made in."""
        vessel = self.batch.vessel
        return choices(self.progress, deviation, Vessel(vessel.name, vessel.volume_mL) if vessel else None)

    def rows(self) -> list[tuple[BatchLine, Recorded]]:
        """Each line with what was asked of it and its entry."""
        return list(zip(self.lines, self.progress.recorded(), strict=True))

    def measure(
        self, task: Task, amount: Quantity, user: User | None, key: uuid.UUID, *, simulated: bool = False
    ) -> None:
        """Write down what was measured for a line, take it from its stock, and conclude when it was the last.

        ``simulated`` says that a simulated scale showed it: the record says so.
        """
        assert task.line is not None
        row, topping, progress = self.lines[task.line], task.kind is TaskKind.TOP_UP, self.progress
        name = progress.formula.lines[task.line].material.name
        there = progress.measured.get(task.line)
        before = None if topping or there is None else there.amount
        already_g = progress.grams(task.line, before) if before else 0.0
        with transaction.atomic():
            planned = None if topping else already_g + progress.target_g(task)
            if before is not None:
                name = f"{name}, {amount.words} more: in all"
                amount = _summed(before, amount) or Quantity(already_g + progress.grams(task.line, amount), "g")
            entry = self.batch.write(
                EntryKind.POUR,
                user,
                line=row,
                step=max(task.step, 0),
                amount_value=amount.value,
                amount_unit=amount.unit,
                text=f"{name}{', topped up to' if topping else ''}{' (simulated scale)' if simulated else ''}",
                data=({"level": True} if planned is None else self._asked(task, planned))
                | ({"simulated": True} if simulated else {}),
                key=key,
            )
            after = self._and_then(entry)
            if row.stock is not None:
                worked = after.result.lines
                grams = worked[task.line].mass_g if not after.overfull else progress.grams(task.line, amount)
                row.stock.take(Quantity(grams - already_g, "g"), self._use(entry.pk))
            self._finish(after, user)

    def _asked(self, task: Task, planned_g: float) -> dict[str, object]:
        """What is asked of a line now, kept with its entry: a rescue may plan it anew."""
        assert task.line is not None
        row, approach = self.lines[task.line], approach_of(self.progress, task)
        read = {"approach": True} if approach is not None and approach.read else {}
        times = planned_g / row.planned_g if row.planned_g else 1.0
        return {"planned": planned_g, "asked_mL": row.planned_mL * times, "strength": str(row.strength or "")} | read

    def _use(self, number: int) -> str:
        return f"batch {self.batch.code}, entry {number}"

    def _and_then(self, entry: Entry) -> Progress:
        """The progress with one entry more, without asking the database again."""
        return self.progress.after(entry.as_core({row.pk: row.position for row in self.lines}))

    def tick(self, task: Task, user: User | None, key: uuid.UUID) -> None:
        """Write down that something was done."""
        with transaction.atomic():
            entry = self.batch.write(EntryKind.STEP, user, step=task.step, text=task.text, key=key)
            self._finish(self._and_then(entry), user)

    def portion(self, task: Task, user: User | None, key: uuid.UUID) -> None:
        """Write down that one addition more is in; the last one is written with the amount."""
        place = self.progress.tasks.index(task)
        number = self.progress.portions_in(task) + 1
        text = f"Addition {number} of {task.portions}"
        self.batch.write(EntryKind.PORTION, user, step=max(task.step, 0), text=text, data={"task": place}, key=key)

    def dose(self, task: Task, amount: float, read: float | None, user: User | None, key: uuid.UUID) -> None:
        """Write down a small addition, and what was read after it: as part of the addition and as a reading."""
        approach = approach_of(self.progress, task)
        if approach is None:
            return
        data = {"task": self.progress.tasks.index(task), "amount": amount, "reading": read}
        ph = approach.reads is Reads.PH
        with transaction.atomic():
            name = approach.line.material.name
            text = f"{name}, {figures(amount)} {approach.unit} more"
            self.batch.write(EntryKind.PORTION, user, step=max(task.step, 0), text=text, data=data, key=key)
            if read is not None and ph:
                found = {"what": "ph", "value": read}
                self.batch.write(EntryKind.READING, user, text=reading_words(found), data=found)
            elif read is not None:
                seen = {"thickness": int(read)}
                self.batch.write(EntryKind.OBSERVE, user, text=seen_words(seen), data={"seen": seen})

    def put_in_besides(self, line: Line, user: User | None, key: uuid.UUID) -> Progress:
        """Write down what was put in besides the plan: a line of this batch, measured already."""
        formula, moves = with_extra(self.progress, line)
        with transaction.atomic():
            text = f"Put in besides the plan: {line.amount.words} of {line.material.name.lower()}."
            self.batch.write(EntryKind.NOTE, user, text=text, data={"adds": True, **moves}, key=key)
            self.batch.amend(formula, user, "")
            after = Making(self.batch)
            task = after.progress.task
            assert task is not None
            after.measure(task, line.amount, user, uuid.uuid4())
        return Making(self.batch).progress

    def start_timer(self, task: Task, user: User | None, key: uuid.UUID) -> None:
        """Start the timer of a task; it goes on whatever happens to the page or the server."""
        if task.timer_h is not None:
            data = {"task": self.progress.tasks.index(task), "hours": task.timer_h}
            text = f"Timer of {hours_words(task.timer_h)}"
            self.batch.write(EntryKind.TIMER, user, step=max(task.step, 0), text=text, data=data, key=key)

    def decide(self, choice: str, user: User | None, key: uuid.UUID) -> None:
        """Go on after too much or too little: leave it, add what is lacking, or scale the batch to it."""
        deviation = self.deviation
        if deviation is None or choice not in [one.key for one in self.choices(deviation) if not one.trouble]:
            return
        words = {
            "scale": f"The whole batch, {figures(deviation.scale or 1.0)} times",
            "add": "What is lacking is added",
            "accept": "Left as it is",
        }[choice]
        with transaction.atomic():
            data = decided(choice, deviation)
            entry = self.batch.write(EntryKind.DECIDE, user, text=words, data=data, key=key)
            self._finish(self._and_then(entry), user)

    def take_back(self, entry: Written, user: User | None) -> None:
        """Take an entry back by another; what it took from a stock goes back too."""
        with transaction.atomic():
            self.batch.write(EntryKind.UNDO, user, undoes_id=entry.number, text=f"Taken back: {entry.text}")
            stock = self.lines[entry.line].stock if entry.line is not None else None
            if stock is not None:
                use = self._use(entry.number)
                taken = sum(one.mass_g for one in stock.uses.filter(reason=use))
                stock.take(Quantity(taken, "g"), f"{use}, taken back", sign=-1)

    def _finish(self, progress: Progress, user: User | None) -> None:
        """Made, when nothing is left to do or to decide."""
        if self.batch.state == State.MAKING and not progress.unfinished and deviation_of(progress) is None:
            self.batch.finish_making(user)
            self.batch.conclude(progress.result)

    def begin_wait(self, task: Task, user: User | None, key: uuid.UUID | None = None) -> Wait:
        """Tick off a task that is a wait, and begin it."""
        if task.wait_h is None:
            raise CannotReckon("There is nothing to wait for here.")
        with transaction.atomic():
            self.batch.write(EntryKind.STEP, user, step=task.step, text=task.text, key=key or uuid.uuid4())
            last = task == self.progress.tasks[-1]
            wait = self.batch.rest(task.wait_h, task.do, task.text, user, last=last)
            if last:
                self.batch.conclude(self.progress.result)
        return wait

    def with_stocks(self, stocks: dict[int, Stock]) -> tuple[Formula, tuple[str, ...]]:
        """The frozen formula made from the bottles really at hand, and what their strengths change in it."""
        strengths = {position: stock.strength for position, stock in stocks.items() if stock.strength is not None}
        formula, said = with_bottles(self.progress.formula, strengths)
        bulks = {position: stock.bulk for position, stock in stocks.items() if stock.bulk is not None}
        formula, lies = with_bulk(formula, bulks)
        return formula, (*said, *lies)
