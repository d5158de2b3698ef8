"""A ferment is 1 : 3 : 10 in a container of 15, whatever its size (common practice, no source)."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.questions.ferment import ferment


@given(st.floats(min_value=1, max_value=1e6))
def test_the_parts_keep_their_ratio_and_fill_the_container(container: float) -> None:
    made = ferment(container)
    parts = [made.sugar_g, made.peel_g, made.water_mL, made.gas_space_mL]
    assert [part / made.sugar_g for part in parts] == pytest.approx([1, 3, 10, 1])
    assert sum(parts) == pytest.approx(container)


def test_nothing_ferments_in_nothing() -> None:
    with pytest.raises(CannotReckon):
        ferment(0.0)
