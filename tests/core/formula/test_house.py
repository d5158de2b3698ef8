"""The house formulas: something for every family, sound, and read back the same."""

import pytest

from firkin.core.audit import audit
from firkin.core.catalogue import families
from firkin.core.formula import (
    formula_from_dict,
    formula_to_dict,
    house_formulas,
    reckon,
    steps_of,
)


@pytest.mark.parametrize("key", house_formulas())
def test_a_house_formula_is_sound_and_is_written_and_read_back_the_same(key: str) -> None:
    formula = house_formulas()[key].formula
    assert formula_from_dict(formula_to_dict(formula)) == formula
    assert not [finding.rule for finding in audit(reckon(formula)) if finding.severity == "stop"]
    assert all(step.text or step.do for step in steps_of(formula))
    named = [line for step in steps_of(formula) for line in step.lines]
    assert sorted(named) == sorted(set(named)) == list(range(len(formula.lines)))


#: What a newcomer finds something of in the book; a family that is added may come without.
STOCKED = {
    *("liquid-rub", "aloe-rub", "gel", "foaming-soap", "liquid-soap", "dish-liquid"),
    *("dishwasher-powder", "laundry-soap", "ferment", "surface"),
}


def test_the_house_has_something_for_each_of_its_families_and_nothing_that_must_stop() -> None:
    found = house_formulas().values()
    assert STOCKED <= {one.formula.family for one in found} <= set(families())
    for one in found:
        assert "stop" not in [finding.severity for finding in audit(reckon(one.formula))], one.id
    flagged = audit(reckon(house_formulas()["dish-gentle"].formula))
    assert flagged == ()
