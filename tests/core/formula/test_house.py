"""The house formulas: something for every family, sound, and read back the same."""

from dataclasses import replace
from pathlib import Path

import pytest

from firkin.core.audit import audit
from firkin.core.catalogue import families
from firkin.core.errors import CannotReckon
from firkin.core.formula import (
    Formula,
    Reckoning,
    added,
    enough,
    formula_from_dict,
    formula_to_dict,
    house_formulas,
    levels,
    moved,
    percent_words,
    pour_order,
    reckon,
    scale,
    scaled_lines,
    steps_of,
    substitute,
    substitutes,
    swapped,
    with_steps,
    without,
    work_reckoning,
)
from kept import same_as_kept, told


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


def of_lines(result: Reckoning) -> list[str]:
    """Each line in mL, g and shares, to six figures."""
    return [
        f"{line.material.id} {worked.volume_mL:.6g} mL {worked.mass_g:.6g} g {worked.share_v_pct:.6g} % v "
        f"{worked.share_w_pct:.6g} % w"
        for line, worked in zip(result.formula.lines, result.lines, strict=True)
    ]


def everything(formula: Formula) -> dict[str, object]:
    """All that a sheet takes from a formula, and what is made of it by a press."""
    formula = with_steps(formula)
    result = reckon(formula)
    stand_ins: dict[str, object] = {}
    for at, line in enumerate(formula.lines):
        for other in substitutes(line.material):
            try:
                stand_ins[f"{at} by {other.to}"] = of_lines(reckon(substitute(formula, at, other.to)))
            except CannotReckon as error:
                stand_ins[f"{at} by {other.to}"] = str(error)
    last = len(formula.lines) - 1
    changed = {
        "without the first": without(formula, 0),
        "the last one first": moved(formula, last, 0),
        "the first by half": scaled_lines(formula, [0], 0.5),
        "glycerol added": added(result, "glycerol", 5.0),
        "the first swapped": swapped(formula, 0, "glycerol"),
    }
    ways = [("size", "750 mL"), ("bottles", "3 x 250 mL"), ("vessel", "2 L")]
    return {
        "lines": of_lines(result),
        "total": result.total,
        "shrinks": result.shrink_words,
        "actives": result.actives,
        "verdicts": result.verdicts,
        "levels": levels(formula),
        "order": pour_order(formula),
        "steps": formula.steps,
        "working": work_reckoning(result),
        "per cent": percent_words(formula),
        "enough": enough(result, {line.material.id: 100.0 for line in formula.lines}),
        "ways": {f"{way} {text}": of_lines(reckon(scale(formula, way, text))) for way, text in ways},
        "stand-ins": stand_ins,
        "in the order of the steps by volume": of_lines(reckon(replace(formula, basis="volume", make=None)))
        if formula.topped_up is None
        else None,
        "by weight": tried(replace(formula, basis="weight")),
        "at 30 °C": tried(replace(formula, temperature=30.0)),
        "measured within 5 %": reckon(
            replace(formula, lines=tuple(replace(line, error=0.05) for line in formula.lines))
        ).actives,
        "changed": {name: None if new is None else tried(new) for name, new in changed.items()},
    }


def tried(formula: Formula) -> object:
    try:
        return of_lines(reckon(formula))
    except CannotReckon as error:
        return str(error)


def test_everything_of_the_house_formulas_is_as_kept() -> None:
    whole = {key: told(everything(house.formula)) for key, house in house_formulas().items()}
    same_as_kept(Path(__file__).parent / "house.txt", whole)
