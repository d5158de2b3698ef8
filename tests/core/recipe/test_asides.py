"""What is said beside the matter hides no line, and short ways of the bench are read as they are meant."""

import time

import pytest

from firkin.core.audit import Severity
from firkin.core.recipe import findings_of, read_recipe
from firkin.core.recipe.asides import ASIDES
from firkin.core.recipe.shorthand import SHORTHAND
from firkin.core.recipe.spoken import as_meant
from pace import slower

#: Common practice, no source: what is said, and how it is meant.
MEANT = [
    ("a litre of water warm not hot and then 100 g of salt", "a litre of water warm and then 100 g of salt"),
    ("stir it, no bubbles when it's gone you put 30 g of betaine", "stir it, no bubbles when it's gone, you put 30 g of betaine"),
    ("don't boil it and then 100 g of salt", "don't boil it, and then 100 g of salt"),
    ("a bar of soap it's about 5 ounces and mix", "a bar of soap, 5 ounces and mix"),
    ("measure your aloe, that's 2 cups. Stir", "measure your aloe, 2 cups. Stir"),
    ("stir and done oh and let it sit a day", "stir and done. let it sit a day"),
    ("beat it, if it's too thick a drop more hot water. Bottle", "beat it, . Bottle"),
    ("salt 60 g, thirds\nrest o/n", "salt 60 g, in 3 additions\nrest overnight"),
    ("closed for 3 nights.", "closed for 3 days."),
    ("we do a gallon at a time, first water", "this makes a gallon,, first water"),
    ("what's left to the gallon line is water", "top up to 1 gallon with water"),
    ("2 tsp of alcohol (the 70) misted on", "2 tsp of alcohol, 70 % misted on"),
    ("alcohol. 720 ml of it, 96.", "alcohol. 720 ml of alcohol, 96 %."),
    ("the ethanol, 96, that's 620 grams", "the ethanol, 96 %, that's 620 grams"),
    ("take your 96 percent and pour", "take your 96 percent alcohol and pour"),
    ("bleach 20 ml, gallon of water", "bleach 20 ml, a gallon of water"),
    ("Glass cleaner v3 (v1 had 10 ml dish soap): water 1 L", "Glass cleaner  : water 1 L"),
    ("60 % alcohol, 40 % water (alcohol = 96° spirit)", "60 % 96 % alcohol, 40 % water "),
    ("I bought 5 L of 99.9% isopropyl for 18 euro.", "I bought 99.9% isopropyl for 18 euro."),
    ("Per 100 g: water 61.5, SLES (70 %) 20, salt 18.5.", " water 61.5 g, SLES (70 %) 20 g, salt 18.5 g."),
    ("Vinegar first? NO. Bicarb, 100 g", "Vinegar first? NO! Bicarb, 100 g"),
    ("8.33 litres of the 96 into the drum", "8.33 litres of the 96 % alcohol into the drum"),
    ("soap in another litre of water", "soap in another 1 litre of water"),
    ("soap in another half litre of water", "soap in another 0.5 litre of water"),
    ("2 tablespoons of soap and one of aloe", "2 tablespoons of soap and one tablespoons of aloe"),
    ("laisser gonfler 2 heures, goutte à goutte", "leave it 2 hours, drop by drop"),
    ("in drei Portionen quellen lassen", "in 3 additions leave it"),
    ("There's the paste, it's called SLES. 240 g of the paste", "There's the paste, it's called SLES. 240 g of the SLES"),
    ("SLES, and mine is the seventy percent one, and 5 g salt", "SLES seventy percent, and 5 g salt"),
    ("betaine, that's a 30 % liquid, cheap", "betaine 30 %, cheap"),
    ("Borax, or what they sell as that, which is another animal, 4 ounces", "Borax, 4 ounces"),
    ("8 drops of orange and 2 of mint", "8 drops of orange oil and 2 of mint"),
    ("Salz 15 g.\nZum Schluss Duft", "Salz 15 g.\nfinally Duft"),
    ("water up to the litre, and shake", "water up to 1 litre, and shake"),
    ("agua c.s.p. 1 L, glicerina 15 ml", "agua qsp 1 L, glicerina 15 ml"),
]  # fmt: skip
#: What is like one of these, and is none.
LEFT = [
    "ethanol, 80, glycerol, 5, water, 15",
    "use cold, not hot water",  # hot water is what is not meant
    "don't add bleach and then 5 ml of vinegar",  # what is warned of is named
    "never put in 20 ml",  # nothing is told to be done next
    "stir it a ladle of soap at a time",
    "SLES, the 70 percent, in first",  # not an alcohol
    "see the note (the 70s)",
    "closed for 1 night",
    "a gallon of water and half a cup of soap",
    "I got 5 L of water in the bucket",  # not paid for
    "use v/v figures",
    "(alcohol = strong)",
    "see no. 5",
    "another of the same",
    "salt, that's 30 % of it",  # salt is not sold in strengths
    "ethanol and aloe, that's 62 %",  # of both
    "Borax, which is another animal, and soda",  # measures nothing behind it
    "see the paste, it's called for",
    "8 of the 20 jars",
]


@pytest.mark.parametrize(("said", "meant"), MEANT)
def test_it_is_written_as_it_is_meant(said: str, meant: str) -> None:
    plain = as_meant(said)
    assert plain is not None
    assert plain.text == meant


@pytest.mark.parametrize("said", LEFT)
def test_what_only_looks_like_it_is_left(said: str) -> None:
    assert not [one for way in (*ASIDES, *SHORTHAND) for one in way(said)]


@pytest.mark.parametrize(
    "said",
    [
        "500 ml vinegar, 500 ml water. If it's too weak, add a splash of bleach.",
        "Spray v2 (v1 had 100 ml bleach): vinegar 500 ml, water 500 ml",
        "500 ml vinegar, not too hot bleach, 500 ml water",
        "1 cup ammonia no when you feel like it 2 cups bleach",
        "250 ml vinegar (the 50) and then never mind the smell, a gallon of bleach",
    ],
)
def test_nothing_dangerous_is_lost_with_what_is_said_beside_it(said: str) -> None:
    found = findings_of(read_recipe(said, "us"))
    assert any(one.severity in (Severity.STOP, Severity.ASK) and "bleach" in one.text.lower() for one in found), found


@pytest.mark.parametrize(
    ("said", "lines"),
    [
        ("833 ml of ethanol 96 %, then the peroxide 42", [("ethanol", "833 mL"), ("hydrogen-peroxide", "42 mL")]),
        ("833 ml of ethanol 96 %, 40 ml peroxide 12", [("ethanol", "833 mL"), ("hydrogen-peroxide", "40 mL")]),
        ("2 cups aloe. It'll go a bit milky.", [("aloe-gel", "2 cup")]),
        ("salt I do a spoon at a time till it thickens about 20 grams all told", [("salt", "20 g")]),
        ("80 g soft soap in 5 litres of water", [("soft-soap", "80 g"), ("water", "5 L")]),
    ],
)
def test_what_is_read_of_it(said: str, lines: list[tuple[str, str | None]]) -> None:
    """Peroxide is sold as 3 to 12, 30, 35 and 50 %: a 42 is an amount whose unit is asked for."""
    read = read_recipe(said, "us").lines
    assert [(one.material.written, one.amount and f"{one.amount.value:g} {one.amount.unit}") for one in read] == lines
    assert all(one.strength is None or str(one.strength).startswith(("96", "12")) for one in read)


@pytest.mark.parametrize(
    "piece", ["not hot ", "no when you ", "it's 5 g ", "oh and ", "if it's too thick a drop ", "the 96 percent "]
)
def test_its_time_grows_with_its_length(piece: str) -> None:
    text = (piece * 4000)[:12_000]
    started = time.process_time()
    for way in (*ASIDES, *SHORTHAND):
        list(way(text))
    assert time.process_time() - started < 0.5 * slower()
