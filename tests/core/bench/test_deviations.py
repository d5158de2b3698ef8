"""Too much or too little: asked about beyond the tolerance, and every way out comes to what it says."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import EntryKind, Vessel, choices, deviation_of
from journals import RUB, Journal
from mixes import GEL


@given(st.floats(0.5, 2.0))
def test_two_per_cent_is_let_pass_and_more_is_asked_about(factor: float) -> None:
    journal = Journal(RUB)
    journal.do(factor)
    deviation = deviation_of(journal.progress)
    if abs(factor - 1) < 0.0199:
        assert deviation is None
    if abs(factor - 1) > 0.0201:
        assert deviation.over is (factor > 1)
        assert deviation.off_pct == pytest.approx(100 * abs(factor - 1))
        assert deviation.planned.mL == pytest.approx(800)
        journal.write(EntryKind.DECIDE, data={"factor": 1.0, "whole": False})
        assert deviation_of(journal.progress) is None


@given(st.floats(1.03, 3.0), st.integers(0, 2))
def test_what_scaling_promises_is_what_it_comes_to(factor: float, at: int) -> None:
    journal = Journal(GEL)
    for _ in range(at):
        journal.do()
    journal.do(factor)
    deviation = deviation_of(journal.progress)
    if deviation is None:
        return
    scaled = next(choice for choice in choices(journal.progress, deviation) if choice.key == "scale")
    journal.scale(deviation.factor)
    journal.finish()
    result = journal.progress.result
    assert result.total.mass_g == pytest.approx(scaled.result.total.mass_g, rel=1e-4)
    assert result.main.lower == pytest.approx(scaled.result.main.lower, abs=0.01)
    assert bool(scaled.adds) is (at > 0)


def test_a_batch_that_would_overflow_its_vessel_is_not_scaled() -> None:
    journal = Journal(RUB)
    journal.do(1.5)
    deviation = deviation_of(journal.progress)
    small, large = (choices(journal.progress, deviation, Vessel("the jug", size)) for size in (1400.0, 1600.0))
    assert "1500 mL, more than the jug holds" in small[1].trouble
    assert not large[1].trouble


def test_too_little_of_a_later_line_can_only_be_left_or_entered_again() -> None:
    journal = Journal(RUB)
    journal.do()
    journal.do(0.5)
    assert [choice.key for choice in choices(journal.progress, deviation_of(journal.progress))] == ["accept"]
