"""Amounts counted out, and units whose size each workshop says for itself."""

import tomllib
from contextlib import suppress
from pathlib import Path

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.errors import CannotRead
from firkin.core.measures import (
    maker_sizes,
    maker_unit,
    maker_units,
    read_quantity,
    read_volume,
    units,
)
from firkin.core.measures.counted import counted_out

_SAID = tomllib.loads((Path(__file__).parent / "said_amounts.toml").read_text())
SIZES = {"capful": 15.0, "scoop": 20.0, "pump": 1.5, "bucket": 10_000.0, "bar": 100.0, "load": 110.0}


@pytest.mark.parametrize(("said", "meant"), (_SAID["seen"] | _SAID["unseen"]).items())
def test_what_is_counted_out_adds_up(said: str, meant: str) -> None:
    with maker_sizes(SIZES):
        read = read_quantity(said)
    value, unit = meant.split()
    got = read.mL if unit == "mL" else read.g
    assert got == pytest.approx(float(value), rel=1e-6), said


@pytest.mark.parametrize("unit", maker_units())
def test_a_unit_without_a_size_is_never_guessed(unit: str) -> None:
    with pytest.raises(CannotRead, match="nothing is guessed"):
        read_quantity(f"2 {unit}s")


@pytest.mark.parametrize(
    ("said", "why"),
    [
        ("2 1/2 litre bottles", "two ways"),
        ("1 L less 2 L", "leaves nothing"),
        ("0 x 1 L", "leaves nothing"),
        ("1 L + 200 g", "cannot be added"),
        ("q.s. + 1 L", "cannot be added"),
        ("2 x q.s.", "cannot be added"),
        ("2 x", "not a unit"),
        ("x 2", "not an amount"),
        ("+ and less", "not an amount"),
    ],
)
def test_what_cannot_be_added_says_so(said: str, why: str) -> None:
    with pytest.raises(CannotRead, match=why):
        read_quantity(said)


@given(st.integers(1, 40), st.sampled_from(["mL", "L", "cup", "g", "kg", "oz"]), st.floats(0.1, 900.0))
def test_so_many_of_an_amount_is_so_many_times_it(count: int, unit: str, each: float) -> None:
    one = read_quantity(f"{each:.5g} {unit}")
    for said in (
        f"{count} x {each:.5g} {unit}",
        f"{each:.5g} {unit} x {count}",
        f"{count} bottles of {each:.5g} {unit}",
    ):
        many = read_quantity(said)
        assert many.unit == unit
        assert many.value == pytest.approx(count * one.value)


@given(st.text(max_size=40))
def test_any_text_is_an_amount_or_a_sentence(text: str) -> None:
    with suppress(CannotRead):
        assert read_quantity(text).value >= 0


def test_no_spelling_of_a_maker_s_unit_is_one_of_a_fixed_unit() -> None:
    with maker_sizes(SIZES):
        for one in maker_units().values():
            for name in one.names:
                assert maker_unit(name) == one.id
                assert read_quantity(f"1 {name}").value == SIZES[one.id]
    assert not set(maker_units()) & set(units())
    assert read_volume("2 x 1 L + 500 mL").mL == 2500.0


@given(st.lists(st.tuples(st.integers(1, 9), st.integers(1, 900)), min_size=1, max_size=6))
def test_any_amounts_counted_out_add_up(pieces: list[tuple[int, int]]) -> None:
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
