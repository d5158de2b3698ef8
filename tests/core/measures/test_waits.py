"""Waits as people write them."""

import pytest

from firkin.core.measures import (
    hours_words,
    read_hours,
)


@pytest.mark.parametrize(
    ("text", "hours"), [("72 h", 72), ("3 days", 72), ("12 weeks", 2016), ("30 min", 0.5), ("1,5 hours", 1.5)]
)
def test_a_wait_is_read_and_written(text: str, hours: float) -> None:
    assert read_hours(text) == pytest.approx(hours)
    assert read_hours(hours_words(hours)) == pytest.approx(hours, rel=1e-3)
