"""How a line goes in, as people say it; each with what only sounds like it."""

import pytest

from firkin.core.plan.clauses import clauses_of
from firkin.core.plan.manners import Manner, manner_of
from firkin.core.recipe import read_recipe


def manner(text: str) -> Manner:
    return manner_of(text, clauses_of(text)[0], 0, len(text))


@pytest.mark.parametrize(
    ("told", "portions", "how"),
    [
        ("split the salt into three, adding one part at a time", 3, ""),
        ("divide the salt into 4 and stir in one after the other", 4, ""),
        ("salt x4 additions", 4, ""),
        ("the salt in five hits", 5, ""),
        ("the salt in three equal aliquots", 3, ""),
        ("divide it into three jars", 1, ""),
        ("drizzle the salt in", 1, "slowly"),
        ("the salt is metered in", 1, "slowly"),
        ("the salt goes in, stir gently", 1, ""),
        ("the salt goes in and whisk it slowly", 1, ""),
        ("stir the salt gently into it", 1, "slowly"),
        ("stir in gently the salt", 1, "slowly"),
    ],
)
def test_additions_and_pace(told: str, portions: int, how: str) -> None:
    assert (manner(told).portions, manner(told).how) == (portions, how)


@pytest.mark.parametrize(
    ("told", "until"),
    [
        ("stir until it clears", "it clears"),
        ("don't add it until the soda is in", ""),
        ("wait till everything has gone in", ""),
        ("until the", ""),
    ],
)
def test_what_is_in_is_no_look(told: str, until: str) -> None:
    assert manner(told).until == until


@pytest.mark.parametrize(
    ("told", "hours"),
    [
        ("A day of rest.", [24.0]),
        ("Let a day go by.", [24.0]),
        ("Leave it until the same time tomorrow.", [24.0]),
        ("Go to bed and leave it standing.", [12.0]),
        ("By the morning it is a jelly.", [12.0]),
        ("Do not touch it for three days.", [72.0]),
        ("Nobody opens it for 72 hours.", [72.0]),
        ("Keep for three days, don't open.", [72.0]),
        ("It will keep for three days.", []),
        ("It keeps for three days.", []),
        ("Use a drop a day.", []),
    ],
)
def test_what_rests_and_what_only_lasts(told: str, hours: list[float]) -> None:
    plan = read_recipe(f"Pour 1 L of water in. Add 50 g of salt. {told}", "metric").plan
    assert [act.wait_h for act in plan if act.wait_h] == hours
