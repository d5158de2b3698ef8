"""Procedures put together by chance are read as they were made up, whoever tells them."""

import pytest

from core.plan.by_chance import VOICES, Made, told
from firkin.core.recipe import Recipe, read_recipe
from often import some

#: Of a hundred texts of a voice at least so many are read whole; of texts in other words fewer are.
AT_LEAST = {"caretaker": 40, "other-tongues": 80, "old-books": 80, "notes": 80, "shed": 80}
USUALLY = 88
SEEDS = some(range(100), 25)


def _name(material: str) -> str:
    """What is compared: any water is water, any scent a scent."""
    return "water" if material.endswith("water") else "essential-oil" if material.endswith("-oil") else material


def otherwise(recipe: Recipe, made: Made) -> str:
    """What a reading has otherwise than it was made up; empty where nothing."""
    names = [_name(line.material.written) for line in recipe.lines]
    if sorted(names) != sorted([*made.order, *made.aside]):
        return f"lines: {names}"
    poured = [(names[line], act) for act in recipe.plan for line in act.lines]
    order = list(dict.fromkeys(name for name, _ in poured if name not in made.aside))
    if order != made.order:
        return f"order: {order}"
    if {name for name, act in poured if act.vessel} != set(made.aside):
        return f"in a cup: {[name for name, act in poured if act.vessel]}"
    for material, portions in made.portions.items():
        (act,) = (act for name, act in poured if name == material)
        if act.portions != portions and (portions or not act.how):
            return f"{material} in {act.portions}"
    shares = [act.shares for name, act in poured if name in made.halved]
    if shares != [(0.5,)] * 2 * len(made.halved):
        return f"parts: {shares}"
    waits = [act.wait_h for act in recipe.plan if act.wait_h and act.wait_h > 1.0]
    return "" if waits == made.waits else f"rests: {waits}"


@pytest.mark.parametrize("voice", VOICES)
def test_what_was_made_up_is_what_is_read(voice: str) -> None:
    made = [told(seed, voice) for seed in SEEDS]
    wrong = [(said, one.text) for one in made if (said := otherwise(read_recipe(one.text, "metric"), one))]
    allowed = len(made) * (100 - AT_LEAST.get(voice, USUALLY)) // 100
    assert len(wrong) <= allowed, "\n\n".join(f"{said}\n{text}" for said, text in wrong[:3])


def test_texts_of_two_seeds_differ_and_of_one_are_the_same() -> None:
    assert told(1, "everyday") == told(1, "everyday")
    assert len({told(seed, "everyday").text for seed in range(40)}) > 35
