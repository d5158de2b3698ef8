"""And not again: a state is come to once, of several the right one counts, a day is the workshop's own."""

import uuid
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from firkin.batches.calendar import events_of
from firkin.batches.costs import cost_of_batch
from firkin.batches.labels import label_of
from firkin.batches.making import Making
from firkin.batches.models import Batch, Due, State
from firkin.core.bench import EntryKind
from firkin.core.formula import house_formulas
from firkin.core.measures import Strength
from firkin.shelf.models import Stock, Vessel
from steps import begin, make_as_planned, said


@pytest.fixture
def rub(bench: Client, workshop, maker) -> Batch:
    """A rub that is made and at rest."""
    batch = begin(house_formulas()["who-one"].formula, workshop, maker, "1 L")
    make_as_planned(bench, batch, up_to_the_wait=True)
    return batch


def states(batch: Batch) -> int:
    return batch.entries.filter(kind=EntryKind.STATE).count()


@pytest.mark.parametrize(
    "ends", [("used", "used"), ("discarded", "discarded"), ("used", "discarded"), ("discarded", "used")]
)
def test_a_batch_ends_once_and_stays_what_it_ended_as(bench: Client, rub: Batch, ends: tuple[str, str]) -> None:
    before = states(rub)
    for one in ends:
        bench.post(reverse("batches:end", args=[rub.pk]), {"end": one})
    rub.refresh_from_db()
    assert (rub.state, states(rub)) == (ends[0], before + 1)


def test_a_wait_ends_once(bench: Client, rub: Batch) -> None:
    for _ in range(3):
        bench.post(reverse("batches:wait", args=[rub.pk]), {"reason": "for the test"})
    rub.refresh_from_db()
    assert rub.state == State.RELEASED
    assert [entry.text for entry in rub.entries.all()].count("Ready early: for the test.") == 1
    assert rub.waits.filter(ended_at=None).count() == 0


def test_what_came_due_is_answered_once(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["citrus-ferment"].formula, workshop, maker, "1 kg")
    make_as_planned(bench, batch, up_to_the_wait=True)
    due = batch.dues.filter(kind="vent").first()
    Due.objects.filter(pk=due.pk).update(at=timezone.now() - timedelta(minutes=1))
    for _ in range(3):
        bench.post(reverse("batches:settle", args=[due.pk]))
    assert batch.entries.filter(kind=EntryKind.DUE).count() == 1


@pytest.mark.parametrize(("count", "fits"), [(3, True), (4, False)])
def test_bottles_that_are_full_are_not_filled_again(
    bench: Client, rub: Batch, workshop, count: int, fits: bool
) -> None:
    """Four flasks, one of them full of another batch: three are empty, and not four."""
    flask = Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=250, count=4)
    bench.post(reverse("batches:wait", args=[rub.pk]), {"reason": "for the test"})
    fill = {"vessel": flask.pk, "count": 1, "fill": "200 mL"}
    bench.post(reverse("batches:fill", args=[rub.pk]), fill | {"key": uuid.uuid4()})
    assert rub.fillings.count() == 1
    bench.post(reverse("batches:fill", args=[rub.pk]), fill | {"count": count, "key": uuid.uuid4()})
    assert (rub.fillings.count() == 2) is fits


def test_a_filling_is_taken_back_once(bench: Client, rub: Batch, workshop) -> None:
    flask = Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=250, count=4)
    fill = {"vessel": flask.pk, "count": 2, "fill": "200 mL", "key": uuid.uuid4()}
    bench.post(reverse("batches:fill", args=[rub.pk]), fill)
    filling, before = rub.fillings.get(), states(rub)
    for _ in range(2):
        bench.post(reverse("batches:unfill", args=[rub.pk, filling.pk]))
    assert (rub.fillings.count(), states(rub)) == (0, before + 1)


def test_the_cost_is_of_the_bottle_that_was_poured_from_and_not_the_dearest(workshop, rub: Batch) -> None:
    """By hand: 833.3 mL out of 10 L for 50 is 4.17; the other two cost 10 and 1 a litre."""
    for name, price in (("Dear", 100), ("Poured", 50), ("Cheap", 10)):
        stock = Stock(workshop=workshop, material="ethanol", name=name, amount_value=10, amount_unit="L", price=price)
        stock.strength = Strength.of(96.0, "v/v")
        stock.save()
    rub.lines.filter(material="ethanol").update(stock=Stock.objects.get(name="Poured"))
    assert cost_of_batch(Making(Batch.objects.get(pk=rub.pk))).total == pytest.approx(4.17, abs=0.005)


def test_a_label_says_ready_from_the_end_of_the_last_wait(bench: Client, rub: Batch) -> None:
    """A second wait, begun after a fix, is the one that counts."""
    first = rub.current_wait()
    first.ended_at = timezone.now()
    first.save()
    last = rub.waits.create(
        kind="quarantine", started_at=timezone.now(), hours=72, free_at=first.free_at + timedelta(days=5)
    )
    rub.rests_until = last.free_at
    rub.save()
    facts = dict(label_of(rub, rub.progress(), None).facts)
    assert facts["Ready from"] == f"{timezone.localtime(last.free_at):%-d %b %Y %H:%M}"


@pytest.mark.parametrize(("hour", "day"), [(23, 14), (0, 15)])
def test_the_calendar_goes_by_the_workshop_s_day(bench: Client, rub: Batch, workshop, hour: int, day: int) -> None:
    """23:30 in Berlin on the 14th of July is 21:30 UTC; 0:30 on the 15th is 22:30 of the 14th there."""
    at = datetime(2027, 7, day, hour, 30, tzinfo=ZoneInfo("Europe/Berlin"))
    rub.dues.all().delete()
    rub.waits.all().update(ended_at=timezone.now())
    Due.objects.create(batch=rub, kind="recheck", at=at)
    weeks = bench.get(reverse("batches:calendar"), {"month": "2027-07"}).context["weeks"]
    there = [cell["day"].day for week in weeks for cell in week if cell["events"]]
    assert there == [day]
    with timezone.override(ZoneInfo("Europe/Berlin")):
        begin_ = datetime(2027, 7, day, tzinfo=ZoneInfo("Europe/Berlin"))
        assert len(events_of(workshop, begin_, begin_ + timedelta(days=1))) == 1


def test_a_formula_is_put_away_once_and_taken_out_once(bench: Client, landing_rub) -> None:
    address = reverse("formulas:put_away", args=[landing_rub.pk])
    seen = []
    for away in ("1", "1", "0", "0"):
        bench.post(address, {"away": away})
        landing_rub.refresh_from_db()
        seen.append(landing_rub.put_away_at is not None)
    assert seen == [True, True, False, False]


def test_a_stock_is_finished_and_that_is_undone(bench: Client, workshop) -> None:
    stock = Stock.objects.create(
        workshop=workshop, material="glycerol", name="Glycerol", amount_value=1, amount_unit="L"
    )
    for _ in range(2):
        page = said(bench.post(reverse("shelf:use_up", args=[stock.pk]), follow=True))
        stock.refresh_from_db()
        assert stock.used_up
        assert reverse("shelf:not_used_up", args=[stock.pk]) in page
    assert "on the shelf again" in said(bench.post(reverse("shelf:not_used_up", args=[stock.pk]), follow=True))
    stock.refresh_from_db()
    assert not stock.used_up


#: A press of a page that was left open, by the state the batch has come to since: what it is, and what it sends.
TOO_LATE = [
    ("made", "prepare", {}),
    ("made", "make", {"task": 0, "amount": "1 L"}),
    ("ended", "besides", {"material": "Water", "amount": "1 L"}),
    ("ended", "wait", {"reason": "for the test"}),
    ("ended", "fill", {}),
    ("ended", "rescue", {"trouble": "weak"}),
    ("ended", "end", {"end": "used"}),
]


@pytest.mark.parametrize(("state", "page", "sent"), TOO_LATE, ids=[page for _, page, _ in TOO_LATE])
def test_a_press_that_comes_too_late_is_told_so_and_writes_nothing(
    bench: Client, rub: Batch, state: str, page: str, sent: dict[str, str]
) -> None:
    if state == "ended":
        bench.post(reverse("batches:end", args=[rub.pk]), {"end": "discarded"})
    before = rub.entries.count()
    keys = {"key": str(uuid.uuid4()), "press": str(uuid.uuid4())}
    answer = bench.post(reverse(f"batches:{page}", args=[rub.pk]), sent | keys, follow=True)
    words = "did this already" if page == "make" else "the batch has moved on since that page was loaded. Last, at"
    assert "Not stored: " in said(answer)
    assert words in said(answer)
    assert rub.entries.count() == before


def test_the_second_of_two_quick_presses_is_no_stale_one(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["who-one"].formula, workshop, maker, "1 L")
    make_as_planned(bench, batch, up_to_the_wait=True)
    sent = {"reason": "for the test", "press": str(uuid.uuid4())}
    for _ in range(2):
        answer = bench.post(reverse("batches:wait", args=[batch.pk]), sent, follow=True)
        assert "moved on" not in said(answer)
