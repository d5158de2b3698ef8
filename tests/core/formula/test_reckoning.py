"""What a formula comes to, against published mixes, and its worst cases worked by hand."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from checks.published import TRUE_STRENGTHS, WHO_I, WHO_II
from firkin.core.densities import ALCOHOLS
from firkin.core.formula import (
    Formula,
    levels,
    reckon,
)
from mixes import alcohols, mix

strengths = st.floats(min_value=1, max_value=100)


volumes = st.floats(min_value=1, max_value=5000)


@given(alcohols, strengths, strengths, volumes, volumes)
def test_label_strength_never_exceeds_the_strongest_stock(alcohol, one, other, first, second) -> None:
    result = reckon(
        mix((alcohol, f"{first:.6f} mL", f"{one:.6f} %"), (alcohol, f"{second:.6f} mL", f"{other:.6f} %"),
            ("water", "10 mL"))
    )  # fmt: skip
    active = result.actives[0]
    assert active.label <= max(one, other) + 1e-5
    assert active.low <= active.lower <= active.higher <= active.high
    assert result.total.volume_mL <= result.total.sum_of_volumes_mL * 1.004  # weak mixes can swell a hair


@given(
    st.floats(min_value=50, max_value=95),
    st.floats(min_value=0, max_value=5),
    st.floats(min_value=0.1, max_value=9),
)
def test_a_range_reaches_from_the_weakest_to_the_strongest_bottle(low, spread, parts) -> None:
    high = min(low + spread, 100.0)
    recipe = [("ethanol", f"{parts:.4f} parts", f"{low:.5f}-{high:.5f} %"), ("aloe-gel", "1 part")]
    ranged = reckon(mix(*recipe)).actives[0]
    weakest = reckon(mix(("ethanol", f"{parts:.4f} parts", f"{low:.5f} %"), recipe[1])).actives[0]
    strongest = reckon(mix(("ethanol", f"{parts:.4f} parts", f"{high:.5f} %"), recipe[1])).actives[0]
    assert ranged.low == pytest.approx(weakest.low)
    assert ranged.high == pytest.approx(strongest.high)


def test_levels_are_those_of_the_mixture_so_far() -> None:
    formula = mix(("ethanol", "700 mL", "100 %"), ("water", "300 mL"))
    assert levels(formula) == pytest.approx([700, 968.3], abs=0.1)


def test_a_surfactant_paste_counts_by_its_own_strength() -> None:
    """A recipe for 70 % SLES is wrong for 25 %: common practice, no source."""
    strong = reckon(mix(("sles", "100 g", "70 %"), ("water", "900 g"))).active("surfactant-matter")
    weak = reckon(mix(("sles", "100 g", "25 %"), ("water", "900 g"))).active("surfactant-matter")
    assert (strong.label, weak.label) == pytest.approx((7.0, 2.5))


def test_bleach_thins_by_label_arithmetic() -> None:
    """CDC and WHO: parts of water = % stock / % wanted - 1, so 1 part of 5 % and 9 of water is 0.5 %."""
    result = reckon(mix(("bleach", "1 part", "5 %"), ("water", "9 parts"), guidelines=("surface-chlorine-05",)))
    assert result.active("sodium-hypochlorite").label == pytest.approx(0.5)
    assert result.verdicts[0].verdict == "meets"


# Measuring errors: worst cases worked by hand. 3 parts of 70 % to 1 of gel, all to 5 %.
def with_errors(*errors: float, make: str = "", top_up: bool = False) -> Formula:
    rows = [("ethanol", "300 mL", "70 %"), ("water", "q.s." if top_up else "100 mL")]
    formula = mix(*rows, make=make)
    lines = tuple(replace(one, error=error) for one, error in zip(formula.lines, errors, strict=True))
    return replace(formula, lines=lines)


def test_measuring_errors_pull_both_ways() -> None:
    active = reckon(with_errors(0.05, 0.05)).actives[0]
    assert active.low == pytest.approx(100 * 0.7 * 285 / (285 + 105))
    assert active.high > 100 * 0.7 * 315 / (315 + 95)


def test_an_error_in_the_alcohol_alone_moves_both_ends_of_the_fraction() -> None:
    """The amount stands above and below the line; counted twice, the low end would be 49.9, not 51.8."""
    active = reckon(with_errors(0.05, 0.0)).actives[0]
    assert active.low == pytest.approx(100 * 0.7 * 285 / 385)


def test_topping_up_to_a_mark_carries_the_error_of_the_mark() -> None:
    active = reckon(with_errors(0.0, 0.02, make="400 mL", top_up=True)).actives[0]
    assert active.low == pytest.approx(100 * 0.7 * 300 / 408)
    assert active.high == pytest.approx(100 * 0.7 * 300 / 392)


def test_the_isopropanol_answers_carry_a_wider_range_than_the_ethanol_ones() -> None:
    wide = reckon(mix(("isopropanol", "2 parts", "91 %"), ("aloe-gel", "1 part"))).actives[0]
    narrow = reckon(mix(("ethanol", "2 parts", "91 %"), ("aloe-gel", "1 part"))).actives[0]
    assert wide.high - wide.true > 0.1
    assert narrow.high == pytest.approx(narrow.true)
    assert ALCOHOLS["isopropanol"].density_uncertainty == 0.002


def test_the_kitchen_batch_of_the_who_shape_shows_its_own_strength() -> None:
    """11, 5 and 190 mL made up to 250 mL from 99.8 % stock: 2.0 % glycerol, 75.85 % v/v by label arithmetic."""
    result = reckon(
        mix(
            ("hydrogen-peroxide", "11 mL", "3 %"), ("glycerol", "5 mL"), ("isopropanol", "190 mL", "99.8 %"),
            ("water", "q.s."), make="250 mL",
        )
    )  # fmt: skip
    assert result.active("glycerol").label == pytest.approx(2.0)
    assert result.active("isopropanol").label == pytest.approx(75.85, abs=0.005)


@pytest.mark.parametrize(("formula", "alcohol", "strength"), [(WHO_I, "ethanol", 80.0), (WHO_II, "isopropanol", 75.0)])
def test_the_who_amounts_give_the_who_strengths(formula, alcohol: str, strength: float) -> None:
    """WHO, Guide to Local Production: 80 or 75 % v/v, glycerol 1.45 % v/v, peroxide 0.125 % w/v."""
    result = reckon(formula)
    assert result.active(alcohol).label == pytest.approx(strength, abs=0.05)
    assert result.active(alcohol).true == pytest.approx(strength, abs=0.05)
    assert result.active("glycerol").label == pytest.approx(1.45, abs=0.005)
    assert result.active("hydrogen-peroxide").label == pytest.approx(0.125, abs=0.0005)
    assert result.total.volume_mL == pytest.approx(10_000, abs=0.001)
    assert [verdict.verdict for verdict in result.verdicts] == ["meets"]


@pytest.mark.parametrize(("lines", "label", "true", "volume"), TRUE_STRENGTHS)
def test_label_arithmetic_and_true_strength(lines, label, true, volume) -> None:
    result = reckon(mix(*lines))
    active = result.actives[0]
    slack = 0.05 if active.active == "ethanol" else 0.15
    assert active.label == pytest.approx(label, abs=0.05)
    assert active.true == pytest.approx(true, abs=slack)
    if volume:
        assert result.total.volume_mL == pytest.approx(volume, abs=0.5)


def test_three_parts_of_70_percent_to_one_of_gel_falls_short() -> None:
    """CDC hand-hygiene guidance: at least 60 % alcohol."""
    result = reckon(mix(("isopropanol", "3 parts", "70 %"), ("aloe-gel", "1 part"), guidelines=("cdc-alcohol-60",)))
    assert result.verdicts[0].verdict == "short"
    assert result.verdicts[0].margin_points == pytest.approx(-7.5)


@pytest.mark.parametrize(
    ("formula", "unsure"),
    [
        (mix(("isopropanol", "700 mL", "91 %"), ("water", "q.s."), make="1 L"), False),
        (mix(("isopropanol", "700 mL", "91 %")), False),
        (mix(("isopropanol", "700 mL", "86 % w/w"), ("water", "q.s."), make="1 L"), True),
        (mix(("isopropanol", "560 g", "91 %"), ("water", "q.s."), make="1 L"), True),
        (mix(("isopropanol", "560 g", "91 %"), ("water", "q.s."), make="1 kg"), True),
        (mix(("ethanol", "560 g", "86 % w/w"), ("water", "q.s."), make="1 kg"), False),
    ],
)
def test_isopropanol_by_weight_carries_the_doubt_of_its_table(formula, unsure: bool) -> None:
    """Good to 0.002 g/mL, from memory; by label and volume no density comes into it."""
    active = reckon(formula).main
    assert (active.low < active.lower - 1e-6) == unsure
