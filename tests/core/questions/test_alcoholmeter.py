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


@pytest.mark.parametrize(("reading", "taken"), [(0.0, True), (100.0, True), (-0.1, False), (100.1, False)])
def test_a_reading_is_taken_from_nothing_to_pure(reading: float, taken: bool) -> None:
    if taken:
        assert true_strength(reading, 20.0)[0] == pytest.approx(reading, abs=0.05)
        assert expected_reading(reading, 20.0)[0] == pytest.approx(reading, abs=0.05)
    else:
        for ask in (true_strength, expected_reading):
            with pytest.raises(CannotReckon, match="between 0 and 100 % v/v"):
                ask(reading, 20.0)


def test_a_reading_that_no_mixture_shows_is_refused() -> None:
    """Pure ethanol at 40 degC is lighter than the stem goes; ice-cold water heavier (OIML R 22)."""
    with pytest.raises(CannotReckon):
        true_strength(100.0, 0.0)
    with pytest.raises(CannotReckon):
        expected_reading(100.0, 40.0)


def test_what_a_reading_means_is_worked_out_by_its_density() -> None:
    """OIML R 22: ethanol of 70 % by volume at 20 degC weighs 885.56 kg/m3."""
    _, working = true_strength(70.0, 20.0)
    (density,) = [line for line in working if line.unit == "kg/m³"]
    assert density.result == pytest.approx(885.56, abs=0.1)
