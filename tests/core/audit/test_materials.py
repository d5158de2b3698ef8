"""What is dangerous in any amount is said before any amount is known."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.audit import audit_materials
from firkin.core.catalogue import find, materials
from firkin.core.formula import UNCLAIMED, Claims


@pytest.mark.parametrize(
    ("there", "words", "family", "rule"),
    [
        (["bleach", "white vinegar"], [], "other", "bleach-mixed"),
        (["peroxide", "vinegar"], [], "surface", "peroxide-vinegar"),
        (["meths", "aloe gel"], [], "aloe-rub", "unfit-alcohol"),
        (["borax", "castile soap", "water"], [], "foaming-soap", "borax-skin"),
        (["ethanol", "olive oil"], [], "liquid-rub", "oil-in-alcohol"),
        (["water", "tea tree"], [], "other", "oil-in-water"),
        (["castile soap", "lemon juice", "citric acid"], [], "foaming-soap", "acid-curdles-soap"),
        (["formalin", "water"], [], "dish-liquid", "flagged-material"),
        (["citric acid", "baking soda", "water"], [], "other", "acid-carbonate-wet"),
    ],
)
def test_it_is_found_without_amounts(there, words, family, rule) -> None:
    found = audit_materials([(find(name), None) for name in there], family, UNCLAIMED, words)
    assert rule in [finding.rule for finding in found]


def test_a_ferment_in_glass_is_stopped_before_it_is_weighed() -> None:
    found = audit_materials([(find("raw sugar"), None)], "ferment", Claims(glass=True))
    assert "ferment-glass" in [finding.rule for finding in found]


@given(st.lists(st.sampled_from(sorted(materials())), max_size=6), st.lists(st.text(max_size=40), max_size=3))
def test_any_materials_and_any_words_can_be_looked_at(there: list[str], words: list[str]) -> None:
    for finding in audit_materials([(find(key), None) for key in there], "other", UNCLAIMED, words):
        assert finding.fixed is None
        assert all(0 <= at < len(there) for at in finding.lines)


def test_plain_water_and_soap_are_not_alarmed_about() -> None:
    assert audit_materials([(find("water"), None), (find("castile soap"), None)], "foaming-soap", UNCLAIMED) == ()
