"""How fast a product is used: against SciPy's Gamma, drawn bottles, and cases by hand."""

from datetime import UTC, datetime, timedelta
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.use import Rate, Spell, days_left, rate_words, use_rate
from firkin.core.use.rates import gamma_quantile

NOW = datetime(2026, 6, 1, tzinfo=UTC)


def gamma_of_scipy(share: object, shape: float):
    """SciPy's Gamma, which takes seconds to load: whoever collects the tests does without it."""
    from scipy.stats import gamma

    return gamma.ppf(share, shape)


def ago(days: float) -> datetime:
    return NOW - timedelta(days=days)


@given(st.integers(0, 300), st.floats(0.001, 0.999))
def test_quantiles_are_those_of_scipy(bottles: int, share: float) -> None:
    assert gamma_quantile(bottles + 0.5, share) == pytest.approx(
        gamma_of_scipy(share, bottles + 0.5), rel=1e-7, abs=1e-9
    )


@pytest.mark.parametrize(("shape", "share"), [(1.0, 0.5), (0.0, 0.5), (-0.5, 0.5), (0.5, 0.0), (0.5, 1.0)])
def test_other_shapes_and_shares_are_refused(shape: float, share: float) -> None:
    with pytest.raises(ValueError, match="half-integer"):
        gamma_quantile(shape, share)


def test_one_bottle_after_the_other_by_hand() -> None:
    """Five bottles of 475 mL, a week each: 475 mL a week, whatever the range."""
    spells = [Spell(ago(7.0 * (n + 1)), ago(7.0 * n), 475.0) for n in range(5)]
    rate = use_rate(spells, NOW)
    assert rate.mid * 7.0 == pytest.approx(475.0)
    assert rate.low < rate.mid < rate.high
    assert (rate.bottles, rate.days) == (5, pytest.approx(35.0))


def test_two_at_once_are_twice_as_fast_and_a_gap_does_not_count() -> None:
    """By hand: two bottles of 100 mL used up in the same ten days, and ten days with none: 20 mL a day."""
    spells = [Spell(ago(30), ago(20), 100.0), Spell(ago(30), ago(20), 100.0)]
    rate = use_rate(spells, NOW)
    assert rate.mid == pytest.approx(20.0)
    assert rate.days == pytest.approx(10.0)
    apart = use_rate([Spell(ago(30), ago(20), 100.0), Spell(ago(10), ago(0), 100.0)], NOW)
    assert apart.mid == pytest.approx(10.0)


def test_what_is_still_in_use_counts_as_time_and_what_was_lost_as_no_use() -> None:
    used = Spell(ago(20), ago(10), 100.0)
    assert use_rate([used], NOW).mid == pytest.approx(10.0)
    assert use_rate([used, Spell(ago(10), None, 100.0)], NOW).mid == pytest.approx(5.0)
    assert use_rate([used, Spell(ago(10), ago(5), 100.0, used=False)], NOW).mid == pytest.approx(100.0 / 15.0)


@pytest.mark.parametrize(
    "spells",
    [
        [],
        [Spell(ago(5), None, 100.0)],
        [Spell(ago(5), ago(1), 100.0, used=False)],
        [Spell(ago(0), ago(0), 100.0)],
        [Spell(NOW + timedelta(days=1), NOW + timedelta(days=2), 100.0)],
    ],
)
def test_before_one_was_used_up_nothing_is_said(spells: list[Spell]) -> None:
    assert use_rate(spells, NOW) is None


@pytest.mark.parametrize("a_day", [0.1, 0.6])
def test_the_range_holds_the_truth_nine_times_in_ten(a_day: float) -> None:
    """Bottles that run out as a Poisson process, seeded: between 84 and 97 of 100 ranges hold what they were drawn by."""
    draws, held = Random(4), 0
    for _ in range(300):
        spells, at = [], 60.0
        while at > 0.0:
            lasts = draws.expovariate(a_day)
            spells.append(Spell(ago(at), ago(at - lasts) if lasts < at else None, 100.0))
            at -= lasts
        rate = use_rate(spells, NOW)
        held += rate is not None and rate.low <= 100.0 * a_day <= rate.high
    assert 0.84 <= held / 300 <= 0.97


@given(st.floats(1.0, 1e4), st.floats(1.01, 5.0), st.floats(1.0, 1e5))
def test_the_faster_it_is_used_the_sooner_it_runs_out(mid: float, spread: float, mL: float) -> None:
    soonest, likely, latest = days_left(Rate(mid, mid / spread, mid * spread, 3, 30.0), mL)
    assert soonest < likely < latest
    assert likely * mid == pytest.approx(mL)


@pytest.mark.parametrize(("high", "unit"), [(142.8, "mL a week"), (142.9, "L a week")])
def test_a_litre_a_week_is_told_in_litres(high: float, unit: str) -> None:
    assert rate_words(Rate(100.0, 50.0, high, 3, 30.0)).endswith(f" {unit}")


@pytest.mark.parametrize("bottles", [1, 2, 9])
def test_the_range_is_that_of_jeffreys_prior(bottles: int) -> None:
    """Shape n + 1/2 over t days, from the 5th to the 95th hundredth, by SciPy."""
    spells = [Spell(ago(4.0 * (n + 1)), ago(4.0 * n), 250.0) for n in range(bottles)]
    rate = use_rate(spells, NOW)
    ends = gamma_of_scipy([0.05, 0.95], bottles + 0.5) / (4.0 * bottles) * 250.0
    assert (rate.low, rate.high) == pytest.approx(tuple(ends), rel=1e-6)
