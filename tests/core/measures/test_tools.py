"""Measuring errors as people write them."""

import pytest

from firkin.core.errors import CannotReckon
from firkin.core.measures import read_error


@pytest.mark.parametrize(
    ("text", "error"), [("5 %", 0.05), ("±2,5%", 0.025), ("+/- 3 %", 0.03), ("Cup", 0.05), ("", 0)]
)
def test_a_measuring_error_is_read(text: str, error: float) -> None:
    assert read_error(text) == pytest.approx(error)


@pytest.mark.parametrize("text", ["60 %", "-5 %", "some", "5"])
def test_a_measuring_error_that_is_none_is_refused(text: str) -> None:
    with pytest.raises(CannotReckon):
        read_error(text)
