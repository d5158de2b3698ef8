"""A batch being made, as its entries say: its tasks in order, what has been measured, the strength as it stands.

Pure functions over a frozen formula, what was planned for each of its lines, and the journal. Whoever keeps a batch in
a database asks this; nothing here knows of one.
"""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from functools import cached_property
from math import prod

from firkin.core.bench.journal import UNDOABLE, Entry, EntryKind, standing
from firkin.core.bench.planned import Planned, Recorded
from firkin.core.bench.tasks import Task, TaskKind, tasks_of
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, Reckoning, reckon, without
from firkin.core.kitchen import TOLERANCE
from firkin.core.measures import QS, Quantity, read_strength

#: A batch that weighs less than this share of what went in was not weighed right (common practice, no source).
_LOST_MOST = 0.5
#: What a step does after which only the liquid is left.
STRAIN = "strain"


class Progress:
    """How far a batch is, worked out from its entries: tasks, targets, what was measured, the strength as it stands.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> progress = Progress(rub, plan_of(rub), ())
    >>> progress.task.kind.value, progress.target(progress.task).words, round(progress.result.main.lower)
    ('pour', '833.3 mL', 80)
    """

    def __init__(self, formula: Formula, plan: Sequence[Planned], entries: Iterable[Entry]) -> None:
        self.formula = formula
        self.plan = tuple(plan)
        self.standing = standing(entries)
        self.tasks = tasks_of(formula)
        self.topping = next((task.line for task in self.tasks if task.kind is TaskKind.TOP_UP), None)

    def after(self, entry: Entry) -> "Progress":
        """The progress with one entry more."""
        return Progress(self.formula, self.plan, (*self.standing, entry))

    # what is done

    @cached_property
    def measured(self) -> dict[int, Entry]:
        """The entry that stands for each line measured so far, by position."""
        return {e.line: e for e in self.standing if e.kind is EntryKind.POUR and e.line is not None}

    @cached_property
    def _done_steps(self) -> set[int]:
        done = [(e, e.step) for e in self.standing if e.kind is EntryKind.STEP and e.step is not None]
        return {self._since_moved(entry, step, "step") for entry, step in done}

    def _since_moved(self, entry: Entry, place: int, of: str) -> int:
        """A place as it is now: what a rescue put in before it has moved it on since the entry was written."""
        for rescue in self.standing:
            if rescue.number > entry.number and "added" in rescue.data:
                place += int(rescue.data["added"]) if place >= int(rescue.data[of]) else 0
        return place

    def _is_of(self, entry: Entry, kind: EntryKind, place: int) -> bool:
        """True for an entry of a kind that was written at the task in a place."""
        return entry.kind is kind and self._since_moved(entry, int(entry.data["task"]), "task") == place

    @cached_property
    def scaled_since(self) -> dict[int, float]:
        """By how much the batch was scaled since a line was last measured, by position."""
        since: dict[int, float] = {}
        for entry in self.standing:
            if entry.kind is EntryKind.POUR and entry.line is not None:
                since[entry.line] = 1.0
            elif entry.kind is EntryKind.DECIDE and entry.data.get("whole"):
                since = {position: factor * float(entry.data["factor"]) for position, factor in since.items()}
        return since

    @cached_property
    def to_be_added(self) -> frozenset[int]:
        """Positions of the lines of which too little went in and what is lacking is to be added."""
        lacking: set[int] = set()
        for entry in self.standing:
            if entry.kind is EntryKind.POUR and entry.line is not None:
                lacking.discard(entry.line)
            elif entry.kind is EntryKind.DECIDE and entry.data.get("add") is not None:
                lacking.add(int(entry.data["add"]))
        return frozenset(lacking)

    def missing_g(self, position: int) -> float:
        """How much more of a measured line is wanted, g; 0 when it is enough.

        More is wanted because the batch was scaled since, or because what is lacking is to be added.
        """
        entry = self.measured[position]
        since = self.scaled_since.get(position, 1.0)
        as_it_is = since == 1.0 and position not in self.to_be_added
        if as_it_is or entry.amount is None or "planned" not in entry.data:
            return 0.0
        wanted = float(entry.data["planned"]) * since
        missing = wanted - self.grams(position, entry.amount)
        return missing if missing > TOLERANCE * wanted else 0.0

    def is_done(self, task: Task) -> bool:
        """True when the task's entry stands, and is enough."""
        if task.line is None:
            return task.step in self._done_steps
        if task.line not in self.measured:
            return False
        if task.line == self.topping:
            return self._topped_up
        return not self.missing_g(task.line)

    @property
    def _topped_up(self) -> bool:
        """True when it was topped up, and to a mark that is still the one to reach."""
        at = self.topping
        return at in self.measured and self.scaled_since.get(at, 1.0) == 1.0 and at not in self.to_be_added

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
        again = ("whole", "adds", "add")
        rounds = sum(any(e.data.get(key) not in (None, False) for key in again) for e in self.standing)
        return None if self.position is None else self.position + rounds * len(self.tasks)

    @property
    def unfinished(self) -> bool:
        """True while any task is left to do."""
        return self.position is not None

    @property
    def pending(self) -> tuple[int, ...]:
        """Positions of the lines nothing of which is in yet."""
        return tuple(i for i in range(len(self.formula.lines)) if i not in self.measured)

    @property
    def last(self) -> Entry | None:
        """The last entry that can be taken back."""
        return next((entry for entry in reversed(self.standing) if entry.kind in UNDOABLE), None)

    @property
    def more(self) -> bool:
        """True when the task asks for more of a line that is in already."""
        return self.task is not None and self.task.line in self.measured and self.task.line != self.topping

    @property
    def lacking(self) -> bool:
        """True when the task asks for what is lacking of a line."""
        return self.task is not None and self.task.line in self.to_be_added

    def portions_of(self, task: Task) -> tuple[Entry, ...]:
        """The entries of the additions of a task that are in."""
        place = self.tasks.index(task)
        return tuple(entry for entry in self.standing if self._is_of(entry, EntryKind.PORTION, place))

    def portions_in(self, task: Task) -> int:
        """How many additions of a task are in."""
        return len(self.portions_of(task))

    def without(self, line: int) -> "Progress":
        """The progress as if a line had not been measured yet."""
        return Progress(
            self.formula, self.plan, [e for e in self.standing if e.kind is not EntryKind.POUR or e.line != line]
        )

    def timer_end(self, task: Task) -> datetime | None:
        """When the timer of a task runs out; None when it was not started."""
        place = self.tasks.index(task)
        for entry in reversed(self.standing):
            if self._is_of(entry, EntryKind.TIMER, place):
                return entry.at + timedelta(hours=float(entry.data["hours"]))
        return None

    # what is asked for

    @cached_property
    def factor(self) -> float:
        """By how much what is still to come is scaled, after what was decided since it was planned.

        A rescue that adds something plans anew from what is in the vessel: what was decided before is in its amounts.
        """
        rescued = [i for i, e in enumerate(self.standing) if e.data.get("adds")]
        since = self.standing[rescued[-1] :] if rescued else self.standing
        return prod(float(e.data.get("factor", 1.0)) for e in since if e.kind is EntryKind.DECIDE)

    def target(self, task: Task) -> Quantity:
        """What to measure: the planned amount, or the size to top up to, scaled by what was decided since.

        Of a line that is in already, what is still missing of it. Once something was poured over or short and left so,
        the top-up still goes to the planned mark.
        """
        assert task.line is not None
        if task.kind is TaskKind.TOP_UP and self.formula.make is not None:
            return self.formula.make.times(self.factor)
        planned = self.plan[task.line]
        factor = self.factor
        if task.line not in self.measured:
            factor *= self.by_weighing(task.line) or 1.0
        else:
            factor = self.missing_g(task.line) / planned.g if planned.g else 0.0
        return Quantity(planned.g * factor, "g") if planned.weighed else Quantity(planned.mL * factor, "mL")

    @property
    def readings(self) -> list[Entry]:
        """The readings that stand and were really measured."""
        return [one for one in self.standing if one.kind is EntryKind.READING and not one.simulated]

    def read_since_poured(self, what: str) -> float | None:
        """What was last read of something since the last line went in; None where it was not."""
        poured = max((entry.number for entry in self.measured.values()), default=0)
        read = [e for e in self.readings if e.data["what"] == what]
        return float(read[-1].data["value"]) if read and read[-1].number > poured else None

    def by_weighing(self, position: int) -> float | None:
        """By how much a preservative is more or less than planned, for what the batch weighs just before it goes in.

        None for anything else, and where it was not weighed, or weighs what it cannot: more than went in is a vessel
        weighed with it, less than half a slip.
        """
        weighed = self.read_since_poured("mass")
        if weighed is None or "preservative" not in self.formula.lines[position].material.roles:
            return None
        went_in = sum(
            self.plan[i].g * self.factor
            if i == self.topping or not e.amount or e.data.get("level")
            else self.grams(i, e.amount) * self.left_of(e.number)
            for i, e in self.measured.items()
        )
        share = weighed / went_in if went_in else 0.0
        return share if _LOST_MOST <= share <= 1.0 + TOLERANCE else None

    def left_of(self, number: int) -> float:
        """The share that is still there of what had gone in by an entry: what boiled over since is gone."""
        return prod(float(e.data.get("left", 1.0)) for e in self.standing if e.number > number)

    def portion_target(self, task: Task) -> Quantity:
        """What one addition comes to."""
        return self.target(task).times(1.0 / task.portions)

    def target_g(self, task: Task) -> float:
        """What to measure, in g, for the scale."""
        assert task.line is not None
        return self.grams(task.line, self.target(task))

    def grams(self, position: int, amount: Quantity) -> float:
        """What a measured amount of a line weighs."""
        if amount.kind == "mass":
            return amount.g
        line = replace(self.formula.lines[position], amount=amount, strength=self.plan[position].strength)
        return reckon(Formula("One line", (line,), temperature=self.formula.temperature)).total.mass_g

    def weighs_after_g(self, task: Task) -> float | None:
        """What is in the vessel weighs once a task's line is in as asked for, g; None for what is not measured."""
        if task.line is None:
            return None
        there = sum(grams for i, grams in enumerate(self.masses_g) if i in self.measured and i != task.line)
        before = self.measured.get(task.line)
        if task.kind is TaskKind.TOP_UP:
            return there + self.masses_g[task.line]
        already = self.grams(task.line, before.amount) if before is not None and before.amount else 0.0
        return there + already + self.target_g(task)

    # what it comes to

    def as_planned(self, factor: float = 1.0) -> Formula:
        """The formula ``factor`` times what is asked for, with at least what is in already."""
        lines = []
        for position, line in enumerate(self.formula.lines):
            asked = self.plan[position].g * self.factor * factor
            entry = self.measured.get(position)
            if entry is not None and entry.amount and position != self.topping and "planned" in entry.data:
                asked = max(self.grams(position, entry.amount), asked)
            amount = Quantity(0.0, QS) if position == self.topping else Quantity(asked, "g")
            lines.append(replace(line, amount=amount, strength=self.plan[position].strength))
        make = self.formula.make.times(self.factor * factor) if self.formula.make and self.topping is not None else None
        return self._as_amounts(lines, make)

    def as_measured(self) -> Formula:
        """The formula with what was really measured, and the plan for the rest."""
        lines: list[Line] = []
        make = self.formula.make.times(self.factor) if self.formula.make else None
        for position, line in enumerate(self.formula.lines):
            entry = self.measured.get(position)
            poured = entry.amount if entry is not None else None
            if position == self.topping:
                make = poured if poured and self._topped_up else make
                lines.append(replace(line, amount=Quantity(0.0, QS)))
                continue
            if poured is None:
                amount = self.target(Task(TaskKind.POUR, 0, "", line=position))
            elif entry is not None and entry.data.get("level"):  # topped up before a rescue: as worked out then
                amount = Quantity(self.plan[position].g, "g")
            elif self.missing_g(position):
                amount = Quantity(self.grams(position, poured) + self.missing_g(position), "g")
            elif entry is not None and self.left_of(entry.number) < 1.0:
                amount = Quantity(self.grams(position, poured) * self.left_of(entry.number), "g")
            else:
                amount = poured
            lines.append(replace(line, amount=amount, strength=self.plan[position].strength))
        return self._as_amounts(lines, make)

    def _as_amounts(self, lines: Sequence[Line], make: Quantity | None) -> Formula:
        """The formula with these lines; where its q.s. line is measured like the others, made up all the same."""
        measured = all(line.amount.kind != "qs" for line in lines)
        made_up = self.formula.made_up or (measured and self.formula.topped_up is not None)
        return replace(self.formula, lines=tuple(lines), make=None if measured else make, made_up=made_up)

    @cached_property
    def result(self) -> Reckoning:
        """The reckoning of what was measured; without the top-up once there is no room for it."""
        return reckoned(self.as_measured())

    @cached_property
    def masses_g(self) -> tuple[float, ...]:
        """What each line comes to in g, as measured or as planned; 0 of a top-up there is no room for."""
        left_out = self.topping if self.overfull else None
        worked = iter(self.result.lines)
        return tuple(0.0 if i == left_out else next(worked).mass_g for i in range(len(self.formula.lines)))

    @property
    def in_vessel(self) -> Reckoning | None:
        """The reckoning of what is in the vessel by now; None while nothing is."""
        lines = [
            replace(line, amount=Quantity(grams, "g"), strength=planned.strength)
            for i, (line, grams, planned) in enumerate(zip(self.formula.lines, self.masses_g, self.plan, strict=True))
            if i in self.measured and grams
        ]
        return reckon(self._as_amounts(lines, None)) if lines else None

    @property
    def overfull(self) -> bool:
        """True when what was poured leaves no room to top up."""
        return len(self.result.lines) < len(self.formula.lines)

    @cached_property
    def in_bottles(self) -> Reckoning:
        """What is in a bottle: the batch as measured, cut with its water, contraction counted."""
        made = self.result
        if not self.formula.cut:
            return made
        lines = [
            replace(line, amount=Quantity(worked.mass_g, "g"))
            for line, worked in zip(made.formula.lines, made.lines, strict=True)
        ]
        lines.append(Line(find("water"), Quantity(made.total.volume_mL * self.formula.cut, "mL")))
        return reckon(replace(made.formula, lines=tuple(lines), make=None))

    @property
    def strained(self) -> bool:
        """True for what is strained before it is filled: only its liquid goes into bottles."""
        return any(step.do == STRAIN for step in self.formula.steps)

    @cached_property
    def yield_mL(self) -> float | None:
        """mL of liquid that came of it once strained, as last measured; None where that was not measured."""
        came = [e.data["value"] for e in self.readings if e.data["what"] == "volume"]
        return float(came[-1]) if came and self.strained else None

    @property
    def made_mL(self) -> float:
        """mL there are to fill before it is cut: what came of straining it, or else what went in comes to."""
        return self.result.total.volume_mL if self.yield_mL is None else self.yield_mL

    @property
    def to_fill_mL(self) -> float:
        """mL that go into bottles in all, cut with water where it is cut."""
        return self.in_bottles.total.volume_mL * self.made_mL / self.result.total.volume_mL

    def poured_for(self, fill_mL: float) -> tuple[float, float]:
        """Of ``fill_mL`` in a bottle, mL of the batch and mL of the water it is cut with; together a little more.

        >>> from firkin.core.bench.planned import plan_of
        >>> from firkin.core.formula import house_formulas
        >>> rub = replace(house_formulas()["who-one"].formula, cut=0.2)
        >>> progress = Progress(rub, plan_of(rub), ())
        >>> round(progress.to_fill_mL, 1), [round(mL, 1) for mL in progress.poured_for(progress.to_fill_mL)]
        (1186.8, [1000.0, 200.0])
        """
        batch = fill_mL * self.made_mL / self.to_fill_mL
        return batch, batch * self.formula.cut

    def recorded(self) -> tuple[Recorded, ...]:
        """Each line with what was asked for when it was measured, and its entry."""
        rows = []
        for position, (line, planned) in enumerate(zip(self.formula.lines, self.plan, strict=True)):
            entry = self.measured.get(position)
            if entry is not None and "asked_mL" in entry.data:
                strength = read_strength(entry.data["strength"]) if entry.data["strength"] else None
                planned = Planned(  # noqa: PLW2901  the plan it was measured by, not today's
                    float(entry.data["asked_mL"]),
                    float(entry.data["planned"]),
                    strength,
                    planned.weighed,
                    planned.bulk,
                )
            rows.append(Recorded(line, planned, entry))
        return tuple(rows)


def reckoned(formula: Formula) -> Reckoning:
    """A formula reckoned, without its top-up where there is no room for it."""
    try:
        return reckon(formula)
    except CannotReckon:
        left = without(formula, formula.topped_up) if formula.topped_up is not None else None
        if left is None:
            raise
        return reckon(replace(left, make=None))
