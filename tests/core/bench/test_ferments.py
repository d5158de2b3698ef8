"""A ferment over its weeks: what was read and seen says whether it is ready (common practice, no source)."""

from datetime import timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import HELD_DAYS, EntryKind, began, fermenting, left_to_fill, series_of, worries
from firkin.core.formula import house_formulas
from journals import BEGUN, Journal

FERMENT = house_formulas()["citrus-ferment"].formula
WELL = {"gas": 1, "smell": 0, "mould": 0}


def closed() -> Journal:
    """A ferment that was closed on the first day."""
    journal = Journal(FERMENT)
    while journal.progress.task.wait_h is None:
        journal.do()
    journal.do()
    return journal


def on(journal: Journal, day: float, ph: float | None = None, seen: dict[str, int] | None = None) -> None:
    """What was read and seen on a day."""
    start = began(journal.progress)
    assert start is not None
    for kind, data in (
        (EntryKind.READING, {"what": "ph", "value": ph} if ph is not None else None),
        (EntryKind.OBSERVE, {"seen": seen} if seen else None),
    ):
        if data is not None:
            entry = journal.write(kind, data=data)
            journal.entries[-1] = type(entry)(entry.number, kind, start + timedelta(days=day), "", data=data)


def at(journal: Journal, day: float):
    start = began(journal.progress)
    assert start is not None
    found = fermenting(journal.progress, start + timedelta(days=day))
    assert found is not None
    return found


def test_nothing_is_said_before_it_is_closed_or_of_anything_else() -> None:
    assert fermenting(Journal(FERMENT).progress, BEGUN) is None
    soap = Journal(house_formulas()["foam-plain"].formula)
    soap.finish()
    assert fermenting(soap.progress, BEGUN) is None


def test_ready_is_ninety_days_a_held_ph_and_a_clean_look() -> None:
    journal = closed()
    assert len(at(journal, 91).lacks) == 3  # pH, smell and mould are not known: nothing calm is said of them
    on(journal, 80, 3.7, WELL)
    assert "for 0 days" in at(journal, 91).lacks[0]
    on(journal, 90, 3.6)
    assert at(journal, 91).ready
    assert not at(journal, 60).ready
    assert "day 60" in at(journal, 60).lacks[0]


@pytest.mark.parametrize(
    ("readings", "lacks"),
    [
        ([(70, 4.6), (90, 4.5)], "last pH is 4.5"),
        ([(80, 3.8), (85, 4.4), (90, 3.9)], "for 0 days"),  # it rose in between: the count begins again
        ([(80, 3.8), (84, 3.8)], "for 4 days"),
        ([(80, 2.2), (90, 2.2)], "last pH is 2.2"),
        ([], "never read"),
    ],
)
def test_a_ph_that_is_out_or_not_held_is_said(readings: list[tuple[float, float]], lacks: str) -> None:
    journal = closed()
    on(journal, 20, seen=WELL)
    for day, ph in readings:
        on(journal, day, ph)
    found = at(journal, 95)
    assert not found.ready
    assert any(lacks in said for said in found.lacks), found.lacks


@pytest.mark.parametrize(("apart", "ready"), [(6.99, False), (7.01, True)])
def test_a_week_apart_is_a_week(apart: float, ready: bool) -> None:
    journal = closed()
    on(journal, 20, seen=WELL)
    on(journal, 83, 3.8)
    on(journal, 83 + apart, 3.8)
    assert at(journal, 95).ready is ready


@pytest.mark.parametrize(("day", "said"), [(13.9, False), (14.1, True)])
def test_no_gas_by_the_fourteenth_day_is_said(day: float, said: bool) -> None:
    journal = closed()
    on(journal, 5, seen={"gas": 0})
    assert any("never gave gas" in one for one in at(journal, day).alarms) is said


@given(st.lists(st.tuples(st.floats(1, 95), st.floats(2.0, 7.0)), max_size=8))
def test_ready_only_by_two_readings_in_the_window_a_week_apart(readings: list[tuple[float, float]]) -> None:
    journal = closed()
    on(journal, 20, seen=WELL)
    for day, ph in sorted(readings):
        on(journal, day, ph)
    inside = [day for day, ph in sorted(readings) if 2.5 <= ph <= 4.0]
    found = at(journal, 100)
    assert [round(day, 3) for day, _ in found.ph] == [round(day, 3) for day, _ in sorted(readings)]
    assert not found.ready or max(inside) - min(inside) >= HELD_DAYS * (1 - 1e-9)


@pytest.mark.parametrize(
    ("seen", "says"), [({"mould": 2}, "mould"), ({"smell": 2}, "spoilt"), ({"gas": 0}, "never gave gas")]
)
def test_mould_a_bad_smell_and_no_gas_are_alarms_and_the_first_two_stand_against_filling(seen, says) -> None:
    journal = closed()
    on(journal, 80, 3.7, WELL | {"gas": 0})
    on(journal, 90, 3.7)
    on(journal, 91, seen=seen)
    found = at(journal, 95)
    assert not found.ready
    assert any(says in said for said in found.alarms)
    stops = any(says in said for said in worries(journal.progress, BEGUN))
    assert stops == ("gas" not in seen)
    assert {one.aspect for one in series_of(journal.progress, BEGUN)} == {"gas", "smell", "mould"}


def test_a_white_film_is_no_alarm_and_gas_that_falls_off_no_worry() -> None:
    journal = closed()
    on(journal, 10, 4.5, {"gas": 2, "mould": 0, "smell": 0})
    on(journal, 40, 3.9, {"gas": 0, "mould": 1})
    assert not at(journal, 60).alarms
    gas = next(one for one in series_of(journal.progress, BEGUN) if one.aspect == "gas")
    assert (gas.worries, "slows down" in gas.says) == (False, True)


def test_only_the_liquid_is_filled_and_what_was_not_measured_is_said() -> None:
    journal = closed()
    journal.finish()
    went_in = journal.progress.result.total.volume_mL
    assert journal.progress.to_fill_mL == pytest.approx(went_in)
    assert any("was not measured" in said for said in worries(journal.progress, BEGUN))
    journal.write(EntryKind.READING, data={"what": "volume", "value": 1500.0})
    assert journal.progress.to_fill_mL == pytest.approx(1500.0)
    assert journal.progress.poured_for(500.0) == (pytest.approx(500.0), 0.0)
    assert left_to_fill(journal.progress, 1000.0) == pytest.approx(500.0)
    assert not any("was not measured" in said for said in worries(journal.progress, BEGUN))
