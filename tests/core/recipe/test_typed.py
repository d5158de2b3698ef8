"""Short forms of units, "&", two spaces for one, and old ways of counting are read as what they are."""

import pytest

from firkin.core.recipe import read_recipe
from firkin.core.recipe.spoken import as_meant

#: Common practice, no source: what is typed, and how it is meant.
MEANT = [
    ("1st water, 2nd salt", "first water, second salt"),
    ("add the alcohol in 4 parts, stirring", "add the alcohol in 4 portions, stirring"),
    ("split the salt into three and add it", "split the salt into three portions and add it"),
    ("divide the alcohol in 4, stirring", "divide the alcohol in 4 portions, stirring"),
    ("mix the gum up with the glycerol", "mix the gum with the glycerol"),
    ("4 gr carbomer, 300 GR. water", "4 g carbomer, 300 g water"),
    ("SLES 150gr.", "SLES 150g."),
    ("12 grs of salt, 200 ccm water", "12 g of salt, 200 ml water"),
    ("2 lts water", "2 l water"),
    ("salt & water", "salt and water"),
    ("Let it stand four-and-twenty hours.", "Let it stand twenty-four hours."),
    ("Stir.  Then add salt.", "Stir. Then add salt."),
    ("Stir  the  gum  in.", "Stir the gum in."),
    ("Next the alcohol goes on top, and next leave it.", "then the alcohol goes on top, and then leave it."),
    ("The soap. After that, the salt.", "The soap. then, the salt."),
    ("whisk it smooth following that pour the alcohol in", "whisk it smooth then pour the alcohol in"),
    ("The gel to begin with.", "The gel first."),
]
#: What is like one of these, and is none.
LEFT = [
    "dissolve 1 part of soap in 4 parts, or more",
    "in 4 parts water",
    "divide it into two jars",
    "split the cost in 3 of us",
    "top it up with water",
    "the 1st of May",
    "a green group of 4 great cooks",
    "between four and twenty hours",
    "Water  500 g",  # columns
    "Ethanol 96 %  833 mL",
    "the next day, next to the sink, the next one, next time",
    "after that has cooled",
    "the day after that",
    "M&M",
]


@pytest.mark.parametrize(("typed", "meant"), MEANT)
def test_it_is_written_as_it_is_meant(typed: str, meant: str) -> None:
    """However it was typed."""
    text = as_meant(typed)
    assert text is not None
    assert text.text == meant


@pytest.mark.parametrize("text", LEFT)
def test_what_means_something_else_is_left(text: str) -> None:
    """A column, a day, a place."""
    assert as_meant(text) is None


def test_tea_is_leaves_or_a_neutraliser() -> None:
    """ "TEA" is triethanolamine, "tea" beside a carbomer too, and tea tree is neither."""
    read = [
        [line.material.written for line in read_recipe(text).lines]
        for text in (
            "300 g water, 4 mL TEA",
            "300 g water, 3 g carbomer, 4 mL tea",
            "300 g water, 4 mL tea",
            "300 g water, 3 g carbomer through a tea strainer",
            "300 ML WATER AND 10 DROPS OF TEA TREE OIL, SHAKEN WELL IN A BOTTLE",
        )
    ]
    assert read[0] == ["water", "triethanolamine"]
    assert read[1] == ["water", "carbomer", "triethanolamine"]
    assert read[2] == ["water", "tea"]
    assert read[3] == ["water", "carbomer"]
    assert read[4] == ["water", "essential-oil"]


def test_prose_is_no_head_of_a_table() -> None:
    """Two lines with commas, the first with "percent" in it, lost all they tell."""
    told = (
        "Cold water first, a litre. Then two tablespoons of four percent bleach.\nNothing else, no vinegar, no metho."
    )
    assert [line.material.written for line in read_recipe(told).lines] == ["water", "sodium-hypochlorite"]
    table = "material, percent\nwater, 80\ncastile soap, 20"
    assert [str(line.amount) for line in read_recipe(table).lines] == ["80 %", "20 %"]
