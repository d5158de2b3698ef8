"""Blending, lifting and thinning come to their target by the mixture model."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.questions import (
    WATER,
    blend,
    blend_with_water,
    strengthen,
    weaken,
)
from mixes import alcohols, mixed, percents, sizes, vv


@given(alcohols, percents, percents, st.floats(min_value=0, max_value=1), sizes)
def test_a_blend_comes_to_the_target_and_the_size(alcohol, one, other, where, size) -> None:
    assume(abs(one - other) > 0.5)
    target = one + (other - one) * where
    made = blend(find(alcohol), (vv(one), vv(other)), vv(target), size)
    result = mixed(alcohol, (made.volumes_mL[0], one), (made.volumes_mL[1], other))
    assert result.total.volume_mL == pytest.approx(size, rel=1e-5)
    assert result.actives[0].true == pytest.approx(target, abs=1e-3)


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


def test_three_bottles_when_one_is_water() -> None:
    three = blend_with_water(find("ethanol"), vv(50.0), 200.0, vv(96.0), vv(70.0), 1000.0)
    result = mixed("ethanol", (200.0, 50.0), (three.second_mL, 96.0), water_mL=three.water_mL)
    assert result.actives[0].true == pytest.approx(70.0, abs=1e-3)
    assert result.total.volume_mL == pytest.approx(1000.0, rel=1e-6)
    with pytest.raises(CannotReckon, match="use at most"):
        blend_with_water(find("ethanol"), vv(90.0), 900.0, vv(96.0), vv(70.0), 1000.0)
    with pytest.raises(CannotReckon, match="stronger second"):
        blend_with_water(find("ethanol"), vv(10.0), 900.0, vv(40.0), vv(35.0), 1000.0)
    with pytest.raises(CannotReckon, match="second bottle must hold"):
        blend_with_water(find("ethanol"), vv(50.0), 200.0, WATER, vv(20.0), 1000.0)
