"""Short recipes as they are jotted, sold, quoted and sent; written before the code met them."""

import tomllib
from pathlib import Path
from typing import Any

import pytest

from firkin.core.audit import Severity
from firkin.core.measures import Quantity, read_quantity
from firkin.core.recipe import HeardLine, findings_of, read_recipe
from firkin.core.recipe.household import in_household

TEXTS: list[dict[str, Any]] = tomllib.loads((Path(__file__).parent / "blind_jotted.toml").read_text("utf-8"))["text"]


def size(amount: Quantity) -> tuple[str, float]:
    """An amount to compare by: mL, g, or its own figure."""
    known = {"volume": lambda: amount.mL, "mass": lambda: amount.g}
    return amount.kind, round(known.get(amount.kind, lambda: amount.value)(), 1)


def same(line: HeardLine, material: str, amount: str, whose: str, strength: str = "") -> bool:
    if material not in (line.material.written, "unfit"):
        return False
    if strength and not str(line.strength).startswith(strength):
        return False
    if not amount or line.amount is None:
        return not amount and line.amount is None
    if amount.replace(".", "").isdigit():
        return line.amount.value == float(amount)
    return size(line.amount) == size(in_household(read_quantity(amount), whose))


@pytest.mark.parametrize("told", TEXTS, ids=[f"jotted-{n}" for n in range(len(TEXTS))])
def test_a_jotted_recipe_is_read_as_it_is_meant(told: dict[str, Any]) -> None:
    recipe = read_recipe(told["words"], told["whose"])
    left = list(recipe.lines)
    for material, amount, *strength in told["lines"]:
        found = next((line for line in left if same(line, material, amount, told["whose"], *strength)), None)
        if found is not None:
            left.remove(found)
    right = len(left) == 0 and len(recipe.lines) == len(told["lines"])
    assert right is not bool(told.get("wrong")), [(one.material.written, one.amount) for one in recipe.lines]
    if told.get("stop"):
        assert any(one.severity is Severity.STOP for one in findings_of(recipe))


@pytest.mark.parametrize(
    ("text", "amounts"),
    [
        ("1 cup salt, 2 cups borax. As it is hard here I use two cups of salt, not one.", ["2 cup", "2 cup"]),
        ("1 cup salt, 2 cups borax. I take 3 cups of borax instead of two.", ["1 cup", "3 cup"]),
        ("1 cup salt, 2 cups borax. I take 3 cups of borax instead of four.", ["1 cup", "2 cup", "3 cup"]),
        ("10 ml of borax. 20 ml of borax, not ten minutes, in the second.", ["10 mL", "20 mL"]),
    ],
)
def test_so_much_and_not_so_much(text: str, amounts: list[str]) -> None:
    """What is put right later is what goes in, where it says what it puts right; common practice."""
    lines = sorted(read_recipe(text).lines, key=lambda line: (line.material.id != "salt", line.at))
    assert [str(line.amount) for line in lines] == amounts


def test_what_is_put_right_keeps_its_strength() -> None:
    """The bottle is the same; another bottle is another line."""
    recipe = read_recipe("Water 1 L, bleach 8 % 50 ml. Edit: bleach 25 ml, not 50.", "metric")
    same = recipe.lines
    meant = [recipe.text[mark.start : mark.end] for mark in recipe.marks if mark.line == 1]
    assert any("25 ml" in words for words in meant)  # and it is not shown as not counted
    assert [line.words() for line in same][1:] == [("sodium-hypochlorite", "8 % w/w", "25 ml")]
    other = read_recipe("Water 1 L, bleach 8 % 50 ml. Edit: bleach 5 % 25 ml, not 50.", "metric").lines
    assert len(other) == 3


def test_a_cup_to_work_in_and_the_spirit_named_before() -> None:
    """ "In a cup," measures nothing; "the spirit" is the one that was measured."""
    gel = read_recipe("Rub 8 g of xanthan into 30 g of glycerine in a cup, whisk that into the water. Water 500 g.")
    assert ("water", "", "1 cup") not in [line.words() for line in gel.lines]
    rub = read_recipe("Spirit 95 one litre, distilled water 250 ml. First you take the spirit, water then.", "metric")
    assert [line.material.written for line in rub.lines] == ["ethanol", "water"]
