"""Blending, lifting and thinning come to their target by the mixture model."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.questions.blending import blend
from mixes import alcohols, mixed, percents, sizes, vv


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
