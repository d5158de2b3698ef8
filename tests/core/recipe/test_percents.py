"""Per cents find the line they are of, whatever they happen to come to. Strengths sold: common practice, no source."""

import pytest

from firkin.core.recipe import read_recipe

READ = [
    # 40 mL of a litre are four per cent by chance: "of 4 % bleach" is how strong it is
    (
        "2 tablespoons of 4% bleach, topped up to 1 litre with cold water.",
        "australian",
        {"sodium-hypochlorite": "4 % w/w"},
    ),
    ("50 ml of 5 % bleach, topped up to 1 litre with water", "metric", {"sodium-hypochlorite": "5 % w/w"}),
    # the share of a list stays a share
    ("SLES 12 %, 600 g; water to 5 kg", "metric", {"sles": ""}),
    # told behind the line, in the same breath
    ("Six hundred grams of SLES, that's the seventy percent paste. A litre of water.", "us", {"sles": "70 % w/w"}),
    ("Three cups of isopropyl, it's the 91 percent, one cup gel", "us", {"isopropanol": "91 % v/v"}),
    ("two cups alcohol, which is 91 percent, one cup aloe", "us", {"isopropanol": "91 % v/v", "aloe-gel": ""}),
    # of the whole, and so of no line
    ("Three cups of rubbing alcohol and a cup of gel, that's a 70 percent sanitizer", "us", {"isopropanol": ""}),
    # and a second one is not taken back
    ("two cups of 99 % isopropyl, that's the 91 percent, one cup aloe", "us", {"isopropanol": "99 % v/v"}),
    # volumes of oxygen in neighbours' words: 10 volumes are 3 %, not 10
    ("acqua ossigenata 10 volumi 250 ml", "metric", {"hydrogen-peroxide": "3 % w/v"}),
    ("agua oxigenada 20 volúmenes 100 ml, agua 1 l", "metric", {"hydrogen-peroxide": "6 % w/v"}),
    ("peróxido 10 vol. 100 ml", "metric", {"hydrogen-peroxide": "3 % w/v"}),
]


@pytest.mark.parametrize(("text", "household", "strengths"), READ)
def test_a_per_cent_is_of_the_line_it_is_told_of(text: str, household: str, strengths: dict[str, str]) -> None:
    read = {line.material.id: str(line.strength or "") for line in read_recipe(text, household).lines}
    assert {key: read.get(key, "not read") for key in strengths} == strengths


COUNTED = [
    ("2 x 500 ml isopropyl 99 %, 250 ml water", {"isopropanol": "1000 mL", "water": "250 ml"}),
    ("2x500ml isopropyl and 1× 250 ml water", {"isopropanol": "1000 mL", "water": "250 mL"}),
    ("ethanol 500 ml x 2, water 100 ml", {"ethanol": "1000 mL", "water": "100 ml"}),
    (
        "three 250 ml bottles of 91% alcohol and a cup of aloe gel",
        {"isopropanol": "750 mL", "aloe-gel": "1 cup_metric"},
    ),
    ("2 x 250 g bars of soap, 4 l water", {"bar-soap": "500 g", "water": "4 l"}),
    ("2 1 litre bottles of bleach", {"sodium-hypochlorite": "2 L"}),
    ("a 500 ml bottle of isopropyl 99 %, 250 ml water", {"isopropanol": "500 ml", "water": "250 ml"}),
    # bottles to fill are none of what goes in
    ("800 ml ethanol 96%, 200 ml water. Fill it into 4 x 250 ml bottles.", {"ethanol": "800 ml", "water": "200 ml"}),
    ("1 500 ml ethanol 96 %, 300 ml water", {"ethanol": "1 500 ml", "water": "300 ml"}),
]


@pytest.mark.parametrize(("text", "amounts"), COUNTED)
def test_what_is_counted_out_is_taken_so_often(text: str, amounts: dict[str, str]) -> None:
    recipe = read_recipe(text, "metric")
    assert {line.material.id: line.words()[2] for line in recipe.lines} == amounts
    assert not any(one.isdigit() for one in recipe.unread)
