"""A share that no kitchen uses is asked about, and no fix leads to one without a word."""

import pytest

from firkin.core.audit import audit
from firkin.core.formula import house_formulas, reckon
from mixes import mix

GEL = {"family": "gel"}


def rules_of(formula) -> dict[str, str]:
    return {finding.rule: finding.severity for finding in audit(reckon(formula))}


@pytest.mark.parametrize("name", sorted(house_formulas()))
def test_no_house_formula_is_unusual(name: str) -> None:
    assert "share-unusual" not in rules_of(house_formulas()[name].formula)


@pytest.mark.parametrize(
    ("grams", "severity"), [("32 g", None), ("33 g", "warn"), ("0.2 g", None), ("0.15 g", "note"), ("300 g", "warn")]
)
def test_fragrance_in_a_dish_liquid(grams: str, severity: str | None) -> None:
    """Usual is 0.1 to 2 % (common practice, no source); asked about from 1.6 times that, or a fifth of it."""
    dish = mix(("water", "850 g"), ("sles", "118 g"), ("fragrance", grams), family="dish-liquid", basis="weight")
    assert rules_of(dish).get("share-unusual") == severity


def test_a_rule_that_says_more_of_the_same_amount_speaks_alone() -> None:
    found = rules_of(mix(("castile-soap", "250 mL"), ("water", "670 mL"), ("phenoxyethanol", "80 mL")))
    assert "preservative-window" in found
    assert "share-unusual" not in found


def test_two_lines_of_one_thing_are_counted_together() -> None:
    one = ("fragrance", "20 g")
    dish = mix(("water", "850 g"), ("sles", "118 g"), one, one, family="dish-liquid", basis="weight")
    (found,) = [finding for finding in audit(reckon(dish)) if finding.rule == "share-unusual"]
    assert found.lines == (2, 3)


def test_a_fix_that_leads_to_such_a_share_says_that_the_recipe_looks_wrong() -> None:
    """30 g of carbomer in half a litre ask for 37 mL of triethanolamine: the polymer is what is wrong."""
    wrong = mix(("ethanol", "400 mL", "96 %"), ("water", "100 mL"), ("carbomer", "30 g"), **GEL)
    right = mix(("ethanol", "400 mL", "96 %"), ("water", "100 mL"), ("carbomer", "2 g"), **GEL)
    (missing,) = [finding for finding in audit(reckon(wrong)) if finding.rule == "neutraliser-missing"]
    assert missing.fixed is None
    assert "the recipe itself looks wrong" in missing.fix
    (missing,) = [finding for finding in audit(reckon(right)) if finding.rule == "neutraliser-missing"]
    assert missing.fixed is not None
