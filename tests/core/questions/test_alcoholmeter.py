"""Alcoholmeter readings against OIML R 22, both ways."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.questions.alcoholmeter import expected_reading, true_strength


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
