"""What is made ready in a cup, and where the cup joins the rest. Common practice, no source; the texts are invented."""

import pytest

from firkin.core.plan import Act, acts_of, cups_astray, faults_of
from firkin.core.recipe import read_recipe

GEL = "Xanthan 6 g, glycerine 24 g, water 340 g, ethanol 96 % 630 g. "


def told(text: str) -> list[str]:
    """Each act: what goes in, ">" and the cup it goes into, or the cup that is poured out and ">"."""
    recipe = read_recipe(text, "metric")
    assert faults_of(recipe.plan, len(recipe.lines)) == []
    found = []
    for act in recipe.plan:
        names = "+".join(recipe.lines[line].material.id for line in act.lines)
        found += [f"{names}>{act.vessel}" if act.vessel else f"{act.source}>" if act.source else names]
    return [one for one in found if one]


@pytest.mark.parametrize(
    ("how", "acts"),
    [
        (
            "In a small jar stir the xanthan into the glycerine. Whisk the jar into the water. Then the ethanol.",
            ["glycerol>jar", "xanthan-gum>jar", "water", "jar>", "ethanol"],
        ),
        (
            "Stir the xanthan into the glycerine. Pour that into the water, slowly. Add the ethanol.",
            ["glycerol>cup", "xanthan-gum>cup", "water", "cup>", "ethanol"],
        ),
        (
            "Slurry the xanthan in the glycerine. Water in the jug. Add the slurry. Then the ethanol.",
            ["glycerol>cup", "xanthan-gum>cup", "water", "cup>", "ethanol"],
        ),
        (
            "Put the water in the pot. In another bowl mix the xanthan and the glycerine. Add the ethanol to the pot. "
            "Pour the bowl in last.",
            ["water", "xanthan-gum>bowl", "glycerol>bowl", "ethanol", "bowl>"],
        ),
        # one vessel: nothing joins, nothing is left, or "it" only rests
        ("In a small bowl mix the xanthan, the glycerine, the water and the ethanol. Pour it into bottles.", []),
        ("Stir the xanthan into the glycerine. Let it stand. Water in. Then the ethanol.", []),
        ("In a dry bowl mix the xanthan and the glycerine. Water in. Stir in the ethanol last and jar it.", []),
        (
            "Wet the xanthan with the glycerine in a small cup. The water goes over it. Wait till it swells. Ethanol.",
            [],
        ),
        ("Wet the xanthan with the glycerine in a small cup. Pour the water over it. Wait. Then the ethanol.", []),
        ("In a clean bowl put the water. Stir the xanthan in. Glycerine. Ethanol last.", []),
    ],
)
def test_a_cup_is_one_that_joins_the_rest(how: str, acts: list[str]) -> None:
    found = told(GEL + how)
    assert found == acts if acts else not any(">" in one for one in found)


def test_what_only_the_list_tells_is_in_no_cup() -> None:
    found = told(
        "Ethanol 96 % 630 g, xanthan 6 g, glycerine 24 g, water 340 g. Stir the xanthan into the glycerine. Whisk that into the water."
    )
    assert [one for one in found if ">" in one] == ["glycerol>cup", "xanthan-gum>cup", "cup>"]


def test_lye_of_a_jug_of_its_own_is_caustic_into_water_and_then_into_the_oil() -> None:
    text = "Caustic soda 125 g, water 300 g, olive oil 900 g. Dissolve the caustic in the water, let it cool. Pour that into the oil."
    assert told(text) == ["water>cup", "caustic-soda>cup", "vegetable-oil", "cup>"]


def test_how_a_cup_goes_in_is_said_of_the_cup() -> None:
    text = (
        GEL + "Stir the xanthan into the glycerine. Pour that slowly into the water. Add the ethanol in six additions."
    )
    plan = read_recipe(text, "metric").plan
    assert [(act.how, act.portions) for act in plan] == [("", 1), ("", 1), ("", 1), ("slowly", 1), ("", 6)]


def test_two_cups_are_two() -> None:
    text = (
        "Citric acid 10 g, salt 20 g, water 500 g, glycerine 10 g, betaine 100 g. Water in the pot. "
        "In a small cup mix the citric acid with the glycerine. In another cup mix the salt with the betaine. "
        "Add the citric acid to the pot. Then the salt goes in."
    )
    assert {act.vessel for act in read_recipe(text, "metric").plan} == {"", "cup", "second cup"}


def test_a_cup_astray_is_said() -> None:
    salt, out = Act("pour", "Salt.", (0,), vessel="cup"), Act("pour", "Pour it in.", source="cup")
    assert cups_astray([salt, out]) == []
    assert len(cups_astray([salt])) == len(cups_astray([out])) == 1
    assert len(cups_astray([out, salt])) == 2
    assert len(cups_astray([salt, out, out])) == 1  # once is enough


def test_a_cup_in_which_nothing_is_left_is_not_poured_out() -> None:
    from firkin.core.plan import without_line

    salt, water = Act("pour", "Salt.", (0,), vessel="cup"), Act("pour", "Water.", (1,))
    out = Act("pour", "Pour it in.", source="cup")
    assert without_line([salt, water, out], 0) == (Act("pour", "Water.", (0,)),)
    assert without_line([salt, water, out], 1) == (salt, out)


def test_a_changed_formula_keeps_the_parts_and_cups_of_its_plan() -> None:
    plan = read_recipe(GEL + "Half the water in. In a small cup stir the xanthan into the glycerine. Add the slurry. "
                       "The rest of the water. The ethanol.", "metric").plan  # fmt: skip
    assert acts_of([act.step() for act in plan], plan) == plan
    assert [act.lines for act in acts_of([act.step() for act in plan]) if 2 in act.lines] == [(2,)]


@pytest.mark.parametrize("verb", ["whisk", "whisks", "whisked", "scraped", "beat"])
def test_what_was_rubbed_in_a_cup_goes_into_what_is_named_behind_it(verb: str) -> None:
    """In one breath, and by whoever, whenever."""
    recipe = read_recipe(f"Rub 8 g xanthan into 30 g glycerine in a cup, {verb} that into the water. Water 500 g.")
    named = [line.material.written for line in recipe.lines]
    aside = {named[line] for act in recipe.plan for line in act.lines if act.vessel}
    assert aside == {"xanthan-gum", "glycerol"}
    assert any(act.source for act in recipe.plan)
