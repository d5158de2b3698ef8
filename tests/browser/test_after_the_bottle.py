"""The shelf and the bottles in a browser: a label line to the shelf, a stock running down through a batch with a fix, ten
bottles given out, used and refilled, a recall, the cost of a load, and the search by a slash.
"""

import uuid
from datetime import timedelta

import pytest
from django.utils import timezone
from selenium.webdriver.common.by import By

from batches.test_slips import told_by_the_rows
from conftest import WHO_I
from firkin.batches.ledger import settle
from firkin.batches.making import Making
from firkin.batches.models import Batch, Bottle, Filling, State, bottles_of
from firkin.core.formula import formula_from_dict
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock, Vessel
from steps import begin
from use.test_money import SOAP

pytestmark = pytest.mark.django_db(transaction=True)


def sends(hand, css: str) -> None:
    """Press, and wait for the page that comes of it."""
    page = hand.find("html").id
    hand.find(css).click()
    hand.wait.until(lambda _: hand.find("html").id != page and hand.find("footer"))


def released(workshop, maker) -> Batch:
    """A litre of rub, made as planned by the database alone, free to fill."""
    batch = begin(formula_from_dict(WHO_I), workshop, maker, "1 L")
    for _ in range(20):
        making = Making(Batch.objects.get(pk=batch.pk))
        task = making.progress.task
        if task is None:
            break
        if task.line is not None:
            making.measure(task, making.progress.target(task), maker, uuid.uuid4())
        elif task.wait_h is not None:
            making.begin_wait(task, maker)
        else:
            making.tick(task, maker, uuid.uuid4())
    batch = Batch.objects.get(pk=batch.pk)
    batch.release(maker, "for the test")
    return batch


def filled(workshop, maker, bottles: int = 10) -> Batch:
    batch = released(workshop, maker)
    vessel = Vessel.objects.create(workshop=workshop, name="Small flask", kind="bottle", volume_mL=95, count=20)
    Filling.objects.create(batch=batch, by=maker, vessel=vessel, container="Small flask", count=bottles, fill_mL=80)
    batch.move_to(State.FILLED, maker, "Filled.")
    return batch


@pytest.mark.long
def test_a_label_line_is_on_the_shelf(hand) -> None:
    hand.begin()
    hand.open("/shelf/")
    hand.type("#id_line", "2 x isopropyl 91 % 32 fl oz 13.98 lot K7")
    sends(hand, ".buy-line button")
    hand.reads("Is that right?")
    sends(hand, "button[name=put]")
    hand.reads("2 bottles of Isopropanol, 91 % v/v are on the shelf.")
    stocks = list(Stock.objects.all())
    assert [(float(one.price), one.lot, round(one.amount.mL)) for one in stocks] == [(6.99, "K7", 946)] * 2


@pytest.mark.long
def test_a_stock_runs_down_through_a_batch_with_a_fix(hand, workshop, maker) -> None:
    can = Stock(workshop=workshop, material="ethanol", name="Can", amount_value=1.0, amount_unit="L", price=10)
    can.strength = formula_from_dict(WHO_I).lines[0].strength
    can.save()
    batch = begin(formula_from_dict(WHO_I), workshop, maker, "1 L")
    batch.lines.filter(material="ethanol").update(stock=can)
    hand.begin()
    hand.open(f"/batches/{batch.pk}/make/")
    hand.reads("1 of ")
    sends(hand, ".task .confirm button[type=submit]")
    hand.find(".besides > summary").click()
    hand.type(".besides input[name=material]", "Can")
    hand.type(".besides input[name=amount]", "120 mL")
    sends(hand, ".besides button[type=submit]")
    hand.open(f"/shelf/stock/{can.pk}/")
    hand.reads("What is left: 46.7 mL")  # 1000 - 833.3 - 120
    hand.reads("added to a batch")
    told_by_the_rows(Batch.objects.get(pk=batch.pk))
    hand.open("/")
    hand.reads("Buy more before the next batch")
    sends(hand, "button[value=low]")
    assert "Buy more" not in hand.find("main").text


@pytest.mark.long
def test_ten_bottles_are_given_out_used_up_and_one_is_refilled(hand, workshop, maker) -> None:
    batch = filled(workshop, maker)
    hand.begin()
    hand.open(f"/use/batches/{batch.pk}/")
    for name, count in (("Bracken", "4"), ("Dunlin", "6")):
        hand.type("#id_to", name)
        hand.type("#id_count", count)
        sends(hand, ".grid-form button[type=submit]")
        hand.reads(f"{name} has bottle")
    for number in range(1, 11):
        hand.open(f"/use/batches/{batch.pk}/{number}/")
        hand.reads(f"Bottle {batch.code}-{number}")
        if number == 1:
            sends(hand, "button[value=opened]")
        if number < 10:
            sends(hand, "button[value=used-up]")
        if number < 3:
            sends(hand, "button[value=back]")
    sends(hand, "button[value=refilled]")
    hand.reads(f"It is bottle {batch.code}-11 now.")
    places = [one.place for one in bottles_of(Batch.objects.get(pk=batch.pk))]
    assert places == ["back"] * 2 + ["empty-out"] * 7 + ["back", "out"]
    Bottle.objects.filter(used=True).update(given_at=timezone.now() - timedelta(days=20))
    hand.open("/use/")
    hand.reads("from 10 bottles in 20 days")


@pytest.mark.long
def test_a_recall_is_worked_through(hand, workshop, maker) -> None:
    stock = Stock.objects.create(
        workshop=workshop, material="glycerol", name="Glycerol", lot="GL-7", amount_value=1.0, amount_unit="L"
    )
    made = filled_from(workshop, maker, stock)
    hand.begin()
    hand.open(f"/shelf/stock/{stock.pk}/")
    hand.press("Where it went")
    hand.reads("3 bottles in 1 batch")
    hand.type("#id_why", "The chemist calls it back.")
    hand.find("#id_bad").click()
    sends(hand, ".call-back button[type=submit]")
    hand.reads("3 of 3 still to deal with")
    for left in (2, 1, 0):
        sends(hand, ".recall-table form button")
        hand.reads(f"{left} of 3 still" if left else "All 3 dealt with")
    hand.open(f"/batches/{made.pk}/label/")
    hand.reads("is marked as bad")
    assert not hand.browser.find_elements(By.PARTIAL_LINK_TEXT, "PDF")


def filled_from(workshop, maker, stock: Stock) -> Batch:
    """Three bottles of rub with glycerol out of a stock."""
    batch = filled(workshop, maker, 3)
    batch.lines.filter(material="glycerol").update(stock=stock)
    making = Making(Batch.objects.get(pk=batch.pk))
    settle(making.batch, making.lines, making.progress)
    return batch


@pytest.mark.long
def test_the_cost_of_a_load(hand, workshop, maker) -> None:
    Stock.objects.create(workshop=workshop, material="borax", name="Borax", price=5, amount_value=500, amount_unit="g")
    kept = Formula.objects.keep(formula_from_dict(SOAP), workshop, maker)
    hand.begin()
    hand.open(f"/formulas/{kept.pk}/")
    hand.reads("0.050 EUR a load")
    hand.reads("At 100 mL a load (as the formula says)")


@pytest.mark.long
def test_a_slash_leads_to_the_search(hand, workshop, maker) -> None:
    Formula.objects.keep(formula_from_dict(WHO_I), workshop, maker)
    hand.begin()
    hand.keys("/")
    hand.reads("Search", "h1")
    hand.type(".search-form input", "land")
    sends(hand, ".search-form button")
    hand.press("Landing rub")
    hand.reads("Landing rub", "h1")
