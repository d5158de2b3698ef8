"""What is named by its use or its shape is the thing the text names; where it names two, or none, nothing is guessed."""

import time

import pytest

from firkin.core.recipe import read_recipe
from firkin.core.recipe.spoken import as_meant
from pace import slower

#: Common practice, no source: a text, and the lines that must come of it.
MEANT = [
    (
        "This bottle is the preservative, phenoxyethanol. A cup of castile, two cups of water, one teaspoon of the preservative.",
        ["1 cup castile-soap", "2 cup water", "1 tsp phenoxyethanol"],
    ),
    (
        "A polyacrylate gelling agent. Isopropyl alcohol 99 %, 700 ml. The gelling agent, that is five grams.",
        ["700 mL isopropanol", "5 g polyacrylate-gel"],
    ),
    (  # the one that is called so
        "Xanthan and I are no friends. A polyacrylate gelling agent is what I have. Ethanol, 700 ml. The gelling agent, 5 g.",
        ["700 mL ethanol", "5 g polyacrylate-gel"],
    ),
    ("There's the paste, it's called SLES. 1 L of water and 200 g of the paste.", ["1 L water", "200 g sles"]),
    (  # two things called so, in any order
        "The powder, it's called borax. The paste, it's called SLES. 200 g of the paste, 20 g of the powder, 5 g of the paste.",
        ["200 g sles", "20 g borax"],
    ),
    (
        "The powder, it's called borax. The powder, it's called washing soda. 1 L of water, 5 g of the powder.",
        ["1 L water"],
    ),
    ("8 drops of orange and 2 cups of water.", ["8 drop essential-oil", "2 cup water"]),
    ("8 drops of rose water and 2 cups of water.", ["8 drop hydrosol", "2 cup water"]),
    ("One bar of laundry soap, it's five and a half ounces. 1 cup borax.", ["5.5 oz bar-soap", "1 cup borax"]),
    ("Soap from bars: two bars, that's two hundred grams. 2 L of water.", ["200 g bar-soap", "2 L water"]),
    # two of that use, or none that is named: it stays what it is called, and is asked about
    (
        "Phenoxyethanol or sodium benzoate. A cup of castile and one teaspoon of the preservative.",
        ["1 cup castile-soap", "1 tsp preservative"],
    ),
    ("A cup of castile and one teaspoon of the preservative.", ["1 cup castile-soap", "1 tsp preservative"]),
    # bars of something else
    ("Two bars of chocolate, that's 200 grams. 1 cup borax.", ["200 g chocolate", "1 cup borax"]),
]


@pytest.mark.parametrize(("text", "lines"), MEANT)
def test_a_use_or_a_shape_is_what_the_text_names(text: str, lines: list[str]) -> None:
    got = [
        f"{line.amount} {line.material.id if line.material.known else line.said}" for line in read_recipe(text).lines
    ]
    assert [one for one in got if not one.startswith("None")][: len(lines)] == lines or got == lines


@pytest.mark.parametrize(
    "piece", ["the preservative ", "one teaspoon of the preservative ", "two bars, that's ", "bar soap bars "]
)
def test_a_long_text_of_them_takes_its_time_and_no_more(piece: str) -> None:
    begun = time.process_time()
    as_meant((piece * 2000)[:20_000])
    assert time.process_time() - begun < 1.0 * slower()


def test_drops_are_many_additions_and_what_is_told_behind_counts() -> None:
    recipe = read_recipe(
        "3 g carbomer on 300 ml water. 600 ml ethanol 96 %. Then 3 ml triethanolamine in drops.", "metric"
    )
    last = [act for act in recipe.plan if act.lines][-1]
    assert (last.how, last.portions) == ("dropwise", 0)
    recipe = read_recipe("200 g soap flakes and 2 L of water. The soap goes in, not all at once.", "metric")
    assert any(act.portions == 0 for act in recipe.plan)


def test_a_bottle_that_is_shown_is_not_filled() -> None:
    shown = read_recipe("This little bottle is lavender oil, 2 ml. Pour in 100 ml water. Then bottle it.", "metric")
    assert [act.text for act in shown.plan if act.do == "fill"] == ["Bottle it."]
