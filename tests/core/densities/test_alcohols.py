"""Strengths of the two alcohols on every basis, there and back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.densities import ALCOHOLS
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
