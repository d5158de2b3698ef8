"""What is taken back whole further on is asked about; what somebody may leave out, or leaves out elsewhere, is not."""

import pytest

from firkin.core.audit import Severity
from firkin.core.recipe import findings_of, read_recipe

SOAP = "1 L water, 100 g castile soap, 20 ml glycerin. Mix. "
#: Common practice, no source.
TAKEN_BACK = [
    "Scratch the glycerin.",
    "Leave out the glycerin after all.",
    "Forget about the glycerin.",
    "Actually no glycerin.",
    "Edit: without the glycerin.",
    "The glycerin can go.",
    "I don't use the glycerin any more.",
    "I don't bother with the glycerin now.",
    "Edit: I've since left out the glycerin.",
    "I leave the glycerin out now.",
    "Take out the glycerin, it makes streaks.",
    "Oh, and don't put the glycerin in after all.",
    "Never mind the glycerin.",
]
KEPT = [
    "You can leave out the glycerin if your hands are fine.",
    "Skip the glycerin for babies.",
    "Don't forget the glycerin.",
    "Take the glycerin out of the cupboard.",
    "No glycerin left? Use aloe.",
    "I don't use glycerin on wood.",
    "Forget the soap dish.",
]


@pytest.mark.parametrize("said", TAKEN_BACK)
def test_whether_it_goes_in_is_asked(said: str) -> None:
    recipe = read_recipe(SOAP + said)
    assert [line.material.id for line in recipe.lines if line.claims.talked] == ["glycerol"]
    asked = [one for one in findings_of(recipe) if one.severity is Severity.ASK]
    assert [(one.lines, one.text) for one in asked] == [((2,), "The text may not mean the glycerol. Does it go in?")]


@pytest.mark.parametrize("said", KEPT)
def test_what_is_not_taken_back_is_not_asked_about(said: str) -> None:
    assert not [line for line in read_recipe(SOAP + said).lines if line.claims.talked]


#: Another choice, or what something stands in for: the line that is asked about. Common practice, no source.
CHOICES = [
    ("1 L water, 100 g castile soap (or 80 g soap flakes)", ["bar-soap"]),
    ("100 g castile soap or 80 g soap flakes, 1 L water", ["bar-soap"]),
    ("1 L water, 50 g washing soda, or else 60 g baking soda", ["baking-soda"]),
    ("1 L water, 50 g washing soda (alternatively 60 g of baking soda)", ["baking-soda"]),
    ("1 L water, either 100 g castile soap or 80 g soap flakes", ["bar-soap"]),
    ("300 ml 70% isopropyl or 250 ml 96% ethanol, 100 ml aloe gel", ["ethanol"]),
    ("Instead of the 50 g borax I take 60 g washing soda, 1 L water", ["borax"]),
    ("60 g washing soda rather than 50 g borax, 1 L water", ["borax"]),
    # one thing in two measures, a range, and an "or" of something else
    ("1 L water, 2 cups (or 500 ml) vinegar", []),
    ("1 L water, 30 g or 40 g salt", []),
    ("1 L water. Stir it or shake it. 30 g salt", []),
    ("1 L water, hot or cold, 30 g salt", []),
]


@pytest.mark.parametrize(("text", "asked"), CHOICES)
def test_another_choice_is_asked_about_and_not_simply_counted(text: str, asked: list[str]) -> None:
    recipe = read_recipe(text)
    assert [line.material.id for line in recipe.lines if line.claims.talked] == asked
    questions = [one for one in findings_of(recipe) if one.severity is Severity.ASK and "go in" in one.text.lower()]
    assert len(questions) == len(asked)


def test_a_choice_of_two_amounts_is_one_question() -> None:
    asked = [
        one.text
        for one in findings_of(read_recipe("1 L water, 30 g salt or 40 g salt"))
        if one.severity is Severity.ASK
    ]
    assert asked == ["Salt stands here twice: 30 g and 40 g. Do both go in?"]


def test_what_is_taken_back_before_it_is_named_is_another_one() -> None:
    recipe = read_recipe("Scratch the glycerin. New one: 1 L water, 100 g castile soap, 20 ml glycerin.")
    assert not [line for line in recipe.lines if line.claims.talked]


def test_of_a_danger_the_graver_question_is_asked_and_once() -> None:
    """Is it the bleach that was taken back, then the bleach is what is asked about."""
    recipe = read_recipe("1 L water, 100 g castile soap, bleach 5 % 50 ml. Mix. Scratch the bleach.")
    asked = [one for one in findings_of(recipe) if one.severity is Severity.ASK and "go in" in one.text]
    assert len(asked) == 1
    assert "Does bleach (sodium hypochlorite) go into this mix?" in asked[0].text
    assert not [one for one in findings_of(recipe) if one.rule == asked[0].rule and one.severity is Severity.STOP]


def test_of_two_that_are_taken_back_each_is_asked_about() -> None:
    text = "1 L water, 100 g castile soap, bleach 5 % 50 ml. Mix. Scratch the bleach. Scratch the water."
    asked = [one for one in findings_of(read_recipe(text)) if one.severity is Severity.ASK and "go in" in one.text]
    assert [one.lines for one in asked if one.rule == "line-unsure"] == [(0,)]
    assert [one.rule for one in asked if 2 in one.lines] == ["bleach-mixed"]
