"""The tasks of a formula: its steps as things to tick off, one at a time."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from firkin.core.formula import Formula, Step, tops_last, with_steps


class TaskKind(StrEnum):
    """What a task asks for."""

    POUR = "pour"  # a line to measure
    TOP_UP = "top-up"  # a line to top up with
    DO = "do"
    WAIT = "wait"


@dataclass(frozen=True, slots=True)
class Task:
    """One thing to tick off: a line to measure, something to do, or a wait to begin.

    ``vessel`` is the cup it goes into, ``source`` the cup that is poured out; the main vessel has no name.
    """

    kind: TaskKind
    step: int
    text: str
    line: int | None = None
    wait_h: float | None = None
    do: str = ""
    portions: int = 1
    timer_h: float | None = None
    temperature: float | None = None
    caution: str = ""
    vessel: str = ""
    source: str = ""


def tasks_of(formula: Formula) -> tuple[Task, ...]:
    """The tasks of a formula's steps; lines that no step names are poured first.

    A q.s. line tops up to the mark when it comes last; poured earlier, it is measured as planned.

    >>> from firkin.core.formula import house_formulas
    >>> [task.kind.value for task in tasks_of(house_formulas()["who-one"].formula)]
    ['pour', 'pour', 'pour', 'top-up', 'do', 'wait']
    """
    formula = with_steps(formula)
    steps = formula.steps
    named = {line for step in steps for line in step.lines}
    loose = tuple(i for i in range(len(formula.lines)) if i not in named)
    tasks = [_pour(-1, Step("pour", ""), line) for line in loose]
    seen = set(loose)
    for position, step in enumerate(steps):
        pours = [_pour(position, step, line) for line in dict.fromkeys(step.lines) if line not in seen]
        seen.update(step.lines)
        tasks += pours
        if step.wait_h is not None:
            tasks.append(replace(_task(TaskKind.WAIT, position, step), wait_h=step.wait_h))
        elif not pours:
            tasks.append(replace(_task(TaskKind.DO, position, step), text=step.text or step.do))
    if not tops_last(formula):
        return tuple(tasks)
    return tuple(replace(task, kind=TaskKind.TOP_UP) if task.line == formula.topped_up else task for task in tasks)


def _task(kind: TaskKind, position: int, step: Step) -> Task:
    return Task(
        kind,
        position,
        step.text,
        do=step.do,
        portions=step.portions,
        timer_h=step.timer_h,
        temperature=step.temperature,
        caution=step.caution,
        vessel=step.vessel,
        source=step.source,
    )


def _pour(position: int, step: Step, line: int) -> Task:
    return replace(_task(TaskKind.POUR, position, step), line=line)


def in_cups(tasks: Sequence[Task], position: int) -> set[int]:
    """The lines that stand in a cup beside the main vessel when the task at a place is at hand.

    Args:
        tasks: the tasks of a formula.
        position: place of a task, from 0; their number for when all is done.

    >>> slurry = [Task(TaskKind.POUR, 0, "", 0, vessel="cup"), Task(TaskKind.DO, 1, "", source="cup")]
    >>> in_cups(slurry, 1), in_cups(slurry, 2)
    ({0}, set())
    """
    cups: dict[str, set[int]] = {}
    for task in tasks[:position]:
        there = cups.pop(task.source, set()) if task.source else set()
        if task.vessel:
            cups.setdefault(task.vessel, set()).update(there | ({task.line} if task.line is not None else set()))
    return set().union(*cups.values())
