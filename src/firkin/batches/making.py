"""A batch being made: what the maker confirms, each in one entry, and rescues."""

import uuid
from functools import cached_property

from django.db import transaction

from firkin.accounts.models import User
from firkin.batches.ledger import settle
from firkin.batches.models import Batch, BatchLine, Entry, Filling, State, Wait
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
from firkin.core.formula import Formula, Line, Reckoning, as_much_from, reckon, with_bottles, with_bulk
from firkin.core.measures import Quantity, figures, hours_words
from firkin.core.mending import Aim, aims_of, chosen, put_in_late, short_of_promise, what_to_do, with_extra
from firkin.core.texts import uncapped
from firkin.shelf.models import Stock


def _summed(one: Quantity, other: Quantity) -> Quantity | None:
    """The sum of two amounts in one unit; None of two."""
    return Quantity(one.value + other.value, one.unit) if one.unit == other.unit else None


class Making:
    """A batch with its lines and its progress, and what can be confirmed of it.

    Each line stands with the bottle it really is from: chosen while preparing, or corrected since.
    """

    def __init__(self, batch: Batch) -> None:
        self.batch = batch
        self.lines = list(batch.lines.all())
        entries = list(batch.entries.all())
        self.progress = batch.progress(self.lines, entries=entries)
        corrected = {entry.line_id: entry.stock for entry in entries if self._stands(entry)}
        for row in self.lines:
            row.stock = corrected.get(row.pk, row.stock)
            row.strength = self.progress.plan[row.position].strength

    def _stands(self, entry: Entry) -> bool:
        """True for the entry that says which bottle a line is from."""
        if entry.kind != EntryKind.BOTTLE:
            return False
        return any(one.number == entry.pk for one in self.progress.bottles.values())

    @cached_property
    def aims(self) -> tuple[Aim, ...]:
        """What it may work towards, by its formula as it was written."""
        try:
            return aims_of(reckon(self.batch.version.as_core()))
        except CannotReckon:
            return ()

    @property
    def aim(self) -> Aim | None:
        """What it works towards: as its maker picked, or what it promises, or its rule."""
        return chosen(self.aims, self.batch.aim)

    @property
    def promised(self) -> float | None:
        """The strength it promises, in % v/v; None where it promises none."""
        return next((one.pct for one in self.aims if one.key == "claim"), None)

    @property
    def promise(self) -> str:
        """A sentence where it holds its rule and not what it promises."""
        return self.short_of(self.progress.in_bottles)

    def short_of(self, result: Reckoning) -> str:
        """A sentence where a mix holds the rule and not what the batch promises."""
        return short_of_promise(result, self.promised)

    @property
    def what_to_do(self) -> tuple[str, ...]:
        """What to do about bottles of it that are filled, as the record now says it is."""
        bottles = sum(filling.count for filling in self.batch.fillings.all())
        return what_to_do(self.progress.in_bottles, self.promised, bottles)

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
        self,
        task: Task,
        amount: Quantity,
        user: User | None,
        key: uuid.UUID,
        *,
        simulated: bool = False,
        late: bool = False,
    ) -> None:
        """Write down what was measured for a line, take it from its stock, and conclude when it was the last.

        ``simulated`` says that a simulated scale showed it: the record says so. What went in ``late`` is an amount,
        also of what was to be topped up.
        """
        assert task.line is not None
        row, progress = self.lines[task.line], self.progress
        tops = task.kind is TaskKind.TOP_UP
        topping = tops and not late
        name = progress.formula.lines[task.line].material.name
        there = progress.measured.get(task.line)
        before = None if tops or there is None else there.amount
        already_g = progress.grams(task.line, before) if before else 0.0
        with transaction.atomic():
            planned = None if tops else already_g + progress.target_g(task)
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
                data=({"level": topping} if planned is None else self._asked(task, planned))
                | ({"simulated": True} if simulated else {}),
                key=key,
            )
            self._finish(self._and_then(entry), user)

    def _asked(self, task: Task, planned_g: float) -> dict[str, object]:
        """What is asked of a line now, kept with its entry: a rescue may plan it anew."""
        assert task.line is not None
        row, approach = self.lines[task.line], approach_of(self.progress, task)
        read = {"approach": True} if approach is not None and approach.read else {}
        times = planned_g / row.planned_g if row.planned_g else 1.0
        return {"planned": planned_g, "asked_mL": row.planned_mL * times, "strength": str(row.strength or "")} | read

    def _and_then(self, entry: Entry) -> Progress:
        """The progress with one entry more, without asking the database again; the shelf's ledger follows it."""
        after = self.progress.after(entry.as_core({row.pk: row.position for row in self.lines}))
        settle(self.batch, self.lines, after)
        return after

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
            entry = self.batch.write(EntryKind.PORTION, user, step=max(task.step, 0), text=text, data=data, key=key)
            self._and_then(entry)
            if read is not None and ph:
                found = {"what": "ph", "value": read}
                self.batch.write(EntryKind.READING, user, text=reading_words(found), data=found)
            elif read is not None:
                seen = {"thickness": int(read)}
                self.batch.write(EntryKind.OBSERVE, user, text=seen_words(seen), data={"seen": seen})

    def put_in_besides(self, line: Line, user: User | None, key: uuid.UUID, stock: Stock | None = None) -> Progress:
        """Write down what was put in besides the plan: a line of this batch, measured already, out of a bottle."""
        with transaction.atomic():
            formula, moves = self._with_extra(line, user)
            text = f"Put in beyond the plan: {line.amount.words} of {uncapped(line.material.name)}."
            self.batch.write(EntryKind.NOTE, user, text=text, data={"adds": True, **moves}, key=key)
            self.batch.amend(formula, user, "", {len(formula.lines) - 1: stock} if stock is not None else {})
            after = Making(self.batch)
            task = after.progress.task
            assert task is not None
            after.measure(task, line.amount, user, uuid.uuid4())
        return Making(self.batch).progress

    def _with_extra(self, line: Line, user: User | None) -> tuple[Formula, dict[str, int]]:
        """The formula with what was put in besides; a top-up that it leaves no room for is left out."""
        self.leave_out_what_has_no_room(user)
        formula, moves = with_extra(self.progress, line, self.batch.hours_left())
        try:
            reckon(formula)
        except CannotReckon:
            if self.progress.topping not in self.progress.pending:
                raise
            self._leave_out_the_top_up(user)
            formula, moves = with_extra(self.progress, line, self.batch.hours_left())
        return formula, moves

    def leave_out_what_has_no_room(self, user: User | None) -> None:
        """Write down that a top-up is left out, where what is in leaves no room for it: it is planned anew now."""
        if self.progress.has_no_room:
            self._leave_out_the_top_up(user)

    def _leave_out_the_top_up(self, user: User | None) -> None:
        assert self.progress.topping is not None
        task = self.progress.task_of(self.progress.topping)
        self._leave_out(task, f"Left out: {self._called(task)}.", "There is no room for it.", user, uuid.uuid4(), {})
        self.progress = Making(Batch.objects.get(pk=self.batch.pk)).progress

    def leave_out(self, task: Task, why: str, user: User | None, key: uuid.UUID) -> None:
        """Write down that a task was left out; the batch goes on without it.

        Raises CannotReckon where nothing would be left of the batch.
        """
        self._leave_out(task, f"Left out: {self._called(task)}.", why, user, key, {})

    def never_was(self, line: int, why: str, user: User | None, key: uuid.UUID) -> None:
        """Write down that a measured line is not in this batch after all; its bottle gets it back."""
        task = self.progress.task_of(line)
        self._leave_out(task, f"Not of this batch: {self._called(task)}.", why, user, key, {"void": True})

    def _called(self, task: Task) -> str:
        if task.line is not None:
            return uncapped(self.progress.formula.lines[task.line].material.name)
        return task.text.rstrip(".") or task.do

    def _leave_out(
        self, task: Task, text: str, why: str, user: User | None, key: uuid.UUID, data: dict[str, object]
    ) -> None:
        if task.line is not None and task.kind is not TaskKind.TOP_UP:
            data = {**self._asked(task, self._asked_g(task)), **data}
        with transaction.atomic():
            entry = self.batch.write(
                EntryKind.LEFT_OUT,
                user,
                line=None if task.line is None else self.lines[task.line],
                step=max(task.step, 0),
                text=f"{text} {why}".strip(),
                data=data,
                key=key,
            )
            after = self._and_then(entry)
            _ = after.result  # raises where nothing is left
            self._finish(after, user)
            self._concluded_anew(after)

    def _asked_g(self, task: Task) -> float:
        """What is asked of a task's line in all, g: of one that is in already what was asked then."""
        assert task.line is not None
        entry = self.progress.measured.get(task.line)
        if entry is not None and entry.asked is not None:
            return self.progress.grams_asked(task.line, entry)
        return self.progress.target_g(task)

    def put_in_late(self, line: int, amount: Quantity, user: User | None, key: uuid.UUID) -> None:
        """Write down that something left out is in after all; a batch that was made is mixed and rests again."""
        made = not self.progress.unfinished
        with transaction.atomic():
            left_h = self.batch.hours_left()
            self.measure(self.progress.task_of(line), amount, user, key, late=True)
            if made and self.batch.state != State.MAKING:
                after = Making(self.batch)
                after.leave_out_what_has_no_room(user)
                anew = after.progress
                formula, moves = put_in_late(anew, left_h)
                name = self.progress.formula.lines[line].material.name
                data = {"adds": True, "late": anew.measured[line].number, **moves}
                self.batch.write(EntryKind.NOTE, user, text=f"{name} went in late.", data=data)
                self.batch.amend(formula, user, "It is mixed once more, and rests as it must.")

    def other_bottle(self, line: int, stock: Stock, user: User | None, key: uuid.UUID) -> None:
        """Write down out of which bottle a line really is; everything is worked out anew from it.

        Of a line that is not in yet, with a strength that decides how much goes in, another amount is asked for.
        """
        row, was = self.lines[line], self.lines[line].stock
        strength = stock.strength_now
        data: dict[str, object] = {"strength": str(strength or ""), "was": str(row.strength or "")}
        if line not in self.progress.measured and strength is not None:
            there = self.progress.line_as_planned(line, Quantity(1.0, "g"))
            times, planned = as_much_from(there, strength), self.progress.planned[line]
            if times != 1.0:
                data |= {"planned": planned.g * times, "asked_mL": planned.mL * times}
        name = self.progress.formula.lines[line].material.name
        text = f"{name}: it is from {stock.name}" + (f", not from {was.name}." if was is not None else ".")
        with transaction.atomic():
            self.batch.write(EntryKind.BOTTLE, user, line=row, stock=stock, text=text, data=data, key=key)
            Making(Batch.objects.get(pk=self.batch.pk)).put_right()

    def put_right(self) -> None:
        """After a correction: the shelf's ledger, and what came of a batch that was made, as the record now says."""
        settle(self.batch, self.lines, self.progress)
        self._concluded_anew(self.progress)

    def _concluded_anew(self, progress: Progress) -> None:
        """What came of a batch that was made already, worked out once more after a correction."""
        if self.batch.made_at is not None and not progress.unfinished:
            self.batch.dues.filter(answered_at=None, kind__in=("keep-by", "discard")).delete()
            self.batch.conclude(progress)

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
            self.batch.write(EntryKind.UNDO, user, undoes_id=entry.number, text=f"Undone: {entry.text}")
            Making(Batch.objects.get(pk=self.batch.pk)).put_right()

    def _finish(self, progress: Progress, user: User | None) -> None:
        """Made, when nothing is left to do or to decide."""
        if self.batch.state == State.MAKING and not progress.unfinished and deviation_of(progress) is None:
            self.batch.finish_making(user)
            self.batch.conclude(progress)
            self._in_its_bottle(progress, user)

    def _in_its_bottle(self, progress: Progress, user: User | None) -> None:
        """What was mixed in the bottle it is used from is filled with that: nothing is poured over."""
        bottle = self.batch.vessel
        if bottle is None or bottle.kind != "bottle" or self.batch.fillings.exists():
            return
        Filling.objects.create(
            batch=self.batch, by=user, vessel=bottle, container=bottle.name, count=1, fill_mL=progress.to_fill_mL
        )
        resting = self.batch.state == State.RESTING
        state = State.RESTING if resting else State.FILLED
        self.batch.move_to(state, user, f"Mixed in its bottle: {bottle.name}.")

    def begin_wait(self, task: Task, user: User | None, key: uuid.UUID | None = None) -> Wait:
        """Tick off a task that is a wait, and begin it."""
        if task.wait_h is None:
            raise CannotReckon("There is nothing to wait for here.")
        with transaction.atomic():
            self.batch.write(EntryKind.STEP, user, step=task.step, text=task.text, key=key or uuid.uuid4())
            last = task == self.progress.tasks[-1]
            wait = self.batch.rest(task.wait_h, task.do, task.text, user, last=last)
            if last:
                self.batch.conclude(self.progress)
                self._in_its_bottle(self.progress, user)
        return wait

    def with_stocks(self, stocks: dict[int, Stock]) -> tuple[Formula, tuple[str, ...]]:
        """The frozen formula made from the bottles really at hand, and what their strengths change in it."""
        strengths = {position: now for position, stock in stocks.items() if (now := stock.strength_now) is not None}
        formula, said = with_bottles(self.progress.formula, strengths)
        bulks = {position: stock.bulk for position, stock in stocks.items() if stock.bulk is not None}
        formula, lies = with_bulk(formula, bulks)
        return formula, (*said, *lies)
