"""What became of a bottle: every order of things that can happen keeps it in one place, and a list of cases by hand."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.use import EVENT_WORDS, IS_WORDS, BottleEventKind, BottleIs, Happened, can_happen, whereabouts_of

K, B = BottleEventKind, BottleIs
DAY = datetime(2026, 5, 1, tzinfo=UTC)


def told(*kinds: BottleEventKind):
    return whereabouts_of([Happened(kind, DAY + timedelta(days=i), holder=i + 1) for i, kind in enumerate(kinds)])


@pytest.mark.parametrize(
    ("kinds", "place", "used"),
    [
        ((), B.STORE, False),
        ((K.GIVEN,), B.OUT, False),
        ((K.GIVEN, K.OPENED, K.USED_UP), B.EMPTY_OUT, True),
        ((K.GIVEN, K.USED_UP, K.BACK), B.BACK, True),
        ((K.GIVEN, K.BACK), B.STORE, False),  # brought back as it went
        ((K.GIVEN, K.BACK, K.GIVEN), B.OUT, False),
        ((K.OPENED, K.USED_UP), B.BACK, True),  # used here
        ((K.GIVEN, K.THROWN), B.THROWN, False),
        ((K.GIVEN, K.LOST), B.LOST, False),
        ((K.GIVEN, K.USED_UP, K.LOST), B.LOST, True),
        ((K.GIVEN, K.REFILLED), B.BACK, True),
        ((K.GIVEN, K.CALLED, K.DEALT), B.OUT, False),
    ],
)
def test_where_it_is(kinds, place: BottleIs, used: bool) -> None:
    there = told(*kinds)
    assert (there.place, there.used) == (place, used)
    assert there.full is (place in (B.STORE, B.OUT))


def test_the_second_holder_has_it_and_it_is_in_use_since_the_first() -> None:
    there = told(K.GIVEN, K.GIVEN)
    assert there.holder == 2
    assert there.begun == DAY
    assert told(K.GIVEN, K.OPENED).begun == DAY + timedelta(days=1)


def test_a_second_recall_is_to_be_dealt_with_anew() -> None:
    assert told(K.CALLED, K.DEALT).dealt
    assert not told(K.CALLED, K.DEALT, K.CALLED).dealt


def test_loads_add_up_and_open_it() -> None:
    there = whereabouts_of([Happened(K.LOADS, DAY, loads=2.0), Happened(K.LOADS, DAY, loads=3.0)])
    assert (there.loads, there.opened) == (5.0, DAY)


@given(st.lists(st.sampled_from(K), max_size=12))
def test_only_what_can_happen_leads_on_and_an_end_stays_an_end(kinds: list[BottleEventKind]) -> None:
    done: list[Happened] = []
    for i, kind in enumerate(kinds):
        there = whereabouts_of(done)
        if not can_happen(kind, there):
            continue
        done.append(Happened(kind, DAY + timedelta(days=i), holder=1))
        after = whereabouts_of(done)
        assert not (there.ended and after.full)  # what is used up is not full again: it is filled as another
        assert there.ended is None or after.ended == there.ended
        assert after.place is not B.OUT or after.holder == 1


def test_every_kind_and_place_has_its_words() -> None:
    assert set(EVENT_WORDS) == set(K)
    assert set(IS_WORDS) == set(B)
