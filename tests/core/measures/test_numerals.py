"""Numbers read from any text, and written with four figures."""

import contextlib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.measures import (
    figures,
    read_hours,
    read_number,
    read_quantity,
    read_strength,
    read_temperature,
)


@given(st.text(max_size=60))
def test_no_text_breaks_the_readers(text: str) -> None:
    for reader in (read_number, read_quantity, read_strength, read_temperature, read_hours, find):
        with contextlib.suppress(CannotReckon):
            reader(text)


@given(st.floats(min_value=1e-4, max_value=1e9))
def test_at_most_four_significant_figures(value: float) -> None:
    assert float(figures(value)) == pytest.approx(value, rel=6e-4)
