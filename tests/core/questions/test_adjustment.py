"""Lifting and thinning a batch come to their target by the mixture model."""

import pytest
from hypothesis import assume, given

from firkin.core.catalogue import find
from firkin.core.questions.adjustment import strengthen, weaken
from mixes import alcohols, mixed, percents, sizes, vv


@given(alcohols, sizes, percents, percents, percents)
def test_a_lifted_batch_is_at_its_target(alcohol, size, one, two, three) -> None:
    now, target, stock = sorted((one, two, three))
    assume(target - now > 0.1)
    assume(stock - target > 0.1)
    lifted = strengthen(find(alcohol), size, vv(now), vv(stock), vv(target))
    result = mixed(alcohol, (size, now), (lifted.add_mL, stock))
    assert result.actives[0].true == pytest.approx(target, abs=2e-3)
    assert result.total.volume_mL == pytest.approx(lifted.new_volume_mL, rel=1e-5)
    back = weaken(find(alcohol), size, vv(stock), vv(now), vv(target))
    assert back.add_mL > 0


def test_what_is_poured_off_makes_room_for_the_whole_adjustment() -> None:
    lifted = strengthen(find("ethanol"), 900.0, vv(50.0), vv(96.0), vv(60.0))
    off = lifted.pour_off(900.0, 1000.0)
    again = strengthen(find("ethanol"), 900.0 - off, vv(50.0), vv(96.0), vv(60.0))
    assert again.new_volume_mL == pytest.approx(1000.0)
    assert lifted.pour_off(900.0, 5000.0) == 0
