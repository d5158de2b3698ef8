"""Volumes at other temperatures, there and back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.densities import ALCOHOLS, freezes_at
from firkin.core.errors import CannotReckon
from firkin.core.questions.temperature import at_temperature
from mixes import percents, sizes, vv

ETHANOL = ALCOHOLS["ethanol"]


@given(percents, sizes, st.floats(min_value=-10, max_value=40), st.floats(min_value=-10, max_value=40))
def test_a_volume_moved_to_another_temperature_and_back_is_the_same(percent, volume, here, there) -> None:
    if min(here, there) < freezes_at("ethanol", ETHANOL.mass_fraction(vv(percent))):
        with pytest.raises(CannotReckon, match="frozen"):
            at_temperature(find("ethanol"), vv(percent), volume, here, there)
        return
    moved, _ = at_temperature(find("ethanol"), vv(percent), volume, here, there)
    assert at_temperature(find("ethanol"), vv(percent), moved, there, here)[0] == pytest.approx(volume)
