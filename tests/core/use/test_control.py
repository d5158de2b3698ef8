"""Limits of an individuals control chart, against the handbook's example and a rule of proportion."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.use import LEAST_POINTS, chart_of

#: Flow rates of NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2.2, with its limits.
FLOWS = [49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1]


def test_the_handbooks_example() -> None:
    chart = chart_of(FLOWS)
    assert (chart.mean, chart.low, chart.high) == pytest.approx((50.81, 45.8159, 55.8041), abs=5e-4)
    assert chart.outside == ()


def test_a_value_beyond_a_limit_is_named_and_one_on_it_is_not() -> None:
    assert chart_of([10, 10.2, 9.9, 10.1, 10, 10.1, 9.9, 10, 10.2, 14]).outside == (9,)
    assert chart_of([5.0] * 8).outside == ()


@pytest.mark.parametrize(("count", "said"), [(LEAST_POINTS - 1, False), (LEAST_POINTS, True)])
def test_too_few_values_have_no_limits(count: int, said: bool) -> None:
    chart = chart_of(FLOWS[:count])
    assert (chart.high is not None) is said
    assert chart.outside == ()


@given(st.lists(st.floats(-1e3, 1e3), min_size=5, max_size=30), st.floats(0.1, 10.0), st.floats(-100.0, 100.0))
def test_in_another_unit_the_same_batches_are_outside(values: list[float], times: float, plus: float) -> None:
    one, other = chart_of(values), chart_of([times * value + plus for value in values])
    assert other.mean == pytest.approx(times * one.mean + plus, abs=1e-6)
    assert other.high - other.low == pytest.approx(times * (one.high - one.low), abs=1e-6)
