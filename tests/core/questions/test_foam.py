"""Foaming soap: the ratio counts, not the bottle (common practice, no source)."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.audit import audit
from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.questions import QUESTIONS
from firkin.core.questions.foam import foaming_soap, like


@given(st.floats(10, 50_000), st.floats(0.5, 20.0), st.floats(0.0, 60.0))
def test_soap_and_water_keep_the_ratio_and_fill_the_bottle_up_to_the_headspace(
    bottle: float, parts: float, free: float
) -> None:
    filled = foaming_soap(bottle, parts, free)
    assert filled.water_mL / filled.soap_mL == pytest.approx(parts)
    assert filled.filled_mL == pytest.approx(bottle * (1 - free / 100))
    assert 1 <= filled.drops[0] <= filled.drops[1]


def test_a_pint_bottle_takes_118_mL_of_soap_and_355_of_water() -> None:
    """16 US fl oz are 473 mL (NIST HB 44); 1 to 3 of it is 118.25 and 354.75 mL by division."""
    filled = foaming_soap(473.0, 3.0)
    assert (filled.soap_mL, filled.water_mL) == pytest.approx((118.25, 354.75))
    assert filled.drops == (9, 11)  # 10 to 12 drops in half a litre: common practice, no source


@given(st.floats(0.3, 30.0))
def test_page_and_audit_say_the_same_of_a_ratio(parts: float) -> None:
    asked = QUESTIONS["foam"].read({"bottle": "500 mL", "parts_water": parts})
    answer = QUESTIONS["foam"].solve(asked)
    assert answer.formula is not None
    faulted = {found.rule for found in audit(reckon(answer.formula))}
    edge = min(abs(100 / (1 + parts) - share) for share in (15.0, 28.0, 100 / 3.55, 100 / 6.75)) < 0.9
    assert edge or ("foam-ratio" in faulted) == bool(answer.warns) == like(parts).startswith("too")


def test_the_cost_of_a_bottle_is_that_of_its_soap() -> None:
    asked = QUESTIONS["foam"].read({"bottle": "500 mL", "parts_water": 4, "soap_price": 10})
    assert QUESTIONS["foam"].solve(asked).values["cost"] == pytest.approx(1.0)


@pytest.mark.parametrize(("bottle", "parts", "free"), [(0, 3, 0), (500, 0, 0), (500, 3, 100), (500, 3, -1)])
def test_nothing_is_filled_into_nothing(bottle: float, parts: float, free: float) -> None:
    with pytest.raises(CannotReckon):
        foaming_soap(bottle, parts, free)
