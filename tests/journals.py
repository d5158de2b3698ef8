"""A journal filled without a database, for tests of what core makes of one."""

from datetime import UTC, datetime, timedelta

from firkin.core.bench import Entry, EntryKind, Progress, TaskKind, plan_of
from firkin.core.formula import Formula
from firkin.core.measures import Quantity
from mixes import mix

RUB = mix(("ethanol", "800 mL", "96 %"), ("glycerol", "15 mL"), ("water", "q.s."), make="1 L", family="liquid-rub")
BEGUN = datetime(2026, 5, 1, 9, tzinfo=UTC)


class Journal:
    """A journal as a maker fills it, an entry a minute."""

    def __init__(self, formula: Formula) -> None:
        self.formula, self.plan = formula, plan_of(formula)
        self.entries: list[Entry] = []

    @property
    def progress(self) -> Progress:
        return Progress(self.formula, self.plan, self.entries)

    def write(self, kind: EntryKind, **fields) -> Entry:
        number = len(self.entries) + 1
        entry = Entry(number, kind, BEGUN + timedelta(minutes=number), **fields)
        self.entries.append(entry)
        return entry

    def do(self, factor: float = 1.0) -> Entry:
        """The task at hand, with ``factor`` of what is asked for."""
        progress, task = self.progress, self.progress.task
        if task.line is None:
            return self.write(EntryKind.STEP, step=task.step)
        asked = progress.target(task).times(factor)
        if task.kind is TaskKind.TOP_UP:
            return self.write(EntryKind.POUR, line=task.line, amount=asked, data={"level": True})
        there = progress.measured.get(task.line)
        before = progress.grams(task.line, there.amount) if there else 0.0
        planned = before + progress.target_g(task)
        amount = Quantity(before + progress.grams(task.line, asked), "g") if there else asked
        return self.write(EntryKind.POUR, line=task.line, amount=amount, data={"planned": planned})

    def scale(self, factor: float) -> None:
        self.write(EntryKind.DECIDE, data={"factor": factor, "whole": True})

    def finish(self) -> None:
        for _ in range(500):
            if not self.progress.unfinished:
                return
            self.do()
