"""A unit, a mark and a sum hold on from one sentence to the next: what is guessed by that is never taken as sure."""

import pytest

from firkin.core.recipe import is_sure, read_recipe

#: Common practice, no source: a text, its lines, and which of them are asked about.
CARRIED = [
    ("700 grams of water. 150 of SLES paste. Then 60 of betaine.", ["700 g", "150 g", "60 g"], [1, 2]),
    ("Alcohol 96 %, 833 millilitres. Peroxide, forty-one point seven. Glycerin, fourteen and a half.", ["833 mL", "41.7 mL", "14.5 mL"], [1, 2]),
    ("500 grams of water. Caustic soda, two hundred.", ["500 g", "200 g"], [1]),  # 50 % is how it is sold, 200 is not
    ("2 ml of lemon oil. Water, two hundred and fifty.", ["2 mL", "250 mL"], [1]),
    ("365 ml of isopropyl 99 %, then distilled water up to the 500 mark.", ["365 mL", "q.s."], [1]),
    ("100 g washing soda and 20 g salt, top up to 1000 with water", ["100 g", "20 g", "q.s."], [2]),
]  # fmt: skip
#: What looks like it, and has no unit to be had.
LEFT = [
    ("2 cups of water. 3 of aloe gel.", ["2 cup_metric", "3"]),  # cups are said each time
    ("500 ml of water. Bleach, 12. 5 ml of dish soap", ["500 mL", "12", "5 mL"]),  # how strong it is sold
    ("500 ml of ethanol 96 %. Glycerol, 7. Water 10 ml", ["500 mL", "7", "10 mL"]),  # one digit may number what comes
    ("Salt, 40. 500 ml of water.", ["40", "500 mL"]),  # nothing before it
    ("500 ml of water. " + "It was a fine day on the quay. " * 6 + "Glycerol, 20. Salt 3 g", ["500 mL", "20", "3 g"]),
    ("365 ml of isopropyl 99 %, then distilled water up to the 100 mark.", ["365 mL"]),  # below what is in it
    ("2 cups of washing soda, 20 g salt, top up to 1000 with water", ["2 cup_metric", "20 g"]),  # of which unit
]


def amounts(text: str) -> list[str]:
    return [str(line.amount or line.wording or "") for line in read_recipe(text, "metric").lines]


@pytest.mark.parametrize(("text", "said", "asked"), CARRIED)
def test_a_unit_that_was_told_before_is_asked_about(text: str, said: list[str], asked: list[int]) -> None:
    recipe = read_recipe(text, "metric")
    assert amounts(text) == said
    assert [at for at in range(len(recipe.lines)) if not is_sure(recipe, at)] == asked


@pytest.mark.parametrize(("text", "said"), LEFT)
def test_without_one_an_amount_stays_open(text: str, said: list[str]) -> None:
    assert amounts(text)[: len(said)] == said
    assert read_recipe(text, "metric").make is None


@pytest.mark.parametrize(
    ("text", "size"),
    [
        ("700 g of water, and then salt, teaspoon by teaspoon, 15 grams altogether.", None),
        ("700 g of water, and salt a little at a time, 15 grams in all.", None),
        ("500 ml of water, 500 ml of vinegar, 1 litre altogether.", "1 L"),
        ("Water and vinegar, a little at a time, 900 ml altogether.", "900 mL"),  # of two things
        ("500 ml of water and 400 ml of vinegar, slowly, 900 ml altogether.", "900 mL"),  # of two things
    ],
)
def test_the_sum_of_its_parts_is_of_the_one_thing_that_goes_in_by_parts(text: str, size: str | None) -> None:
    recipe = read_recipe(text, "metric")
    told = recipe.make or recipe.claims.size
    assert (told.words if told else None) == size
    if size is None:
        assert [line.words()[::2] for line in recipe.lines if line.material.id == "salt"] == [("salt", "15 grams")]
