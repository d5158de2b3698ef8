"""What a formula comes to, against published mixes, and its worst cases worked by hand."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from checks.published import TRUE_STRENGTHS, WHO_I, WHO_II
from firkin.core.catalogue import find
from firkin.core.catalogue.rule_lines import Verdict, rule_lines
from firkin.core.densities import ALCOHOLS
from firkin.core.errors import CannotReckon
from firkin.core.formula import (
    Formula,
    Line,
    levels,
    read_ounces,
    reckon,
)
from firkin.core.formula.reckoning import verdicts_against
from firkin.core.measures import Quantity, Strength
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


def test_an_unclear_ounce_is_judged_by_what_makes_it_weaker_and_widens_what_is_said() -> None:
    """ "8 oz" of ethanol is 8 fluid ounces, 237 mL, or 227 g, which are 277 mL: the first is less alcohol."""
    lines = (
        Line(find("ethanol"), Quantity(8.0, "oz"), Strength.of(95.0, "v/v")),
        Line(find("aloe"), Quantity(100.0, "mL")),
    )
    mix = Formula("Mix", lines, "aloe-rub", guidelines=("cdc-alcohol-60",))
    readings = read_ounces(mix)
    assert readings is not None
    strengths = sorted(reckon(one).actives[0].label for one in readings)
    (active,) = reckon(mix).actives
    assert active.label == pytest.approx(strengths[0])
    assert active.high >= strengths[1] - 1e-9
    assert active.low <= strengths[0] + 1e-9
    assert strengths[1] - strengths[0] > 1.0
    assert reckon(mix).verdicts == tuple(verdicts_against("cdc-alcohol-60", reckon(mix).actives))


def test_a_rule_line_of_what_is_not_there_is_short_by_all_of_it() -> None:
    for key, line in rule_lines().items():
        (standing,) = verdicts_against(key, ())
        first = line.limits[0]
        assert (standing.verdict, standing.minimum, standing.maximum) == (Verdict.SHORT, first.minimum, first.maximum)
        assert standing.margin_points == -(first.minimum or 0.0)


@pytest.mark.parametrize(("celsius", "freezes"), [(0.0, False), (-0.1, True), (-20.0, True)])
def test_water_is_not_measured_out_as_ice(celsius: float, freezes: bool) -> None:
    mix = Formula("Wash", (Line(find("water"), Quantity(1.0, "L")),), temperature=celsius)
    if not freezes:
        assert reckon(mix).total.volume_mL > 0
    else:
        with pytest.raises(CannotReckon, match="this freezes: ice forms from 0 °C") as refused:
            reckon(mix)
        assert refused.value.path == ("temperature",)


@given(st.floats(40.0, 99.0), st.sampled_from([-0.009, 0.009, 0.0]))
def test_per_cents_that_miss_a_hundred_by_rounding_fill_the_size_all_the_same(water_pct: float, slip: float) -> None:
    lines = (
        Line(find("water"), Quantity(water_pct, "%")),
        Line(find("glycerol"), Quantity(100.0 - water_pct + slip, "%")),
    )
    result = reckon(Formula("Mix", lines, "other", "weight", make=Quantity(500.0, "g")))
    assert result.total.mass_g == pytest.approx(500.0, rel=2e-4)


def test_per_cents_beside_amounts_leave_the_amounts_as_they_are() -> None:
    """450 g of water and 10 % glycerol by weight: 500 g in all. By volume the water keeps its 450 mL."""
    lines = (Line(find("water"), Quantity(450.0, "g")), Line(find("glycerol"), Quantity(10.0, "%")))
    by_weight = reckon(Formula("Mix", lines, "other", "weight"))
    assert (by_weight.lines[0].mass_g, by_weight.lines[1].mass_g) == pytest.approx((450.0, 50.0))
    lines = (Line(find("water"), Quantity(450.0, "mL")), Line(find("glycerol"), Quantity(10.0, "%")))
    by_volume = reckon(Formula("Mix", lines, "other", "volume"))
    assert (by_volume.lines[0].volume_mL, by_volume.lines[1].volume_mL) == pytest.approx((450.0, 50.0))
