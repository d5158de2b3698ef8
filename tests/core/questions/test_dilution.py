"""Thinning, room for additives and the stock needed: properties, and numbers from outside."""

import pytest
from hypothesis import assume, given

from checks.published import GAY_LUSSAC_90
from firkin.core.catalogue import find
from firkin.core.measures import Strength, read_strength
from firkin.core.questions.additives import max_additive, required_stock
from firkin.core.questions.dilution import dilute
from mixes import alcohols, mixed, percents, sizes, vv


@given(alcohols, percents, percents, sizes)
def test_what_dilute_says_comes_to_the_target_and_the_size(alcohol, one, other, size) -> None:
    target, stock = sorted((one, other))
    thin = dilute(find(alcohol), vv(stock), vv(target), size)
    result = mixed(alcohol, (thin.stock_mL, stock), water_mL=thin.water_mL)
    assert result.total.volume_mL == pytest.approx(size, rel=1e-5)
    assert result.actives[0].true == pytest.approx(target, abs=1e-3)


@given(percents, percents)
def test_the_largest_additive_share_still_holds_the_line(stock: float, line_pct: float) -> None:
    assume(stock > line_pct)
    room = max_additive(vv(stock), vv(line_pct))
    assert stock * (1 - room.additive_share_pct / 100) == pytest.approx(line_pct)


@pytest.mark.parametrize(("target", "water"), GAY_LUSSAC_90)
def test_thinning_90_percent_agrees_with_the_gay_lussac_table(target: float, water: float) -> None:
    thin = dilute(find("ethanol"), Strength.of(90.0, "v/v"), Strength.of(target, "v/v"), 1000.0)
    printed = 0.005 if water < 100 else 0.05  # half of the last digit printed
    assert 100.0 * thin.water_mL / thin.stock_mL == pytest.approx(water, abs=0.2 + printed)


def test_one_litre_of_70_percent_takes_297_mL_of_water_not_271() -> None:
    """OIML R 22; label arithmetic is common practice, no source."""
    thin = dilute(find("ethanol"), read_strength("96 %"), read_strength("70 %"), 1000.0)
    assert thin.stock_mL == pytest.approx(729.2, abs=0.05)
    assert thin.water_mL == pytest.approx(297.4, abs=0.1)
    assert thin.label_water_mL == pytest.approx(270.8, abs=0.05)


def test_70_percent_stock_leaves_one_part_in_seven_for_gel() -> None:
    """Common practice, no source: share at most 1 - line / stock."""
    room = max_additive(read_strength("70 %"), read_strength("60 %"))
    assert room.additive_share_pct == pytest.approx(14.29, abs=0.005)
    assert room.parts_stock_per_part_additive == pytest.approx(6.0)


def test_two_to_one_at_60_percent_needs_90_percent_stock() -> None:
    """Common practice, no source."""
    assert required_stock(read_strength("60 %"), 2, 1)[0] == pytest.approx(90.0)
