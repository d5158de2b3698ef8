"""A heard recipe is made in the order its materials ask for, whatever order it is written in."""

import tomllib
from pathlib import Path

import pytest

from firkin.core.catalogue import family_of
from firkin.core.formula import Formula, Line, pour_order, steps_of
from firkin.core.recipe import read_recipe

HERE = Path(__file__).with_name("orders.toml")
CASES = tomllib.loads(HERE.read_text())["recipe"]


@pytest.mark.parametrize("case", CASES, ids=[case["text"][:30] for case in CASES])
def test_what_goes_in_before_what_and_what_rests(case) -> None:
    read = [line for line in read_recipe(case["text"]).lines if line.amount]
    lines = tuple(Line(line.material, line.amount, line.strength) for line in read)
    formula = Formula("Heard", lines, family_of([line.material for line in lines]))
    order = [formula.lines[i].material.id for i in pour_order(formula)]
    for first, later in case["before"]:
        assert order.index(first) < order.index(later)
    assert any(step.do == "quarantine" for step in steps_of(formula)) is case["rests"]
