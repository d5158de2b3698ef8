"""What is laid out in one line, asked back, or counted in a unit said once, is read as it is meant."""

import time

import pytest

from firkin.core.recipe import read_recipe
from firkin.core.recipe.spoken import as_meant
from pace import slower

#: Common practice, no source: what is written, and how it is meant.
MEANT = [
    ("1) Tare. 2) 730 g water. 3) Heat to 45 C. 4) SLES 70 %, 150 g.", "\nTare. \n730 g water. \nHeat to 45 C. \nSLES 70 %, 150 g."),
    ("400 g molasses? no, brown sugar, 100 g; 1 litre water", "brown sugar, 100 g; 1 litre water"),
    ("borax, 8 cups?? no, 8 ounces", "borax, 8 ounces"),
    ("Lavender oil if you want, 2 ml, once cold", "Lavender oil, 2 ml (optional), once cold"),
    ("the alcohol a ladle at a time", "the alcohol a little at a time"),
    ("For 5 L of spray: cold water to the 4.9 mark.", "For 5 L of spray: cold water to the 4.9 L mark."),
    ("For 100 ml of it: water to the 50 mark.", "For 100 ml of it: water to the 50 ml mark."),
    ("Ethanol: 1 kg 345. Water 84 g.", "Ethanol: 1345 g. Water 84 g."),
    ("glycerine 15, ethanol 833 (all ml), closed 72 hours", "glycerine 15 ml, ethanol 833 ml , closed 72 hours"),
]  # fmt: skip
#: What is like one of these, and is none.
LEFT = [
    "a jug (see 1) and water 2) and salt",  # two are no list
    "1) water\n2) salt\n3) soap",  # on lines of their own already
    "Shall I take 2 cups? No idea, take 3.",
    "1 l 250 g soap",  # a litre of something, and grams of soap
    "water to the 40 mark, 100 ml in all",  # less than half of it: another scale
    "For 100 ml of it: water to the 49 mark.",  # less than half of it: another scale
    "a drop at a time",
    "ethanol 833, glycerine 15",
]


@pytest.mark.parametrize(("given", "meant"), MEANT)
def test_it_is_rewritten_as_it_is_meant(given: str, meant: str) -> None:
    text = as_meant(given)
    assert text is not None
    assert text.text == meant
    assert len(text.places) == len(text.text), "each sign has its place in what was written"


@pytest.mark.parametrize("given", LEFT)
def test_what_is_only_like_it_is_left(given: str) -> None:
    text = as_meant(given)
    assert text is None or "?" not in text.text or text.text == given
    assert text is None or text.text.replace("a little at a time", "a drop at a time") == given


@pytest.mark.parametrize("many", ["1) ", "2 ml? no, ", "to the 4.9 mark 5 L ", "12 ", " if you want, ", "1 kg 345 "])
def test_a_long_text_of_them_is_read_in_linear_time(many: str) -> None:
    started = time.process_time()
    as_meant(many * 4000)
    assert time.process_time() - started < 1.0 * slower()


def test_twelve_grams_of_something_unknown_are_no_title_of_more() -> None:
    """A heading holds at least what stands under it."""
    recipe = read_recipe("12 g of methyl cellulose: hot water 100 ml")
    assert [(one.said, str(one.amount)) for one in recipe.lines] == [
        ("methyl cellulose", "12 g"),
        ("hot water", "100 mL"),
    ]
    recipe = read_recipe("5 litres of floor gloop: 100 g soap, 4.5 litres water")
    assert [one.material.written for one in recipe.lines] == ["bar-soap", "water"]
