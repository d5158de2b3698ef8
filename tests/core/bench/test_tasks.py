"""Every line of a formula is asked for once, and every wait is waited."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import TaskKind, tasks_of
from firkin.core.formula import Step, house_formulas, steps_of
from journals import RUB

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
