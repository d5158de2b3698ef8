"""Volumes of mixtures: topping up, and warmth."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find
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


@given(
    st.sampled_from(["caustic-soda", "salt", "citric-acid", "raw-sugar", "urea", "washing-soda"]),
    st.floats(0.05, 0.95),
    st.floats(0.05, 1.0),
)
def test_dry_dissolved_or_thinned_a_solution_has_one_volume(key: str, part: float, thinned: float) -> None:
    """The same grams of a solid and of water, poured as powder, as its strong solution or as a weaker one."""
    most = find(key).solution.reach
    strong, weak = most * part, most * part * thinned
    dry = mix((key, f"{100 * weak:.9f} g"), ("water", f"{100 * (1 - weak):.9f} g"))
    solute = find(key).solution.density(weak)
    stock = 100 * weak / strong
    wet = mix((key, f"{stock:.9f} g", f"{100 * strong:.9f} % w/w"), ("water", f"{max(100 - stock, 1e-9):.9f} g"))
    assert reckon(wet).total.volume_mL == pytest.approx(100 / solute, rel=1e-5)
    if key != "caustic-soda":  # pearls are counted as 99 %, so their grams hold a little less
        assert reckon(dry).total.volume_mL == pytest.approx(100 / solute, rel=1e-5)


def test_thinned_glycerol_brings_its_water_and_counts_by_what_it_holds() -> None:
    """86 % w/w glycerol: handbook density 1.2245 g/mL, from memory; a litre holds 1053 g of glycerol, 835 mL of it."""
    rub = reckon(mix(("ethanol", "800 mL", "96 %"), ("glycerol", "20 mL", "86 % w/w"), ("water", "180 mL")))
    share = 100 * 20 * 1.2245 * 0.86 / 1.261 / 1000
    assert rub.active("glycerol").label == pytest.approx(share, rel=2e-3)
