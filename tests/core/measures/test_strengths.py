"""Strengths as labels say them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotRead
from firkin.core.measures import (
    read_strength,
)
from firkin.core.measures.strengths import Side, Strength

STRENGTHS = [
    ("96 % v/v", 96, 96, 96, "v/v"),
    ("92.4 % w/w", 92.4, 92.4, 92.4, "w/w"),
    ("3 % w/v", 3, 3, 3, "w/v"),
    ("3%W/V", 3, 3, 3, "w/v"),
    ("190 proof", 95, 95, 95, "v/v"),
    ("100 proof_uk", 57.1, 57.1, 57.1, "v/v"),
    ("1000 ppm", 0.1, 0.1, 0.1, "v/v"),
    ("5 % available chlorine", 5, 5, 5, "v/v"),
    ("5 % w/v chlorine", 5, 5, 5, "w/v"),
    ("90-91 % v/v", 90.5, 90, 91, "v/v"),
    ("90–91 %", 90.5, 90, 91, "v/v"),
    ("90 % to 91 %", 90.5, 90, 91, "v/v"),
    ("70", None, None, None, "differ by half"),
    ("110 %", None, None, None, "110 proof"),
    ("210 proof", None, None, None, "above 100"),
    ("-5 %", None, None, None, "below 0"),
    ("91-90 %", None, None, None, "lower end"),
    ("90- %", None, None, None, "not a strength"),
    ("strong", None, None, None, "not a strength"),
    ("70 % x/y", None, None, None, "not a strength unit"),
    ("", None, None, None, "missing"),
]


@pytest.mark.parametrize(("text", "value", "low", "high", "basis"), STRENGTHS)
def test_a_strength_is_read_or_refused_with_a_sentence(text, value, low, high, basis) -> None:
    if value is None:
        with pytest.raises(CannotRead, match=basis):
            read_strength(text)
        return
    strength = read_strength(text)
    assert (strength.value, strength.low, strength.high) == pytest.approx((value, low, high))
    assert strength.basis == basis


@given(st.floats(0.1, 100.0), st.sampled_from(["v/v", "w/w", "w/v"]))
def test_a_strength_of_one_number_is_that_at_both_ends(value: float, basis: str) -> None:
    one = Strength.of(value, basis)
    assert (one.low, one.value, one.high, one.basis) == (value, value, value, basis)


def test_the_ends_of_a_range_are_strengths_of_their_own() -> None:
    pool = Strength(10.0, 8.0, 12.0, "w/w")
    assert [pool.end(side) for side in (Side.LOW, Side.HIGH)] == [Strength.of(8.0, "w/w"), Strength.of(12.0, "w/w")]
