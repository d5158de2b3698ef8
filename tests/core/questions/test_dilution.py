"""Thinning, room for additives and the stock needed: properties, and numbers from outside."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from checks.published import GAY_LUSSAC_90
from firkin.core.audit import audit
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.measures import Strength, read_strength
from firkin.core.questions import QUESTIONS
from firkin.core.questions.additives import max_additive, required_stock
from firkin.core.questions.bases import fraction, percent
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


def test_lye_for_a_litre_of_10_percent_takes_112_grams_into_997_of_water() -> None:
    """1109 g of solution (CRC handbook, 1.109 g/mL) hold 110.9 g of caustic, 112.0 g of 99 %."""
    thin = dilute(find("caustic-soda"), read_strength("99 % w/w"), read_strength("10 % w/w"), 1000.0)
    assert (thin.stock_g, thin.water_g) == (pytest.approx(112.0, abs=0.1), pytest.approx(996.9, abs=0.2))
    assert thin.water_mL == pytest.approx(thin.water_g / 0.998201, rel=1e-6)


def test_a_stock_of_90_to_96_percent_thinned_to_60_never_falls_short() -> None:
    """Reckoned at 93 % it would be 58.06 % where the bottle holds 90."""
    ranged = read_strength("90-96 %")
    thin = dilute(find("ethanol"), ranged, read_strength("60 %"), 1000.0)
    assert (thin.low, round(thin.high, 1)) == (pytest.approx(60.0), 64.3)
    sure = dilute(find("ethanol"), read_strength("90 %"), read_strength("60 %"), 1000.0)
    assert thin.stock_mL == pytest.approx(sure.stock_mL)
    with pytest.raises(CannotReckon, match="90 % v/v"):
        dilute(find("ethanol"), ranged, read_strength("92 %"), 1000.0)


@given(alcohols, percents, percents, st.sampled_from(["v/v", "w/w", "w/v"]), st.sampled_from(["v/v", "w/w", "w/v"]))
def test_the_basis_a_strength_is_written_in_changes_nothing(alcohol, one, other, basis, another) -> None:
    active = find(alcohol)
    weak, strong = sorted((one, other))
    assume(strong - weak > 0.1)
    plain = dilute(active, vv(strong), vv(weak), 1000.0)
    stock, target = (
        Strength.of(percent(active, fraction(active, vv(pct)), how), how)
        for pct, how in ((strong, basis), (weak, another))
    )
    written = dilute(active, stock, target, 1000.0)
    assert written.stock_mL == pytest.approx(plain.stock_mL, rel=1e-5, abs=1e-3)
    assert written.water_mL == pytest.approx(plain.water_mL, rel=1e-4, abs=1e-2)


def test_lye_is_made_by_putting_caustic_into_water() -> None:
    """Common knowledge of the trade: never water onto caustic."""
    asked = QUESTIONS["dilute"].read({"active": "caustic-soda", "stock": "99 %", "target": "10 %", "make": "1 L"})
    answer = QUESTIONS["dilute"].solve(asked)
    assert "never water onto it" in answer.says[0]
    assert not any("water to the 1 L mark" in said for said in answer.says)
    assert "caustic-into-water" in answer.cautions


@given(
    st.sampled_from(["ethanol", "isopropanol", "hydrogen-peroxide", "caustic-soda", "citric-acid", "salt", "glycerol"]),
    st.floats(0.02, 0.95),
    st.floats(0.1, 1.0),
    st.sampled_from([5.0, 20.0, 35.0]),
    st.booleans(),
)
def test_what_is_poured_of_a_sure_stock_comes_to_the_target(key: str, part: float, thin: float, celsius, dry) -> None:
    """Whatever it is: a liquid, a strong solution or the powder itself, on a cold bench or a warm one."""
    active = find(key)
    reach = active.solution.reach if active.solution else 0.99
    solid = dry and active.solid
    target = Strength.of(100 * min(reach, 0.99) * part * thin, "w/w")
    stock = Strength.of(99.0, "w/w") if solid else Strength.of(100 * min(reach, 0.99) * part, "w/w")
    made = dilute(active, stock, target, 1000.0, celsius)
    assert (made.low, made.high) == (pytest.approx(target.value, rel=1e-6), pytest.approx(target.value, rel=1e-6))


def test_the_page_for_lye_shows_and_keeps_the_water_first() -> None:
    """Common knowledge of the trade: never water onto caustic; neither the drawing nor the formula kept says so."""
    asked = QUESTIONS["dilute"].read({"active": "caustic-soda", "stock": "99 %", "target": "10 %", "make": "1 L"})
    answer = QUESTIONS["dilute"].solve(asked)
    assert [layer.name for layer in answer.picture.layers] == ["Water", "Caustic soda"]
    assert [line.material.id for line in answer.formula.lines] == ["water", "caustic-soda"]
    assert "water-onto-caustic" not in [one.rule for one in audit(reckon(answer.formula))]
    assert reckon(answer.formula).total.volume_mL == pytest.approx(1000.0, rel=1e-3)  # the 1 % that is not caustic
    assert not any("label arithmetic" in name for name, _ in answer.rows)
