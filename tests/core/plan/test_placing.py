"""Where a line goes in, by what is said of it beside another; each rule with what it must leave alone."""

import pytest

from core.plan.poured import poured
from firkin.core.recipe import read_recipe

TOLD = "Add 1 L of water. Add 50 g of citric acid. Add 10 g of salt, but only once the water is in."
LIST = "citric acid: 50 g\nwater: 1 L\nsalt: 10 g\n\n"


@pytest.mark.parametrize(
    "doing",
    [
        "Start with the salt. Once the water is in, add the citric acid.",
        "Start with the salt. Don't add the citric acid until the water is in.",
        "Start with the salt. The citric acid, but only after the water.",
        "Start with the salt. Add the citric acid after the water.",
        "Start with the salt. After the water comes the citric acid.",
        "Start with the salt. The water goes in before the citric acid.",
        "Start with the salt. Before you add the citric acid put in the water.",
        "Start with the salt. When the water has gone in, put in the citric acid.",
        "Start with the salt. First the water and after that the citric acid.",
        "Add the salt, you want the water in next, and finish with the citric acid.",
        "Add the salt, then the water, the last thing in is the citric acid.",
        "Add the salt, then the water, to finish, the citric acid.",
        "Add the salt. Feed in the water. Keep the citric acid for the end.",
        "Dribble in the salt. Now the water. Lastly the citric acid.",
        "The salt in the bucket, then the water goes in save the citric acid for last.",
    ],
)
def test_what_is_told_beside_another_goes_in_by_it(doing: str) -> None:
    assert poured(LIST + doing) == ["salt", "water", "citric-acid"]


@pytest.mark.parametrize(
    "doing",
    [
        "Pour in the water. Stir in the citric acid. Stir until the water is clear. Add the salt.",
        "Water, citric acid, salt, in that order.",
        "Put in the water. Leave the citric acid until the water is in. First the salt, and then a stir.",
        "No wait, water first. The citric acid, then the salt.",
        "Pour the water in first, then the citric acid and the salt.",
    ],
)
def test_and_otherwise_as_it_is_told(doing: str) -> None:
    assert poured(LIST + doing) == ["water", "citric-acid", "salt"]


@pytest.mark.parametrize(
    ("told", "first"),
    [
        ("Measure 1 L of water into the jug, now feed in 38 g of caustic soda little by little.", "water"),
        ("Pour 1 L of water into a bowl and spoon in 38 g of 99% caustic soda.", "water"),
        ("Pour 1 L of water in. Bring in the other things: 38 g of caustic soda.", "water"),
        ("Stir 38 g of caustic soda into 1 L of water.", "water"),
        ("In a separate beaker stir 38 g of caustic soda into 1 L of water.", "water"),
        ("Add 38 g of caustic soda to 1 L of water.", "water"),
        ("1 L of water in the pot. Add to this 38 g of caustic soda.", "water"),
    ],
)
def test_what_goes_in_is_no_place_to_go_into(told: str, first: str) -> None:
    """Water never goes onto caustic soda by a phrase: the other way round it boils (common practice)."""
    assert poured(told) == [first, *({"water", "caustic-soda"} - {first})]


@pytest.mark.parametrize(
    ("told", "shares"),
    [
        ("Half of 4 L water goes in. Add 90 g borax. Then the rest of the water.", [0.5, 0.5]),
        ("Take 4 L water and put half of it in the pot. Add 90 g borax. Add the remaining water.", [0.5, 0.5]),
        ("4 L water, 90 g borax. A quarter of the water first. The borax. The water that remains.", [0.25, 0.75]),
        (
            "4 L water, 90 g borax. Half of the water you put in the pot. The borax. The balance of the water.",
            [0.5, 0.5],
        ),
        ("4 L water, 90 g borax. The water you put in the pot. Then the borax.", [1.0]),
        ("Half a litre of water goes in. Add 90 g borax.", [1.0]),
    ],
)
def test_a_part_of_the_whole(told: str, shares: list[float]) -> None:
    recipe = read_recipe(told, "metric")
    parts = [
        act.shares[act.lines.index(line)] if act.shares else 1.0
        for act in recipe.plan
        for line in act.lines
        if recipe.lines[line].material.id == "water"
    ]
    assert parts == shares


@pytest.mark.parametrize(
    "told",
    [
        "Never add the caustic soda before the water.",
        "Don't put the caustic soda in before the water.",
        "The caustic soda never goes in before the water.",
        "The caustic soda does not go in before the water.",
        "The water goes in before the caustic soda, never after it.",
        "Don't add the caustic soda until the water is in.",
        "Don't forget to put the water in before the caustic soda.",
    ],
)
def test_what_must_not_come_before_comes_behind(told: str) -> None:
    """Caustic into water: the other way round it boils and spits (common practice)."""
    lines = "caustic soda: 38 g\nsalt: 10 g\nwater: 1 L\n\n"
    order = poured(lines + told + " Then the salt.")
    assert order.index("water") < order.index("caustic-soda")


@pytest.mark.parametrize(
    ("told", "order"),
    [
        ("citric acid 50 g, water 1 L, salt 10 g. Keep the salt for the end.", "citric-acid water salt"),
        ("citric acid 50 g, water 1 L, salt 10 g. Put in the water. Citric acid. First the salt, and then a stir.",
         "water citric-acid salt"),
        ("citric acid 50 g, water 1 L, salt 10 g. Get the water in. The salt after that, and a stir. Add the citric acid.",
         "water salt citric-acid"),
        ("salt 10 g, 4 L water. Take half of the water and make it hot. Add the salt. Add the other half of the water.",
         "water salt water"),
        ("washing soda: 100 g\nwater: 4 L\ngrated bar soap: 150 g\n\nPut the water in the bucket, now add the grated soap, the"
         " soda joins it.", "water bar-soap washing-soda"),
        ("citric acid 50 g, water 1 L, salt 10 g. Put in the water. Once the citric acid is in, stir. Add the salt.",
         "water citric-acid salt"),
        ("water 1 L, citric acid 50 g, salt 10 g. Stir in the citric acid. When the water is clear, add the salt.",
         "water citric-acid salt"),
        ("water 1 L, citric acid 50 g, salt 10 g. Stir in the citric acid. After the water clears add the salt.",
         "water citric-acid salt"),
        ("First 1 L of water, into the bucket 50 g of citric acid.", "water citric-acid"),
        ("1 L of water in the bottle. Ten drops of eucalyptus oil. A teaspoon of salt goes in last.", "water essential-oil salt"),
        ("Heat 1 L of water. When the last of it steams, stir in 50 g of citric acid, and then 10 g of salt.",
         "water citric-acid salt"),
    ],
)  # fmt: skip
def test_each_goes_in_where_it_is_told(told: str, order: str) -> None:
    assert poured(told) == order.split()


def test_how_it_goes_in_is_told_where_it_is_measured() -> None:
    recipe = read_recipe("Pour in 1 L of water. Add 10 g of salt in three portions. The salt goes in last.", "metric")
    assert [act.portions for act in recipe.plan if act.lines == (1,)] == [3]


def test_what_was_poured_already_stays_there() -> None:
    """ "Once the water is in" says when the salt goes in, and pours no water again."""
    assert poured(TOLD) == ["water", "citric-acid", "salt"]


GEL = "glycerol: 24 g\nxanthan: 6 g\nwater: 340 g\nethanol 96 %: 630 g\n\n"


@pytest.mark.parametrize(
    "cup",
    [
        "Get the gum and the glycerol in a little cup. And tip the cup into the water.",
        "The gum is wetted with the glycerol in a separate cup. This is then added to the water.",
        "Prepare a slurry of the gum in the glycerol. Combine this with the water.",
        "In other small bowl you mix the gum with the glycerol. It all goes into the water.",
        "Sep. cup: gum in glycerol\npour cup into water",
        "In a separate beaker disperse the gum in the glycerol. Pour the dispersion into the water.",
    ],
)
def test_a_cup_of_its_own_however_it_is_told(cup: str) -> None:
    recipe = read_recipe(GEL + cup + " Add the ethanol.", "metric")
    aside = {recipe.lines[line].material.id for act in recipe.plan if act.vessel for line in act.lines}
    assert aside == {"glycerol", "xanthan-gum"}
    assert sum(bool(act.source) for act in recipe.plan) == 1


@pytest.mark.parametrize(
    "cup",
    ["Stir the gum and the glycerol in a bowl. Add the water.", "Get the water in the jug. Add the gum and glycerol."],
)
def test_where_all_of_it_is_made_is_no_cup(cup: str) -> None:
    recipe = read_recipe(GEL + cup + " Add the ethanol.", "metric")
    assert not any(act.vessel or act.source for act in recipe.plan)
