"""What a batch comes to by its journal: each line as measured and the rest as planned, in the vessel and in bottles."""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from functools import cached_property

from firkin.core.bench.journal import Entry
from firkin.core.bench.planned import Planned
from firkin.core.bench.story import Story
from firkin.core.bench.tasks import TaskKind, tasks_of
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, Reckoning, reckon, without
from firkin.core.kitchen import TOLERANCE
from firkin.core.measures import QS, Quantity

#: A batch that weighs less than this share of what went in was not weighed right (common practice, no source).
_LOST_MOST = 0.5
#: What a step does after which only the liquid is left.
STRAIN = "strain"


class Outcome(Story):
    """What a batch comes to as it stands. A line that was left out is in none of it.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> round(Outcome(rub, plan_of(rub), ()).result.main.lower)
    80
    """

    def __init__(self, formula: Formula, plan: Sequence[Planned], entries: Iterable[Entry]) -> None:
        super().__init__(formula, plan, entries)
        self.tasks = tasks_of(formula)
        self.topping = next((task.line for task in self.tasks if task.kind is TaskKind.TOP_UP), None)

    # what is asked of a line

    def asked_now(self, position: int) -> Quantity:
        """What to measure of a line that is not in: as planned, or as it was asked for when it was left out."""
        planned, factor = self.plan[position], self.factor
        g, mL = planned.g, planned.mL
        left_out = self.left_out.get(position)
        if left_out is not None and left_out.asked is not None:
            g, times = left_out.asked.g, left_out.asked.g / planned.g if planned.g else 0.0
            mL = mL * times if left_out.asked.mL is None else left_out.asked.mL
            factor = self.factor_since(left_out)
        factor *= self.by_weighing(position) or 1.0
        return Quantity(g * factor, "g") if planned.weighed else Quantity(mL * factor, "mL")

    def missing_g(self, position: int) -> float:
        """How much more of a measured line is wanted, g; 0 when it is enough.

        More is wanted because the batch was scaled since, or because what is lacking is to be added.
        """
        entry = self.measured[position]
        since = self.scaled_since.get(position, 1.0)
        as_it_is = since == 1.0 and position not in self.to_be_added
        if as_it_is or entry.amount is None or entry.asked is None:
            return 0.0
        wanted = self.grams_asked(position, entry) * since
        missing = wanted - self.grams(position, entry.amount)
        return missing if missing > TOLERANCE * wanted else 0.0

    @property
    def topped_up(self) -> bool:
        """True when it was topped up, and to a mark that is still the one to reach."""
        at = self.topping
        return at in self.measured and self.scaled_since.get(at, 1.0) == 1.0 and at not in self.to_be_added

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
            if i == self.topping or not e.amount or e.level
            else self.grams(i, e.amount) * self.left_of(e.number)
            for i, e in self.measured.items()
        )
        share = weighed / went_in if went_in else 0.0
        return share if _LOST_MOST <= share <= 1.0 + TOLERANCE else None

    # each line's amount

    def as_planned(self, factor: float = 1.0) -> Formula:
        """The formula ``factor`` times what is asked for, with at least what is in already."""
        lines = []
        for position in range(len(self.formula.lines)):
            asked = self.plan[position].g * self.factor * factor
            entry = self.measured.get(position)
            if entry is not None and entry.amount and position != self.topping and entry.asked is not None:
                asked = max(self.grams(position, entry.amount), asked)
            amount = Quantity(0.0, QS) if position == self.topping else Quantity(asked, "g")
            lines.append(self.line_as_planned(position, amount))
        make = self.formula.make.times(self.factor * factor) if self.formula.make and self.topping is not None else None
        return self._as_amounts(lines, make)

    def as_measured(self) -> Formula:
        """The formula with what was really measured, and the plan for the rest; also for what was left out."""
        lines = [self.line_as_planned(i, self._amount_in(i)) for i in range(len(self.formula.lines))]
        make = self.formula.make.times(self.factor) if self.formula.make else None
        if self.topping is None or not self._to_a_mark:
            return self._as_amounts(lines, make)
        mark = self.measured[self.topping].amount if self.topping in self.measured else None
        formula = self._as_amounts(lines, mark if mark and self.topped_up else make)
        if not self._late:
            return formula
        filled = self._masses(formula, frozenset(self.left_out) | self._late)[self.topping]
        lines[self.topping] = self.line_as_planned(self.topping, Quantity(filled, "g"))
        return self._as_amounts(lines, None)

    @property
    def _to_a_mark(self) -> bool:
        """True while its top-up goes to a mark, or went to one: not left out, nor put in late by so much."""
        at = self.topping
        return at not in self.left_out and (at not in self.measured or self.measured[at].level)

    @cached_property
    def _late(self) -> frozenset[int]:
        """The lines that went in after it was topped up: they come on top of its mark."""
        if self.topping is None or not self.topped_up or not self._to_a_mark:
            return frozenset()
        mark = self.measured[self.topping].number
        return frozenset(i for i, e in self.measured.items() if i != self.topping and e.number > mark)

    def _amount_in(self, position: int) -> Quantity:
        """How much of one line is in, or is to go in."""
        entry = self.measured.get(position)
        if position in self.left_out:  # as planned, and counted in nothing
            return self.in_the_formula(position)
        if position == self.topping and self._to_a_mark:
            return Quantity(0.0, QS)
        if entry is None or entry.amount is None:
            return self.asked_now(position)
        if entry.level:  # topped up before a rescue: as worked out then
            return Quantity(self.plan[position].g, "g")
        if missing := self.missing_g(position):
            return Quantity(self.grams(position, entry.amount) + missing, "g")
        if (left := self.left_of(entry.number)) < 1.0:
            return Quantity(self.grams(position, entry.amount) * left, "g")
        return entry.amount

    def in_the_formula(self, position: int) -> Quantity:
        """How a line that was left out stands in the formula: as planned; a gram of what was planned as nothing."""
        return Quantity(self.plan[position].g or 1.0, "g")

    def _as_amounts(self, lines: Sequence[Line], make: Quantity | None) -> Formula:
        """The formula with these lines; where its q.s. line is measured like the others, made up all the same."""
        measured = all(line.amount.kind != "qs" for line in lines)
        made_up = self.formula.made_up or (measured and self.formula.topped_up is not None)
        made_up = made_up and (self.topping is None or self._to_a_mark)
        return replace(self.formula, lines=tuple(lines), make=None if measured else make, made_up=made_up)

    # what it comes to

    def reckoned(self, formula: Formula) -> Reckoning:
        """A formula of this batch reckoned: without what was left out, nor a top-up there is no room for."""
        return self._worked(formula, frozenset(self.left_out))[0]

    def _worked(self, formula: Formula, gone: frozenset[int]) -> tuple[Reckoning, frozenset[int]]:
        """A formula of this batch without some lines, and which lines were left away in the end."""
        try:
            return _without(formula, gone), gone
        except CannotReckon:
            topping = formula.topped_up
            if topping is None or topping in gone:
                raise
            return _without(replace(formula, make=None), gone | {topping}), gone | {topping}

    def _masses(self, formula: Formula, gone: frozenset[int]) -> tuple[float, ...]:
        result, gone = self._worked(formula, gone)
        worked = iter(result.lines)
        return tuple(0.0 if i in gone else next(worked).mass_g for i in range(len(formula.lines)))

    def masses_of(self, formula: Formula) -> tuple[float, ...]:
        """What each line of a formula of this batch comes to in g; 0 of what is not in it."""
        return self._masses(formula, frozenset(self.left_out))

    @cached_property
    def result(self) -> Reckoning:
        """The reckoning of what was measured; without the top-up once there is no room for it."""
        return self.reckoned(self.as_measured())

    @cached_property
    def masses_g(self) -> tuple[float, ...]:
        """What each line comes to in g, as measured or as planned; 0 of what was left out or has no room."""
        return self.masses_of(self.as_measured())

    @property
    def overfull(self) -> bool:
        """True when what was poured leaves no room to top up."""
        return len(self.result.lines) + len(self.left_out) < len(self.formula.lines)

    @property
    def in_vessel(self) -> Reckoning | None:
        """The reckoning of what is in the vessel by now; None while nothing is."""
        asked = {i: self.missing_g(i) for i in self.measured if i != self.topping}  # and not in yet
        lines = [
            self.line_as_planned(i, Quantity(grams - asked.get(i, 0.0), "g"))
            for i, grams in enumerate(self.masses_g)
            if i in self.measured and grams
        ]
        return reckon(self._as_amounts(lines, None)) if lines else None

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
        came = [e.read.value for e in self.readings if e.read is not None and e.read.what == "volume"]
        return came[-1] if came and self.strained else None

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
        >>> batch = Outcome(rub, plan_of(rub), ())
        >>> round(batch.to_fill_mL, 1), [round(mL, 1) for mL in batch.poured_for(batch.to_fill_mL)]
        (1186.8, [1000.0, 200.0])
        """
        batch = fill_mL * self.made_mL / self.to_fill_mL
        return batch, batch * self.formula.cut


def _without(formula: Formula, gone: frozenset[int]) -> Reckoning:
    """A formula reckoned without some of its lines. Raises CannotReckon where nothing is left of it."""
    kept = without(formula, *gone) if gone else formula
    if kept is None:
        raise CannotReckon("Everything was left out: there is nothing in it.")
    return reckon(kept)
