"""Neighbours' words, and ordinary ones: they are no materials, titles no lines, and what was measured once is not poured twice."""

import pytest

from firkin.core.recipe import read_recipe
from firkin.core.recipe.layout import layout
from firkin.core.recipe.spans import meant, ordinary_words
from firkin.core.recipe.spoken import as_meant

#: Common practice, no source: what a maker says, and the lines that must come of it.
LINES = [
    ("150 g grated soap and leave it alone. 40 g washing soda.", ["150 g bar-soap", "40 g washing-soda"]),
    ("Walter started the power washer. 2 cups vinegar, 1 cup water.", ["2 cup white-vinegar", "1 cup water"]),
    ("2 cups castle soap, 6 cups water", ["2 cup castile-soap", "6 cup water"]),
    ("The floor soap, two gallons. 8 oz household soap, 3 pints water.", ["8 oz bar-soap", "3 pint water"]),
    ("You'll want 4 cups of 91 rubbing alcohol, 1 cup of aloe gel.", ["4 cup isopropanol 91", "1 cup aloe-gel"]),
    (
        "3 cups of 99% iso, 1 cup water. A little of the alcohol first, then the rest of the alcohol.",
        ["3 cup isopropanol 99", "1 cup water"],
    ),
    ("600 ml ethanol 96 %, 200 ml water. Half the water, then the rest of the alcohol.", ["600 mL ethanol 96", "200 mL water"]),
    ("200 g soda, 100 g Natron", ["200 g soda", "100 g baking-soda"]),
    ("surface spray: 20 ml 5% bleach made up to a litre, cold water", ["20 mL sodium-hypochlorite 5", "q.s. water"]),
    ("Salt thickened body wash, 1 kg: 500 g aqua; 150 g SLES 70; rest aqua", ["500 g water", "150 g sles 70", "q.s. water"]),
    ("4 pints of rainwater. Then the lard, 5 lb of it, melted.", ["4 pint water", "5 lb lard"]),
    ("Peroxide 3 %, 42 ml. 600 ml of the alcohol, that's ethanol 90 percent.", ["42 mL hydrogen-peroxide 3", "600 mL ethanol 90"]),
    ("20 g of soap noodles... no sorry 200 g. 2 L of water.", ["200 g bar-soap", "2 L water"]),
    ("1 kilo borax... hang on, that's the old one. 500 g borax, 100 g salt.", ["500 g borax", "100 g salt"]),
    ("1 cup borax, 1/2 cup citric acid. The citric acid a tablespoon at a time.", ["1 cup borax", "0.5 cup citric-acid"]),
    ("20 ml phenoxyethanol and the scent: 10 ml of lavender oil", ["20 mL phenoxyethanol", "10 mL lavender-oil"]),
    ("Shave a bar, a 5 oz bar. 4 cups of water.", ["5 oz bar-soap", "4 cup water"]),
    ("drum 20 L / ethanol 96 %: 16.66 L / H2O2 3 %: 834 ml / glycerin: 290 ml", ["16.66 L ethanol 96", "834 mL hydrogen-peroxide 3", "290 mL glycerol"]),
    ("(i) 833 ml of ethanol 96 % are measured; (ii) 14.5 ml of glycerol are added.", ["833 mL ethanol 96", "14.5 mL glycerol"]),
    ("2 tbsp glycerin, 10 cups of 91% alcohol. Fill the jug with distilled water.", ["2 tbsp glycerol", "10 cup isopropanol 91", "q.s. water"]),
    ("500 ml ethanol 96 %, then distilled water until the can shows four litres", ["500 mL ethanol 96", "q.s. water"]),
    ("4 g carbopol gets sprinkled over 350 ml of water", ["4 g carbopol", "350 mL water"]),
    ("600 ml methyl hydrate, 100 ml water", ["600 mL methyl hydrate", "100 mL water"]),
]  # fmt: skip


def told(text: str, whose: str = "us") -> list[str]:
    lines = []
    for line in read_recipe(text, whose).lines:
        amount = line.amount
        unit = "" if amount is None else amount.unit.removeprefix("imp_").removesuffix("_metric")
        size = "-" if amount is None else "q.s." if amount.kind == "qs" else f"{amount.value:g} {unit}"
        strength = f" {line.strength.value:g}" if line.strength else ""
        lines.append(f"{size} {line.material.written}{strength}")
    return lines


@pytest.mark.parametrize(("text", "lines"), LINES, ids=[text[:40] for text, _ in LINES])
def test_the_lines_are_what_is_measured_and_no_more(text: str, lines: list[str]) -> None:
    assert told(text) == lines


@pytest.mark.parametrize("word", ["alone", "walter", "washer", "write", "nation", "spent", "panel", "mezcla", "sogar"])
def test_a_word_of_every_day_is_no_misspelt_name(word: str) -> None:
    assert meant(word) is not None, "it looks like one, or it need not be listed"
    assert word in ordinary_words()
    assert told(f"2 cups {word}, 1 cup water")[-1:] == ["1 cup water"]
    assert all(line.split()[-1] == word or line == "1 cup water" for line in told(f"2 cups {word}, 1 cup water"))


@pytest.mark.parametrize("word", ["glycerinne", "alchohol", "ethonol", "vinegarr"])
def test_a_misspelt_name_still_is_that_name(word: str) -> None:
    assert word not in ordinary_words()
    assert meant(word) is not None


#: Neighbours' ways, common practice: the lines, and the rests in hours.
NEIGHBOURS = [
    ("2 EL Soda und 1 Liter Wasser mit Essig", ["2 tbsp washing-soda", "1 L water", "- white-vinegar"], []),
    ("300 g soda, 150 g citroenzuur. Eerst de soda in de kom, dan het citroenzuur.", ["300 g washing-soda", "150 g citric-acid"], []),
    ("100 ml baking soda and die hard water", ["100 mL baking-soda"], []),
    ("500 ml de agua, 10 gotas de aceite esencial de limón, al final las gotas", ["500 mL water", "10 drop lemon-oil"], []),
    ("2 g carbomeer in 180 ml water, een nacht laten staan", ["2 g carbomer", "180 mL water"], [12.0]),
    ("480 ml Ethanol 96 %. Drei Tage stehen lassen.", ["480 mL ethanol 96"], [72.0]),
    ("1 Liter Wasser, 60 g Kernseife portionsweise einrühren. Über Nacht.", ["1 L water", "60 g bar-soap"], [12.0]),
]  # fmt: skip


@pytest.mark.parametrize(("text", "lines", "rests"), NEIGHBOURS, ids=[text[:30] for text, *_ in NEIGHBOURS])
def test_neighbours_words(text: str, lines: list[str], rests: list[float]) -> None:
    assert told(text, "metric") == lines
    plan = read_recipe(text, "metric").plan
    assert [act.wait_h for act in plan if act.wait_h] == rests


def test_a_little_at_a_time_is_said_by_neighbours_too() -> None:
    plan = read_recipe(NEIGHBOURS[-1][0], "metric").plan
    assert [act.portions for act in plan if act.lines] == [1, 0]


def test_slashes_part_a_list_of_three_and_no_amount_told_twice() -> None:
    assert len(layout("ethanol 833 ml / glycerol 15 ml / water 1 l").sentences) == 3
    assert len(layout("2 cups / 473 ml of water").sentences) == 1


def test_what_is_taken_back_for_nothing_stays_as_it_was_said() -> None:
    assert as_meant("20 g salt, no sorry, leave it out") is None
    assert as_meant("leave it out, no sorry, 20 g salt") is None
