"""Numbers, amounts and strengths at the edges of what they take, and as properties of any. Common knowledge of numbers."""

import math
from decimal import Decimal

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.errors import CannotRead
from firkin.core.measures import (
    amount_words,
    decimal_mark,
    doubt_points,
    figures,
    hours_words,
    plain_figures,
    read_heat,
    read_number,
    read_quantity,
    read_temperature,
    rounded,
    rounded_down,
    rounded_up,
    weight_words,
)
from firkin.core.measures.counted import counted_out
from firkin.core.measures.strengths import Side, Strength


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


def test_weights_and_volumes_change_their_unit_where_four_figures_would() -> None:
    assert [weight_words(g) for g in (999.94, 999.95, 1000.0)] == ["999.9 g", "1 kg", "1 kg"]
    assert [amount_words(mL) for mL in (999.94, 999.95, 1000.0)] == ["999.9 mL", "1 L", "1 L"]


@pytest.mark.parametrize(("reader", "low", "high"), [(read_temperature, -20.0, 40.0), (read_heat, -20.0, 120.0)])
def test_a_temperature_is_taken_at_both_ends_and_not_beyond(reader, low: float, high: float) -> None:
    assert [reader(f"{end:g} °C") for end in (low, high)] == [low, high]
    assert [reader(f"{end * 1.8 + 32:g} F") for end in (low, high)] == pytest.approx([low, high])
    for beyond in (low - 0.1, high + 0.1):
        with pytest.raises(CannotRead, match="outside"):
            reader(f"{beyond:.1f} °C")


@pytest.mark.parametrize(
    ("hours", "words"),
    [(59 / 3600, "59 s"), (1 / 60, "1 min"), (59 / 60, "59 min"), (1.0, "1 h"), (72.0, "72 h"), (96.1, "4.004 days")],
)
def test_a_wait_is_said_in_the_unit_it_is_lived_in(hours: float, words: str) -> None:
    assert hours_words(hours) == words


@given(st.lists(st.tuples(st.integers(1, 9), st.integers(1, 900)), min_size=1, max_size=6))
def test_what_is_counted_out_adds_up(pieces: list[tuple[int, int]]) -> None:
    words = " + ".join(f"{count} x {mL} mL" for count, mL in pieces)
    assert read_quantity(words).mL == pytest.approx(sum(count * mL for count, mL in pieces))
    less = " + ".join(f"{count} x {mL} mL" for count, mL in pieces) + " less 1 mL"
    total = sum(count * mL for count, mL in pieces)
    assume(total > 1)
    assert read_quantity(less).mL == pytest.approx(total - 1)


@pytest.mark.parametrize(
    ("said", "is_"),
    [
        ("three 250 mL bottles", [("3", "250 mL")]),
        ("2.5 x 1 L", [("2.5", "1 L")]),
        ("4 bottles of 250 mL", [("4", "250 mL")]),
        ("2 x 1 L bottle", [("2", "1 L")]),
        ("1 L and 2 cups plus a tsp less 5 mL", [("1", "1 L"), ("1", "2 cups"), ("1", "1 tsp"), ("-1", "5 mL")]),
        ("1 and a half litres", [("1", "1.5 litres")]),
        ("a dozen eggs", [("1", "12 eggs")]),
    ],
)
def test_counting_as_people_say_it(said: str, is_: list[tuple[str, str]]) -> None:
    assert counted_out(said) == is_


@given(st.floats(0.1, 100.0), st.sampled_from(["v/v", "w/w", "w/v"]))
def test_a_strength_of_one_number_is_that_at_both_ends(value: float, basis: str) -> None:
    one = Strength.of(value, basis)
    assert (one.low, one.value, one.high, one.basis) == (value, value, value, basis)


def test_the_ends_of_a_range_are_strengths_of_their_own() -> None:
    pool = Strength(10.0, 8.0, 12.0, "w/w")
    assert [pool.end(side) for side in (Side.LOW, Side.HIGH)] == [Strength.of(8.0, "w/w"), Strength.of(12.0, "w/w")]
