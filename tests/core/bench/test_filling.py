"""What is left to fill, and how far a filling may differ from what was reckoned."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import Progress, can_be_filled, left_to_fill, plan_of
from journals import RUB

PROGRESS = Progress(RUB, plan_of(RUB), ())


@given(st.floats(min_value=0, max_value=1.0))
def test_what_is_left_can_be_filled_and_then_nothing_is_left(share: float) -> None:
    filled = PROGRESS.to_fill_mL * share
    left = left_to_fill(PROGRESS, filled)
    assert left == 0 or left == pytest.approx(PROGRESS.to_fill_mL - filled)
    assert can_be_filled(left, left)
    assert left_to_fill(PROGRESS, filled + left) == 0


def test_what_clings_is_not_left_and_nobody_fills_much_more_than_there_is() -> None:
    """A bottle read 2 % wrong is a bottle; 5 % more than there is, is a slip of the pen."""
    assert left_to_fill(PROGRESS, PROGRESS.to_fill_mL - 0.9) == 0
    assert left_to_fill(PROGRESS, PROGRESS.to_fill_mL + 50.0) == 0
    assert can_be_filled(509.0, 500.0)
    assert not can_be_filled(525.0, 500.0)
    assert not can_be_filled(50.0, 0.0)


@pytest.mark.parametrize(("left", "counts"), [(0.999, False), (1.0, False), (1.001, True)])
def test_a_millilitre_is_dregs_and_more_is_left(left: float, counts: bool) -> None:
    """Dregs that cling to a jug: common practice, no source."""
    assert (left_to_fill(PROGRESS, PROGRESS.to_fill_mL - left) > 0) is counts


@pytest.mark.parametrize(("filling", "can"), [(1020.9, True), (1021.1, False)])
def test_two_per_cent_and_the_dregs_more_can_be_filled_and_no_more(filling: float, can: bool) -> None:
    assert can_be_filled(filling, 1000.0) is can
