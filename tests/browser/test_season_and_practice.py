"""A season stated, planned, moved by keys, begun, fallen behind and planned anew; shopping on a phone whose connection
goes; how sure with other tools; a rehearsal stepped; ten problems by keyboard.
"""

from datetime import timedelta

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from conftest import WHO_I
from days import today
from firkin.batches.models import Batch
from firkin.core.formula import formula_from_dict
from firkin.core.measures import Quantity, Strength
from firkin.core.practice import draw
from firkin.formulas.models import Formula
from firkin.practice.models import Card
from firkin.season.models import Habits, Need, Plan, Product
from firkin.shelf.models import Stock, Vessel

pytestmark = pytest.mark.django_db(transaction=True)


def sends(hand, element) -> None:
    """Press, and wait for the page that comes of it."""
    page = hand.find("html").id
    element.click()
    hand.wait.until(lambda _: hand.find("html").id != page and hand.find("footer"))


@pytest.fixture
def rub(workshop, maker) -> Formula:
    """WHO's rub in the book, what it takes on the shelf with prices, and a drum."""
    Vessel.objects.create(workshop=workshop, name="Drum", volume_mL=12_000, count=1, made_of="plastic")
    for material, mL, price, pct in (
        ("ethanol", 5000.0, "31.00", Strength.of(96.0, "v/v")),
        ("hydrogen-peroxide", 500.0, "2.60", Strength.of(3.0, "w/v")),
        ("glycerol", 1000.0, "8.40", None),
    ):
        stock = Stock(workshop=workshop, material=material, name=material, price=price)
        stock.amount, stock.strength = Quantity(mL, "mL"), pct
        stock.save()
    every = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"]
    Habits.objects.create(workshop=workshop, open_days=every, minutes=60.0, weeks=4, delivery_days=1)
    return Formula.objects.keep(formula_from_dict(WHO_I), workshop, maker)


def test_needs_are_stated_planned_moved_begun_and_planned_anew(hand, workshop, rub) -> None:
    hand.begin()
    hand.open("/season/")
    hand.press("Add a product")
    hand.reads("What you make")
    Select(hand.find("#id_formula")).select_by_visible_text("Landing rub")
    hand.type("#id_most", "8 L")
    hand.type("#id_minutes", "40")
    hand.press("Add")
    hand.reads("Who needs it")
    hand.type("#id_who", "the boats")
    hand.type("#id_mL", "100 mL")
    hand.type("#id_times", "40")
    Select(hand.find("#id_kind")).select_by_value("once")
    day = today() + timedelta(days=12)
    hand.browser.execute_script(f"document.querySelector('#id_on').value = '{day.isoformat()}'")
    hand.press("Add this need")
    hand.reads("40 × 100 mL for the boats")
    hand.open("/season/")
    hand.press("Plan the season")
    hand.reads("Every need is met.")
    hand.reads("1 evening at the bench")
    plan = Plan.objects.newest_of(workshop)
    before = plan.planned["batches"][0]["start"]

    sends(hand, hand.find("a.cask"))  # opened, and an evening earlier by the arrow key
    hand.reads("Start this batch")
    hand.browser.execute_script("document.querySelector('a.cask.chosen').focus()")
    page = hand.find("html").id
    hand.keys(Keys.ARROW_LEFT)
    hand.wait.until(lambda _: hand.find("html").id != page)
    hand.reads("starts on")
    moved = Plan.objects.newest_of(workshop).planned["batches"][0]["start"]
    assert moved < before
    hand.press("Undo")
    hand.reads("The plan before it stands again.")
    assert Plan.objects.newest_of(workshop).planned["batches"][0]["start"] == before

    sends(hand, hand.find("a.cask"))
    hand.press("Start this batch")
    hand.reads("Clean and lay out")
    batch = Batch.objects.get()
    assert (batch.vessel.name, round(batch.formula().make.mL)) == ("Drum", 4000)
    hand.open("/season/")
    hand.reads("done")


@pytest.mark.long
def test_a_batch_is_dragged_and_what_was_not_begun_is_planned_anew(hand, workshop, rub) -> None:
    hand.begin()
    product = Product.objects.create(formula=rub, least_mL=500, most_mL=8000, minutes=40)
    Need.objects.create(product=product, kind="once", mL=4000, on=today() + timedelta(days=20))
    hand.open("/season/")
    hand.press("Plan the season")
    hand.reads("Every need is met.")
    sends(hand, hand.find("a.cask"))
    hand.reads("Start this batch")
    before = Plan.objects.newest_of(workshop).planned["batches"][0]["start"]
    wood = hand.find("a.cask.chosen .wood")
    page = hand.find("html").id
    ActionChains(hand.browser).click_and_hold(wood).move_by_offset(120, 0).release().perform()
    hand.wait.until(lambda _: hand.find("html").id != page)
    hand.reads("starts on")
    plan = Plan.objects.newest_of(workshop)
    assert plan.planned["batches"][0]["start"] > before

    row = plan.planned["batches"][0]  # a week later, and nobody has begun it
    late = today() - timedelta(days=2)
    plan.asked = {**plan.asked, "from": (late - timedelta(days=1)).isoformat(), "pinned": []}
    plan.planned = {
        **plan.planned,
        "batches": [{**row, "start": late.isoformat(), "free": (late + timedelta(days=3)).isoformat()}],
    }
    plan.save()
    hand.open("/season/")
    hand.reads("Not started yet: 4 L of Landing rub")
    hand.press("Plan again, and leave the rest")
    hand.reads("Every need is met.")
    assert "Not started yet" not in hand.find("main").text


@pytest.mark.long
def test_shopping_on_a_phone_that_loses_its_connection(hand, workshop, rub) -> None:
    hand.begin()
    product = Product.objects.create(formula=rub, least_mL=500, most_mL=8000, minutes=40)
    Need.objects.create(product=product, kind="once", mL=8000, on=today() + timedelta(days=20))
    hand.open("/season/")
    hand.press("Plan the season")
    hand.reads("Every need is met.")
    phone = {"width": 390, "height": 800, "deviceScaleFactor": 1, "mobile": True}
    hand.browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", phone)
    try:
        hand.open("/season/shopping/")
        hand.reads("5 L Ethanol 96 %")
        stocks = Stock.objects.count()
        offline = {"offline": True, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
        hand.browser.execute_cdp_cmd("Network.enable", {})
        hand.browser.execute_cdp_cmd("Network.emulateNetworkConditions", offline)
        hand.find(".to-buy:not(.done) button").click()
        hand.wait.until(lambda browser: "Not stored yet" in browser.find_element(By.TAG_NAME, "body").text)
        assert Stock.objects.count() == stocks
        hand.browser.execute_cdp_cmd("Network.emulateNetworkConditions", {**offline, "offline": False})
        hand.reads("bought, on the shelf")
        assert Stock.objects.count() > stocks
    finally:
        hand.browser.execute_cdp_cmd("Network.disable", {})
        hand.browser.execute_cdp_cmd("Emulation.clearDeviceMetricsOverride", {})
        hand.browser.get_log("browser")


@pytest.mark.long
def test_with_a_scale_more_batches_hold(hand, rub) -> None:
    hand.begin()
    hand.open(f"/formulas/{rub.pk}/sure/")
    hand.reads("More than 39 of 40 batches made with these tools hold WHO I.")
    Select(hand.find("#id_tool_0")).select_by_value("scale")
    hand.reads("Practically all batches made with these tools hold WHO I.")
    Select(hand.find("#id_tool_0")).select_by_value("cup")
    hand.reads("More than 39 of 40 batches made with these tools hold WHO I.")


@pytest.mark.long
def test_a_rehearsal_is_stepped_on_and_back_and_touches_no_shelf(hand, rub) -> None:
    hand.begin()
    left = [stock.left_g for stock in Stock.objects.all()]
    hand.open(f"/formulas/{rub.pk}/")
    hand.press("Rehearse")
    Select(hand.find("#id_care")).select_by_value("hasty")
    hand.type("#id_seed", "7")
    hand.press("Play it")
    hand.reads("Left out: hydrogen peroxide")
    hand.reads("Rehearsed, not made.")
    hand.press("From the start")
    hand.reads("Nothing has happened yet.")
    hand.press("One on")
    hand.reads("Pour ethanol")
    assert "Left out" not in hand.find(".happened").text
    hand.press("One on")
    hand.reads("Left out: hydrogen peroxide", ".happened")
    hand.press("One back")
    hand.wait.until(lambda _: "Left out" not in hand.find(".happened").text)
    assert [stock.left_g for stock in Stock.objects.all()] == left
    assert not Batch.objects.exists()


@pytest.mark.long
def test_ten_problems_by_keyboard(hand, maker) -> None:
    hand.begin()
    hand.open("/practice/")
    for done in range(10):
        hand.reads("Your answer")
        card = Card.objects.filter(user=maker).latest("pk")
        problem = draw(card.skill, card.seed)
        if problem.choices:
            hand.keys(Keys.SPACE, *[Keys.ARROW_DOWN] * int(problem.answer), Keys.ENTER)
        else:
            hand.keys(f"{problem.answer:.6g}", Keys.ENTER)
        hand.reads("Right:")
        hand.keys(Keys.ENTER)  # the next problem has the focus
        hand.wait.until(lambda _: hand.browser.find_elements(By.CSS_SELECTOR, ".problem form"))
        assert sum(one.right for one in Card.objects.filter(user=maker)) == done + 1
