"""Thinning bleach: nothing is lost on the way, an old bottle counts as less, and the weak end is counted."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength
from firkin.core.questions import QUESTIONS
from firkin.core.questions.chlorine import BLEACH, faded, surface_solution

#: stock %, wanted %, parts of water to one: CDC and WHO (May 2020), stock / wanted - 1
PARTS = [(5.0, 0.5, 9.0), (5.0, 0.1, 49.0), (5.25, 0.05, 104.0), (2.6, 0.5, 4.2), (3.5, 0.5, 6.0)]


def ww(pct: float) -> Strength:
    return Strength.of(pct, "w/w")


@pytest.mark.parametrize(("stock", "wanted", "parts"), PARTS)
def test_parts_of_water_by_the_published_rule(stock: float, wanted: float, parts: float) -> None:
    assert surface_solution(ww(stock), ww(wanted), 1000.0).parts_water == pytest.approx(parts)


@given(
    st.floats(min_value=0.5, max_value=15),
    st.floats(min_value=0.001, max_value=1),
    st.floats(min_value=1, max_value=1e5),
    st.floats(min_value=0, max_value=36),
)
def test_all_the_chlorine_that_goes_in_is_in_it(stock: float, share: float, make: float, months: float) -> None:
    wanted = faded(stock, months) * share
    made = surface_solution(ww(stock), ww(wanted), make, months)
    assert made.bleach_mL + made.water_mL == pytest.approx(make)
    assert made.bleach_mL * made.assumed_stock_pct == pytest.approx(make * wanted)
    assert made.assumed_stock_pct <= stock


def test_an_older_bottle_counts_as_less_and_a_range_by_its_weak_end() -> None:
    ages = [faded(5.0, months) for months in (0, 1, 6, 12, 24)]
    assert ages == sorted(ages, reverse=True)
    assert ages[0] == 5.0
    ranged = surface_solution(Strength(5.0, 4.0, 6.0, "w/w"), ww(0.5), 1000.0)
    assert ranged.bleach_mL == pytest.approx(surface_solution(ww(4.0), ww(0.5), 1000.0).bleach_mL)


def test_what_an_old_bottle_no_longer_reaches_is_refused() -> None:
    with pytest.raises(CannotReckon, match="cannot be made from this bottle"):
        surface_solution(ww(5.0), ww(4.5), 1000.0, age_months=6.0)
    with pytest.raises(CannotReckon):
        faded(5.0, -1.0)


def test_six_percent_of_sodium_hypochlorite_is_less_chlorine() -> None:
    """70.906 g of chlorine stand for 74.442 g of sodium hypochlorite (sums of atomic weights)."""
    assert BLEACH.read_strength("6 % sodium hypochlorite").value == pytest.approx(5.715, abs=0.001)
    asked = QUESTIONS["chlorine"].read({"stock": "6 %", "label": "hypochlorite", "target": "0.5 %", "make": "1 L"})
    answer = QUESTIONS["chlorine"].solve(asked)
    assert answer.values["parts_water_per_part_bleach"] == pytest.approx(10.43, abs=0.01)
    plain = QUESTIONS["chlorine"].solve(QUESTIONS["chlorine"].read({"stock": "6 %", "target": "0.5 %", "make": "1 L"}))
    assert plain.values["parts_water_per_part_bleach"] == pytest.approx(11.0)
    assert any("this bottle holds 5.715 %" in said for said in plain.says)
