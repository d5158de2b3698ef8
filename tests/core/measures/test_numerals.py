"""Numbers read from any text, and written with four figures."""

import contextlib
import math
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.measures import (
    decimal_mark,
    doubt_points,
    figures,
    plain_figures,
    read_hours,
    read_number,
    read_quantity,
    read_strength,
    read_temperature,
    rounded,
    rounded_down,
    rounded_up,
)


@given(st.text(max_size=60))
def test_no_text_breaks_the_readers(text: str) -> None:
    for reader in (read_number, read_quantity, read_strength, read_temperature, read_hours, find):
        with contextlib.suppress(CannotReckon):
            reader(text)


@given(st.floats(min_value=1e-4, max_value=1e9))
def test_at_most_four_significant_figures(value: float) -> None:
    assert float(figures(value)) == pytest.approx(value, rel=6e-4)


@given(st.integers(0, 99), st.integers(0, 31), st.integers(1, 32))
def test_a_mixed_fraction_is_its_whole_and_its_part(whole: int, top: int, bottom: int) -> None:
    assert read_number(f"{top}/{bottom}") == pytest.approx(top / bottom) or (top > 9 and bottom > 1)
    for between in (" ", "-"):
        assert read_number(f"{whole}{between}{top}/{bottom}") == pytest.approx(whole + top / bottom)


@pytest.mark.parametrize(("said", "is_"), [("11/2", 1.5), ("21/4", 2.25), ("13/4", 1.75), ("33/8", 3.375)])
def test_a_fraction_close_to_its_whole_number_is_mixed(said: str, is_: float) -> None:
    assert read_number(said) == is_


@pytest.mark.parametrize("said", ["1.2.3", "1,2,3", "1.000,5,5", "1,000.5.5", "1 / 0", "4/0"])
def test_two_decimal_marks_and_nothing_below_a_line_are_refused(said: str) -> None:
    with pytest.raises(CannotRead):
        read_number(said)


@given(st.floats(1e-3, 99.0), st.integers(2, 5))
def test_rounding_up_and_down_stay_on_their_side_and_next_to_it(value: float, digits: int) -> None:
    step = 10.0 ** (math.floor(math.log10(value)) + 1 - digits)
    low, high = rounded_down(value, digits), rounded_up(value, digits)
    assert low <= value * (1 + 1e-12)
    assert high >= value * (1 - 1e-12)
    assert high - low <= step * 1.0001
    assert min(abs(rounded(value, digits) - low), abs(rounded(value, digits) - high)) < step * 1e-6
    assert low == high or abs(rounded(value, digits) - value) <= step * 0.50001


@given(st.floats(1e-3, 1e6))
def test_figures_write_what_rounding_finds(value: float) -> None:
    assert Decimal(plain_figures(value)) == Decimal(repr(rounded(value))).normalize()
    with decimal_mark(","):
        assert figures(value).replace(",", ".") == plain_figures(value)


def test_what_is_no_number_is_a_dash_and_nothing_is_0() -> None:
    assert [plain_figures(value) for value in (0.0, -0.0, math.inf, math.nan)] == ["0", "0", "—", "—"]


def test_a_doubtful_point_is_said_both_ways() -> None:
    for said, plain, decimal in (("1.500", "1500", "1.5"), ("12.340", "12340", "12.34")):
        with pytest.raises(CannotRead, match=rf"^“{said}” can be read as {plain} or as {decimal}\. Write which\.$"):
            doubt_points(f"{said} mL")
    with pytest.raises(CannotRead, match=r"“2\.000” can be read as 2000 or as 2"):
        doubt_points("2.000 mL", round_only=True)
    doubt_points("1.500 mL", round_only=True)
