"""A line that goes in by parts: as recipes tell it, and what tells none. Common practice, no source; the texts are invented."""

import pytest

from firkin.core.measures import Quantity
from firkin.core.plan import faults_of
from firkin.core.recipe import read_recipe

SOAP = "Water 600 g, SLES 70 % 200 g, salt 20 g. "


def shares(text: str, material: str = "water") -> list[float]:
    recipe = read_recipe(text, "metric")
    assert faults_of(recipe.plan, len(recipe.lines)) == []
    found = [(act, line) for act in recipe.plan for line in act.lines]
    return [
        round(act.shares[0], 3) if act.shares else 1.0
        for act, line in found
        if recipe.lines[line].material.id == material
    ]


@pytest.mark.parametrize(
    ("told", "parts"),
    [
        ("Half the water first. Stir in the SLES. Then the rest of the water. Salt last.", [0.5, 0.5]),
        ("A third of the water in the pot. SLES in. Add the other two thirds. Salt last.", [0.333, 0.667]),
        ("Put 450 g of the water in the pot. SLES in. Add the remaining 150 g. Salt last.", [0.75, 0.25]),
        ("Hold back 60 g of the water. SLES into the rest. Salt into the water you kept, and add.", [0.9, 0.1]),
        ("Keep a quarter of the water by. Stir the SLES into the water. The salt goes into the water you kept.", [0.75, 0.25]),
        ("A third of the water in. SLES in. Another 200 g of the water. Salt. The rest of the water.", [0.333, 0.333, 0.333]),
        ("Pour half of it... no. Half of the water in. SLES. The second half of the water. Salt.", [0.5, 0.5]),
        ("Put 400 g of the water in the pot, SLES in. Another 205 g of the water. Salt.", [0.661, 0.339]),  # near enough
        ("Hold back 60 g of the water. SLES into the rest of the water. Salt into the other 60 g.", [0.9, 0.1]),
        # all at once, or nobody knows how much of it
        ("Stir the SLES into the water. Salt last.", [1.0]),
        ("Half of the water in, stir the SLES in. Salt last.", [1.0]),
        ("SLES into the water. Rinse the measure with some of the remaining water. Salt last.", [1.0]),
        ("Put most of the water in, then the SLES, then the rest of the water. Salt last.", [1.0]),
        ("Stir the SLES into 500 g of the water. Salt. Rest overnight.", [1.0]),  # a wait
        ("Put 600 g of the water in the pot, then the SLES. Salt last.", [1.0]),
    ],
)  # fmt: skip
def test_a_line_goes_in_by_the_parts_that_are_told(told: str, parts: list[float]) -> None:
    assert shares(SOAP + told) == parts


def test_it_is_not_what_is_poured_between_its_halves() -> None:
    told = "Water 2 cups, castile soap 1 cup. Add half of it to the bottle, then the soap, then the other half."
    assert shares(told, "castile-soap") == [1.0]


def test_what_tops_up_has_no_parts() -> None:
    rub = "Ethanol 96 % 830 mL, glycerol 15 mL, water to 1 L. "
    assert shares(rub + "Half of the ethanol, the glycerol, the rest of the ethanol. Top up.") == [1.0]
    assert shares(rub + "Half of the ethanol, the glycerol, the rest of the ethanol. Top up.", "ethanol") == [0.5, 0.5]


def test_the_rest_of_what_was_measured_is_no_line_of_its_own() -> None:
    told = (
        "Melt 100 g soap flakes in 6 L of hot water, stir in 50 g borax, then add the other 2 L cold. Water 8 L in all."
    )
    lines = read_recipe(
        "Water 8 L, borax 50 g. Stir the borax into 6 L hot water, then add the other 2 L cold.", "metric"
    ).lines
    assert [(line.material.id, line.amount) for line in lines] == [
        ("water", Quantity(8.0, "L")), ("borax", Quantity(50.0, "g")),
    ]  # fmt: skip
    assert not any(
        line.material.id == "borax" and line.amount == Quantity(2.0, "L") for line in read_recipe(told, "metric").lines
    )


def test_the_words_of_a_part_are_understood() -> None:
    assert read_recipe(SOAP + "Half the water first. SLES in. The rest of the water. Salt.", "metric").unread == ()


def test_a_top_up_of_which_the_list_alone_tells_comes_behind_what_stands_before_it() -> None:
    told = "Ethanol 96 % 830 mL, glycerol 15 mL, water to 1 L. Put the glycerol in, then the ethanol. Shake."
    assert [act.lines for act in read_recipe(told, "metric").plan] == [(1,), (0,), (2,), ()]
