"""Strengths counted by hand: label arithmetic is volume times per cent, whatever else stands in the mix."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.formula import Formula, Line, reckon
from firkin.core.measures import Quantity, Strength

POURED = st.lists(st.tuples(st.floats(10.0, 900.0), st.floats(20.0, 96.0)), min_size=1, max_size=4)


@given(POURED, st.floats(1.0, 900.0), st.sampled_from(["ethanol", "isopropanol"]))
def test_label_arithmetic_of_an_alcohol_is_volume_times_per_cent(
    poured: list[tuple[float, float]], water_mL: float, alcohol: str
) -> None:
    lines = tuple(Line(find(alcohol), Quantity(mL, "mL"), Strength.of(pct, "v/v")) for mL, pct in poured)
    (active,) = reckon(Formula("Mix", (*lines, Line(find("water"), Quantity(water_mL, "mL"))))).actives
    whole = sum(mL for mL, _ in poured) + water_mL
    assert active.label == pytest.approx(sum(mL * pct for mL, pct in poured) / whole, rel=1e-9)
    # alcohol and water take up up to 4 % less room together (OIML R 22); a weak one thinned, a hair more
    assert active.label * 0.998 <= active.true <= active.label * 1.04


@given(st.floats(5.0, 900.0), st.floats(10.0, 900.0), st.floats(20.0, 92.0))
def test_an_alcohol_said_by_weight_brings_its_pure_volume(alcohol_g: float, water_g: float, pct: float) -> None:
    ethanol = Line(find("ethanol"), Quantity(alcohol_g, "g"), Strength.of(pct, "w/w"))
    (active,) = reckon(Formula("Mix", (ethanol, Line(find("water"), Quantity(water_g, "g"))))).actives
    assert active.pct_ww == pytest.approx(pct * alcohol_g / (alcohol_g + water_g), rel=1e-6)


@given(
    st.floats(1.0, 500.0), st.floats(10.0, 900.0), st.sampled_from([("sles", 70.0), ("labsa", 96.0), ("sles", 28.0)])
)
def test_a_surfactant_is_counted_by_weight(stock_g: float, water_g: float, of: tuple[str, float]) -> None:
    key, pct = of
    stock = Line(find(key), Quantity(stock_g, "g"), Strength.of(pct, "w/w"))
    (active,) = reckon(Formula("Wash", (stock, Line(find("water"), Quantity(water_g, "g"))), "dish-liquid")).actives
    assert active.pct_ww == pytest.approx(pct * stock_g / (stock_g + water_g), rel=1e-6)
    assert active.label == pytest.approx(active.pct_ww, rel=1e-6)
