"""Every line of a formula is asked for once, and every wait is waited."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import Progress, TaskKind, in_own_unit, plan_of, tasks_of, units_for
from firkin.core.formula import Step, house_formulas, steps_of
from firkin.core.measures import Quantity, read_quantity
from journals import RUB
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
