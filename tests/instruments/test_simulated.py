"""The simulated instruments by their own equations: first-order lags, a slope and an offset, marks. Common practice."""

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.questions import expected_reading
from firkin.instruments.ph_meter import SimulatedPhMeter
from firkin.instruments.sample import Sample
from firkin.instruments.scale import SimulatedScale
from firkin.instruments.stem import SimulatedAlcoholmeter

DAY = 86400.0


@given(st.floats(1.0, 13.0), st.floats(1.0, 13.0), st.floats(0.9, 1.0), st.floats(0.0, 5.0))
def test_a_meter_is_right_in_its_buffer_and_off_by_its_slope_elsewhere(
    buffer_ph: float, ph: float, slope: float, days: float
) -> None:
    meter = SimulatedPhMeter(Sample(ph=ph), seed=4, slope=slope)
    meter.calibrate(buffer_ph, 1000.0)
    expected = buffer_ph + (ph - buffer_ph) * slope + 0.04 * days
    assert meter.read(1000.0 + days * DAY) == pytest.approx(min(14.0, max(0.0, expected)), abs=0.06)
    assert meter.days_since_set(1000.0 + days * DAY) == pytest.approx(days)


def test_a_meter_that_was_never_set_says_so_and_its_drift_ends_after_ten_days() -> None:
    meter = SimulatedPhMeter(Sample(ph=7.0), seed=4, offset=0.0)
    assert meter.days_since_set(5.0) is None
    assert meter.read(5.0) == pytest.approx(7.04, abs=0.05)  # a day's drift, as it is not known for how long
    meter.calibrate(7.0, 0.0)
    assert meter.days_since_set(DAY) == 1.0
    assert [meter.read(days * DAY) for days in (10.0, 11.0, 50.0)] == pytest.approx([7.4] * 3, abs=0.04)


@pytest.mark.parametrize("ph", [-2.0, 16.0])
def test_a_meter_shows_nothing_beyond_its_range(ph: float) -> None:
    meter = SimulatedPhMeter(Sample(ph=ph), seed=1, offset=0.0, slope=1.0)
    assert meter.read(0.0) in (0.0, 14.0)


@given(st.integers(0, 10_000), st.floats(0.0, 100.0), st.sampled_from([0.5, 1.0]))
def test_an_alcoholmeter_is_read_at_a_mark_near_what_it_shows(seed: int, true: float, mark: float) -> None:
    shown, celsius = SimulatedAlcoholmeter(Sample(strength_pct=true, celsius=20.0), seed, mark).read()
    assert shown / mark == int(shown / mark)
    assert 0.0 <= shown <= 100.0
    assert shown == pytest.approx(expected_reading(true, 20.0)[0], abs=mark / 2.0 + 0.5)
    assert celsius == 20.0


def test_the_same_seed_reads_the_same_and_another_one_does_not() -> None:
    def readings(seed: int) -> list[float]:
        scale = SimulatedScale(0.01, seed=seed)
        meter = SimulatedPhMeter(Sample(ph=8.0), seed)
        stems = [SimulatedAlcoholmeter(Sample(strength_pct=60.0), seed + i, 0.1).read()[0] for i in range(9)]
        return [*(scale.read(t).grams for t in range(20)), *(meter.read(t) for t in range(20)), *stems]

    assert readings(3) == readings(3)
    assert readings(3) != readings(5)


@given(st.floats(0.0, 4000.0), st.sampled_from([0.1, 1.0, 5.0]))
def test_a_scale_at_rest_shows_what_stands_on_it_to_its_step(grams: float, step: float) -> None:
    scale = SimulatedScale(step, seed=2, standing_g=grams)
    scale.read(0.0)
    shown = scale.read(5.0)
    assert shown.settled
    assert shown.grams / step == pytest.approx(round(shown.grams / step), abs=1e-6)
    assert shown.grams == pytest.approx(grams, abs=step / 2.0 + 0.5)


@pytest.mark.parametrize(("grams", "over"), [(4999.9, False), (5000.0, False), (5000.1, True)])
def test_a_scale_holds_what_it_may_hold(grams: float, over: bool) -> None:
    scale = SimulatedScale(seed=1, standing_g=grams)
    assert scale.read(0.0).overload is over
    assert SimulatedScale(seed=1).read(0.0).grams == pytest.approx(0.0, abs=1.0)  # nothing stands on a new one


def test_a_stream_starts_stops_and_lands_by_its_time_constants() -> None:
    """Mass m(t) = f (t - T (1 - exp(-t/T))) while it is held, T = 0.4 s; once let go, f T more lands."""
    scale = SimulatedScale(0.001, seed=6)
    scale.hold(20.0, 0.0)
    scale.read(3.0)
    held = 20.0 * (3.0 - 0.4 * (1.0 - math.exp(-3.0 / 0.4)))
    scale.release(3.0)
    after = scale.read(10.0)
    assert after.settled
    assert after.grams == pytest.approx(held + 20.0 * 0.4, abs=1.5)


def test_a_jug_put_down_shows_with_the_lag_of_the_display() -> None:
    """Shown = m (1 - exp(-t/T)), T = 0.35 s."""
    scale = SimulatedScale(0.001, seed=6)
    scale.read(0.0)
    scale.put(1000.0, 0.0)
    for seconds in (0.35, 0.7, 1.4):
        assert scale.read(seconds).grams == pytest.approx(1000.0 * (1.0 - math.exp(-seconds / 0.35)), abs=60.0)


def test_readings_tremble_more_while_it_is_poured() -> None:
    def tremble(flow: float) -> float:
        scale = SimulatedScale(0.001, seed=9, capacity_g=1e9)
        scale.hold(flow, 0.0)
        shown = [scale.read(20.0 + 0.05 * i).grams for i in range(400)]
        steps = [b - a for a, b in pairwise(shown)]
        mean = sum(steps) / len(steps)
        return math.sqrt(sum((one - mean) ** 2 for one in steps) / len(steps) / 2.0)

    assert tremble(0.0) == pytest.approx(0.08, rel=0.2)
    assert tremble(10.0) == pytest.approx(0.6, rel=0.2)
    assert tremble(0.5) == pytest.approx(0.6, rel=0.2)


def test_it_is_settled_once_it_was_quiet_and_not_while_it_is_poured() -> None:
    scale = SimulatedScale(seed=1)
    scale.hold(20.0, 0.0)
    assert not scale.read(2.0).settled
    scale.release(2.0)
    assert not scale.read(2.5).settled
    assert scale.read(8.0).settled
    scale.hold(20.0, 8.0)
    assert not scale.read(9.0).settled
    assert scale.read(400.0).settled  # a hand that vanished has let go
