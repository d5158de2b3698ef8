"""Blending, lifting and thinning come to their target by the mixture model."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.formula import reckon
from firkin.core.measures import Strength
from firkin.core.questions.blending import blend
from mixes import alcohols, mix, mixed, percents, sizes, vv


@given(alcohols, percents, percents, st.floats(min_value=0, max_value=1), sizes)
def test_a_blend_comes_to_the_target_and_the_size(alcohol, one, other, where, size) -> None:
    assume(abs(one - other) > 0.5)
    target = one + (other - one) * where
    made = blend(find(alcohol), (vv(one), vv(other)), vv(target), size)
    result = mixed(alcohol, (made.volumes_mL[0], one), (made.volumes_mL[1], other))
    assert result.total.volume_mL == pytest.approx(size, rel=1e-5)
    assert result.actives[0].true == pytest.approx(target, abs=1e-3)


@given(alcohols, percents, percents, sizes)
def test_a_blend_to_the_strength_of_one_bottle_is_that_bottle(alcohol, one, other, size) -> None:
    """Whatever a float's last digit says: converting there and back can move it."""
    assume(abs(one - other) > 0.5)
    for target in (one, other, one * (1 + 1e-12), other * (1 - 1e-12)):
        made = blend(find(alcohol), (vv(one), vv(other)), vv(min(target, 100.0)), size)
        assert sorted(made.volumes_mL) == pytest.approx([0.0, size], abs=1e-6 * size)


def test_parts_by_label_are_by_volume_whatever_the_target_is_written_in() -> None:
    """60 % w/w ethanol is 67.74 % v/v (OIML R 22): 17.7 parts of 96 % to 28.3 of 50 %, not 10 to 36."""
    made = blend(find("ethanol"), (vv(96.0), vv(50.0)), Strength.of(60.0, "w/w"), 1000.0)
    assert made.parts == (pytest.approx(17.74, abs=0.01), pytest.approx(28.26, abs=0.01))
    assert reckon(
        mix(("ethanol", f"{made.volumes_mL[0]} mL", "96 %"), ("ethanol", f"{made.volumes_mL[1]} mL", "50 %"))
    ).main.pct_ww == pytest.approx(60.0, abs=1e-3)


@given(alcohols, percents, percents, percents, st.floats(0.0, 0.05), st.floats(0.0, 0.05))
def test_a_range_on_a_label_is_reckoned_so_that_it_never_falls_short(alcohol, one, other, target, wide, wider) -> None:
    weak, target, strong = sorted((one, other, target))
    assume(strong - weak > 1 and strong * (1 + max(wide, wider)) < 99)
    stocks = tuple(
        Strength(pct * (1 + more / 2), pct, pct * (1 + more), "v/v") for pct, more in ((strong, wide), (weak, wider))
    )
    made = blend(find(alcohol), (stocks[0], stocks[1]), vv(target), 1000.0)
    assert made.low == pytest.approx(target, abs=1e-3)
    assert made.high >= made.low - 1e-9
