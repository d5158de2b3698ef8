"""Volumes at other temperatures, there and back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.questions import (
    at_20,
    at_bench,
)
from mixes import percents, sizes, vv


@given(percents, sizes, st.floats(min_value=-10, max_value=40))
def test_a_volume_moved_to_20_degrees_and_back_is_the_same(percent, volume, celsius) -> None:
    there, _ = at_20(find("ethanol"), vv(percent), volume, celsius)
    assert at_bench(find("ethanol"), vv(percent), there, celsius)[0] == pytest.approx(volume)
