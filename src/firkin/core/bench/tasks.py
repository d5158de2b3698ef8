"""The tasks of a formula: its steps as things to tick off, one at a time."""

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
    """One thing to tick off: a line to measure, something to do, or a wait to begin."""

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
    )


def _pour(position: int, step: Step, line: int) -> Task:
    return replace(_task(TaskKind.POUR, position, step), line=line)
