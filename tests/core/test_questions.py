"""The questions of strength and dilution: properties, and numbers from outside."""

import re
from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.alcoholmeter import expected_reading, true_strength
from firkin.core.alcohols import ALCOHOLS
from firkin.core.blending import WATER, blend, blend_with_water, strengthen, weaken
from firkin.core.catalogue import find
from firkin.core.dilution import dilute, max_additive
from firkin.core.errors import CannotReckon
from firkin.core.fixes import fixes
from firkin.core.formula import Formula
from firkin.core.hardness import MG_PER_L, convert
from firkin.core.measuring import read_error
from firkin.core.packing import Container, pack
from firkin.core.quantities import Quantity
from firkin.core.reckoning import reckon
from firkin.core.strengths import Strength
from firkin.core.warmth import at_20, at_bench
from mixes import line, mix

alcohols = st.sampled_from(["ethanol", "isopropanol"])
percents = st.floats(min_value=1, max_value=100)
sizes = st.floats(min_value=10, max_value=10_000)


def vv(value: float) -> Strength:
    return Strength.of(value, "v/v")


def mixed(alcohol: str, *pairs: tuple[float, float], water_mL: float = 0.0):
    """What (volume, % v/v) pairs and water really come to, by the mixture model."""
    lines = [(alcohol, f"{volume:.9f} mL", f"{percent:.9f} %") for volume, percent in pairs if volume > 1e-6]
    lines += [("water", f"{water_mL:.9f} mL")] if water_mL > 1e-6 else []
    return reckon(mix(*lines))


@given(alcohols, percents, percents, sizes)
def test_what_dilute_says_comes_to_the_target_and_the_size(alcohol, one, other, size) -> None:
    target, stock = sorted((one, other))
    thin = dilute(find(alcohol), vv(stock), vv(target), size)
    result = mixed(alcohol, (thin.stock_mL, stock), water_mL=thin.water_mL)
    assert result.total.volume_mL == pytest.approx(size, rel=1e-5)
    assert result.actives[0].true == pytest.approx(target, abs=1e-3)


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


@given(percents, percents)
def test_the_largest_additive_share_still_holds_the_line(stock: float, line_pct: float) -> None:
    assume(stock > line_pct)
    room = max_additive(vv(stock), vv(line_pct))
    assert stock * (1 - room.additive_share_pct / 100) == pytest.approx(line_pct)


@given(st.floats(min_value=0.5, max_value=99), st.floats(min_value=0, max_value=40))
def test_an_alcoholmeter_read_both_ways_agrees(true: float, celsius: float) -> None:
    try:
        reading, _ = expected_reading(true, celsius)
    except CannotReckon:
        assume(False)
    assume(0.3 <= reading <= 100)
    assert true_strength(reading, celsius)[0] == pytest.approx(true, abs=0.02)


# OIML R 22, as computed from its general formula: % v/v at 20 degC for readings at other temperatures.
METER = [(78, 27, 75.8), (50, 30, 46.1), (40, 20, 40.0), (96, 20, 96.0)]


@pytest.mark.parametrize(("reading", "celsius", "true"), METER)
def test_alcoholmeter_readings_become_true_strengths(reading, celsius, true) -> None:
    assert true_strength(reading, celsius)[0] == pytest.approx(true, abs=0.05)


@given(st.floats(min_value=0, max_value=1e4), st.sampled_from(sorted(MG_PER_L)), st.sampled_from(sorted(MG_PER_L)))
def test_hardness_there_and_back_is_the_same(value: float, unit: str, to: str) -> None:
    there, _ = convert(value, unit, to)
    assert convert(there, to, unit)[0] == pytest.approx(value)


@given(percents, sizes, st.floats(min_value=-10, max_value=40))
def test_a_volume_moved_to_20_degrees_and_back_is_the_same(percent, volume, celsius) -> None:
    there, _ = at_20(find("ethanol"), vv(percent), volume, celsius)
    assert at_bench(find("ethanol"), vv(percent), there, celsius)[0] == pytest.approx(volume)


@given(sizes, st.lists(st.tuples(st.floats(min_value=20, max_value=2000), st.integers(0, 12)), max_size=5))
def test_packing_loses_nothing_and_overfills_nothing(batch: float, kinds) -> None:
    containers = [Container(str(i), volume, count) for i, (volume, count) in enumerate(kinds)]
    packed = pack(batch, containers, 5.0)
    filled = sum(fill.count * fill.fill_mL for fill in packed.fills)
    assert filled + packed.left_mL == pytest.approx(batch)
    for container in containers:
        fills = [fill for fill in packed.fills if fill.name == container.name]
        assert sum(fill.count for fill in fills) <= container.count
        assert all(fill.fill_mL <= container.volume_mL * 0.95 + 1e-6 for fill in fills)
    used = sum(fill.count for fill in packed.fills)
    assert packed.short_of_containers is (packed.left_mL > 0)
    assert not packed.left_mL or used == sum(container.count for container in containers)


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


@pytest.mark.parametrize(
    ("text", "error"), [("5 %", 0.05), ("±2,5%", 0.025), ("+/- 3 %", 0.03), ("Cup", 0.05), ("", 0)]
)
def test_a_measuring_error_is_read(text: str, error: float) -> None:
    assert read_error(text) == pytest.approx(error)


@pytest.mark.parametrize("text", ["60 %", "-5 %", "some", "5"])
def test_a_measuring_error_that_is_none_is_refused(text: str) -> None:
    with pytest.raises(CannotReckon):
        read_error(text)


SHELF = [("Blue can", "ethanol", vv(96.0)), ("Other", "isopropanol", vv(99.0)), ("Weak", "ethanol", vv(40.0))]


@pytest.mark.parametrize(
    ("stock", "gel", "rule", "errors"),
    [
        ("70 %", "100 mL", "cdc-alcohol-60", 0.0),
        ("75-80 %", "120 mL", "cdc-alcohol-60", 0.05),
        ("91 %", "150 mL", "hospital-70", 0.02),
    ],
)
def test_every_fix_does_bring_the_mix_to_its_line(stock, gel, rule, errors) -> None:
    """Each sentence is read back and tried out."""
    formula = mix(("ethanol", "300 mL", stock), ("aloe-gel", gel), guidelines=(rule,))
    formula = replace(formula, lines=tuple(replace(one, error=errors) for one in formula.lines))
    result = reckon(formula)
    assert result.verdicts[0].verdict in ("short", "on-the-line")
    found = [str(fix) for fix in fixes(result, result.verdicts[0], SHELF)]
    tried = 0
    for sentence in found:
        if match := re.match(r"Keep everything else to ([\d.]+) mL", sentence):
            lines = (formula.lines[0], replace(formula.lines[1], amount=Quantity(float(match[1]), "mL")))
        elif match := re.match(r"Use a stock of at least ([\d.]+) %", sentence):
            lines = (replace(formula.lines[0], strength=vv(float(match[1]))), formula.lines[1])
        else:
            match = re.match(r"Add ([\d.]+) mL of Blue can", sentence)
            lines = (*formula.lines, line("ethanol", f"{match[1]} mL", "96 %"))
        tried += 1
        assert reckon(replace(formula, lines=lines)).actives[0].low >= result.verdicts[0].minimum - 1e-9, sentence
    assert tried == len(found) >= 2
    assert not any("Other" in sentence or "Weak" in sentence for sentence in found)


@given(
    st.floats(min_value=60.5, max_value=95),
    st.floats(min_value=1.05, max_value=3),
    st.floats(min_value=50, max_value=3000),
)
def test_the_additive_a_fix_allows_still_holds_the_line_as_it_is_written(stock, over, volume) -> None:
    """What is shown is rounded to four figures: an amount to keep to must be rounded down, a ratio up."""
    stock, volume = round(stock, 4), round(volume, 4)  # as the formula below is written
    room = volume * (stock / 60 - 1)
    formula = mix(
        ("ethanol", f"{volume:.4f} mL", f"{stock:.4f} %"),
        ("aloe-gel", f"{room * over:.4f} mL"),
        guidelines=("cdc-alcohol-60",),
    )
    result = reckon(formula)
    said = next(text for text in map(str, fixes(result, result.verdicts[0])) if text.startswith("Keep"))
    amount, unit, ratio = re.match(r"Keep everything else to ([\d.]+) (mL|L) .* 1 part to ([\d.]+)\.", said).groups()
    keep = float(amount) * (1000 if unit == "L" else 1)
    assert stock * volume / (volume + keep) >= 60 - 1e-3 / volume - 1e-6
    assert stock * float(ratio) / (float(ratio) + 1) >= 60 - 1e-6


def test_a_mix_that_is_too_strong_is_told_how_much_water() -> None:
    result = reckon(mix(("ethanol", "1 L", "97 %"), guidelines=("hicpac-60-95",)))
    (sentence,) = map(str, fixes(result, result.verdicts[0]))
    assert sentence.startswith("Add ")
    assert "of water" in sentence


def test_the_isopropanol_answers_carry_a_wider_range_than_the_ethanol_ones() -> None:
    wide = reckon(mix(("isopropanol", "2 parts", "91 %"), ("aloe-gel", "1 part"))).actives[0]
    narrow = reckon(mix(("ethanol", "2 parts", "91 %"), ("aloe-gel", "1 part"))).actives[0]
    assert wide.high - wide.true > 0.1
    assert narrow.high == pytest.approx(narrow.true)
    assert ALCOHOLS["isopropanol"].density_uncertainty == 0.002
