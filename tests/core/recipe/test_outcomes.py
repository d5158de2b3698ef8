"""Whole accounts told at length, and what comes out of them: size, claim, the strength a bottle was shown to have."""

import tomllib
from pathlib import Path

import pytest

from firkin.core.measures import Quantity
from firkin.core.recipe import read_recipe

HERE = Path(__file__).parent
ACCOUNTS = [
    one
    for file in ("accounts.toml", "accounts_winter.toml", "accounts_frost.toml")
    for one in tomllib.loads((HERE / file).read_text("utf-8"))["account"]
]
TALK = "It was a lovely morning on the landing, and the kettle was on. " * 25
RUB = "You need 2 cups of isopropyl alcohol 99 % and 1 cup of aloe gel. "


@pytest.mark.parametrize("account", ACCOUNTS, ids=[one["id"] for one in ACCOUNTS])
def test_an_account_told_at_length_is_read_whole(account: dict) -> None:
    recipe = read_recipe(account["text"], account["whose"])
    amounts = {line.material.written: (str(line.strength or ""), _size(line.amount)) for line in recipe.lines}
    assert set(amounts) == {name for name, *_ in account["lines"]}
    for name, strength, amount in account["lines"]:
        assert amounts[name] == (strength, amount if amount == "q.s." else pytest.approx(amount, rel=0.01))
    poured = [act for act in recipe.plan if act.lines]
    assert [recipe.lines[line].material.written for act in poured for line in act.lines] == account["order"]
    portions = {recipe.lines[act.lines[0]].material.written: act.portions for act in poured if act.portions != 1}
    several = {name: 0 if many == "several" else many for name, many in account.get("portions", {}).items()}
    assert portions == several
    if "waits" in account:
        assert [act.wait_h for act in recipe.plan if act.wait_h] == account["waits"]
    size = recipe.make or recipe.claims.size
    assert (recipe.claim.strength.value if recipe.claim else None) == account.get("claim")
    assert (size.mL if size else None) == account.get("size")


def _size(amount: Quantity) -> float | str:
    return "q.s." if amount.kind == "qs" else amount.g if amount.kind == "mass" else amount.mL


@pytest.mark.parametrize(
    ("told", "claim"),
    [
        ("On the label I write 66 percent.", 66.0),
        ("They say at least 60 percent. It works out to 66 percent.", 66.0),
        ("It works out to 64 percent. I write 66 percent on the sticker: on the label I put 66 percent.", 66.0),
        ("On the label I write 66 percent. It works out to 64 percent.", 66.0),
        ("It works out to 66 percent. It works out to 64 percent.", 64.0),  # what is said last
        ("They ask for at least 60 percent.", None),
        ("My bottle is 99 percent, so it's about 99 percent.", None),
        ("People say vodka is 40 percent.", None),
        ("It says on the label of that one 70 percent.", None),
    ],
)
def test_a_claim_is_what_the_label_says_and_no_rule_and_no_stock(told: str, claim: float | None) -> None:
    recipe = read_recipe(RUB + TALK + told)
    assert (recipe.claim.strength.value if recipe.claim else None) == claim


@pytest.mark.parametrize(
    ("told", "size"),
    [
        ("That makes about 3 cups.", 3.0),
        ("That makes 4 cups.", 4.0),  # 1.33 times: within what a maker rounds
        ("That makes 4.2 cups.", None),  # 1.4 times what was measured
        ("A pan that holds 3 cups.", None),
        ("For more it makes 12 cups. This comes to 3 cups.", 3.0),
        ("It makes 3.5 cups with the foam. It makes 3 cups.", 3.0),
        ("It makes 3 cups. It makes 3.5 cups with the foam.", 3.0),
    ],
)
def test_of_several_sizes_the_one_near_what_was_measured(told: str, size: float | None) -> None:
    recipe = read_recipe(TALK + RUB + TALK + told)
    found = recipe.make or recipe.claims.size
    assert (None if found is None else round(found.mL / 236.588, 2)) == size


@pytest.mark.parametrize(
    ("shown", "strength"),
    [
        ("This isopropyl alcohol, it's the 91 percent one.", "91 % v/v"),
        ("Isopropyl alcohol, the label says 91 percent.", "91 % v/v"),
        ("Isopropyl alcohol, and not the one that says 70 percent.", ""),
    ],
)
def test_a_bottle_that_is_shown_says_how_strong_it_is(shown: str, strength: str) -> None:
    recipe = read_recipe(f"{shown} {TALK} You need 2 cups of isopropyl alcohol and 1 cup of aloe gel.")
    alcohol = next(line for line in recipe.lines if line.material.id == "isopropanol")
    assert str(alcohol.strength or "") == strength
