"""Where a long account is done: list, trial, talk and recap lie elsewhere."""

import pytest

from core.plan.poured import poured
from firkin.core.plan.doing import Told, done_at
from firkin.core.recipe import read_recipe

TALK = "It was a lovely morning on the landing, and the kettle was on. " * 25
LIST = "You need 500 ml of ethanol 96 %, 10 ml of glycerol and 90 ml of water. "
DOING = "So here goes. The water goes in first, and then the glycerol, and now the ethanol. "


@pytest.mark.parametrize(
    "beside",
    [
        "",
        "I poured the glycerol on last of all once, and into the ethanol, last year. ",
        "Wipe the table with a drop of the ethanol first. ",
        "On the label I write hand rub, ethanol. ",
        "Then people add the ethanol to their gel, and then the water, and it clumps. ",
    ],
)
@pytest.mark.parametrize("after", [False, True])
def test_it_is_poured_as_it_is_done_and_not_as_it_is_listed(beside: str, after: bool) -> None:
    told = DOING + TALK + beside if after else beside + TALK + DOING
    assert poured(LIST + TALK + told) == ["water", "glycerol", "ethanol"]


@pytest.mark.parametrize(
    ("doing", "order"),
    [
        (
            "The ethanol is poured. Then the water. Then into the ethanol goes the glycerol.",
            "ethanol water glycerol",
        ),
        (
            "Then rinse the jug with the ethanol. Now the water. Then the glycerol. The ethanol.",
            "water glycerol ethanol",
        ),
    ],
)
def test_what_something_goes_into_and_what_cleans_are_no_pours(doing: str, order: str) -> None:
    assert poured(LIST + TALK + doing) == order.split()


@pytest.mark.parametrize(
    ("before", "after", "rests"),
    [
        ("", "Leave it for three days. ", [72.0]),
        ("My gel has to rest for an hour. ", "Leave it for three days. ", [72.0]),
        ("", "Leave it for three days. " + TALK * 2 + "Leave your hands wet for half a minute. ", [72.0]),
    ],
)
def test_what_rests_is_told_where_it_is_made(before: str, after: str, rests: list[float]) -> None:
    plan = read_recipe(LIST + TALK + before + DOING + after, "metric").plan
    assert [act.wait_h for act in plan if act.do == "rest"] == rests


def test_the_first_cup_of_something_does_not_go_in_first() -> None:
    told = "So here goes. The water goes in, and then the glycerol, and now the ethanol, the first cup. Then the second cup. "
    assert poured(LIST + TALK + told) == ["water", "glycerol", "ethanol"]


@pytest.mark.parametrize(
    ("how", "portions"),
    [
        ("In three goes, and stir.", 3),
        ("The first cup, stir. Then the second cup.", 2),
        ("The first cup, stir. And the second one. And the third one.", 3),
        ("A bit, stir, a bit, stir.", 0),
        ("It takes one second. ", 1),
    ],
)
def test_how_it_goes_in_may_be_told_some_sentences_on(how: str, portions: int) -> None:
    text = (
        f"{LIST}{TALK}So here goes. The water goes in first, then the glycerol, and now the ethanol. It smells. {how}"
    )
    recipe = read_recipe(text, "metric")
    last = [act for act in recipe.plan if act.lines][-1]
    assert (recipe.lines[last.lines[0]].material.id, last.portions) == ("ethanol", portions)


def test_what_is_told_far_from_the_rest_is_no_doing() -> None:
    text = "now the salt" + " " * 3_000 + "now the soap, now the water"
    told = [Told(line, text.index(name), 2.0) for line, name in enumerate(("salt", "soap", "water"))]
    assert set(done_at(text, told)) == {1, 2}


def test_a_text_that_only_names_is_done_nowhere() -> None:
    text = "soap " * 400
    assert done_at(text, [Told(0, 5 * at, 2.0) for at in range(400)]) == {}


def test_a_second_to_come_out_is_no_rest_and_half_a_minute_is() -> None:
    rests = {}
    for words in ("It takes a second to come out", "Leave it for thirty seconds"):
        plan = read_recipe(
            f"You need 500 ml of ethanol 96 % and 90 ml of water. Pour the ethanol in. {words}. Add the water."
        ).plan
        rests[words] = [act.text for act in plan if act.do == "rest"]
    assert list(rests.values()) == [[], ["Leave it for 30 s."]]
