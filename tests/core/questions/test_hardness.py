"""Units of hardness, there and back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.questions.hardness import MG_PER_L, convert_hardness


@given(st.floats(min_value=0, max_value=1e4), st.sampled_from(sorted(MG_PER_L)), st.sampled_from(sorted(MG_PER_L)))
def test_hardness_there_and_back_is_the_same(value: float, unit: str, to: str) -> None:
    there, _ = convert_hardness(value, unit, to)
    assert convert_hardness(there, to, unit)[0] == pytest.approx(value)
