"""How much additive a stock takes, and which stock a ratio needs: each is the other turned round."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength
from firkin.core.questions.additives import max_additive, required_stock
from mixes import vv


@given(st.floats(min_value=5, max_value=100), st.floats(min_value=0.01, max_value=0.99))
def test_the_ratio_a_stock_takes_needs_just_that_stock(stock: float, share: float) -> None:
    room = max_additive(vv(stock), vv(stock * share))
    needed, _ = required_stock(vv(stock * share), room.parts_stock_per_part_additive, 1.0)
    assert needed == pytest.approx(stock)
    assert room.additive_share_pct == pytest.approx(100 * (1 - share))


def test_of_a_range_the_weak_end_of_the_stock_and_the_strong_end_of_the_line_count() -> None:
    sure, unsure = max_additive(vv(90.0), vv(60.0)), max_additive(Strength(92.5, 90.0, 95.0, "v/v"), vv(60.0))
    assert unsure.additive_share_pct == pytest.approx(sure.additive_share_pct)
    wide = max_additive(vv(90.0), Strength(57.5, 55.0, 60.0, "v/v"))
    assert wide.additive_share_pct == pytest.approx(sure.additive_share_pct)


def test_what_cannot_hold_the_line_is_refused() -> None:
    with pytest.raises(CannotReckon, match="can take no additive"):
        max_additive(vv(59.9), vv(60.0))
    with pytest.raises(CannotReckon):
        required_stock(vv(60.0), 1.0, 1.0)
    assert max_additive(vv(60.0), vv(60.0)).parts_stock_per_part_additive is None


def test_a_line_by_weight_is_turned_to_volume_first() -> None:
    """60 % w/w ethanol is 67.74 % v/v (OIML R 22): a 90 % stock leaves 24.7 % for gel, not 33.3."""
    by_weight = Strength.of(60.0, "w/w")
    assert max_additive(Strength.of(90.0, "v/v"), by_weight).additive_share_pct == pytest.approx(24.73, abs=0.01)
    assert required_stock(by_weight, 3, 1)[0] == pytest.approx(90.32, abs=0.01)
