"""Volumes of mixtures: topping up, and warmth."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.formula import reckon
from mixes import alcohols, mix

strengths = st.floats(min_value=1, max_value=100)


volumes = st.floats(min_value=1, max_value=5000)


@given(alcohols, strengths, volumes, st.floats(min_value=0, max_value=500), st.floats(min_value=1.001, max_value=5))
def test_topping_up_always_reaches_the_size(alcohol, percent, volume, glycerol, room) -> None:
    lines = [(alcohol, f"{volume:.6f} mL", f"{percent:.6f} % v/v"), ("water", "q.s.")]
    if glycerol > 1e-3:
        lines.insert(1, ("glycerol", f"{glycerol:.6f} mL"))
    make = (volume + glycerol) * room
    result = reckon(mix(*lines, make=f"{make:.6f} mL"))
    assert result.total.volume_mL == pytest.approx(make, rel=1e-6)
    active = result.actives[0]
    assert active.label == pytest.approx(active.true, abs=1e-3)


def test_a_warm_bench_counts_less_alcohol_in_the_same_measure() -> None:
    """Alcohol expands: 833.3 mL at 30 degC weigh less than at 20 degC (OIML R 22)."""
    recipe = [("ethanol", "833.3 mL", "96 %"), ("water", "q.s.")]
    cool = reckon(mix(*recipe, make="1 L"))
    warm = reckon(mix(*recipe, make="1 L", temperature=30.0))
    assert warm.lines[0].mass_g < cool.lines[0].mass_g * 0.99
    assert warm.total.volume_mL == pytest.approx(1000)
