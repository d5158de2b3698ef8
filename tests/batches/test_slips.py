"""What really happened: left out, put in late, the wrong bottle, what never was; record, label, shelf and cost follow."""

import random
import uuid
from dataclasses import replace
from datetime import timedelta

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from batches.retold import poured, retold
from firkin.batches.costs import cost_of_batch
from firkin.batches.labels import label_of
from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.bench import TaskKind, not_in_yet, tasks_of
from firkin.core.catalogue import find
from firkin.core.formula import Step, house_formulas
from firkin.core.measures import read_quantity
from firkin.formulas.models import Formula
from firkin.shelf.models import Movement, Stock, Vessel
from journals import RUB
from often import often
from steps import begin, make_as_planned, press, said

HOUSE = sorted(house_formulas())


def bottle(
    workshop, material: str, strength: str = "", litres: float = 20.0, name: str = "", price: float = 10.0
) -> Stock:
    stock = Stock(workshop=workshop, material=material, name=name or f"{material} {strength}".strip(), price=price)
    stock.amount_value, stock.amount_unit = litres, "L"
    if strength:
        stock.strength = find(material).read_strength(strength)
    stock.save()
    return stock


def leave_out(client: Client, batch: Batch, why: str = ""):
    data = {"task": Making(batch).progress.turn, "key": uuid.uuid4(), "why": why}
    answer = client.post(reverse("batches:leave_out", args=[batch.pk]), data, follow=True)
    batch.refresh_from_db()
    return answer


def correct(client: Client, batch: Batch, do: str, line: int, **data: object):
    sent = {"do": do, "line": line, "key": uuid.uuid4(), **data}
    answer = client.post(reverse("batches:really", args=[batch.pk]), sent, follow=True)
    batch.refresh_from_db()
    return answer


@pytest.fixture
def who(workshop, maker) -> Batch:
    """WHO formulation I, a litre: ethanol, peroxide, glycerol, water to the mark."""
    batch = begin(house_formulas()["who-one"].formula, workshop, maker, "1 L")
    glycerol = bottle(workshop, "glycerol")
    batch.lines.filter(position=2).update(stock=glycerol)
    return batch


def measure(client: Client, batch: Batch, times: int = 1) -> None:
    for _ in range(times):
        task = Making(batch).progress.task
        target = Making(batch).progress.target(task)
        press(client, batch, amount=f"{target.value:.6g} {target.unit}")


# left out


def test_what_was_forgotten_is_not_in_the_batch_its_label_or_its_cost(bench: Client, who: Batch) -> None:
    measure(bench, who, 2)
    before = cost_of_batch(Making(who)).total
    page = said(leave_out(bench, who, "none in the house"))
    assert "It will dry hands out" in page
    assert "strength only" in page  # not WHO I: its whole formula says glycerol
    making = Making(who)
    assert cost_of_batch(making).total < before
    make_as_planned(bench, who)
    label = label_of(who, Making(who).progress, None)
    assert "glycerol" not in label.ingredients
    assert who.entries.get(kind="left-out").text == "Left out: glycerol. none in the house"
    record = said(bench.get(reverse("batches:record", args=[who.pk])))
    assert "left out" in record
    assert "meets" not in record.split("WHO formulation I</span>")[0].rsplit("judged", 1)[-1]


def test_put_in_late_before_the_mark_it_is_as_planned(bench: Client, who: Batch) -> None:
    planned = Making(who).progress.result
    measure(bench, who, 2)
    leave_out(bench, who)
    correct(bench, who, "late", 2, amount="14.5 mL")
    make_as_planned(bench, who)
    result = Making(who).progress.result
    assert result.total.volume_mL == pytest.approx(planned.total.volume_mL, rel=1e-6)
    assert result.main.true == pytest.approx(planned.main.true, abs=1e-3)


def test_put_in_late_above_the_mark_it_comes_on_top(bench: Client, workshop, maker) -> None:
    """Against the journal told once more: 15 mL of glycerol over a litre that was topped up without it."""
    batch = begin(RUB, workshop, maker, "1 L")
    measure(bench, batch)
    leave_out(bench, batch)
    measure(bench, batch)
    correct(bench, batch, "late", 1, amount="15 mL")
    told, result = retold(batch), Making(batch).progress.result
    assert result.total.volume_mL == pytest.approx(told.volume_mL(), rel=1e-4)
    assert result.total.volume_mL > 1014
    assert result.main.true == pytest.approx(told.pct, abs=0.01)


def test_water_put_in_late_is_so_much_water_and_no_mark(bench: Client, workshop, maker) -> None:
    """Against the journal told once more: 130 mL of water into 800 mL of alcohol and 15 mL of glycerol."""
    batch = begin(RUB, workshop, maker, "1 L")
    measure(bench, batch, 2)
    leave_out(bench, batch)
    without = Making(batch).progress.result
    correct(bench, batch, "late", 2, amount="130 mL")
    making, told = Making(batch), retold(batch)
    assert making.deviation is None
    assert making.progress.result.total.mass_g == pytest.approx(without.total.mass_g + 129.77, abs=0.05)
    assert making.progress.result.main.true == pytest.approx(told.pct, abs=0.02)
    assert "topped up to" not in batch.entries.filter(kind="pour").last().text
    correct(bench, batch, "never", 2)
    correct(bench, batch, "bottle", 0, stock=bottle(workshop, "ethanol", "70 %").pk)
    assert Making(batch).progress.result.main.true == pytest.approx(retold(batch).pct, abs=0.02)


def test_put_in_after_it_was_made_it_is_mixed_and_rests_again(bench: Client, who: Batch) -> None:
    measure(bench, who, 2)
    leave_out(bench, who)
    make_as_planned(bench, who)
    bench.post(reverse("batches:wait", args=[who.pk]), {"reason": "for the test"})
    who.refresh_from_db()
    assert who.state == State.RELEASED
    correct(bench, who, "late", 2, amount="14.5 mL")
    assert who.state == State.MAKING
    tasks = [task for task in Making(who).progress.tasks if not Making(who).progress.is_done(task)]
    assert [task.kind for task in tasks] == [TaskKind.DO, TaskKind.WAIT]
    assert tasks[-1].wait_h == 72.0
    make_as_planned(bench, who)
    assert who.state == State.RESTING
    assert "glycerol" in label_of(who, Making(who).progress, None).ingredients


def test_a_late_line_can_be_undone_with_its_press(bench: Client, who: Batch) -> None:
    measure(bench, who, 2)
    leave_out(bench, who)
    make_as_planned(bench, who)
    before, state = Making(who).progress.result.total.volume_mL, who.state
    correct(bench, who, "late", 2, amount="14.5 mL")
    last = who.entries.order_by("-pk").first()
    bench.post(reverse("batches:undo_last", args=[who.pk, last.pk]))
    who.refresh_from_db()
    assert who.state == state
    assert Making(who).progress.result.total.volume_mL == pytest.approx(before)
    assert 2 in Making(who).progress.left_out


def test_water_left_out_is_no_matter_where_the_other_water_is_in(bench: Client, workshop, maker) -> None:
    """Laundry concentrate is cut with water while bottling: that the first water was left out does not stand against it."""
    batch = begin(house_formulas()["laundry-concentrate"].formula, workshop, maker, "1 L")
    first = batch.formula().lines_of("water")[0]
    while Making(batch).progress.task.line != first:
        make_one(bench, batch)
    leave_out(bench, batch)
    while (task := Making(batch).progress.task) is not None and task.kind is not TaskKind.DO:
        make_one(bench, batch)
    assert "water" in task.text
    assert not_in_yet(Making(batch).progress, task) == ()


@pytest.mark.long
def test_any_task_of_any_house_formula_can_be_left_out(bench: Client, workshop, maker) -> None:
    """All but what would leave nothing: each by itself, and the batch goes on to its end."""
    for name in HOUSE:
        formula = house_formulas()[name].formula
        size = str(formula.make) if formula.make else "1 L"
        batch = begin(formula, workshop, maker, size)
        places = len(Making(batch).progress.tasks)
        for place in range(min(places, 4)):
            other = begin(formula, workshop, maker, size) if place else batch
            for _ in range(place):
                one = Making(other)
                task = one.progress.task
                if task.line is not None:
                    one.measure(task, one.progress.target(task), maker, uuid.uuid4())
                elif task.kind is TaskKind.DO:
                    one.tick(task, maker, uuid.uuid4())
                else:
                    one.begin_wait(task, maker)
                    other.release(maker, "for the test", unfinished=True)
            leave_out(bench, other, "for the test")
            left = Making(other).progress
            assert left.position != place or len(formula.lines) == 1, (name, place)
            assert bench.get(reverse("batches:batch", args=[other.pk]), follow=True).status_code == 200
            assert bench.get(reverse("batches:record", args=[other.pk])).status_code == 200


def test_a_rest_is_left_out_for_a_reason_alone(bench: Client, who: Batch) -> None:
    measure(bench, who, 4)
    press(bench, who)
    assert "say why the rest is left out" in said(leave_out(bench, who))
    assert who.state == State.MAKING
    page = said(leave_out(bench, who, "the market is today"))
    assert "spores from the alcohol or the bottles can live on in it" in page
    assert who.state == State.RELEASED


def test_everything_left_out_is_refused_and_nothing_is_stored(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["straight-wipes"].formula, workshop, maker, "1 L")
    page = said(leave_out(bench, batch))
    assert "Everything was left out" in page
    assert not batch.entries.filter(kind="left-out").exists()


def test_without_its_preservative_it_keeps_as_long_as_without_one(bench: Client, workshop, maker) -> None:
    """28 days for 180: what the family keeps without one (common practice, no source)."""
    batch = begin(house_formulas()["bar-soap-liquid"].formula, workshop, maker, "1 L")
    while Making(batch).progress.task.line != 4 or batch.state != State.MAKING:
        make_one(bench, batch)
    leave_out(bench, batch)
    make_as_planned(bench, batch)
    assert (batch.keep_by - batch.made_at).days == 28
    due = batch.dues.get(kind="keep-by", answered_at=None)
    assert (due.at - batch.made_at).days == 28


def make_one(client: Client, batch: Batch) -> None:
    """The task at hand as planned; a wait is gone through."""
    batch.refresh_from_db()
    if batch.state == State.RESTING:
        client.post(reverse("batches:wait", args=[batch.pk]), {"reason": "for the test"})
    else:
        progress = Making(batch).progress
        target = progress.target(progress.task) if progress.task.line is not None else None
        press(client, batch, amount=f"{target.value:.6g} {target.unit}" if target else "")
    batch.refresh_from_db()


def test_done_does_not_pass_while_what_it_speaks_of_is_left_out(bench: Client, workshop, maker) -> None:
    rub = replace(RUB, steps=(Step("pour", "Measure it.", (0, 1)), Step("mix", "Stir in the glycerol.", ())))
    batch = begin(rub, workshop, maker, "1 L")
    while Making(batch).progress.task.line != 1:
        measure(bench, batch)
    leave_out(bench, batch)
    while Making(batch).progress.task.line is not None:
        measure(bench, batch)
    page = press(bench, batch)
    assert "Glycerol is left out, so this cannot be done as told." in said(page)
    assert Making(batch).progress.task.text == "Stir in the glycerol."
    leave_out(bench, batch)
    assert Making(batch).progress.task is None


# which bottle


@pytest.fixture
def aloe(workshop, maker) -> Batch:
    """Isopropanol and aloe at 60 %, planned."""
    return planned(workshop, maker, "aloe-sixty", "1 L")


def test_a_bottle_short_of_the_rule_stops_and_says_what_would_do(bench: Client, workshop, aloe: Batch) -> None:
    weak, good = bottle(workshop, "isopropanol", "70 %"), bottle(workshop, "isopropanol", "99 %", name="Strong one")
    address = reverse("batches:prepare", args=[aloe.pk])
    page = bench.post(address, {"stock_0": weak.pk})
    aloe.refresh_from_db()
    assert aloe.state == State.PLANNED
    assert "“At least 60 % alcohol” asks for at least 60 %" in said(page)
    assert [stock.pk for stock in page.context["stop"].others] == [good.pk]
    bench.post(address, {"stock_0": weak.pk, "fix": "0"})
    aloe.refresh_from_db()
    assert aloe.state == State.MAKING
    assert not any(one.verdict.fails for one in Making(aloe).progress.result.verdicts)


def test_it_can_be_made_all_the_same_when_it_is_meant(bench: Client, workshop, aloe: Batch) -> None:
    weak = bottle(workshop, "isopropanol", "70 %")
    bench.post(reverse("batches:prepare", args=[aloe.pk]), {"stock_0": weak.pk, "anyway": "on"})
    aloe.refresh_from_db()
    assert aloe.state == State.MAKING


def test_it_was_seventy_found_weeks_later(bench: Client, workshop, aloe: Batch) -> None:
    """By hand: two thirds of 99 % and a third of aloe hold the line; of 70 % the same volume does not."""
    good, weak = bottle(workshop, "isopropanol", "99 %"), bottle(workshop, "isopropanol", "70 %")
    bench.post(reverse("batches:prepare", args=[aloe.pk]), {"stock_0": good.pk})
    aloe.refresh_from_db()
    make_as_planned(bench, aloe)
    vessel = Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=100, count=9)
    if aloe.state == State.RESTING:
        aloe.release(None, "for the test")
    bench.post(
        reverse("batches:fill", args=[aloe.pk]), {"vessel": vessel.pk, "count": 3, "fill": "95", "key": uuid.uuid4()}
    )
    aloe.refresh_from_db()
    assert aloe.verdict == "meets"
    label = label_of(aloe, Making(aloe).progress, None)
    page = said(correct(bench, aloe, "bottle", 0, stock=weak.pk))
    assert "3 bottles are filled with it." in page
    assert "Tell everyone who has one" in page
    assert aloe.verdict == "short"
    assert label_of(aloe, Making(aloe).progress, None).strength != label.strength
    assert good.left_g == pytest.approx(good.grams_of(good.amount))
    poured = Making(aloe).progress.measured[0].amount
    assert weak.left_g == pytest.approx(weak.grams_of(weak.amount) - weak.grams_of(poured))
    last = aloe.entries.order_by("-pk").first()
    bench.post(reverse("batches:undo_last", args=[aloe.pk, last.pk]))
    aloe.refresh_from_db()
    assert aloe.verdict == "meets"
    assert label_of(aloe, Making(aloe).progress, None).strength == label.strength
    assert weak.left_g == pytest.approx(weak.grams_of(weak.amount))


def test_told_of_the_bottle_before_it_is_poured_a_surfactant_is_asked_for_anew(bench: Client, workshop, maker) -> None:
    """Dish liquid is written for 70 % SLES: of 28 % two and a half times as much goes in (28 x 2.5 = 70)."""
    batch = begin(house_formulas()["dish-gentle"].formula, workshop, maker, "1 kg")
    place = next(i for i, line in enumerate(batch.formula().lines) if line.material.id == "sles")
    before = Making(batch).progress.asked_now(place).g
    correct(bench, batch, "bottle", place, stock=bottle(workshop, "sles", "28 %").pk)
    assert Making(batch).progress.asked_now(place).g == pytest.approx(2.5 * before, rel=1e-3)


def test_a_corrected_bottle_asks_no_question_about_what_was_measured(bench: Client, workshop, maker) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    measure(bench, batch)
    correct(bench, batch, "bottle", 0, stock=bottle(workshop, "ethanol", "70 %").pk)
    assert Making(batch).deviation is None
    assert Making(batch).progress.task.line == 1


# never was, and doses


def test_what_was_not_of_this_batch_is_taken_out_again(bench: Client, workshop, maker) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    can = bottle(workshop, "glycerol")
    measure(bench, batch)
    planned = Making(batch).progress.result.main.true
    answer = bench.post(
        reverse("batches:besides", args=[batch.pk]),
        {"material": can.name, "amount": "20 mL", "key": uuid.uuid4()},
        follow=True,
    )
    assert answer.status_code == 200
    batch.refresh_from_db()
    assert can.left_g == pytest.approx(20000 * 1.261 - 20 * 1.261, rel=1e-4)
    assert can.movements.last().kind == Movement.Kind.ADDED
    line = len(batch.formula().lines) - 1
    correct(bench, batch, "never", line, why="that was the other jug")
    assert can.left_g == pytest.approx(20000 * 1.261, rel=1e-4)
    assert Making(batch).progress.result.main.true == pytest.approx(planned, abs=1e-3)
    assert "never" not in said(bench.get(reverse("batches:make", args=[batch.pk])))


def test_of_two_bottles_none_is_guessed_and_the_one_named_is_taken(bench: Client, workshop, maker) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    first, second = bottle(workshop, "glycerol", name="First"), bottle(workshop, "glycerol", name="Second")
    measure(bench, batch)
    address = reverse("batches:besides", args=[batch.pk])
    bench.post(address, {"material": "glycerol", "amount": "5 mL", "key": uuid.uuid4()})
    assert [one.movements.count() for one in (first, second)] == [1, 1]
    bench.post(address, {"material": "second", "amount": "5 mL", "key": uuid.uuid4()})
    assert [one.movements.count() for one in (first, second)] == [1, 2]


# into its bottle, vessels that fit, what is left, and when it is looked at


@pytest.fixture
def foamer(workshop) -> Vessel:
    return Vessel.objects.create(workshop=workshop, name="Foamer", kind="bottle", volume_mL=275, count=1, top="foaming")


def planned(workshop, maker, name: str, size: str) -> Batch:
    version = Formula.objects.keep(house_formulas()[name].formula, workshop, maker).current
    return Batch.objects.start(version, version.as_core().scaled_to(read_quantity(size)), maker)


def test_foaming_soap_ends_in_its_bottle(bench: Client, workshop, maker, foamer: Vessel) -> None:
    batch = planned(workshop, maker, "foam-plain", "240 mL")
    page = bench.get(reverse("batches:prepare", args=[batch.pk]))
    assert page.context["form"]["vessel"].value() == foamer.pk
    bench.post(reverse("batches:prepare", args=[batch.pk]), {"vessel": foamer.pk})
    batch.refresh_from_db()
    make = bench.get(reverse("batches:make", args=[batch.pk]))
    # 1 part of soap to 3 of water: a quarter of it is soap (common practice)
    assert make.context["mark"] == pytest.approx(60, rel=0.01)
    make_as_planned(bench, batch)
    assert batch.state == State.FILLED
    filling = batch.fillings.get()
    assert (filling.vessel, filling.count) == (foamer, 1)
    bench.post(
        reverse("batches:besides", args=[batch.pk]),
        {"material": "lavender oil", "amount": "2 drops", "key": uuid.uuid4()},
    )
    batch.refresh_from_db()
    make_as_planned(bench, batch)
    assert batch.state == State.FILLED
    assert batch.fillings.count() == 1
    fill = said(bench.get(reverse("batches:fill", args=[batch.pk])))
    assert "It is all in bottles." in fill
    assert "to fill" not in fill.split("Filled so far")[0].split("It is all in bottles.")[1]
    assert batch not in Batch.objects.to_fill()


def test_a_bottle_too_small_offers_what_fits(bench: Client, workshop, maker, foamer: Vessel) -> None:
    batch = planned(workshop, maker, "foam-plain", "1 L")
    address = reverse("batches:prepare", args=[batch.pk])
    page = bench.post(address, {"vessel": foamer.pk})
    assert "Make 275 mL" in said(page)
    bench.post(address, {"vessel": foamer.pk, "smaller": "1"})
    batch.refresh_from_db()
    assert Making(batch).progress.result.total.volume_mL == pytest.approx(275, rel=1e-3)
    bench.post(address, {"vessel": foamer.pk})
    batch.refresh_from_db()
    assert batch.state == State.MAKING


def test_more_than_its_vessel_holds_is_said_at_once(bench: Client, workshop, maker) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    batch.vessel = Vessel.objects.create(workshop=workshop, name="Jug", kind="mixing", volume_mL=1000)
    batch.save()
    make = reverse("batches:make", args=[batch.pk])
    measure(bench, batch)
    assert not bench.get(make).context["too_small"]
    bench.post(
        reverse("batches:besides", args=[batch.pk]),
        {"material": "ethanol", "strength": "96 %", "amount": "300 mL", "key": uuid.uuid4(), "sure": "on"},
    )
    assert "Jug holds 1 L, and this comes to" in bench.get(make).context["too_small"]


def test_a_batch_with_some_left_stays_on_the_bench(bench: Client, workshop, maker) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    make_as_planned(bench, batch)
    vessel = Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=475, count=9)
    batch.release(maker, "for the test")
    fill = reverse("batches:fill", args=[batch.pk])
    bench.post(fill, {"vessel": vessel.pk, "count": 2, "fill": "450", "key": uuid.uuid4()})
    assert list(Batch.objects.to_fill()) == [batch]
    assert "100 mL of batch" in said(bench.get("/"))
    bench.post(fill, {"vessel": vessel.pk, "count": 1, "fill": "100", "key": uuid.uuid4()})
    assert not Batch.objects.to_fill().exists()
    bench.post(reverse("batches:unfill", args=[batch.pk, batch.fillings.last().pk]))
    assert [round(one.left_mL) for one in Batch.objects.to_fill()] == [100]
    bench.post(reverse("batches:rest_gone", args=[batch.pk]))
    assert not Batch.objects.to_fill().exists()
    assert "It is all in bottles." in said(bench.get(fill))
    batch.refresh_from_db()
    last = batch.entries.order_by("-pk").first()
    bench.post(reverse("batches:undo_last", args=[batch.pk, last.pk]))
    assert list(Batch.objects.to_fill()) == [batch]
    bench.post(fill, {"vessel": vessel.pk, "count": 1, "fill": "99.5", "key": uuid.uuid4()})
    assert not Batch.objects.to_fill().exists()  # dregs: less than a mL


def test_it_is_looked_at_again_from_when_it_was_free(bench: Client, workshop, maker) -> None:
    """A gel rests 72 h closed: the look of the day after is a day after that."""
    batch = begin(house_formulas()["easy-gel"].formula, workshop, maker, "1 L")
    while batch.state != State.RESTING or Making(batch).progress.unfinished:
        make_one(bench, batch)
    look = batch.dues.get(kind="recheck")
    assert (look.at - batch.rests_until).total_seconds() == pytest.approx(24 * 3600)
    batch.release(maker, "cannot wait")
    look.refresh_from_db()
    assert (look.at - batch.waits.last().ended_at).total_seconds() == pytest.approx(24 * 3600)


def test_ready_in_time_the_look_stays_where_it_was(workshop, maker) -> None:
    batch = begin(house_formulas()["easy-gel"].formula, workshop, maker, "1 L")
    while (making := Making(batch)).progress.task is not None:
        task = making.progress.task
        if task.line is not None:
            making.measure(task, making.progress.target(task), maker, uuid.uuid4())
        elif task.wait_h is None:
            making.tick(task, maker, uuid.uuid4())
        else:
            making.begin_wait(task, maker)
            if Making(batch).progress.unfinished:
                batch.release(maker, "for the test", unfinished=True)
    wait, look = batch.waits.last(), batch.dues.get(kind="recheck")
    for one in (wait,):
        one.free_at -= timedelta(hours=73)
        one.save()
    before = look.at
    batch.release(maker)
    look.refresh_from_db()
    assert look.at == before


def test_filled_late_the_look_moves_with_the_rest(workshop, maker) -> None:
    """A gel filled ten hours into its rest is free ten hours later, and looked at a day after that."""
    batch = begin(house_formulas()["easy-gel"].formula, workshop, maker, "1 L")
    client = Client()
    client.force_login(maker)
    while batch.state != State.RESTING or Making(batch).progress.unfinished:
        make_one(client, batch)
    wait = batch.waits.last()
    wait.free_at -= timedelta(hours=10)
    wait.save()
    batch.dues.filter(kind="recheck").update(at=wait.free_at + timedelta(hours=24))
    assert batch.rest_from_filling()
    there, look = batch.waits.last(), batch.dues.get(kind="recheck")
    assert (there.free_at - wait.free_at).total_seconds() == pytest.approx(36000, abs=60)
    assert (look.at - there.free_at).total_seconds() == pytest.approx(24 * 3600, abs=60)


@pytest.mark.parametrize(("hours", "now"), [(0.99, True), (1.01, False)])
def test_bottles_are_best_filled_now_is_said_while_it_is_true(
    bench: Client, workshop, maker, hours: float, now: bool
) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    make_as_planned(bench, batch)
    wait = batch.waits.get()
    wait.started_at -= timedelta(hours=hours)
    wait.free_at -= timedelta(hours=hours)
    wait.save()
    page = said(bench.get(reverse("batches:wait", args=[batch.pk])))
    assert ("Fill the bottles now" in page) is now
    assert ("the 72 hours start again" in page) is not now
    vessel = Vessel.objects.create(workshop=workshop, name="Can", kind="bottle", volume_mL=2000, count=1)
    sent = {"vessel": vessel.pk, "count": 1, "fill": "1000", "key": uuid.uuid4()}
    bench.post(reverse("batches:fill", args=[batch.pk]), sent)
    there = batch.waits.get()
    batch.refresh_from_db()
    anew = (there.free_at - wait.free_at) > timedelta(hours=0.5)
    assert anew is not now
    assert not anew or (there.free_at - timezone.now()).total_seconds() == pytest.approx(72 * 3600, abs=60)
    assert not anew or batch.rests_until == there.free_at
    page = said(bench.get(reverse("batches:wait", args=[batch.pk])))
    assert "Fill the bottles now" not in page


@pytest.mark.parametrize("name", HOUSE)
def test_a_quarantine_comes_after_everything_is_in(name: str) -> None:
    """WHO's 72 hours count once everything is in, in every house formula's plan."""
    tasks = tasks_of(house_formulas()[name].formula)
    last = max((i for i, task in enumerate(tasks) if task.line is not None), default=-1)
    assert all(i > last for i, task in enumerate(tasks) if task.do == "quarantine")


# the shelf: everything, by chance


@pytest.mark.parametrize("seed", often(range(10), 0))
def test_record_label_and_shelf_agree_with_the_journal_told_once_more(
    bench: Client, workshop, maker, seed: int
) -> None:
    """A rub made by a clumsy maker: each press by chance, held after each against a reckoning of the rows alone."""
    rng = random.Random(seed)
    cans = [
        bottle(workshop, "ethanol", "96 %"),
        bottle(workshop, "ethanol", "90 %"),
        bottle(workshop, "ethanol", "70 %"),
    ]
    others = [bottle(workshop, "glycerol", name=f"Glycerol {n}") for n in "ab"]
    batch = begin(RUB, workshop, maker, "1 L")
    batch.lines.filter(position=0).update(stock=cans[0])
    batch.lines.filter(position=1).update(stock=others[0])
    for _ in range(18):
        slip(bench, batch, rng, cans, others)
        batch.refresh_from_db()
        agree(batch, [*cans, *others])


def slip(client: Client, batch: Batch, rng: random.Random, cans: list[Stock], others: list[Stock]) -> None:
    making = Making(batch)
    progress, task = making.progress, making.progress.task
    deeds = ["bottle", "never", "late", "undo", "besides"]
    if making.deviation is not None:
        press(client, batch, act=rng.choice(["accept", "accept", "scale", "add"]))
        return
    if batch.state == State.MAKING and task is not None:
        deeds = ["on", "on", "on", "over", "out", *deeds]
    deed = rng.choice(deeds)
    line = rng.randrange(len(batch.formula().lines))
    material = batch.formula().lines[line].material.id
    if deed in ("on", "over") and task is not None:
        target = progress.target(task) if task.line is not None else None
        times = rng.uniform(1.05, 1.3) if deed == "over" else 1.0
        press(client, batch, amount=f"{target.value * times:.6g} {target.unit}" if target else "")
    elif deed == "out" and task is not None and task.line != 0:
        leave_out(client, batch)
    elif deed == "bottle" and material in ("ethanol", "glycerol"):
        correct(client, batch, "bottle", line, stock=rng.choice(cans if material == "ethanol" else others).pk)
    elif (
        deed == "never"
        and line in progress.measured
        and len(progress.measured) > 1
        and line not in (0, progress.topping)
    ):
        correct(client, batch, "never", line)
    elif deed == "late" and line in progress.left_out:
        correct(client, batch, "late", line, amount=f"{rng.uniform(5, 20):.3g} mL")
    elif deed == "besides" and 0 in progress.measured and batch.state != State.RESTING:
        material = rng.choice(["glycerol", "water"])
        name = rng.choice(others).name if material == "glycerol" else material
        data = {"material": name, "amount": f"{rng.uniform(3, 30):.3g} mL", "key": uuid.uuid4()}
        client.post(reverse("batches:besides", args=[batch.pk]), data)
    elif deed == "undo" and progress.last is not None:
        client.post(reverse("batches:undo", args=[batch.pk]), {"entry": progress.last.number})


def agree(batch: Batch, stocks: list[Stock]) -> None:
    told, progress = retold(batch), Making(batch).progress
    for stock in stocks:
        out = stock.grams_of(stock.amount) - stock.ledger
        assert out == pytest.approx(told.out.get(stock.pk, 0.0), abs=2e-2, rel=1e-4), stock
    there = progress.in_vessel
    if there is None or progress.topping not in progress.measured or not progress.topped_up or progress.overfull:
        return
    assert there.total.mass_g == pytest.approx(sum(told.grams.values()), rel=1e-3)
    assert there.total.volume_mL == pytest.approx(told.volume_mL(), rel=1e-3)
    if there.main is not None:
        assert there.main.true == pytest.approx(told.pct, abs=0.1)
    if not progress.unfinished:
        label = label_of(batch, progress, None)
        assert {name for name in ("ethanol", "glycerol", "water") if name in label.ingredients} == told.contents


@pytest.mark.parametrize("name", often(HOUSE, "easy-gel"))
def test_a_batch_of_every_kind_with_a_slip_of_every_kind(bench: Client, workshop, maker, name: str) -> None:
    """Too much, left out, put in late, another bottle, something besides, and not of this batch: record, label and shelf
    say what the rows say.
    """
    rng = random.Random(name)
    formula = house_formulas()[name].formula
    batch = begin(formula, workshop, maker, str(formula.make) if formula.make else "1 L")
    pairs = [pair_of_bottles(workshop, line) for line in batch.formula().lines]
    topping = Making(batch).progress.topping
    for at, (first, _) in enumerate(pairs):
        if at != topping:
            batch.lines.filter(position=at).update(stock=first)
    out = rng.choice([at for at in range(len(pairs)) if at not in (0, topping)] or [None])
    for _ in range(80):
        making = Making(batch)
        task = making.progress.task
        if batch.state == State.RESTING and making.progress.unfinished:
            bench.post(reverse("batches:wait", args=[batch.pk]), {"reason": "for the test"})
        elif batch.state != State.MAKING or task is None:
            break
        elif making.deviation is not None:
            press(bench, batch, act="accept")
        elif (task.line == out and out is not None) or not_in_yet(making.progress, task):
            leave_out(bench, batch)
        else:
            target = making.progress.target(task) if task.line is not None else None
            times = 1.04 if task.line == 0 else 1.0
            press(bench, batch, amount=f"{target.value * times:.6g} {target.unit}" if target else "")
        batch.refresh_from_db()
        told_by_the_rows(batch)
    assert not Making(batch).progress.unfinished, name
    if out is not None:
        unit = "g" if Making(batch).progress.plan[out].weighed else "mL"
        correct(bench, batch, "late", out, amount=f"{Making(batch).progress.asked_now(out).value / 2:.4g} {unit}")
        told_by_the_rows(batch)
    for at, (_, other) in enumerate(pairs[:2]):
        if at != topping:
            correct(bench, batch, "bottle", at, stock=other.pk)
            told_by_the_rows(batch)
    there = Making(batch).progress.result.total.mass_g
    data = {"material": pairs[0][0].name, "amount": f"{there / 500:.3g} g", "key": uuid.uuid4(), "sure": "on"}
    bench.post(reverse("batches:besides", args=[batch.pk]), data)
    batch.refresh_from_db()
    told_by_the_rows(batch)
    extra = len(batch.formula().lines) - 1
    assert extra == len(pairs), "what was put in besides is a line"
    correct(bench, batch, "never", extra)
    told_by_the_rows(batch)
    for page in ("record", "really", "rescue"):
        assert bench.get(reverse(f"batches:{page}", args=[batch.pk])).status_code == 200
    make_as_planned(bench, batch)
    told_by_the_rows(batch)


def pair_of_bottles(workshop, line) -> tuple[Stock, Stock]:
    """Two bottles a line can be from."""
    made = []
    for n in "ab":
        stock = Stock(workshop=workshop, material=line.material.written, name=f"{line.material.name} {n}", price=5)
        stock.amount_value, stock.amount_unit = 30, "kg"
        if line.counted_strength is not None:
            stock.strength = line.counted_strength
        stock.save()
        made.append(stock)
    return made[0], made[1]


def told_by_the_rows(batch: Batch) -> None:
    making, there = Making(batch), poured(batch)
    assert set(making.progress.measured) == set(there)
    wanted: dict[int, float] = {}
    for row in making.lines:
        entry = there.get(row.position)
        if row.stock is None or entry is None or entry.data.get("level"):
            continue
        grams = making.progress.grams(row.position, entry.amount)
        wanted[row.stock.pk] = wanted.get(row.stock.pk, 0.0) + grams
    for stock in Stock.objects.filter(workshop=batch.workshop):
        doses = sum(dosed_g(making, row) for row in making.lines if row.stock and row.stock.pk == stock.pk)
        out = stock.grams_of(stock.amount) - stock.ledger
        assert out == pytest.approx(wanted.get(stock.pk, 0.0) + doses, rel=1e-6, abs=1e-6), stock
    if not making.progress.unfinished:
        named = label_of(batch, making.progress, None).ingredients
        gone = {line.material.name.lower() for i, line in enumerate(making.progress.formula.lines) if i not in there}
        kept = {making.progress.formula.lines[i].material.name.lower() for i in there}
        assert not [name for name in gone - kept if name in named]


def dosed_g(making: Making, row) -> float:
    """What went in by doses of a line that is not finished."""
    return 0.0 if row.position in making.progress.measured else making.progress.taken_g(row.position)
