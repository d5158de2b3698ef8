"""A strength or a thing that is taken back gives way to the one said instead; two strengths of one stock are asked."""

import time

import pytest

from firkin.core.recipe import findings_of, read_recipe
from firkin.core.recipe.corrections import CORRECTED
from firkin.core.recipe.doubts import second_reading
from firkin.core.recipe.spoken import as_meant
from pace import slower

RUB = "99% isopropyl 751 ml, glycerin 14 ml. Mix. "
WHO = "Ethanol 96 % 833 ml, peroxide 3 % 42 ml, glycerol 98 % 15 ml. "
#: Common practice, no source: what is told, and the lines that are meant.
MEANT = [
    (RUB + "Sorry, it's the 91, not the 99.", ("isopropanol", "91 % v/v", "751 ml")),
    (RUB + "I said 99 %, it's 91 %.", ("isopropanol", "91 % v/v", "751 ml")),
    (RUB + "The isopropyl is 91 %, I misread it.", ("isopropanol", "91 % v/v", "751 ml")),
    (RUB + "Correction: the alcohol is 91 %.", ("isopropanol", "91 % v/v", "751 ml")),
    ("isopropyl 99%, no, 91%, 751 ml, glycerin 14 ml.", ("isopropanol", "91 % v/v", "751 ml")),
    ("2 cups of 91 percent alcohol, no wait, 99 percent, one cup aloe gel.", ("isopropanol", "99 % v/v", "2 cups")),
    (WHO + "Typo: peroxide is 6 %.", ("hydrogen-peroxide", "6 % w/v", "42 ml")),
    (WHO + "The ethanol is actually 95 %.", ("ethanol", "95 % v/v", "833 ml")),
    ("SLES 70 % 150 g, water 800 ml. I wrote SLES 70 %, it should be 27 %.", ("sles", "27 % w/w", "150 g")),
    ("1 L water, 50 g borax, no wait, washing soda. Mix.", ("washing-soda", "", "50 g")),
    ("1 L water, borax 50 g. I mean washing soda. Mix.", ("washing-soda", "", "50 g")),
    ("1 L water, borax 50 g. Sorry, washing soda, not borax. Mix.", ("washing-soda", "", "50 g")),
    ("1 L water, 50 g baking soda. Sorry, that's washing soda. Mix.", ("washing-soda", "", "50 g")),
    ("1 L water, borax, sorry, washing soda, 50 g. Mix.", ("washing-soda", "", "50 g")),
    ("1 L water, borax 50 g. Where it says borax I meant washing soda. Mix.", ("washing-soda", "", "50 g")),
    ("100 g coconut oil, correction, olive oil, 14 g lye", ("vegetable-oil", "", "100 g")),
]


@pytest.mark.parametrize(("text", "line"), MEANT)
def test_what_is_put_right_is_read_as_it_is_meant(text: str, line: tuple[str, str, str]) -> None:
    read = [one.words() for one in read_recipe(text).lines]
    assert line in read
    assert len({name for name, _, _ in read}) == len(read), "and nothing beside it"


#: What only sounds like it: the strength and the thing stay.
LEFT = [
    ("Ethanol 96 % 800 ml, glycerol 98 % 15 ml. It's the brand, not the strength.", ("ethanol", "96 % v/v", "800 ml")),
    ("99% isopropyl 751 ml, water 200 ml. The alcohol should be 70 % or more.", ("isopropanol", "99 % v/v", "751 ml")),
    ("Ethanol 96 % 800 ml, no 70 % stuff, water 200 ml.", ("ethanol", "96 % v/v", "800 ml")),
    ("1 L water, borax 50 g, no washing soda.", ("borax", "", "50 g")),
    ("1 L water, borax 50 g. Sorry, no washing soda in the shop.", ("borax", "", "50 g")),
    ("1 L water, a cup of vinegar, sorry, the phone. Mix.", ("white-vinegar", "", "1 cup")),
    ("Ethanol 96 %, no 70 % for me, 800 ml, water 200 ml.", ("ethanol", "96 % v/v", "800 ml")),
    (
        "1 L water, 50 g washing soda, 20 g baking soda. Washing soda, not baking soda, does the work.",
        ("baking-soda", "", "20 g"),
    ),
    ("1 L water, bleach 5 % 20 ml, vinegar 50 ml. Water, not vinegar.", ("white-vinegar", "", "50 ml")),
    ("Ethanol 96 % 800 ml, water 200 ml. The mix is 76 %, not 96.", ("ethanol", "96 % v/v", "800 ml")),
    # of two strengths, or two of the thing, only the maker knows which
    (
        "Peroxide 3 % 40 ml, peroxide 12 % 10 ml. Correction: the peroxide is 6 %.",
        ("hydrogen-peroxide", "3 % w/v", "40 ml"),
    ),
    (
        "Peroxide 3 % 40 ml, peroxide 12 % 10 ml. Correction: the peroxide is 6 %.",
        ("hydrogen-peroxide", "12 % w/v", "10 ml"),
    ),
    ("Borax 50 g, later borax 20 g. Sorry, washing soda, not borax. 1 L water.", ("borax", "", "50 g")),
    # a strength stands beside what is taken back, and need not be the other's
    ("50 ml of 5 % bleach, sorry, vinegar, 1 L water", ("sodium-hypochlorite", "5 % w/w", "50 ml")),
    ("Bleach 5 % 50 ml, sorry, vinegar, 1 L water", ("sodium-hypochlorite", "5 % w/w", "50 ml")),
]


@pytest.mark.parametrize(("text", "line"), LEFT)
def test_what_only_sounds_like_it_stays(text: str, line: tuple[str, str, str]) -> None:
    assert line in [one.words() for one in read_recipe(text).lines]


def test_the_sentence_that_puts_right_is_marked_so_and_nothing_else_is_read_of_it() -> None:
    recipe = read_recipe(RUB + "I said 99 %, it's 91 %.")
    marked = [recipe.text[mark.start : mark.end] for mark in recipe.marks if mark.what == CORRECTED]
    assert marked == ["I said 99 %, it's 91 %."]
    assert recipe.claim is None


@pytest.mark.parametrize(
    ("text", "other"),
    [
        ("70% isopropyl 400 ml, aloe 200 ml. Hang on, the bottle says 91%. So 91% isopropyl.", "91 % v/v"),
        ("Bleach 5 % 50 ml, water 950 ml. My bleach is 8 %.", "8 % w/w"),
    ],
)
def test_a_second_strength_of_one_stock_is_asked_about(text: str, other: str) -> None:
    recipe = read_recipe(text)
    assert len(recipe.lines) == 2, "it is no line of its own"
    read = second_reading(recipe, 0)
    assert read is not None
    assert str(read.strength) == other
    asked = next(one for one in findings_of(recipe) if one.rule == "line-unsure")
    assert asked.text.endswith(f", not {recipe.lines[0].strength}?")


@pytest.mark.parametrize(
    "text",
    [
        "Isopropyl 70 % 400 ml, isopropyl 91 % 100 ml, aloe 200 ml",  # two bottles, each with its amount
        "Isopropyl 70 % 400 ml, aloe 200 ml. Then a splash of 91 % isopropyl.",  # some of it, however much
        "Isopropyl 70 % 400 ml, isopropyl 91 % 100 ml, aloe 200 ml. The 99 % isopropyl burns.",  # of which of the two?
        "Isopropyl 70 % 400 ml, aloe 200 ml. The 70 % isopropyl first.",  # the same again
    ],
)
def test_two_bottles_are_two_and_the_same_told_again_is_one(text: str) -> None:
    assert not [one for one in findings_of(read_recipe(text)) if one.rule == "line-unsure"]


@pytest.mark.parametrize(
    "many", ["99 %, no, ", "it's 91, not 99. ", "sorry, salt ", "I said 1 % salt, ", "salt, not borax. "]
)
def test_a_long_text_of_them_is_read_in_linear_time(many: str) -> None:
    started = time.process_time()
    as_meant(many * 1000)
    assert time.process_time() - started < 2.0 * slower()
