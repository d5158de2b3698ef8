"""Of which lines a reading is sure. Bar: of those it is sure of, at most one in a hundred is wrong."""

from collections import Counter
from pathlib import Path

import pytest

from firkin.core.audit import Severity
from firkin.core.recipe import findings_of, is_sure, read_recipe, second_reading

from .texts import meant_amount, size_of, texts

#: A text of each group: which of its lines are doubtful, and the second reading of the first of those.
READ = [
    ("cold water 1 L, bleach 5 % 50 ml. Edit: bleach 25 ml.", [False, True, True], "25 mL"),
    # put right in so many words
    ("cold water 1 L, bleach 5 % 50 ml. Edit: bleach 25 ml, not 50.", [False, False], ""),
    # of a whole and as a part of it: told again
    ("water 1 L, salt 60 g, soap 80 g, water 1 L", [True, False, False, True], "1 L"),
    # two bottles of two strengths are two things
    ("100 ml of 80 % ethanol and 100 ml of 60 % ethanol", [False, False], ""),
    # what tops it up went in before
    ("100 ml water, 40 ml bleach, topped up with water to 1 L", [False, False, False], ""),
    # no amount, no known thing
    ("ethanol 96 % 800 ml, a splash of glycerol", [False, True], ""),
    ("ethanol 96 % 800 ml, moon dust 20 ml", [False, True], ""),
]


@pytest.mark.parametrize(("text", "doubtful", "second"), READ)
def test_a_line_is_doubted_for_a_reason(text: str, doubtful: list[bool], second: str) -> None:
    recipe = read_recipe(text, "metric")
    assert [not is_sure(recipe, at) for at in range(len(recipe.lines))] == doubtful
    others = [one for at in range(len(recipe.lines)) if (one := second_reading(recipe, at)) is not None]
    assert [str(one.amount) for one in others][:1] == ([second] if second else [])
    asked = [one for one in findings_of(recipe) if one.rule == "line-unsure"]
    assert bool(asked) == bool(others)
    assert all(one.severity is Severity.ASK and len(one.choices) == 2 for one in asked)


@pytest.mark.parametrize(
    ("text", "beside"),
    [
        ("ethanol 800 ml from the can with 96 % on", ["96 % v/v"]),
        ("ethanol 800 ml from the can with 96 % on, 50 ml water", ["96 % v/v", "None"]),
        ("50 ml of bleach from under the sink and 5 % they say", ["5 % w/w"]),
    ],
)
def test_a_strength_left_over_is_asked_of_the_line_it_can_be_of(text: str, beside: list[str]) -> None:
    """Whether or not another line lacks one that is not sold in strengths."""
    assert [str(line.claims.beside) for line in read_recipe(text, "metric").lines] == beside


#: Common practice, no source: an amount that was left over, near the line it may be of; its amount as read and as it may be.
LEFT_OVER = [
    ("My sister uses 50 g of borax, I use 30 g. 1 L water.", "borax", "30 g"),
    ("I used to use 50 g borax, now it's 30 g, in 1 L water", "borax", "30 g"),
    ("Take 500 ml from the 5 L canister of vinegar, add 500 ml water", "white-vinegar", None),
    ("It cost 3.50 for 500 g of washing soda; use 50 g in 1 L water", "washing-soda", "50 g"),
    ("Washing soda (500 g box) 50 g, water 1 L", "washing-soda", "50 g"),
    ("In winter 20 ml glycerin, in summer 10 ml. 800 ml 96% ethanol, 190 ml water.", "glycerol", "10 mL"),
    # another kind of measure, the same again, further off, and what all of it comes to are none of it
    ("My sister uses 50 g of borax, I use 30 ml. 1 L water.", "borax", None),
    ("200 g soap flakes, the box says 200 g, 1 L water", "bar-soap", None),
    ("Salt 200 g." + " It rained." * 6 + " Then 300 g.", "salt", None),
    ("Soap 200 g, salt 50 g, they say 250 g", "salt", None),
    ("Soap 200 g, salt 50 g, they say 350 g", "salt", "350 g"),
]


@pytest.mark.parametrize(("text", "material", "other"), LEFT_OVER)
def test_an_amount_left_over_is_asked_of_the_line_before_it(text: str, material: str, other: str | None) -> None:
    recipe = read_recipe(text, "metric")
    at = next(i for i, line in enumerate(recipe.lines) if line.material.written == material)
    found = second_reading(recipe, at)
    assert (None if found is None else str(found.amount)) == other
    asked = [one for one in findings_of(recipe) if one.rule == "line-unsure" and at in one.lines]
    assert bool(asked) == (other is not None)


def test_what_is_told_twice_is_asked_about_once_whatever_is_left_over() -> None:
    recipe = read_recipe("Borax 50 g. Then borax 40 g, I use 30 g. 1 L water.", "metric")
    assert [(line.claims.twice, line.claims.another) for line in recipe.lines[:2]] == [(True, None)] * 2


def test_of_a_long_account_no_line_is_sure() -> None:
    text = "So I take 800 ml of ethanol 96 % and 200 ml of water. " + "It rained all week and the quay was wet. " * 50
    recipe = read_recipe(text, "metric")
    assert recipe.at_length
    assert not any(is_sure(recipe, at) for at in range(len(recipe.lines)))


def test_of_the_lines_it_is_sure_of_at_most_one_in_a_hundred_is_wrong() -> None:
    """The project's own texts, by several voices: these were looked at (docs/testing.md has the figures by others)."""
    sure = wrong = read = 0
    for path in sorted(Path(__file__).parent.glob("texts_*.txt")):
        for text in texts(path.stem.removeprefix("texts_")):
            recipe = read_recipe(text.words, text.whose)
            meant = Counter(
                (name, strength, size_of(meant_amount(amount, text.whose))) for name, strength, amount in text.lines
            )
            for at, line in enumerate(recipe.lines):
                key = (line.material.written, str(line.strength or ""), size_of(line.amount))
                right = meant[key] > 0
                meant[key] -= right
                read += 1
                if is_sure(recipe, at):
                    sure, wrong = sure + 1, wrong + (not right)
    assert read > 300
    assert sure > 0.9 * read
    assert wrong <= sure / 100.0, f"{wrong} of {sure}"
