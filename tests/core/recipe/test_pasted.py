"""A text that a mail or an editor broke, quoted or spaced is read as it was written; a list stays a list."""

import textwrap

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.recipe import read_recipe
from firkin.core.recipe.captions import NOTHING
from firkin.core.recipe.pasted import as_written

#: Common practice, no source: what was pasted, and how it was written.
WRITTEN = [
    ("> Hand rub\n> 833 mL ethanol\n>\n> Shake.", "Hand rub\n833 mL ethanol\n\nShake."),
    (">>Hand rub\n>>833 mL ethanol", "Hand rub\n833 mL ethanol"),
    ("833 mL ethanol\r\n15 mL glycerol", "833 mL ethanol\n15 mL glycerol"),
    ("water 5 L\n\nborax 20 g\n\nsoap 60 g\n\nsalt 5 g", "water 5 L\nborax 20 g\nsoap 60 g\nsalt 5 g"),
    ("HAND RUB. 2 C. ALCOHOL 91 %, 1 C. ALOE GEL, 8 DROPS TEA TREE OIL. SHAKE WELL.", "hand rub. 2 c. alcohol 91 %, 1 c. aloe gel, 8 drops tea tree oil. shake well."),
    ("Stir the carbomer into the water and leave it to stand over\nnight.", "Stir the carbomer into the water and leave it to stand over night."),
    ("Into one 20 litre jerrycan: ethanol 96 % 18 L, peroxide 3 %\n900 ml, glycerol 300 ml.", "Into one 20 litre jerrycan: ethanol 96 % 18 L, peroxide 3 % 900 ml, glycerol 300 ml."),
    ("In the bucket go 2 litres of water, 60 g soap flakes, glycerine 10\nml", "In the bucket go 2 litres of water, 60 g soap flakes, glycerine 10 ml"),
    ("put the phenoxyethanol in once it is hand warm, seventy-\ntwo drops of it", "put the phenoxyethanol in once it is hand warm, seventy-two drops of it"),
    ("Ethanol 96 % that is left from the other batch, 620 mL, and\n15 mL glycerol", "Ethanol 96 % that is left from the other batch, 620 mL, and 15 mL glycerol"),
]  # fmt: skip
#: What is like one of these, and is left as it stands: each line of it tells something of its own.
LEFT = [
    "Carbomer 4 g / water 280 g / ethanol 96 % 690 g / glycerol 20 g / TEA 6 g\na) sprinkle the carbomer on the water",
    "Leave the glycerol and the salt until all the peroxide is in\nEnd with the water",
    "Mix the gum with the glycerol in a small bowl so it doesn't clump\nDump that in the water",
    "More than that:\n> 20 g of salt makes it cloudy\nwater 1 L\nsoap 100 g",
    "water 5 L\n\nborax 20 g\n\nsoap 60 g\nsalt 5 g",
    "4 g carbomer, sifted on the water as slowly as it will go\n10 g triethanolamine",
    "washing soda, the crystals and not the powder, 200 g\nborax, 100 g",
    "xanthan 4 g, glycerin 20 g, water 300 g, ethanol 96% 620 g\nIn a small cup stir the xanthan into the glycerin.",
    "Ethanol 96 %, which is the one from the farm shop, 833 mL\nGlycerol 15 mL",
    "Stir it until nothing can be seen of the powder any more.\n15 mL glycerol",
    "day 0: brown sugar 300 g and water 3 L, stir till dissolved\nday 1: citrus peel 900 g",
    "Ethanol 96 %   833 mL   from the blue can on the left side\nglycerol   15 mL",
    "pH 8",
    "SLES 70 % 150 g, CAPB 30 % 100 g, NAOH 5 g, LABSA 20 g, all in WATER, stirred with a paddle",  # capitals, not all
    "so that is how we do it here and it has been like that for as long as anybody knows and nobody ever asked me why\nput it",
    "",
]


def plainly(text: str) -> str:
    """A text without the signs that say nothing, and without space at the ends of its lines."""
    return "\n".join(line.rstrip() for line in text.replace(NOTHING, "").split("\n"))


@pytest.mark.parametrize(("pasted", "written"), WRITTEN)
def test_it_is_put_right_place_for_place(pasted: str, written: str) -> None:
    """Quoted lines, broken lines, an empty line behind each, capitals."""
    assert plainly(as_written(pasted)) == written
    assert len(as_written(pasted)) == len(pasted)


@pytest.mark.parametrize("text", LEFT)
def test_what_stands_on_a_line_of_its_own_stays_there(text: str) -> None:
    """A list is never run together: an amount would go to another name."""
    assert as_written(text) == text


NAMES = [
    "water",
    "washing soda",
    "ethanol 96 %",
    "hydrogen peroxide 3 %",
    "citric acid",
    "coco glucoside, the thick one",
]
AMOUNTS = ["500 g", "15 mL", "2 cups", "1.5 L", "4 g"]
ITEMS = st.one_of(
    st.tuples(st.sampled_from(AMOUNTS), st.sampled_from(NAMES)).map(" ".join),
    st.tuples(st.sampled_from(NAMES), st.sampled_from(AMOUNTS)).map(", ".join),
    st.tuples(st.sampled_from(NAMES), st.sampled_from(AMOUNTS)).map(": ".join),
    st.tuples(st.sampled_from(NAMES), st.sampled_from(AMOUNTS)).map(lambda item: f"{item[0].capitalize()} {item[1]}"),
)


@given(st.lists(ITEMS, min_size=2, max_size=9))
def test_a_list_stays_a_list(items: list[str]) -> None:
    """Whatever its items are, in whatever order."""
    assert as_written("\n".join(items)) == "\n".join(items)


PROSE = (
    "Put three litres of cold water in the big pan and warm it until it is hand hot, then shake 20 g of borax over it "
    "and stir until the water is clear again. Grate 60 g of bar soap into it, a little at a time, and wait until each "
    "lot has melted. When it has cooled, add 10 mL of phenoxyethanol and 5 mL of lavender oil, and leave it overnight."
)


@given(st.integers(46, 95))
def test_prose_broken_at_any_width_reads_the_same(width: int) -> None:
    """As an editor breaks it, quoted or not."""
    whole = read_recipe(PROSE)
    for broken in (textwrap.fill(PROSE, width), "\n".join("> " + line for line in textwrap.wrap(PROSE, width))):
        read = read_recipe(broken)
        assert [line.words() for line in read.lines] == [line.words() for line in whole.lines]
        assert [(act.do, act.lines, act.portions, act.wait_h) for act in read.plan] == [
            (act.do, act.lines, act.portions, act.wait_h) for act in whole.plan
        ]
        assert read.text == broken
        assert all(mark.end <= len(broken) for mark in read.marks)


def test_a_paragraph_of_speech_without_a_stop_goes_on() -> None:
    """What a transcript says in long lines is one talk; an amount at the end of one is of the name in the next."""
    talk = (
        "so that is how we do it here and nobody ever asked me why it is done like that " + "and you take two cups of"
    )
    lines = read_recipe(f"{talk}\nwater and one cup of castile soap").lines
    assert [line.words() for line in lines] == [("water", "", "2 cup"), ("castile-soap", "", "1 cup")]
