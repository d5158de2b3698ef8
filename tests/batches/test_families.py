"""What a family's batch asks and says on its pages: the ferment's log and starter, vessels, preservatives, panels."""

import uuid

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from days import today
from firkin.batches.making import Making
from firkin.batches.models import Batch, Filling, State
from firkin.core.bench import EntryKind
from firkin.core.formula import house_formulas
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock, Vessel
from steps import begin, make_as_planned, said


def show(bench: Client, batch: Batch, stage: str) -> str:
    return said(bench.get(reverse(f"batches:{stage}", args=[batch.pk])))


@pytest.fixture
def ferment(bench: Client, workshop, maker) -> Batch:
    batch = begin(house_formulas()["citrus-ferment"].formula, workshop, maker, "2.33 kg")
    make_as_planned(bench, batch, up_to_the_wait=True)
    return batch


def log(bench: Client, batch: Batch, key: uuid.UUID | None = None, **seen: object):
    data = {"act": "log", "back": "wait", "key": key or uuid.uuid4(), **seen}
    return bench.post(reverse("batches:check", args=[batch.pk]), data)


def test_a_ferments_log_is_one_press_for_look_and_ph_and_stored_once(bench: Client, ferment: Batch) -> None:
    assert "Its pH was never read" in show(bench, ferment, "wait")
    key = uuid.uuid4()
    for _ in range(2):
        assert log(bench, ferment, key, gas=2, mould=0, smell=0, ph="4,4").status_code == 302
    assert [entry.kind for entry in ferment.entries.filter(kind__in=["observe", "reading"])] == ["observe", "reading"]
    page = show(bench, ferment, "wait")
    assert "Its last pH is 4.4" in page
    assert "aimed at 2.5 to 4" in page  # the drawing says it in words
    log(bench, ferment, mould=2)
    assert "pour it away" in show(bench, ferment, "wait")
    assert "pour it away" in show(bench, ferment, "check")


@pytest.mark.parametrize(("seen", "says"), [({}, "at least one of these"), ({"ph": "15"}, "between 0 and 14")])
def test_an_empty_or_impossible_log_is_refused_at_its_field(bench: Client, ferment: Batch, seen, says) -> None:
    answer = log(bench, ferment, **seen)
    assert says in said(answer)
    assert not ferment.entries.filter(kind__in=["observe", "reading"]).exists()


def test_a_ferment_is_strained_its_liquid_filled_and_a_starter_kept_for_the_next(
    bench: Client, ferment: Batch, workshop, maker
) -> None:
    bench.post(reverse("batches:wait", args=[ferment.pk]), {"reason": "for the test"})
    assert "measure the liquid" in show(bench, ferment, "make")
    data = {"act": "read", "back": "make", "key": uuid.uuid4(), "what": "volume", "value": "1,5 L"}
    bench.post(reverse("batches:check", args=[ferment.pk]), data)
    make_as_planned(bench, ferment)
    assert ferment.state == State.RELEASED
    page = show(bench, ferment, "fill")
    assert "1.5 L <small>to fill" in page
    assert "Start the next with it" in page
    press = {"amount": "120 mL", "press": uuid.uuid4()}
    for _ in range(2):
        bench.post(reverse("batches:keep_starter", args=[ferment.pk]), press)
    kept = Filling.objects.get()
    assert (kept.count, kept.fill_mL) == (1, 120.0)
    stock = Stock.objects.get(material="ferment-starter")
    assert (stock.name, stock.bought_on) == (f"Starter from {ferment.code}", today())
    assert "1.38 L <small>to fill" in show(bench, ferment, "fill")
    too_much = bench.post(reverse("batches:keep_starter", args=[ferment.pk]), {"amount": "9 L"}, follow=True)
    assert "are left of it" in said(too_much)
    assert f"Starter from {ferment.code}" in said(bench.get(reverse("shelf:shelf")))
    assert "Began on" in show(bench, ferment, "label")


def test_no_starter_is_kept_of_a_soap_or_of_what_still_ferments(bench: Client, ferment: Batch, workshop, maker) -> None:
    soap = begin(house_formulas()["foam-plain"].formula, workshop, maker, "500 mL")
    make_as_planned(bench, soap)
    for batch in (soap, ferment):
        bench.post(reverse("batches:keep_starter", args=[batch.pk]), {"amount": "10 mL"})
    assert not Filling.objects.exists()
    assert not Stock.objects.exists()


@pytest.mark.parametrize(
    ("key", "size", "vessel", "made_of", "says", "stops"),
    [
        ("citrus-ferment", "2.33 kg", 2500, "plastic", "", False),
        ("citrus-ferment", "2.33 kg", 2500, "glass", "bursts into splinters", True),
        ("citrus-ferment", "2.33 kg", 2400, "plastic", "the gas needs a fifteenth", True),
        ("citrus-ferment", "2.33 kg", 2500, "", "is not said on the shelf", False),
        ("dish-gentle", "5 kg", 20_000, "aluminium", "makes hydrogen", True),
        ("bar-soap-liquid", "2 L", 3000, "steel", "boils over quickly", False),
        ("laundry-concentrate", "9 L", 10_000, "plastic", "slops over scalds", False),
    ],
)
def test_a_vessel_is_held_against_what_is_made_in_it(
    bench: Client, workshop, maker, key: str, size: str, vessel: int, made_of: str, says: str, stops: bool
) -> None:
    batch = begin(house_formulas()[key].formula, workshop, maker, size)
    batch.move_to(State.PLANNED, maker, "Laid out anew.")
    there = Vessel.objects.create(workshop=workshop, name="Tub", volume_mL=vessel, made_of=made_of)
    assert says in show(bench, batch, "prepare")
    answer = bench.post(reverse("batches:prepare", args=[batch.pk]), {"vessel": there.pk})
    batch.refresh_from_db()
    assert (batch.state == State.PLANNED) is stops
    assert not stops or says in said(answer)


def test_look_alikes_are_told_apart_as_they_are_gathered(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["powder-soft"].formula, workshop, maker, "1 kg")
    batch.move_to(State.PLANNED, maker, "Laid out anew.")
    page = show(bench, batch, "prepare")
    for words in ("Washing soda is not baking soda", "Borax is not boric acid"):
        assert words in page


def test_the_preservative_follows_the_weight_and_says_what_was_not_read(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["bar-soap-liquid"].formula, workshop, maker, "2 L")
    while batch.state == State.RESTING or (task := Making(batch).progress.task).do != "whip":
        make_one(bench, batch)
    page = show(bench, batch, "make")
    assert "The batch was not weighed" in page
    assert "The temperature was not read" in page
    planned = Making(batch).progress.target(task).g
    for what, value in (("mass", "1800"), ("temperature", "35 °C")):
        data = {"act": "read", "back": "make", "key": uuid.uuid4(), "what": what, "value": value}
        bench.post(reverse("batches:check", args=[batch.pk]), data)
    page = show(bench, batch, "make")
    assert "For the 1800 g it weighs now" in page
    assert "was not read" not in page
    assert Making(batch).progress.target(task).g < planned


def make_one(bench: Client, batch: Batch) -> None:
    """The next task as planned, or the wait it leads to."""
    making = Making(batch)
    if batch.state == State.RESTING:
        bench.post(reverse("batches:wait", args=[batch.pk]), {"reason": "for the test"})
    else:
        task = making.progress.task
        target = making.progress.target(task) if task.line is not None else None
        amount = f"{target.value:.6g} {target.unit}" if target else ""
        bench.post(
            reverse("batches:make", args=[batch.pk]),
            {"task": making.progress.turn, "key": uuid.uuid4(), "amount": amount},
        )
    batch.refresh_from_db()


def test_sheet_and_bench_show_the_same_panel_and_the_bench_follows_what_was_measured(
    bench: Client, workshop, maker
) -> None:
    formula = house_formulas()["dish-gentle"].formula
    kept = Formula.objects.keep(formula, workshop, maker)
    sheet = bench.get(reverse("formulas:sheet", args=[kept.pk]), {"make": "5 kg", "way": "size"})
    batch = begin(formula, workshop, maker, "5 kg")
    there = bench.get(reverse("batches:make", args=[batch.pk]))
    assert sheet.context["insights"] == there.context["insights"]
    make_one(bench, batch)
    making = Making(batch)
    caustic = making.progress.target(making.progress.task).g
    data = {"task": making.progress.turn, "key": uuid.uuid4(), "amount": f"{2 * caustic:.6g} g"}
    bench.post(reverse("batches:make", args=[batch.pk]), data)
    after = bench.get(reverse("batches:make", args=[batch.pk])).context["insights"][0][0]
    assert dict(after.rows)["It ends"] == "alkaline"


def test_the_own_curve_learns_from_the_same_bar_alone(bench: Client, workshop, maker) -> None:
    bar, other = (
        Stock.objects.create(workshop=workshop, material="bar-soap", name=name, amount_value=1, amount_unit="kg")
        for name in ("Olive bar", "Tallow bar")
    )
    for grams, stock, level in ((120.0, bar, 1), (200.0, bar, 4), (150.0, other, 3)):
        formula = house_formulas()["bar-soap-liquid"].formula
        batch = begin(formula, workshop, maker, f"{300 / grams:.6g} L")
        batch.lines.filter(position=0).update(stock=stock)
        make_as_planned(bench, batch)
        Batch.objects.filter(pk=batch.pk).update(
            created_at=timezone.now() - timezone.timedelta(days=2), made_at=timezone.now() - timezone.timedelta(days=1)
        )
        batch.write(EntryKind.OBSERVE, maker, text="looked", data={"seen": {"thickness": level}})
    page = show(bench, batch, "check")
    assert "Tallow bar" in page
    assert "Based on one batch with this bar" in page
    first = Batch.objects.order_by("number").first()
    assert "Based on 2 batches with this bar" in show(bench, first, "check")
    assert "Olive bar" in show(bench, first, "check")


@pytest.mark.parametrize(
    ("scoop", "says"),
    [
        ({"scoop": "20 mL"}, "Both are needed"),
        ({"scoop": "20 mL", "scoop_weighs": "200"}, "no powder is"),
        ({"scoop": "20 mL", "scoop_weighs": "20 mL"}, "Weigh it"),
        ({"material": "glycerol", "scoop": "20 mL", "scoop_weighs": "20"}, "is no powder"),
    ],
)
def test_a_scoop_that_cannot_be_is_refused_at_its_field(bench: Client, workshop, scoop, says: str) -> None:
    data = {"material": "washing soda", "size": "1 kg"} | scoop
    assert says in said(bench.post(reverse("shelf:add", args=["stock"]), data))
    assert not Stock.objects.exists()


def test_a_weighed_scoop_of_a_stock_turns_parts_into_the_right_grams(bench: Client, workshop, maker) -> None:
    data = {"material": "washing soda", "size": "1 kg", "name": "Light soda", "scoop": "20 mL", "scoop_weighs": "11"}
    bench.post(reverse("shelf:add", args=["stock"]), data)
    light = Stock.objects.get()
    assert light.bulk == pytest.approx(0.55)
    assert 'value="55"' in said(bench.get(reverse("shelf:item", args=["stock", light.pk])))
    batch = begin(house_formulas()["powder-soft"].formula, workshop, maker, "1 kg")
    batch.move_to(State.PLANNED, maker, "Laid out anew.")
    answer = bench.post(reverse("batches:prepare", args=[batch.pk]), {"stock_1": light.pk}, follow=True)
    assert "Washing soda lies at 0.55 g/mL by the scoop that was weighed" in said(answer)
    soda = Making(batch).progress.plan[1]
    assert soda.g == pytest.approx(223.1, abs=0.1)
    assert soda.loose_mL == pytest.approx(soda.g / 0.55)


def test_a_laundry_soap_is_not_led_to_the_grams_of_a_hand_soap(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["laundry-bottle"].formula, workshop, maker, "1.5 L")
    for stage in ("check", "make"):
        page = show(bench, batch, stage)
        assert "own curve" not in page
        assert "80 g/L" not in page


@pytest.mark.parametrize("trouble", ["weak", "strong"])
def test_made_up_bleach_that_is_off_is_made_fresh_and_no_strength_by_volume_is_asked(
    bench: Client, workshop, maker, trouble: str
) -> None:
    batch = begin(house_formulas()["chlorine-surfaces"].formula, workshop, maker, "1 L")
    make_as_planned(bench, batch)
    page = said(bench.get(reverse("batches:rescue", args=[batch.pk]), {"trouble": trouble}))
    assert "make it fresh" in page
    assert "% v/v" not in page.split("What is wrong with it?")[1]
