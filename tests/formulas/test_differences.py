"""What differs between two versions, and what a swap changes: told for the house's formulas, and kept."""

from dataclasses import replace
from pathlib import Path

import pytest

from core.recipe.texts import texts
from firkin.core.catalogue import Stock
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, house_formulas, reckon, with_steps
from firkin.core.measures import Quantity
from firkin.core.recipe import read_recipe
from firkin.formulas.differences import differences
from firkin.formulas.recipe_check import Check
from firkin.formulas.recipe_chips import chips_of, chips_of_formula
from firkin.formulas.substitution import choices, swap
from firkin.shelf.on_hand import Shelf
from kept import same_as_kept
from mixes import vv

HERE = Path(__file__).parent
HOUSE = {key: house.formula for key, house in house_formulas().items()}
SHELF = Shelf((Stock("Blue can", "ethanol", vv(96.0)), Stock("Old bottle", "isopropanol", vv(70.0))))


def changed(formula: Formula) -> dict[str, Formula]:
    """A formula with each thing of it changed by itself."""
    formula = with_steps(formula)
    first, *others = formula.lines
    step = formula.steps[-1]
    last = formula.steps[:-1]
    stepped = {
        "waits": replace(step, wait_h=5.0),
        "in portions": replace(step, portions=7),
        "beside it": replace(step, timer_h=0.25),
        "warm": replace(step, temperature=45.0),
        "with a caution": replace(step, caution="Gloves."),
        "does another thing": replace(step, do="shake", text="Shake it."),
    }
    return {
        "a line more": replace(formula, lines=(*formula.lines, replace(first, note="again"))),
        "a line less": replace(formula, lines=tuple(others), steps=()),
        "more of the first": replace(formula, lines=(replace(first, amount=first.amount.times(1.5)), *others)),
        "a note and an error": replace(formula, lines=(replace(first, note="clear", phase="A", error=0.05), *others)),
        "lines turned round": replace(formula, lines=tuple(reversed(formula.lines)), steps=()),
        "larger": replace(formula, make=Quantity(3.0, "L")),
        "parts are": replace(formula, basis="weight" if formula.basis == "volume" else "volume"),
        "at 31 °C": replace(formula, temperature=31.0),
        "keeps 9 days": replace(formula, keep_days=9.0),
        "cut by half": replace(formula, cut=0.5),
        "judged by none": replace(formula, guidelines=()),
        **{f"its last step {what}": replace(formula, steps=(*last, new)) for what, new in stepped.items()},
        "a step less": replace(formula, steps=last),
    }


def test_what_differs_is_as_kept_and_nothing_differs_from_itself() -> None:
    sections = {}
    for key, formula in HOUSE.items():
        whole = with_steps(formula)
        assert differences(whole, whole) == []
        for what, other in changed(formula).items():
            rows = differences(whole, other)
            back = differences(other, whole)
            assert [(place, now, was) for place, was, now in rows] == sorted(
                back, key=lambda row: [one[0] for one in rows].index(row[0])
            )
            sections[f"{key}: {what}"] = "\n".join(f"{place}: {was} → {now}" for place, was, now in rows)
    same_as_kept(HERE / "differences.txt", sections)


def test_what_a_swap_changes_is_as_kept() -> None:
    """Every choice there is for every line: what comes of it, and which findings go and come."""
    sections = {}
    for key, formula in HOUSE.items():
        for at, line in enumerate(formula.lines):
            said = []
            for choice in choices(line.material, line.strength, SHELF):
                said.append(f"{choice.material.id} {choice.strength or ''} {choice.bottle}: {choice.note}")
                try:
                    swapped = swap(formula, at, choice.material.id, choice.strength)
                except CannotReckon as error:
                    said.append(f"  {error}")
                    continue
                rows = [f"{row['new'].material.id} {row['now'].mass_g:.5g} g" for row in swapped.rows if row["changed"]]
                gone, come = (sorted(one.rule for one in some) for some in (swapped.gone, swapped.come))
                said.append(f"  {', '.join(rows)}; goes {gone}; comes {come}")
            if said:
                sections[f"{key} line {at}"] = "\n".join(said)
    same_as_kept(HERE / "swaps.txt", sections)


@pytest.mark.parametrize("key", HOUSE)
def test_a_formula_goes_into_chips_and_comes_back(key: str) -> None:
    formula = with_steps(HOUSE[key])
    check = Check(chips_of_formula(formula), (), SHELF)
    back = check._formula()
    assert check.trouble == "" and back is not None
    assert (back.lines, back.make, back.family, back.basis, back.cut) == (
        formula.lines,
        formula.make,
        formula.family,
        formula.basis,
        formula.cut,
    ) or any(line.note or line.phase or line.error for line in formula.lines)
    assert [(step.do, step.text, step.lines, step.wait_h) for step in back.steps] == [
        (step.do, step.text, step.lines, step.wait_h) for step in formula.steps
    ]
    assert back.guidelines == formula.guidelines[:1]
    assert reckon(back).verdicts == reckon(formula).verdicts[: len(reckon(back).verdicts)]


@pytest.mark.parametrize("text", texts("final"), ids=range(40))
def test_what_was_read_goes_into_chips_and_is_found_the_same(text) -> None:
    """The chips say what the reader said: lines, claims, what is kept in words, and every finding."""
    recipe = read_recipe(text.words, text.whose)
    data = chips_of(recipe)
    data["text"], data["whose"] = text.words, text.whose
    check = Check(data, (), SHELF, text.whose)
    heard = check._as_heard()
    assert [(one.material.id, one.strength) for one in heard.lines] == [
        (one.material.id, one.strength) for one in recipe.lines
    ]
    for name in ("loads", "dose", "vessel", "size", "cost", "kills", "glass"):
        assert getattr(heard.claims, name) == getattr(recipe.claims, name), name
    words = check.kept_words.partition("Named, not measured")[0]
    assert bool(words) is any(getattr(recipe.claims, name) for name in ("loads", "dose", "vessel", "size", "cost"))
    said = {"loads": " loads", "dose": " a load", "vessel": "goes into ", "size": "makes ", "cost": "costs "}
    assert all((word in words) is bool(getattr(recipe.claims, name)) for name, word in said.items())
