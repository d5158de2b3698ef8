"""What comes due, and when."""

import itertools

from firkin.core.bench import (
    VENT_DAYS,
    after_making,
    while_waiting,
)
from firkin.core.formula import house_formulas


def test_a_ferment_is_vented_daily_then_every_third_day_then_weekly() -> None:
    """Common practice, no source."""
    days = [due.after_h / 24 for due in while_waiting("ferment")]
    assert days[:7] == [1, 2, 3, 4, 5, 6, 7]
    gaps = [b - a for a, b in itertools.pairwise(days)]
    assert gaps == [1] * 6 + [3] * 5 + [7] * 9  # no gap is longer than a week: it skipped from day 19 to 28
    assert max(VENT_DAYS) <= 90


def test_made_up_chlorine_is_discarded_after_a_day_and_gels_are_looked_at_again() -> None:
    """WHO, May 2020: made fresh every day."""
    assert [(due.kind, due.after_h) for due in after_making(house_formulas()["chlorine-spills"].formula)] == [
        ("discard", 24)
    ]
    assert after_making(house_formulas()["xanthan-gel"].formula)[0].kind == "recheck"
    assert {due.kind for due in after_making(house_formulas()["powder-soft"].formula)} == {"keep-by"}
