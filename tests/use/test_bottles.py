"""Bottles after they are filled: given, opened, used up, back, refilled, lost; as a maker presses it, also by mistake."""

import random
import uuid
from datetime import timedelta

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from conftest import WHO_I
from firkin.batches.bottles import empty_bottles, never_soaped
from firkin.batches.models import Batch, Bottle, BottleEvent, Filling, Holder, State, bottle_of, bottles_of
from firkin.core.formula import formula_from_dict, house_formulas
from firkin.core.use import BottleEventKind, BottleIs, can_happen
from firkin.formulas.models import Formula
from firkin.shelf.models import Vessel
from firkin.shelf.whereabouts import places_of
from firkin.use.standing import names_to_forget, standings
from steps import begin, make_as_planned, said

pytestmark = pytest.mark.django_db


@pytest.fixture
def flask(workshop) -> Vessel:
    return Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=120, count=12, top="cap")


def filled(workshop, maker, client: Client, vessel: Vessel, count: int = 8, formula=None) -> Batch:
    """A litre of rub, or of another formula, released and filled."""
    batch = begin(formula or formula_from_dict(WHO_I), workshop, maker, "1 L")
    make_as_planned(client, batch)
    if batch.state == State.RESTING:
        batch.release(maker, "for the test")
    Filling.objects.create(batch=batch, by=maker, vessel=vessel, container=vessel.name, count=count, fill_mL=100)
    batch.move_to(State.FILLED, maker, "Filled.")
    return batch


@pytest.fixture
def batch(workshop, maker, bench: Client, flask: Vessel) -> Batch:
    return filled(workshop, maker, bench, flask)


def give(client: Client, batch: Batch, to: str, count: int = 1, key: uuid.UUID | None = None, **more: object):
    data = {"to": to, "count": count, "press": key or uuid.uuid4(), **more}
    return client.post(reverse("use:of_batch", args=[batch.pk]), data, follow=True)


def tell(client: Client, of: Batch, number: int, kind: str, **more: object):
    data = {"kind": kind, "press": uuid.uuid4(), **more}
    return client.post(reverse("use:tell", args=[of.pk, number]), data, follow=True)


def where(batch: Batch, number: int) -> str:
    return bottle_of(batch, number).place


def test_given_opened_used_up_and_back(bench: Client, batch: Batch) -> None:
    assert "Bracken has bottle 1, 2, 3" in said(give(bench, batch, "Bracken", 3))
    assert [one.place for one in bottles_of(batch)] == ["out"] * 3 + ["store"] * 5
    tell(bench, batch, 2, "opened")
    tell(bench, batch, 2, "used-up")
    assert where(batch, 2) == BottleIs.EMPTY_OUT
    page = said(tell(bench, batch, 2, "back"))
    assert where(batch, 2) == BottleIs.BACK
    assert "Used up" not in page.split("What happened?")[1].split("So far")[0]
    kinds = list(Bottle.objects.get(number=2).events.values_list("kind", flat=True))
    assert kinds == ["given", "opened", "used-up", "back"]


def test_twice_pressed_is_once_and_more_than_there_are_is_refused(bench: Client, batch: Batch) -> None:
    key = uuid.uuid4()
    give(bench, batch, "Bracken", 2, key)
    give(bench, batch, "Bracken", 2, key)
    assert Bottle.objects.out().count() == 2
    assert "Only 6 bottles are in the store." in said(give(bench, batch, "Dunlin", 7))
    assert Bottle.objects.out().count() == 2
    give(bench, batch, "Dunlin", 6)
    assert Bottle.objects.out().count() == 8
    assert "0 in the store" in said(bench.get(reverse("use:of_batch", args=[batch.pk])))


def test_the_same_name_is_the_same_holder(bench: Client, batch: Batch) -> None:
    give(bench, batch, "Bracken")
    give(bench, batch, "  bracken ")
    assert Holder.objects.count() == 1


def test_what_cannot_happen_now_is_said_and_not_written(bench: Client, batch: Batch) -> None:
    assert "it cannot be back now" in said(tell(bench, batch, 1, "back"))
    tell(bench, batch, 1, "used-up")
    assert "it cannot be opened now" in said(tell(bench, batch, 1, "opened"))
    assert "Who gets it?" in said(tell(bench, batch, 2, "given"))
    assert not BottleEvent.objects.exclude(kind="used-up").exists()
    assert bench.get(reverse("use:bottle", args=[batch.pk, 99])).status_code == 404


def test_the_last_thing_told_can_be_undone_and_no_other(bench: Client, batch: Batch) -> None:
    give(bench, batch, "Bracken")
    tell(bench, batch, 1, "used-up")
    first, last = BottleEvent.objects.order_by("pk")
    address = reverse("use:undo", args=[batch.pk, 1, first.pk])
    assert "Something else happened to this bottle since" in said(bench.post(address, follow=True))
    bench.post(reverse("use:undo", args=[batch.pk, 1, last.pk]))
    assert where(batch, 1) == BottleIs.OUT
    bench.post(reverse("use:undo", args=[batch.pk, 1, last.pk]))
    assert where(batch, 1) == BottleIs.OUT
    bench.post(reverse("use:undo", args=[batch.pk, 1, first.pk]))
    assert where(batch, 1) == BottleIs.STORE
    assert BottleEvent.objects.count() == 4


def test_refilled_it_is_a_bottle_of_the_other_batch_with_whoever_had_it(
    bench: Client, workshop, maker, flask: Vessel, batch: Batch
) -> None:
    other = begin(formula_from_dict(WHO_I), workshop, maker, "1 L")
    make_as_planned(bench, other)
    other.release(maker, "for the test")
    give(bench, batch, "Bracken")
    page = said(tell(bench, batch, 1, "refilled", batch=other.pk))
    assert f"It is bottle {other.code}-1 now." in page
    assert where(batch, 1) == BottleIs.BACK
    assert Bottle.objects.get(filling__batch=batch).used
    new = Bottle.objects.get(filling__batch=other)
    assert (new.place, new.holder.name, new.filling.vessel) == ("out", "Bracken", flask)
    assert "From which batch?" in said(tell(bench, batch, 2, "refilled", batch=10**9))


def test_a_bottle_that_is_away_or_lost_is_not_empty_and_one_that_is_back_is(
    bench: Client, workshop, flask: Vessel, batch: Batch
) -> None:
    """12 flasks, 8 filled: 4 here empty; each that comes back is one more, each lost one is none."""
    empty = lambda: empty_bottles(workshop)[flask]  # noqa: E731
    assert empty() == 4
    give(bench, batch, "Bracken", 4)
    assert empty() == 4
    tell(bench, batch, 1, "used-up")
    assert empty() == 4
    tell(bench, batch, 1, "back")
    assert empty() == 5
    tell(bench, batch, 2, "lost")
    assert empty() == 5
    tell(bench, batch, 8, "used-up")
    assert empty() == 6
    batch.end(State.USED, None, "Used up.")
    assert empty() == 12 - 3  # two out, one lost


def test_no_rub_goes_into_a_bottle_that_held_soap(bench: Client, workshop, maker, flask: Vessel) -> None:
    soap = filled(workshop, maker, bench, flask, 5, house_formulas()["bar-soap-liquid"].formula)
    soap.end(State.USED, maker, "Used up.")
    empty = empty_bottles(workshop)
    assert empty[flask] == 12
    assert never_soaped(workshop, empty)[flask.pk] == 7
    rub = begin(formula_from_dict(WHO_I), workshop, maker, "1 L")
    make_as_planned(bench, rub)
    rub.release(maker, "for the test")
    address = reverse("batches:fill", args=[rub.pk])
    data = {"vessel": flask.pk, "count": 8, "fill": "100", "key": uuid.uuid4()}
    assert "Only 7 of them surely never held soap." in said(bench.post(address, data))
    assert not rub.fillings.exists()
    bench.post(address, data | {"count": 7})
    assert rub.fillings.get().count == 7
    assert never_soaped(workshop, empty_bottles(workshop))[flask.pk] == 0
    bench.post(address, data | {"count": 1, "key": uuid.uuid4()})
    assert rub.fillings.count() == 1
    bench.post(address, data | {"count": 1, "clean_ones": "on", "key": uuid.uuid4()})
    assert rub.fillings.count() == 2


def test_a_filling_whose_bottles_are_out_is_not_poured_back(bench: Client, batch: Batch) -> None:
    give(bench, batch, "Bracken")
    filling = batch.fillings.get()
    address = reverse("batches:unfill", args=[batch.pk, filling.pk])
    assert "1 of them is not in the store any more" in said(bench.post(address, follow=True))
    assert batch.fillings.exists()
    tell(bench, batch, 1, "back")
    bench.post(address)
    assert not batch.fillings.exists()


def test_a_printed_number_stays_when_an_earlier_filling_is_poured_back(
    bench: Client, maker, flask: Vessel, batch: Batch
) -> None:
    first = batch.fillings.get()
    second = Filling.objects.create(batch=batch, by=maker, vessel=flask, container="Flask", count=2, fill_mL=90)
    assert [one.number for one in bottles_of(batch)] == list(range(1, 11))
    batch.take_back(first, maker)
    assert [one.number for one in bottles_of(batch)] == [9, 10]
    assert bottle_of(batch, 9).filling == second
    assert bottle_of(batch, 8) is None


def test_a_name_can_be_forgotten_and_what_they_had_stays(bench: Client, workshop, batch: Batch) -> None:
    give(bench, batch, "Odile", 2)
    give(bench, batch, "the wash-house", 1, place="on")
    person, place = Holder.objects.order_by("pk")
    bench.post(reverse("use:holder", args=[person.pk]))
    bench.post(reverse("use:holder", args=[place.pk]))
    person.refresh_from_db()
    place.refresh_from_db()
    assert (person.name, place.name) == ("", "the wash-house")
    page = said(bench.get(reverse("use:bottle", args=[batch.pk, 1])))
    assert "Odile" not in page
    assert "somebody" in page
    assert Bottle.objects.out().count() == 3
    give(bench, batch, "Tam")
    assert Holder.objects.count() == 3


@pytest.mark.parametrize(("days", "forgotten"), [(29, False), (31, True)])
def test_names_are_forgotten_after_the_workshops_time(
    bench: Client, workshop, batch: Batch, days: int, forgotten: bool
) -> None:
    """30 days after the last bottle ended, and not while one is out."""
    workshop.forget_names_days = 30
    workshop.save()
    give(bench, batch, "Odile", 2)
    Holder.objects.update(created_at=timezone.now() - timedelta(days=90))
    now = timezone.now() + timedelta(days=days)
    tell(bench, batch, 1, "used-up")
    assert names_to_forget(workshop, now) == []
    tell(bench, batch, 2, "used-up")
    assert bool(names_to_forget(workshop, now)) is forgotten
    workshop.forget_names_days = None
    assert names_to_forget(workshop, now) == []


def test_the_rate_and_what_is_left_follow_the_bottles(bench: Client, workshop, batch: Batch) -> None:
    """By hand: of 8 bottles of 100 mL two used up in 10 days; 5 full and one open at half are 550 mL."""
    give(bench, batch, "the wash-house", 3, place="on")
    for number in (1, 2):
        tell(bench, batch, number, "opened")
        tell(bench, batch, number, "used-up")
    tell(bench, batch, 3, "opened")
    ago = timezone.now() - timedelta(days=10)
    Bottle.objects.update(given_at=ago, opened_at=ago)
    Bottle.objects.filter(used=True).update(ended_at=timezone.now())
    (one,) = standings(workshop)
    assert (one.store, one.out, one.left_mL) == (5, 1, pytest.approx(550.0))
    assert one.rate.mid == pytest.approx(20.0, rel=1e-3)
    assert one.days[1] == pytest.approx(27.5, rel=1e-3)
    page = said(bench.get(reverse("use:overview")))
    assert "550 mL left: about 4 weeks" in page
    assert "Make more" not in said(bench.get(reverse("bench")))
    tell(bench, batch, 4, "lost")
    assert standings(workshop)[0].rate.bottles == 2


@pytest.mark.long
def test_a_random_hand_leaves_every_bottle_in_one_place(bench: Client, workshop, flask: Vessel, batch: Batch) -> None:
    """Two hundred presses, most of them at the wrong time: what is kept beside a bottle is what its events come to."""
    draws, kinds = random.Random(27), ["given", "opened", "used-up", "back", "thrown", "lost", "loads", "undo"]
    for _ in range(200):
        number, kind = draws.randint(1, 8), draws.choice(kinds)
        if kind == "undo":
            last = BottleEvent.objects.filter(bottle__number=number, undoes=None, undone_by=None).last()
            if last is not None:
                bench.post(reverse("use:undo", args=[batch.pk, number, last.pk]))
        else:
            before = bottle_of(batch, number)
            allowed = can_happen(BottleEventKind(kind), before.whereabouts()) if before.pk else kind != "back"
            count = BottleEvent.objects.count()
            tell(bench, batch, number, kind, to="Bracken", loads="2")
            assert BottleEvent.objects.count() == count + allowed, (kind, before.place)
    for bottle in Bottle.objects.all():
        there = bottle.whereabouts()
        assert (bottle.place, bottle.holder_id, bottle.used) == (there.place, there.holder, there.used)
    places = [one.place for one in bottles_of(batch)]
    away = sum(place not in (BottleIs.BACK, BottleIs.THROWN) for place in places)
    assert empty_bottles(workshop)[flask] == 12 - away


@pytest.mark.long
def test_lists_are_paged_found_and_filtered(bench: Client, workshop, maker, batch: Batch) -> None:
    big = batch.fillings.get()
    big.count = 130
    big.save()
    give(bench, batch, "Bracken", 120)
    give(bench, batch, "Dunlin", 1)
    address = reverse("use:overview")
    page = bench.get(address)
    assert page.context["page"].paginator.num_pages == 3
    assert len(bench.get(address, {"page": 3}).context["page"]) == 21
    assert len(bench.get(address, {"q": "dunlin"}).context["page"]) == 1
    assert bench.get(address, {"q": batch.code}).context["page"].paginator.count == 121
    assert bench.get(address, {"place": "lost"}).context["page"].paginator.count == 0
    assert bench.get(address, {"page": "x", "place": "nowhere", "q": "'"}).status_code == 200


def test_another_workshops_bottles_are_shut(client: Client, batch: Batch) -> None:
    from firkin.accounts.models import Membership, User, Workshop

    stranger = User.objects.create_user("stranger")
    Membership.objects.create(user=stranger, workshop=Workshop.objects.create(name="Elsewhere"))
    client.force_login(stranger)
    assert client.get(reverse("use:bottle", args=[batch.pk, 1])).status_code == 404
    assert tell(client, batch, 1, "used-up").status_code == 404
    assert not Formula.objects.filter(workshop__name="Elsewhere").exists()


@pytest.mark.parametrize(("hours", "resting"), [(-0.1, False), (0.1, True)])
def test_what_is_still_at_rest_goes_out_only_where_it_is_meant(
    bench: Client, workshop, maker, flask: Vessel, hours: float, resting: bool
) -> None:
    """72 hours from filling (WHO Guide to Local Production): a bottle is not given before."""
    batch = begin(formula_from_dict(WHO_I), workshop, maker, "1 L")
    make_as_planned(bench, batch)
    Filling.objects.create(batch=batch, by=maker, vessel=flask, container="Flask", count=3, fill_mL=100)
    batch.waits.update(free_at=timezone.now() + timedelta(hours=hours))
    assert ("It rests until" in said(give(bench, batch, "Bracken"))) is resting
    assert Bottle.objects.out().exists() is not resting
    tell(bench, batch, 2, "given", to="Dunlin")
    assert Bottle.objects.out().exists() is not resting
    give(bench, batch, "Bracken", anyway="on")
    assert Bottle.objects.out().exists()


@pytest.mark.parametrize(("days", "past"), [(729, False), (731, True)])
def test_what_is_past_its_day_is_said_before_it_goes_out(bench: Client, batch: Batch, days: int, past: bool) -> None:
    """A rub keeps two years (common practice, no source)."""
    Batch.objects.filter(pk=batch.pk).update(made_at=timezone.now() - timedelta(days=days))
    assert ("That day is past." in said(give(bench, batch, "Bracken"))) is past


def test_a_bottle_of_a_finished_batch_that_nobody_wrote_of_says_nothing_of_how_fast(
    bench: Client, workshop, maker, flask: Vessel, batch: Batch
) -> None:
    """Two used up in ten days are 20 mL a day, also once a third, of a batch that is finished, never came back."""
    give(bench, batch, "Bracken", 3)
    for number in (1, 2):
        tell(bench, batch, number, "used-up")
    Bottle.objects.update(given_at=timezone.now() - timedelta(days=10))
    Bottle.objects.filter(number=3).update(given_at=timezone.now() - timedelta(days=200))
    assert standings(workshop)[0].rate.mid == pytest.approx(1.0, rel=0.01)
    batch.end(State.USED, maker, "Used up.")
    assert standings(workshop)[0].rate.mid == pytest.approx(20.0, rel=0.01)


def test_a_bottle_that_came_back_empty_wants_a_wash_until_it_is_washed(
    bench: Client, flask: Vessel, batch: Batch
) -> None:
    def unwashed() -> int:
        flask.refresh_from_db()
        return flask.to_wash

    give(bench, batch, "Bracken", 2)
    for number in (1, 2):
        tell(bench, batch, number, "used-up")
    assert unwashed() == 0  # used up, but not here
    tell(bench, batch, 1, "back")
    tell(bench, batch, 3, "used-up")  # here: it stands here empty
    assert unwashed() == 2
    assert "2 here, to be washed" in " ".join(f"{count} {words}" for count, words, _ in places_of(flask))
    event = bottle_of(batch, 3).events.last()
    bench.post(reverse("use:undo", args=[batch.pk, 3, event.pk]), {"press": uuid.uuid4()})
    assert unwashed() == 1
    page = said(bench.post(reverse("shelf:washed", args=[flask.pk]), follow=True))
    assert "Flask: It is clean." in page
    assert unwashed() == 0
    page = said(bench.post(reverse("shelf:washed", args=[flask.pk]), follow=True))  # and not again
    assert "clean." not in page
    form = {"size": "120 mL", "kind": "bottle", "count": "12", "name": "Flask", "top": "cap"}
    page = said(bench.post(reverse("shelf:item", args=["vessel", flask.pk]), form | {"to_wash": "13"}))
    assert "There are only 12 of them." in page
    bench.post(reverse("shelf:item", args=["vessel", flask.pk]), form | {"to_wash": "12"})
    assert unwashed() == 12


def test_an_open_bottle_is_used_up_from_the_bench_in_one_press(bench: Client, batch: Batch) -> None:
    for number in (3, 2):
        tell(bench, batch, number, "opened")
    tell(bench, batch, 1, "used-up")
    page = bench.get("/")
    assert [one.number for one in page.context["in_use"]] == [3, 2]
    press = {"kind": "used-up", "back": "bench", "press": uuid.uuid4()}
    answer = bench.post(reverse("use:tell", args=[batch.pk, 3]), press)
    assert answer["Location"] == "/"
    again = said(bench.post(reverse("use:tell", args=[batch.pk, 3]), press | {"press": uuid.uuid4()}, follow=True))
    assert "cannot be used up now" in again
    assert [one.number for one in bench.get("/").context["in_use"]] == [2]


@pytest.mark.parametrize(("count", "unwashed"), [(2, 3), (9, 3), (10, 2), (12, 0)])
def test_no_more_want_a_wash_than_stand_here_empty_after_filling(
    bench: Client, workshop, maker, flask: Vessel, count: int, unwashed: int
) -> None:
    """Of 12 with 3 unwashed: whoever fills ten has washed one."""
    Vessel.objects.filter(pk=flask.pk).update(to_wash=3)
    batch = begin(formula_from_dict(WHO_I), workshop, maker, "2 L")
    make_as_planned(bench, batch)
    batch.refresh_from_db()
    if batch.state == State.RESTING:
        batch.release(maker, "for the test")
    sent = {"vessel": flask.pk, "count": count, "fill": "100", "key": uuid.uuid4(), "clean_ones": "on", "anyway": "on"}
    bench.post(reverse("batches:fill", args=[batch.pk]), sent)
    assert batch.fillings.count() == 1
    flask.refresh_from_db()
    assert flask.to_wash == unwashed
    bench.post(reverse("shelf:recount", args=[flask.pk]), {"count": 1})
    flask.refresh_from_db()
    assert flask.to_wash == min(unwashed, 1)
