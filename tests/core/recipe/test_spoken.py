"""What is only said aloud, written as it is meant; and what only sounds like it, left alone."""

import pytest

from firkin.core.recipe import read_recipe
from firkin.core.recipe.spoken import as_meant

MEANT = [
    ("for cups of isopropyl and to cups of aloe", "4 cups of isopropyl and 2 cups of aloe"),
    ("oh point eight percent salt", "0.8 percent salt"),
    ("zero comma one five litre of water", "0.15 litre of water"),
    ("point eight seven of a litre of glycerol", "0.87 litre of glycerol"),
    ("cold boiled water to the litre", "cold boiled water up to 1 litre"),
    ("sixty mil of vinegar, no wait, eighty mil of vinegar", "eighty mil of vinegar"),
    ("200 ml of bleach and the same again of water", "200 ml of bleach and 200 ml of water"),
    ("it is glycerol. two cups of that.", "it is glycerol. two cups of glycerol."),
]


@pytest.mark.parametrize(("said", "meant"), MEANT, ids=[said[:30] for said, _ in MEANT])
def test_said_and_meant(said: str, meant: str) -> None:
    found = as_meant(said)
    assert found is not None
    assert found.text == meant
    assert len(found.places) == len(meant)


@pytest.mark.parametrize(
    "said",
    [
        "forty-one point seven mil of peroxide", "add it to cups of your own", "wait for cups of tea", "up to the litre mark",
        "the smell of it", "two cups of water, no more", "that is the point", "200 ml of water to the brim",
    ],
)  # fmt: skip
def test_what_only_sounds_like_it_is_left_alone(said: str) -> None:
    assert as_meant(said) is None


def test_a_line_of_what_was_named_before_stands_at_its_own_words() -> None:
    text = "The isopropyl, it's the ninety-one percent. Two cups of that, and half a cup of aloe."
    alcohol, aloe = read_recipe(text).lines
    assert (alcohol.words()[0], str(alcohol.amount), aloe.words()[0]) == ("isopropanol", "2 cup", "aloe-gel")
    assert text[slice(*alcohol.at)].endswith("of that")


def test_no_actually_takes_back_what_was_said_before_it() -> None:
    for said in ("no, actually", "no actually make it", "actually, make that", "no make it"):
        text = f"three cups of water then a cup of aloe, {said} half a cup of aloe and ten drops of lavender"
        read = {line.material.id: line.words()[2] for line in read_recipe(text).lines}
        assert read == {"water": "3 cup", "aloe-gel": "1/2 cup", "lavender-oil": "10 drop"}, said
    assert [line.words()[2] for line in read_recipe("add 500 ml of water to make it 1 L, 20 g salt", "metric").lines][
        -1
    ] == "20 g"


@pytest.mark.parametrize(
    ("told", "there"),
    [
        ("Aloe gel 1 cup, and glycerin. No glycerin in this one.", {"aloe-gel"}),
        # water is not refused by whose water it is, and what is dangerous stays until somebody answers
        ("100 g soap flakes, 5 g salt and water. Use no water from the well.", {"bar-soap", "salt", "water"}),
        ("Aloe gel 1 cup, bleach, vinegar 1 cup. No bleach from last year.", {"aloe-gel", "sodium-hypochlorite", "white-vinegar"}),
    ],
)  # fmt: skip
def test_a_name_that_is_refused_elsewhere_is_no_line_but_water_and_dangers_are(told: str, there: set[str]) -> None:
    assert {line.material.id for line in read_recipe(told, "us").lines} == there
