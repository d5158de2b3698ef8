"""Splitting and joining the parts of a line: whatever is pressed, as much goes in as the line says."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.formula import Formula, Line, formula_from_dict, reckon
from firkin.core.measures import Quantity
from firkin.core.plan import Act, acts_from_list, acts_to_list, can_split, faults_of, in_parts, joined, split

MIX = Formula(
    "Mix",
    (
        Line(find("water"), Quantity(700.0, "g")),
        Line(find("glycerol"), Quantity(30.0, "mL")),
        Line(find("ethanol"), Quantity(2.0, "cup")),
    ),
)
PLAN = tuple(Act("pour", f"Add the {line.material.id}.", (at,)) for at, line in enumerate(MIX.lines))
PRESSES = st.lists(st.tuples(st.sampled_from(["split", "join", "up"]), st.integers(0, 30)), max_size=14)


def pressed(presses: list[tuple[str, int]]) -> tuple[Act, ...]:
    plan = PLAN
    for what, number in presses:
        place = number % len(plan)
        name = MIX.lines[plan[place].lines[0]].material.id
        if what == "split" and can_split(plan[place]):
            plan = split(plan, place, name)
        elif what == "join":
            plan = joined(plan, place, name)
        elif place:
            plan = (*plan[: place - 1], plan[place], plan[place - 1], *plan[place + 1 :])
    return plan


@given(PRESSES)
def test_whatever_is_pressed_all_of_each_line_goes_in_once(presses: list[tuple[str, int]]) -> None:
    plan = pressed(presses)
    assert faults_of(plan, len(MIX.lines)) == []
    assert acts_from_list(acts_to_list(plan), len(MIX.lines)) == plan
    made, whole = in_parts(MIX, plan), reckon(MIX)
    assert len(made.lines) == sum(len(act.lines) for act in plan) == len({i for step in made.steps for i in step.lines})
    for line in MIX.lines:
        parts = [one.amount.value for one in made.lines if one.material is line.material]
        assert sum(parts) == pytest.approx(line.amount.value, rel=1e-5)
    assert reckon(made).total.mass_g == pytest.approx(whole.total.mass_g, rel=1e-5)
    assert reckon(made).main.label == pytest.approx(whole.main.label, rel=1e-5)


@given(PRESSES)
def test_joined_until_nothing_is_parted_each_line_is_one_pour(presses: list[tuple[str, int]]) -> None:
    plan = pressed(presses)
    while (place := next((at for at, act in enumerate(plan) if act.shares), None)) is not None:
        plan = joined(plan, place, MIX.lines[plan[place].lines[0]].material.id)
    assert sorted(plan, key=lambda act: act.lines) == list(PLAN)


def test_a_part_of_four_hundredths_is_split_and_a_smaller_one_is_not() -> None:
    """No kitchen measures less; common practice, no source."""
    assert can_split(Act("pour", "Add it.", (0,), (0.04,)))
    assert not can_split(Act("pour", "Add it.", (0,), (0.039,)))
    assert not can_split(Act("pour", "Add it.", (0, 1)))
    assert not can_split(Act("top", "Top up.", (0,)))
    assert not can_split(
        Act("pour", "Whisk the bowl into the water.", (0,), source="bowl")
    )  # a bowl is poured out once


FILE = {
    "format": "firkin-formula/1",
    "name": "By halves",
    "lines": [{"material": "water", "amount": "600 g"}, {"material": "salt", "amount": "20 g"}],
}


@pytest.mark.parametrize(
    ("steps", "amounts"),
    [
        ([{"do": "pour", "lines": [0], "share": 0.25}, {"do": "pour", "lines": [0], "share": 0.75}], ["150 g", "20 g", "450 g"]),
        ([{"do": "pour", "lines": [0, 1], "share": [0.5, 1]}, {"do": "pour", "lines": [0], "share": 0.5}], ["300 g", "20 g", "300 g"]),
        ([{"do": "pour", "lines": [0], "share": 0.5}], ["600 g", "20 g"]),  # of the rest nothing is told: all of it
        ([{"do": "pour", "lines": [0]}, {"do": "mix", "lines": [0, 1]}], ["600 g", "20 g"]),  # named again, as older files do
    ],
)  # fmt: skip
def test_a_file_with_shares_says_how_much_goes_in_when(steps: list[dict[str, object]], amounts: list[str]) -> None:
    formula = formula_from_dict({**FILE, "steps": steps})
    assert [str(line.amount) for line in formula.lines] == amounts


@pytest.mark.parametrize("small", [0.001, 0.004, 0.005, 0.006, 0.2])
def test_however_small_a_part_is_no_more_goes_in_than_the_line_says(small: float) -> None:
    steps = [{"do": "pour", "lines": [0], "share": 1 - small}, {"do": "pour", "lines": [0], "share": small}]
    formula = formula_from_dict({**FILE, "steps": steps})
    assert sum(line.amount.g for line in formula.lines if line.material.id == "water") == pytest.approx(600.0, rel=1e-5)


def test_a_top_up_is_never_parted() -> None:
    lines = [*FILE["lines"], {"material": "water", "amount": "q.s."}]
    steps = [{"do": "top up", "lines": [2], "share": 0.5}, {"do": "top up", "lines": [2], "share": 0.5}]
    formula = formula_from_dict({**FILE, "make": "1 L", "lines": lines, "steps": steps})
    assert [str(line.amount) for line in formula.lines] == ["600 g", "20 g", "q.s."]
    assert [step.lines for step in formula.steps] == [(2,)]
