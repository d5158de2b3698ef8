"""Acid against base by mole: against atomic weights, and against itself."""

import pytest
from chemicals.elements import molecular_weight, simple_formula_parser
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find, materials
from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity, Strength, read_quantity
from firkin.core.questions.neutralisation import neutralise

#: by the chemicals library's table of atomic weights; groups by their structure
REAGENTS = {
    "caustic-soda": ("NaOH", 1),
    "washing-soda": ("Na2CO3", 2),
    "triethanolamine": ("C6H15NO3", 1),
    "citric-acid": ("C6H8O7", 3),
    "white-vinegar": ("C2H4O2", 1),
}
ACIDS = [key for key, m in materials().items() if m.molar_mass and "acid" in m.roles]
BASES = [key for key, m in materials().items() if m.molar_mass and "base" in m.roles]


@pytest.mark.parametrize(("key", "formula", "groups"), [(key, *rest) for key, rest in REAGENTS.items()])
def test_molar_masses_agree_with_atomic_weights(key: str, formula: str, groups: int) -> None:
    assert find(key).molar_mass == pytest.approx(molecular_weight(simple_formula_parser(formula)), abs=0.01)
    assert find(key).groups == groups


def test_every_reagent_is_checked() -> None:
    """All but LABSA, a mixture, whose mean of 320 g/mol is from memory."""
    assert set(ACIDS + BASES) - {"labsa"} <= set(REAGENTS)


@given(st.sampled_from(ACIDS), st.sampled_from(BASES), st.floats(min_value=1, max_value=1e4))
def test_with_what_was_missing_it_ends_neutral(acid: str, base: str, grams: float) -> None:
    there = (find(acid), find(acid).usual_strength, Quantity(grams, "g"))
    short = neutralise(there, (find(base), find(base).usual_strength, Quantity(grams / 1e6, "g")))
    assert short.ends == "acid"
    whole = Quantity(grams / 1e6 + short.base_g_missing, "g")
    assert neutralise(there, (find(base), find(base).usual_strength, whole)).ends == "neutral"


def test_more_than_enough_is_alkaline_by_just_what_is_spare() -> None:
    """By hand: 192.12 g of citric acid are 3 mol of groups and take 119.99 g of NaOH."""
    acid = (find("citric-acid"), Strength.of(100.0, "w/w"), read_quantity("192.12 g"))
    ended = neutralise(acid, (find("caustic-soda"), Strength.of(100.0, "w/w"), read_quantity("129.99 g")))
    assert (ended.ends, round(ended.base_g_spare, 2)) == ("alkaline", 10.0)


def test_salt_is_neither() -> None:
    with pytest.raises(CannotReckon, match="not counted as an acid"):
        neutralise((find("salt"), None, read_quantity("1 g")), (find("caustic-soda"), None, read_quantity("1 g")))
