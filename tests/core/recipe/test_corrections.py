"""What a writer takes back and says anew counts as it is said last, or is asked about; nothing else is taken back."""

import time

import pytest

from firkin.core.recipe import findings_of, read_recipe
from firkin.core.recipe.spoken import as_meant
from pace import slower

#: Common practice, no source: what is listed with the thing, its old amount, and the new one.
THINGS = [
    ("Water 2 L, soap flakes 200 g", "glycerin", "50 ml", "20 ml", "glycerol", 20.0),
    ("Two cups of castile soap, a cup of water", "salt", "two tablespoons", "one tablespoon", "salt", 1.0),
    ("1 l water", "citric acid", "25 grams", "15 grams", "citric-acid", 15.0),
]
#: Ways to put an amount right, of many voices. Common practice, no source.
PUT_RIGHT = [
    "{x} {old}, no, make that {new}. Mix it.",
    "{x} {old}, wait, {new}. Mix it.",
    "{x} {old} (sorry, {new}). Mix.",
    "{old} (sorry, {new}) of {x}. Mix.",
    "{old} {x} - or rather {new}. Mix.",
    "{x} {old}, I beg your pardon, {new}. Mix.",
    "{x}, {old}, let me look, no, {new}. Mix.",
    "{old} of {x}, is it? No, {new}. Mix.",
    "{old} of {x}, hang on, it says here {new}. Mix.",
    "{old} {x}, oh no that's wrong, {new} {x}. Mix.",
    "~~{old}~~ {new} {x}. Mix.",
    "<s>{old}</s> {new} {x}. Mix.",
    "{x} {old}, oh and the {x}, make that {new}. Mix.",
    "{x} {old}. Mix. Oh and the {x}, make that {new}.",
    "{x} {old}. Mix. The {x} should be {new}.",
    "{x} {old}. Mix. The {x} should be {new}, not {old}.",
    "{x} {old}. Mix. P.S. the {x} wants to be {new}.",
    "{x} {old}. Mix. Make the {x} {new}.",
    "{x} {old}. Mix. Change the {x} to {new}.",
    "{x} {old}. Mix. Bring the {x} down to {new}.",
    "{x} {old}. Mix. Correction: {x} {new}.",
    "{x} {old}. Mix. Typo above: the {x} is {new}.",
    "{x} {old}. Mix. Oh I got that wrong, {new} {x}.",
    "{x} {old}. Mix. I meant {new} of {x}, not {old}.",
    "{x} {old}. Mix. Sorry, I said {old} of {x}, I meant {new}.",
    "{x} {old}. Mix. Where I said {old} of {x} read {new}.",
    "{x} {old}. Mix. Did I say {old} of {x}? No, {new}.",
    "{x} {old}. Mix. For the {x}, use {new} instead of {old}.",
    "{x} {old}. Mix. Wait, that's too much {x}. {new} is plenty.",
]
#: What may be a correction, and may be more of it or another time.
MAY_BE = [
    "{x} {old}. Mix. EDIT: {new} of {x}, sorry.",
    "{x} {old}. Mix. Better: {x} {new}.",
    "{x} {old}. Mix. Actually only {new} of the {x}.",
    "{x} {old}. Mix. I've gone down to {new} of {x} since.",
    "{x} {old}. Mix. I'd use {new} of {x} next time, {old} was too much.",
]


def _amounts(text: str, material: str) -> list[float | None]:
    recipe = read_recipe(text)
    assert all(line.material.known for line in recipe.lines), recipe.lines
    return [line.amount.value if line.amount else None for line in recipe.lines if line.material.id == material]


@pytest.mark.parametrize(("listed", "x", "old", "new", "material", "value"), THINGS, ids=[row[1] for row in THINGS])
@pytest.mark.parametrize("way", PUT_RIGHT)
def test_an_amount_that_is_put_right_counts_as_it_is_said_last(
    way: str, listed: str, x: str, old: str, new: str, material: str, value: float
) -> None:
    text = f"{listed}, {way.format(x=x, old=old, new=new)}"
    assert _amounts(text, material) == [value]
    assert not [one for one in findings_of(read_recipe(text)) if one.rule == "line-unsure"]


@pytest.mark.parametrize("way", MAY_BE)
def test_what_may_be_a_correction_is_asked_about(way: str) -> None:
    listed, x, old, new, material, _ = THINGS[0]
    text = f"{listed}, {way.format(x=x, old=old, new=new)}"
    assert _amounts(text, material) == [50.0, 20.0]
    assert "line-unsure" in [one.rule for one in findings_of(read_recipe(text))]


#: What only sounds like it: no amount of it is taken back.
LEFT = [
    ("1 L water. Add 1 L of it, wait. 100 g of soap flakes next.", "bar-soap", [100.0]),
    ("1 L water, wait, 100 g of soap flakes", "bar-soap", [100.0]),
    ("1 L water, wait, 100 g of soap flakes", "water", [1.0]),
    ("80 g salt, no sugar, 1 L water", "salt", [80.0]),
    ("1 L water, 20 ml glycerin, no more. 5 ml lavender oil.", "glycerol", [20.0]),
    ("1 L water, 20 ml glycerin, not 30 ml. Mix.", "glycerol", [20.0]),
    ("100 g castile soap, 1 L water. Only 50 g of the soap at first. The rest later.", "castile-soap", [100.0]),
    ("1 L water, or rather more. Castile 100 g.", "water", [1.0]),
    ("1 L water, 100 g salt. Drop the salt 5 g at a time.", "salt", [100.0]),
    ("2 L water, 100 g soap flakes. Boil it. The water is now 1 L.", "water", [2.0]),
    ("2 L water, 100 g soap flakes. Bring the water 1 L to the boil.", "water", [2.0]),
    ("Sorry, no scales. 20 ml glycerin, 1 L water.", "glycerol", [20.0]),
    # two of it stand before: which of them, only the maker knows
    ("Salt 20 g in the pot. Later salt 30 g on top. 1 L water. The salt should be 25 g.", "salt", [20.0, 30.0]),
    # the amount that is told as wrong is none that was said
    ("1 L water, salt 20 g. I said 30 g of salt, I meant 25 g.", "salt", [20.0, 25.0]),
]


@pytest.mark.parametrize(("text", "material", "amounts"), LEFT)
def test_what_only_sounds_like_a_correction_takes_nothing_back(text: str, material: str, amounts: list[float]) -> None:
    assert _amounts(text, material)[: len(amounts)] == amounts


def test_what_was_struck_out_says_so_where_it_stands() -> None:
    recipe = read_recipe("Water 1 L, ~~20 ml~~ 14 ml glycerin.")
    struck = next(mark for mark in recipe.marks if mark.what == "Struck out.")
    assert recipe.text[struck.start : struck.end] == "~~20 ml~~"


def test_an_amount_is_put_right_twice() -> None:
    assert _amounts("1 L water, salt 50 g. The salt should be 40 g. Mix. No, make the salt 30 g.", "salt") == [30.0]


@pytest.mark.parametrize(
    "many", ["20 ml, no, ", "make the salt 30 g. ", "sorry 20 g ", "~~1 g", "I said 1 g of salt, "]
)
def test_a_long_text_of_them_is_read_in_linear_time(many: str) -> None:
    started = time.process_time()
    as_meant(many * 1000)
    assert time.process_time() - started < 2.0 * slower()
