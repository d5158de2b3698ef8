"""What a journal says of each line of a batch: measured, left out, out of which bottle, scaled since, moved since.

The first of three: `story` reads the entries, `outcome` works out what they come to, `progress` says what is to do.
"""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from functools import cached_property
from math import prod

from firkin.core.bench.journal import Entry, EntryKind, standing
from firkin.core.bench.planned import Planned
from firkin.core.formula import Formula, Line, reckon
from firkin.core.measures import Quantity, Strength


class Story:
    """The entries that stand of a batch, line by line; amounts in g, places by position.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> Story(rub, plan_of(rub), ()).pending
    (0, 1, 2, 3)
    """

    def __init__(self, formula: Formula, plan: Sequence[Planned], entries: Iterable[Entry]) -> None:
        self.formula = formula
        self.planned = tuple(plan)
        self.standing = standing(entries)

    # which lines are in

    @cached_property
    def _last_of(self) -> dict[int, Entry]:
        """The entry that stands for each line that was measured or left out, by position."""
        kinds = (EntryKind.POUR, EntryKind.LEFT_OUT)
        return {e.line: e for e in self.standing if e.kind in kinds and e.line is not None}

    @cached_property
    def measured(self) -> dict[int, Entry]:
        """The entry that stands for each line measured so far, by position."""
        return {line: e for line, e in self._last_of.items() if e.kind is EntryKind.POUR}

    @cached_property
    def left_out(self) -> dict[int, Entry]:
        """The entry of each line that was left out and not put in since, by position."""
        return {line: e for line, e in self._last_of.items() if e.kind is EntryKind.LEFT_OUT}

    @property
    def pending(self) -> tuple[int, ...]:
        """Positions of the lines nothing of which is in yet, and that were not left out."""
        return tuple(i for i in range(len(self.formula.lines)) if i not in self._last_of)

    # out of which bottle

    @cached_property
    def bottles(self) -> dict[int, Entry]:
        """The last entry that says out of which bottle a line really is, by position."""
        return {e.line: e for e in self.standing if e.kind is EntryKind.BOTTLE and e.line is not None}

    @cached_property
    def plan(self) -> tuple[Planned, ...]:
        """What is planned for each line, out of the bottle it really is from.

        What was planned anew after a bottle was corrected knows of that bottle already.
        """
        return tuple(
            self._from_bottle(position, planned, self.bottles.get(position))
            for position, planned in enumerate(self.planned)
        )

    @cached_property
    def planned_anew(self) -> int:
        """The number of the entry with which it was last planned anew; 0 where it never was."""
        return max((e.number for e in self.standing if e.adds), default=0)

    def _from_bottle(self, position: int, planned: Planned, bottle: Entry | None) -> Planned:
        if bottle is None or bottle.number < self.planned_anew or bottle.strength is None:
            return planned
        if bottle.asked is not None and position not in self.measured:  # another amount of it holds as much
            g, mL = bottle.asked.g, bottle.asked.mL or planned.mL
        elif planned.weighed:
            g, mL = planned.g, self._comes_to(position, Quantity(planned.g, "g"), bottle.strength)[1]
        else:
            g, mL = self._comes_to(position, Quantity(planned.mL, "mL"), bottle.strength)[0], planned.mL
        return replace(planned, g=g, mL=mL, strength=bottle.strength)

    def _comes_to(self, position: int, amount: Quantity, strength: Strength | None) -> tuple[float, float]:
        """What an amount of a line is in g and mL, out of a bottle of a strength."""
        line = replace(self.formula.lines[position], amount=amount, strength=strength)
        total = reckon(Formula("One line", (line,), temperature=self.formula.temperature)).total
        return total.mass_g, total.volume_mL

    def grams(self, position: int, amount: Quantity) -> float:
        """What a measured amount of a line weighs, in g."""
        return amount.g if amount.kind == "mass" else self._comes_to(position, amount, self.plan[position].strength)[0]

    def grams_asked(self, position: int, entry: Entry) -> float:
        """What was asked of a line when it was measured, in g, by the bottle it really is from.

        A cup measures the same of either bottle: told of another, what was asked is as much by volume as it was.
        """
        asked = entry.asked
        assert asked is not None
        bottle, amount = self.bottles.get(position), entry.amount
        if bottle is None or bottle.number < entry.number or amount is None or amount.kind == "mass":
            return asked.g
        then = self._comes_to(position, amount, asked.strength)[0]
        return asked.g * self.grams(position, amount) / then if then else asked.g

    # what was decided and what is gone

    @cached_property
    def scaled_since(self) -> dict[int, float]:
        """By how much the batch was scaled since a line was last measured, by position."""
        since: dict[int, float] = {}
        for entry in self.standing:
            if entry.kind is EntryKind.POUR and entry.line is not None:
                since[entry.line] = 1.0
            elif (decision := entry.decision) is not None and decision.whole:
                since = {position: factor * decision.factor for position, factor in since.items()}
        return since

    @cached_property
    def to_be_added(self) -> frozenset[int]:
        """Positions of the lines of which too little went in and what is lacking is to be added."""
        lacking: set[int] = set()
        for entry in self.standing:
            if entry.kind in (EntryKind.POUR, EntryKind.LEFT_OUT) and entry.line is not None:
                lacking.discard(entry.line)
            elif (decision := entry.decision) is not None and decision.add is not None:
                lacking.add(decision.add)
        return frozenset(lacking)

    @cached_property
    def factor(self) -> float:
        """By how much what is still to come is scaled, after what was decided since it was planned.

        A rescue that adds something plans anew from what is in the vessel: what was decided before is in its amounts.
        """
        rescued = [i for i, e in enumerate(self.standing) if e.adds]
        since = self.standing[rescued[-1] :] if rescued else self.standing
        return prod(decision.factor for e in since if (decision := e.decision) is not None)

    def factor_since(self, entry: Entry) -> float:
        """By how much what is still to come was scaled after an entry."""
        return prod(d.factor for e in self.standing if e.number > entry.number and (d := e.decision) is not None)

    def left_of(self, number: int) -> float:
        """The share that is still there of what had gone in by an entry: what boiled over since is gone."""
        return prod(e.left for e in self.standing if e.number > number)

    @property
    def gone_mL(self) -> float:
        """mL of the finished batch that were not kept."""
        return sum(e.gone_mL for e in self.standing)

    # what was read

    @property
    def readings(self) -> list[Entry]:
        """The readings that stand and were really measured."""
        return [one for one in self.standing if one.kind is EntryKind.READING and not one.simulated]

    def read_since_poured(self, what: str) -> float | None:
        """What was last read of something since the last line went in; None where it was not."""
        poured = max((entry.number for entry in self.measured.values()), default=0)
        read = [e for e in self.readings if e.read is not None and e.read.what == what]
        last = read[-1] if read else None
        return last.read.value if last is not None and last.read is not None and last.number > poured else None

    # where it was written

    def since_moved(self, entry: Entry, place: int, of: str) -> int:
        """A place as it is now: what a rescue put in before it has moved it on since the entry was written."""
        for rescue in self.standing:
            moves = rescue.moves
            if moves is not None and rescue.number > entry.number and place >= getattr(moves, of):
                place += moves.added
        return place

    def is_of(self, entry: Entry, kind: EntryKind, place: int) -> bool:
        """True for an entry of a kind that was written at the task in a place."""
        return entry.kind is kind and entry.place is not None and self.since_moved(entry, entry.place, "task") == place

    @property
    def rounds(self) -> int:
        """How often a line was asked for again, something more was put in, or one was put in late."""
        decided = [d for e in self.standing if (d := e.decision) is not None]
        return sum(d.whole or d.add is not None for d in decided) + sum(e.adds for e in self.standing)

    def line_as_planned(self, position: int, amount: Quantity) -> Line:
        """A line of the formula with an amount, out of the bottle it really is from."""
        return replace(self.formula.lines[position], amount=amount, strength=self.plan[position].strength)
