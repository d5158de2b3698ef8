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


@pytest.mark.parametrize(
    ("hours", "words"),
    [(59 / 3600, "59 s"), (1 / 60, "1 min"), (59 / 60, "59 min"), (1.0, "1 h"), (72.0, "72 h"), (96.1, "4.004 days")],
)
def test_a_wait_is_said_in_the_unit_it_is_lived_in(hours: float, words: str) -> None:
    assert hours_words(hours) == words
