"""Every line of a formula is asked for once, and every wait is waited."""

from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import (
    Progress,
    Task,
    TaskKind,
    after_making,
    approach_of,
    asked_at,
    before_preserving,
    below_its_line,
    cautions_for,
    cautions_of,
    choices,
    deviation_of,
    gear_for,
    in_own_unit,
    insights,
    keeps_days,
    plan_of,
    so_far,
    tasks_of,
    units_for,
    usual_label_words,
)
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Step, house_formulas, reckon, steps_of, with_steps
from firkin.core.kitchen import Kitchen, against_vessel, in_kitchen, kitchens
from firkin.core.measures import Quantity, read_quantity
from firkin.core.mending import TROUBLES, offer
from journals import RUB, Journal
from kept import same_as_kept, told
from mixes import mix

HOUSE = {key: house.formula for key, house in house_formulas().items()}


@pytest.mark.parametrize("key", HOUSE)
def test_every_line_is_measured_once_and_every_wait_is_there(key: str) -> None:
    formula = HOUSE[key]
    tasks = tasks_of(formula)
    assert sorted(task.line for task in tasks if task.line is not None) == list(range(len(formula.lines)))
    assert [task.wait_h for task in tasks if task.kind is TaskKind.WAIT] == [
        step.wait_h for step in steps_of(formula) if step.wait_h is not None
    ]


@pytest.mark.parametrize("key", HOUSE)
def test_a_task_knows_what_its_step_says(key: str) -> None:
    steps = with_steps(HOUSE[key]).steps
    of_steps = [task for task in tasks_of(HOUSE[key]) if task.step >= 0]
    assert {task.step for task in of_steps} == set(range(len(steps)))
    for task in of_steps:
        step = steps[task.step]
        assert (task.do, task.portions, task.timer_h) == (step.do, step.portions, step.timer_h)
        assert (task.temperature, task.caution) == (step.temperature, step.caution)


def test_a_step_with_all_its_details_and_a_line_that_no_step_names() -> None:
    step = Step("heat", "Warm it.", (0,), portions=3, timer_h=0.25, temperature=60.0, caution="Hot")
    loose, heated, _ = tasks_of(replace(RUB, steps=(step, Step("top", "Fill up.", (2,)))))
    assert (loose.step, loose.line, loose.timer_h, loose.caution) == (-1, 1, None, "")
    assert (heated.step, heated.portions, heated.timer_h) == (0, 3, 0.25)
    assert (heated.temperature, heated.caution) == (60.0, "Hot")


@given(st.lists(st.lists(st.integers(min_value=0, max_value=2), max_size=3), max_size=4))
def test_whatever_lines_the_steps_name_each_is_asked_for_once(named: list[list[int]]) -> None:
    formula = replace(RUB, steps=tuple(Step("pour", "", tuple(lines)) for lines in named))
    assert sorted(task.line for task in tasks_of(formula) if task.line is not None) == [0, 1, 2]


def test_topping_up_is_the_last_to_go_in_or_is_measured() -> None:
    """Topped up to the mark before the rest went in, the batch would come out too large."""
    kinds = [task.kind for task in tasks_of(RUB) if task.line is not None]
    assert kinds == [TaskKind.POUR, TaskKind.POUR, TaskKind.TOP_UP]
    early = replace(RUB, steps=(Step("pour", "", (2,)), Step("pour", "", (0,)), Step("pour", "", (1,))))
    assert {task.kind for task in tasks_of(early)} == {TaskKind.POUR}


def test_drops_are_counted_whole_and_cups_by_the_cup() -> None:
    """By hand: 11 drops in 500 mL are 7.3 in 330, and nobody drips 0.3; 2 cups doubled are 4."""
    foam = house_formulas()["foam-plain"].formula.scaled_to(read_quantity("330 mL"))
    progress = Progress(foam, plan_of(foam), ())
    assert in_own_unit(progress, progress.tasks[2]) == Quantity(7.0, "drop")
    cups = mix(("water", "2 cup"), ("glycerol", "50 mL"), make="523 mL").scaled_to(read_quantity("1046 mL"))
    progress = Progress(cups, plan_of(cups), ())
    assert in_own_unit(progress, progress.tasks[0]).value == pytest.approx(4, rel=0.01)
    assert in_own_unit(progress, progress.tasks[1]) is None
    assert units_for(progress, progress.tasks[0])[0] == "cup"


def told_of_task(progress: Progress, task: Task) -> dict[str, object]:
    """What the bench says when a task is at hand."""
    if task.line is None:
        return {"task": task, "reads": asked_at(progress, task)}
    approach = approach_of(progress, task)
    return {
        "target": progress.target(task),
        "grams": progress.target_g(task),
        "own unit": in_own_unit(progress, task),
        "entered in": units_for(progress, task),
        "approach": approach,
        "each of its portions": progress.portion_target(task),
        "then the vessel holds, g": progress.weighs_after_g(task),
        "reads": asked_at(progress, task),
        "so far": so_far(progress, task),
        "before preserving": before_preserving(progress, task),
    }


def measured_in(formula: Formula, kitchen: Kitchen) -> list[str]:
    """Each line in a kitchen's measures: how far off, how well measured, and what is minded; and what it comes to."""
    rounded = in_kitchen(reckon(formula), kitchen)
    said = []
    for line in rounded.lines:
        together = line.combination
        words = f"{together.words} ± {together.error:.4g} {together.unit}, off {line.off:.4g}" if together else "-"
        said.append(f"{words}{' weigh' * line.weigh}{' rinse' * line.rinse} {line.finer or ''}".strip())
    return [*said, *(f"{judged.verdict} {judged.words}" for judged in rounded.result.verdicts)]


def a_batch_of(formula: Formula) -> dict[str, object]:
    """A batch made as planned, then one with its second pour a tenth over: what is said at every task."""
    formula, told_tasks = with_steps(formula), {}
    journal = Journal(formula)
    for at in range(80):
        progress = journal.progress
        if not progress.unfinished:
            break
        told_tasks[f"{at} {progress.task.kind}"] = told_of_task(progress, progress.task)
        journal.do()
    done = journal.progress
    over = Journal(formula)
    for factor in (1.0, 1.1):
        while over.progress.unfinished and over.progress.task.line is None:
            over.do()
        if over.progress.unfinished:
            over.do(factor)
    deviation = deviation_of(over.progress)
    offers: dict[str, Any] = {}
    for trouble in TROUBLES:
        try:
            offers[trouble] = offer(trouble, done)
        except CannotReckon as error:
            offers[trouble] = str(error)
    return {
        "gear": gear_for(formula),
        "cautions": [caution.text for caution in cautions_for(formula)],
        "cautions once made": [caution.text for caution in cautions_of(done)],
        "insights": insights(reckon(formula)),
        "keeps, days": keeps_days(formula),
        "due": after_making(formula),
        "label": usual_label_words(formula),
        "kitchens": {key: measured_in(formula, kitchen) for key, kitchen in kitchens().items()},
        "vessel": against_vessel(reckon(formula), "pot", 900.0),
        "tasks": told_tasks,
        "made": (done.made_mL, done.to_fill_mL, done.result.verdicts, below_its_line(done.in_bottles)),
        "over": None if deviation is None else (deviation, choices(over.progress, deviation)),
        "offers": offers,
    }


def test_a_batch_of_every_house_formula_goes_as_kept() -> None:
    sections = {key: told(a_batch_of(house.formula)) for key, house in house_formulas().items()}
    same_as_kept(Path(__file__).parent / "batches.txt", sections)
