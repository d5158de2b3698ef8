"""What comes due, and when."""

import itertools
from dataclasses import replace

import pytest

from firkin.core.bench import VENT_DAYS, after_making, keeps_days, while_waiting
from firkin.core.formula import house_formulas
from mixes import mix


def test_a_ferment_is_vented_daily_then_every_third_day_then_weekly() -> None:
    """Common practice, no source."""
    days = [due.after_h / 24 for due in while_waiting("ferment")]
    assert days[:7] == [1, 2, 3, 4, 5, 6, 7]
    gaps = [b - a for a, b in itertools.pairwise(days)]
    assert gaps == [1] * 6 + [3] * 5 + [7] * 9  # no gap is longer than a week: it skipped from day 19 to 28
    assert max(VENT_DAYS) <= 90
    assert {due.kind for due in while_waiting("ferment")} == {"vent"}


def test_made_up_chlorine_is_discarded_after_a_day_and_gels_are_looked_at_again() -> None:
    """WHO, May 2020: made fresh every day."""
    assert [(due.kind, due.after_h) for due in after_making(house_formulas()["chlorine-spills"].formula)] == [
        ("discard", 24)
    ]
    assert after_making(house_formulas()["xanthan-gel"].formula)[0].kind == "recheck"
    assert {due.kind for due in after_making(house_formulas()["powder-soft"].formula)} == {"keep-by"}


@pytest.mark.parametrize(
    ("family", "lines", "days"),
    [
        ("foaming-soap", [("castile-soap", "250 mL"), ("water", "750 mL")], 28),
        ("foaming-soap", [("castile-soap", "250 mL"), ("water", "750 mL"), ("phenoxyethanol", "8 g")], 180),
        (
            "foaming-soap",
            [("castile-soap", "250 mL"), ("water", "750 mL"), ("phenoxyethanol", "2 g")],
            28,
        ),  # too little
        ("foaming-soap", [("castile-soap", "250 mL"), ("water", "750 mL"), ("potassium-sorbate", "3 g")], 28),  # pH 9
        ("dish-liquid", [("water", "800 g"), ("sles", "200 g")], 28),
        ("dish-liquid", [("water", "800 g"), ("sles", "200 g"), ("potassium-sorbate", "3 g")], 365),
        ("dishwasher-powder", [("washing-soda", "1 kg")], 365),
    ],
)
def test_keep_by_follows_the_preservative_that_works(family: str, lines, days: int) -> None:
    """Common practice, no source: diluted soap keeps weeks by itself."""
    formula = mix(*lines, family=family)
    assert keeps_days(formula) == days
    assert after_making(formula)[-1].after_h == days * 24
    assert keeps_days(replace(formula, keep_days=5.0)) == 5.0
