"""A batch being made, as its entries say: which task is at hand, what it asks for, what was done and taken for it.

Pure functions over a frozen formula, what was planned for each of its lines, and the journal. Whoever keeps a batch in
a database asks this; nothing here knows of one.
"""

from datetime import datetime, timedelta
from functools import cached_property

from firkin.core.bench.journal import UNDOABLE, Entry, EntryKind
from firkin.core.bench.outcome import Outcome
from firkin.core.bench.planned import Planned, Recorded
from firkin.core.bench.tasks import Task, TaskKind, in_cups
from firkin.core.measures import Quantity


class Progress(Outcome):
    """How far a batch is, worked out from its entries: tasks, targets, what was measured, the strength as it stands.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> progress = Progress(rub, plan_of(rub), ())
    >>> progress.task.kind.value, progress.target(progress.task).words, round(progress.result.main.lower)
    ('pour', '833.3 mL', 80)
    """

    def after(self, entry: Entry) -> "Progress":
        """The progress with one entry more."""
        return Progress(self.formula, self.planned, (*self.standing, entry))

    def without(self, line: int) -> "Progress":
        """The progress as if a line had not been measured yet."""
        others = [e for e in self.standing if e.kind is not EntryKind.POUR or e.line != line]
        return Progress(self.formula, self.planned, others)

    @property
    def has_no_room(self) -> bool:
        """True for a batch with a top-up of which nothing is in, or can go in: what is in comes to its mark already."""
        at = self.topping
        if at is None or at in self.left_out:
            return False
        return self.overfull or (at in self.measured and not self.masses_g[at])

    def with_its_room(self) -> "Progress":
        """The progress with a top-up left out that there is no room for: nothing of it goes in any more."""
        if not self.has_no_room:
            return self
        last = self.standing[-1]
        return self.after(Entry(last.number + 1, EntryKind.LEFT_OUT, last.at, line=self.topping))

    # what is done

    @cached_property
    def _done_steps(self) -> set[int]:
        """The places of the steps that were ticked off, or left out."""
        done = [e for e in self.standing if e.kind in (EntryKind.STEP, EntryKind.LEFT_OUT) and e.line is None]
        return {self.since_moved(entry, entry.step, "step") for entry in done if entry.step is not None}

    def is_done(self, task: Task) -> bool:
        """True when the task's entry stands, and is enough; or it was left out."""
        if task.line is None:
            return task.step in self._done_steps
        if task.line in self.left_out:
            return True
        if task.line not in self.measured:
            return False
        if task.line == self.topping:
            return self.topped_up
        return not self.missing_g(task.line)

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
        """The place of the task as a form names it: another one each time a line is asked for again or more goes in."""
        return None if self.position is None else self.position + self.rounds * len(self.tasks)

    @property
    def unfinished(self) -> bool:
        """True while any task is left to do."""
        return self.position is not None

    @property
    def last(self) -> Entry | None:
        """The last entry that can be taken back; no bottle that the batch was planned anew by since."""
        for entry in reversed(self.standing):
            planned_by = entry.kind is EntryKind.BOTTLE and entry.number < self.planned_anew
            if entry.kind in UNDOABLE and not planned_by:
                return entry
        return None

    @property
    def more(self) -> bool:
        """True when the task asks for more of a line that is in already."""
        return self.task is not None and self.task.line in self.measured and self.task.line != self.topping

    @property
    def lacking(self) -> bool:
        """True when the task asks for what is lacking of a line."""
        return self.task is not None and self.task.line in self.to_be_added

    def task_of(self, line: int) -> Task:
        """The task that measures a line."""
        return next(task for task in self.tasks if task.line == line)

    def portions_of(self, task: Task) -> tuple[Entry, ...]:
        """The entries of the additions of a task that are in."""
        place = self.tasks.index(task)
        return tuple(entry for entry in self.standing if self.is_of(entry, EntryKind.PORTION, place))

    def portions_in(self, task: Task) -> int:
        """How many additions of a task are in."""
        return len(self.portions_of(task))

    def timer_end(self, task: Task) -> datetime | None:
        """When the timer of a task runs out; None when it was not started."""
        place = self.tasks.index(task)
        for entry in reversed(self.standing):
            if self.is_of(entry, EntryKind.TIMER, place):
                return entry.at + timedelta(hours=entry.hours)
        return None

    # what is asked for

    def target(self, task: Task) -> Quantity:
        """What to measure: the planned amount, or the size to top up to, scaled by what was decided since.

        Of a line that is in already, what is still missing of it. Once something was poured over or short and left so,
        the top-up still goes to the planned mark.
        """
        assert task.line is not None
        if task.kind is TaskKind.TOP_UP and self.formula.make is not None:
            return self.formula.make.times(self.factor)
        if task.line not in self.measured:
            return self.asked_now(task.line)
        planned = self.plan[task.line]
        share = self.missing_g(task.line) / planned.g if planned.g else 0.0
        return Quantity(planned.g * share, "g") if planned.weighed else Quantity(planned.mL * share, "mL")

    def portion_target(self, task: Task) -> Quantity:
        """What one addition comes to."""
        return self.target(task).times(1.0 / task.portions)

    def target_g(self, task: Task) -> float:
        """What to measure, in g, for the scale."""
        assert task.line is not None
        return self.grams(task.line, self.target(task))

    def weighs_after_g(self, task: Task) -> float | None:
        """What is in the vessel weighs once a task's line is in as asked for, g; None for what is not measured.

        None also for what goes into a cup of its own; what stands in one is not in the vessel yet.
        """
        if task.line is None or task.vessel:
            return None
        aside = in_cups(self.tasks, self.tasks.index(task))
        inside = [i for i in self.measured if i != task.line and i not in aside]
        there = sum(self.masses_g[i] for i in inside)
        before = self.measured.get(task.line)
        if task.kind is TaskKind.TOP_UP:
            return there + self.masses_g[task.line]
        already = self.grams(task.line, before.amount) if before is not None and before.amount else 0.0
        return there + already + self.target_g(task)

    @property
    def aside(self) -> set[int]:
        """The lines that stand in a cup beside the main vessel by now."""
        return in_cups(self.tasks, len(self.tasks) if self.position is None else self.position)

    # what was taken

    def taken_g(self, position: int) -> float:
        """Grams of a line that came out of its bottle: all that went in, also what boiled over since."""
        entry = self.measured.get(position)
        if entry is None:
            return 0.0 if position in self.left_out else self._dosed_g(position)
        if entry.level or entry.amount is None:
            return self.masses_g[position] / self.left_of(entry.number)
        return self.grams(position, entry.amount)

    def _dosed_g(self, position: int) -> float:
        """Grams of a line that are in by small additions, while it is not finished."""
        if all(task.line != position for task in self.tasks):
            return 0.0
        unit = "g" if self.plan[position].weighed else "mL"
        total = sum(dose[0] for e in self.portions_of(self.task_of(position)) if (dose := e.dose) is not None)
        return self.grams(position, Quantity(total, unit)) if total else 0.0

    def recorded(self) -> tuple[Recorded, ...]:
        """Each line with what was asked for when it was measured, and its entry."""
        return tuple(self._recorded(position) for position in range(len(self.formula.lines)))

    def _recorded(self, position: int) -> Recorded:
        entry, planned = self.measured.get(position) or self.left_out.get(position), self.plan[position]
        asked = entry.asked if entry is not None else None
        if asked is not None and asked.mL is not None:  # the plan it was measured by, not today's
            bottle = self.bottles.get(position)
            strength = bottle.strength if bottle is not None and bottle.strength else asked.strength
            planned = Planned(asked.mL, asked.g, strength, planned.weighed, planned.bulk)
        return Recorded(self.formula.lines[position], planned, entry)
