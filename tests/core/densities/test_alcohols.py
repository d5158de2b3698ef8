"""Strengths of the two alcohols on every basis, there and back."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.densities import ALCOHOLS, ethanol, propanol
from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength
from mixes import alcohols

strengths = st.floats(min_value=1, max_value=100)


@given(alcohols, strengths)
def test_conversion_there_and_back_is_the_same(alcohol: str, percent: float) -> None:
    table = ALCOHOLS[alcohol]
    mass = table.mass_fraction(Strength.of(percent, "v/v"))
    assert 100 * table.volume_fraction(mass) == pytest.approx(percent, abs=1e-4)
    weight_in_volume = 100 * mass * table.density(mass)
    assert table.mass_fraction(Strength.of(weight_in_volume, "w/v")) == pytest.approx(mass, abs=1e-5)


def test_sixty_percent_by_weight_is_67_7_by_volume() -> None:
    """OIML R 22; the confusion behind it is common practice, no source."""
    by_volume = ALCOHOLS["ethanol"].as_volume(Strength.of(60.0, "w/w"))
    assert by_volume.value == pytest.approx(67.74, abs=0.01)


@pytest.mark.parametrize("alcohol", ALCOHOLS)
def test_no_more_by_weight_in_volume_than_the_pure_alcohol_holds(alcohol: str) -> None:
    table = ALCOHOLS[alcohol]
    pure = 100 * table.pure_density
    assert table.mass_fraction(Strength.of(pure - 0.01, "w/v")) == pytest.approx(1.0, abs=0.001)
    above = round(pure + 0.5, 1)
    says = f"{above:g} % w/v is more than pure {table.name.lower()} holds, {pure:.1f} % w/v."
    with pytest.raises(CannotReckon, match=re.escape(says)):
        table.mass_fraction(Strength.of(above, "w/v"))


@given(alcohols, strengths, st.floats(-20, 40))
def test_the_density_of_either_is_that_of_its_table_at_its_warmth(alcohol: str, percent: float, celsius: float) -> None:
    table = {"ethanol": ethanol, "isopropanol": propanol}[alcohol]
    assert ALCOHOLS[alcohol].density(percent / 100, celsius) == table.density(percent / 100, celsius)
    assert ALCOHOLS[alcohol].as_volume(Strength.of(percent, "v/v")) == Strength.of(percent, "v/v")
