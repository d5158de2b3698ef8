"""Several recipes or sizes in one text: the first is read, the others stand beside it, and no danger is lost."""

import pytest

from firkin.core.audit import Severity
from firkin.core.recipe import findings_of, read_recipe

SIZES = """Gel sanitizer

Small bottle (250 mL):
- 170 mL isopropyl alcohol 91%
- 80 mL aloe gel

Large bottle (1 L):
- 680 mL isopropyl alcohol 91%
- 320 mL aloe gel

Mix and leave for 72 hours.
"""
TWO = """Hand rub: 2 cups 91% isopropyl alcohol, 1 cup aloe vera gel. Mix.

Surface spray: 1 cup white vinegar and 1 cup water. Shake."""


def said(recipe):
    return [(line.material.id, str(line.amount)) for line in recipe.lines]


def test_of_two_sizes_the_first_is_read_and_the_other_set_aside_with_its_place() -> None:
    recipe = read_recipe(SIZES)
    assert said(recipe) == [("isopropanol", "170 mL"), ("aloe-gel", "80 mL")]
    (other,) = recipe.others
    assert (recipe.first, other.heading) == ("Small bottle (250 mL)", "Large bottle (1 L)")
    assert said(other.recipe) == [("isopropanol", "680 mL"), ("aloe-gel", "320 mL")]
    assert SIZES[slice(*other.at)].startswith("Large bottle")
    for line in (*recipe.lines, *other.recipe.lines):
        assert line.said.lower() in SIZES[slice(*line.at)].lower()
    assert recipe.text == SIZES


def test_of_two_recipes_the_first_is_read_and_nothing_is_mixed() -> None:
    recipe = read_recipe(TWO)
    assert said(recipe) == [("isopropanol", "2 cup"), ("aloe-gel", "1 cup")]
    assert said(recipe.others[0].recipe) == [("white-vinegar", "1 cup"), ("water", "1 cup")]
    note = next(one for one in findings_of(recipe) if one.rule == "recipe-set-aside")
    assert "“Hand rub” was read; “Surface spray” was set aside" in note.text


def test_a_danger_in_what_is_set_aside_is_a_stop_with_its_heading() -> None:
    text = TWO.replace("1 cup water", "1 cup bleach")
    stops = [one for one in findings_of(read_recipe(text)) if one.severity is Severity.STOP]
    assert any(one.rule == "bleach-mixed" and "Surface spray" in one.text for one in stops)


def test_bleach_in_one_recipe_and_vinegar_in_another_are_not_mixed() -> None:
    text = """Vinegar spray: 1 cup white vinegar, 1 cup water.

Bleach cleaner: 20 mL bleach, 980 mL cold water."""
    recipe = read_recipe(text)
    assert [one.heading for one in recipe.others] == ["Bleach cleaner"]


@pytest.mark.parametrize(
    "text",
    [
        "For the gel: 2 g xanthan gum, 330 mL water\nFor the rub: 650 mL ethanol 96 %, 5 mL glycerin",
        "Phase A: 500 mL water, 5 g carbomer\nPhase B: 400 mL ethanol 96 %, 5 mL glycerol",
        "Ingredients: 2 cups isopropyl alcohol 91 %, 1 cup aloe gel\nMethod: mix the 2 cups of alcohol and 1 cup of aloe gel",
        "You need: 833 mL ethanol 96 %, 42 mL peroxide 3 %\nThen: 15 mL glycerol, water to 1 L",
        "Hand gel: 2 cups isopropyl alcohol 91 %, 1 cup aloe gel\nTip: 1 tsp glycerin helps dry hands, 2 tsp if very dry",
    ],
)
def test_parts_of_one_recipe_stay_together(text: str) -> None:
    assert read_recipe(text).others == ()


def test_taken_for_one_everything_is_read() -> None:
    assert len(read_recipe(SIZES, apart=False).lines) == 4
