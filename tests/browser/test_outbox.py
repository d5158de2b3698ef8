"""A press while the connection is gone: kept, said, sent once and in order when it is back; and while it is on its way."""

import uuid

import pytest
from selenium.webdriver.common.keys import Keys

from conftest import WHO_I
from firkin.batches.making import Making
from firkin.batches.models import Batch
from firkin.core.formula import formula_from_dict
from steps import begin

pytestmark = pytest.mark.django_db(transaction=True)


def gone(hand, *, yes: bool) -> None:
    hand.browser.execute_cdp_cmd("Network.enable", {})
    hand.browser.get_log("browser")  # it complains that nobody is there: that is what is tried
    conditions = {"offline": yes, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
    hand.browser.execute_cdp_cmd("Network.emulateNetworkConditions", conditions)


def at_the_bench(hand, workshop, maker) -> Batch:
    """A rub being made, its first task on the page."""
    batch = begin(formula_from_dict(WHO_I), workshop, maker, "1 L")
    hand.begin()
    hand.open(f"/batches/{batch.pk}/make/")
    return batch


def pours(batch: Batch) -> list[float]:
    return list(batch.entries.filter(kind="pour").values_list("amount_value", flat=True))


def test_what_was_pressed_without_a_connection_is_stored_once_it_is_back(hand, maker, workshop) -> None:
    batch = at_the_bench(hand, workshop, maker)
    gone(hand, yes=True)
    hand.type("#id_amount", "830")
    hand.keys(Keys.ENTER)
    hand.reads("No connection. Not stored yet:", ".outbox")
    hand.reads("Measured: 830 mL", ".outbox")
    hand.keys(Keys.ENTER, Keys.ENTER)  # impatient
    assert not pours(batch)
    gone(hand, yes=False)
    hand.reads("2 of 6")
    assert pours(batch) == [830.0]
    assert hand.find("#id_amount").get_attribute("value") != "830"


@pytest.mark.long
def test_two_presses_go_out_in_order(hand, maker, workshop) -> None:
    batch = at_the_bench(hand, workshop, maker)
    gone(hand, yes=True)
    hand.type("#id_amount", "833.3")
    hand.keys(Keys.ENTER)
    hand.reads("Not stored yet", ".outbox")
    hand.find(".besides summary").click()
    hand.type("#extra_material", "glycerol")
    hand.type("#extra_amount", "5 mL")
    hand.press("It is in")
    hand.reads("glycerol 5 mL", ".outbox")
    gone(hand, yes=False)
    hand.reads("5 mL", ".done-list")
    assert pours(batch) == [833.3, 5.0]


def test_what_the_server_refuses_is_shown_with_what_was_typed(hand, maker, workshop) -> None:
    batch = at_the_bench(hand, workshop, maker)
    hand.type("#id_amount", "some")
    hand.keys(Keys.ENTER)
    hand.reads("Write a number and a unit")
    assert hand.find("#id_amount").get_attribute("value") == "some"
    assert not pours(batch)


@pytest.mark.long
def test_a_task_another_hand_did_says_who_and_what(hand, maker, workshop) -> None:
    batch = at_the_bench(hand, workshop, maker)
    making = Making(batch)
    making.measure(making.progress.task, making.progress.target(making.progress.task), maker, uuid.uuid4())
    hand.keys(Keys.ENTER)
    hand.reads("did this already at")
    hand.reads("(Ethanol 833.3 mL)")
    assert len(pours(batch)) == 1


@pytest.mark.long
def test_on_a_phone_the_notice_leaves_the_field_in_sight(hand, maker, workshop) -> None:
    at_the_bench(hand, workshop, maker)
    width, height = hand.browser.get_window_size().values()
    hand.browser.set_window_size(390, 700)
    try:
        gone(hand, yes=True)
        hand.type("#id_amount", "830")
        hand.keys(Keys.ENTER)
        hand.reads("Not stored yet", ".outbox")
        field, notice = (hand.find(css).rect for css in ("#id_amount", ".outbox"))
        above = hand.browser.execute_script("return window.scrollY")
        assert field["y"] - above + field["height"] <= notice["y"] - above
        hand.browser.execute_script("window.scrollTo(0, document.body.scrollHeight)")
        last = "return Math.max(...[...document.querySelectorAll('main *')].map(e => e.getBoundingClientRect().bottom))"
        assert hand.browser.execute_script(last) <= hand.find(".outbox").rect["y"] - hand.browser.execute_script(
            "return window.scrollY"
        )
    finally:
        gone(hand, yes=False)
        hand.browser.set_window_size(width, height)
