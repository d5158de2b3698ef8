"""At the bench in a browser: a whole batch by keyboard alone, too much poured, a wait coming due, the scale, a label."""

import io
import xml.etree.ElementTree as ET
from datetime import timedelta
from urllib.request import Request, urlopen

import pytest
from django.utils import timezone
from pypdf import PdfReader
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from conftest import PATIENCE_S, WHO_I
from firkin.batches.models import Batch, Due, State, Wait
from firkin.core.formula import formula_from_dict, house_formulas
from firkin.formulas.models import Formula
from firkin.shelf.models import Vessel
from steps import begin, make_at_once

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.mark.long
@pytest.mark.walk
def test_a_whole_batch_by_keyboard_alone(hand, maker, workshop, at_most) -> None:
    kept = Formula.objects.keep(formula_from_dict(WHO_I), workshop, maker)
    hand.begin()
    hand.open(f"/formulas/{kept.pk}/")
    hand.reads("Start a batch of")
    hand.keys("n", Keys.ENTER)
    hand.reads("Clean and lay out")
    hand.keys("n", Keys.ENTER)
    for number in range(1, 5):  # the amount has the focus, so Enter alone goes on
        hand.reads(f"{number} of 6")
        hand.keys(Keys.ENTER)
    hand.reads("5 of 6")
    hand.keys(Keys.ENTER)
    hand.reads("6 of 6")
    hand.keys(Keys.ENTER)
    hand.reads("Ready on")
    hand.tab_to("Use it early")
    hand.keys(Keys.ENTER)
    hand.tab_to("reason")
    hand.keys("For the test", Keys.ENTER)
    hand.reads("to fill")
    hand.keys("n", Keys.ENTER)
    hand.reads("2 × Half-litre flask 475 mL each")
    hand.keys("n", "n", Keys.ENTER)  # a little is left, to be filled first
    hand.reads("Ethanol 80 % v/v", ".label-figure")
    batch = Batch.objects.get()
    assert batch.state == State.FILLED
    assert [entry.kind for entry in batch.entries.all()].count("pour") == 4
    at_most("a whole batch by keyboard, from the formula to its label", hand, keys=45, fields=1)


@pytest.mark.long
def test_too_much_poured_is_scaled_from_there_on(hand, maker, workshop) -> None:
    batch = begin(formula_from_dict(WHO_I), workshop, maker, "1 L")
    hand.begin()
    hand.open(f"/batches/{batch.pk}/make/")
    hand.type("#id_amount", "1000 mL")
    hand.keys(Keys.ENTER)
    hand.reads("20 % too much")
    hand.press("Scale everything still to come")
    hand.reads("50.04 mL")  # 41.7 x 1000 / 833.3
    for number in (2, 3, 4):
        hand.reads(f"{number} of 6")
        hand.find("#id_amount").send_keys(Keys.ENTER)
    hand.reads("5 of 6")
    hand.reads("80 % v/v", ".make-answer")  # the same strength
    hand.reads("1.2 L", ".done-list")


def test_a_wait_comes_due_and_a_ferment_is_vented(hand, maker, workshop) -> None:
    batch = begin(house_formulas()["citrus-ferment"].formula, workshop, maker, "2.33 kg")
    batch.rest(24 * 90, "ferment", "", maker)
    hand.begin()
    hand.open("/batches/calendar/")
    hand.reads("Vent it")
    Due.objects.filter(pk=Due.objects.earliest("at").pk).update(at=timezone.now() - timedelta(hours=3))
    hand.open("/")
    hand.reads("due ")
    hand.press("Vented")
    hand.reads("All quiet")
    Wait.objects.update(free_at=timezone.now() - timedelta(minutes=1))
    hand.open("/")
    hand.reads("Ferment is over")


@pytest.mark.long
def test_the_scale_is_poured_on_and_its_figure_taken(hand, maker, workshop) -> None:
    workshop.simulated_instruments = True
    workshop.save()
    batch = begin(formula_from_dict(WHO_I), workshop, maker, "100 mL")
    hand.begin()
    hand.open(f"/batches/{batch.pk}/pour/")
    hand.reads("Hold to pour")
    button = hand.find("[data-hold=hold]")
    for _ in range(12):
        # in one go: the page draws the figure anew three times a second
        figure = hand.browser.execute_script("return document.querySelector('.pour-figure').innerText").split()[0]
        if figure == "overload" or float(figure) >= 66:
            break
        hold = 1.0 if float(figure) < 10 else 0.25 if float(figure) < 50 else 0.02
        ActionChains(hand.browser).click_and_hold(button).pause(hold).release().pause(1.2).perform()
    hand.reads("settled", "#pour-live")
    taking = "const button = document.querySelector('#pour-take button'), words = button.innerText; button.click(); return words"
    shown = hand.browser.execute_script(taking)
    hand.reads("Ethanol", ".done-list")
    entry = batch.entries.get(kind="pour")
    assert f"Take {entry.amount_value:g} g" in shown
    assert entry.amount_unit == "g"


SLOW_TO_HEAR_OF_A_PRESS = """
window.told = [];
const fetched = window.fetch;
window.fetch = async (address, asked) => {
  const act = asked.body && asked.body.get("act");
  if (act) told.push(act);
  if (act === "hold") await new Promise((later) => setTimeout(later, 400));
  const answer = await fetched(address, asked);
  if (act) told.push(`${act} heard`);
  return answer;
};
"""


@pytest.mark.long
def test_a_release_never_overtakes_its_press(hand, maker, workshop) -> None:
    """Otherwise a short press on a slow line pours for ever."""
    workshop.simulated_instruments = True
    workshop.save()
    batch = begin(formula_from_dict(WHO_I), workshop, maker, "100 mL")
    hand.begin()
    hand.open(f"/batches/{batch.pk}/pour/")
    hand.reads("Hold to pour")
    hand.browser.execute_script(SLOW_TO_HEAR_OF_A_PRESS)
    ActionChains(hand.browser).click_and_hold(hand.find("[data-hold=hold]")).release().perform()
    WebDriverWait(hand.browser, PATIENCE_S).until(lambda browser: browser.execute_script("return told.length") == 4)
    assert hand.browser.execute_script("return told") == ["hold", "hold heard", "release", "release heard"]
    hand.reads("settled", "#pour-live")


@pytest.mark.long
def test_what_a_label_says_is_read_back_from_its_svg_and_its_pdf(hand, maker, workshop) -> None:
    batch = begin(formula_from_dict(WHO_I), workshop, maker, "1 L")
    make_at_once(batch, maker)
    flask = Vessel.objects.get()
    hand.begin()
    hand.open(f"/batches/{batch.pk}/fill/")
    hand.press("Filled")
    hand.reads("Undo")
    hand.reads("2 × Half-litre flask")
    hand.press("Print the label")
    hand.press("round, 60 mm")
    hand.reads("round, 60 mm", "figcaption")
    cookies = "; ".join(f"{one['name']}={one['value']}" for one in hand.browser.get_cookies())

    def fetch(kind: str) -> bytes:
        request = Request(f"{hand.address}/batches/{batch.pk}/label.{kind}?size=round-60", headers={"Cookie": cookies})
        with urlopen(request) as answer:
            return answer.read()

    drawn = " ".join(
        " ".join(text.itertext()) for text in ET.fromstring(fetch("svg")).iter("{http://www.w3.org/2000/svg}text")
    )
    printed = " ".join(PdfReader(io.BytesIO(fetch("pdf"))).pages[0].extract_text().split())
    for said in (" ".join(drawn.split()), printed):
        for words in ("Landing rub", "Ethanol 80 % v/v", "475 mL", batch.code, "Danger"):
            assert words in said
    assert flask.count == 6


@pytest.mark.long
def test_a_heard_recipe_is_read_put_right_and_kept(hand) -> None:
    hand.begin()
    hand.press("Check a recipe")
    hand.type("#id_text", "Three parts 70% rubbing alcohol to one part aloe vera gel, makes 70%")
    hand.press("Read it")
    hand.reads("52.5 % v/v", "#check-answer")
    hand.reads("not to the 70 % v/v isopropanol it claims", "#check-answer")
    hand.type("#id_strength_0", "85 %")
    hand.keys(Keys.TAB)
    hand.reads("63.75", "#check-answer")
    hand.reads("meets", "#check-answer")
    hand.press("Do that")
    hand.reads("said to be 63.7 % v/v", "#check-answer")
    hand.type("#keep-name", "Swing-bridge aloe")
    hand.press("Keep as formula")
    hand.reads("Swing-bridge aloe is in the book")


TALKED = (
    "hi so today it's the gel right you want six hundred and thirty grams of ethanol ninety six percent three hundred and "
    "forty grams of water six grams of xanthan and twenty four grams of glycerine. Stir the xanthan into the glycerine. "
    "Whisk that into the water and leave it for twenty minutes. Add the alcohol in ten additions. My sister never does. "
    "Then a bit of perfume, if you like. Leave it overnight. Oh, and the glycerine, make that thirty grams of glycerine."
)


@pytest.mark.long
def test_a_line_told_twice_is_asked_about_and_answered(hand) -> None:
    hand.begin()
    hand.open("/formulas/check/")
    hand.type("#id_text", "Surface spray: cold water 1 L, bleach 5 % 50 ml. Edit: bleach 25 ml.")
    hand.press("Read it")
    hand.reads("told twice", ".heard-dangers")
    hand.find("button[value='drop-chip-1']").click()
    hand.wait.until(lambda browser: not browser.find_elements("css selector", "button[value='both-chip-1']"))
    amounts = [one.get_attribute("value") for one in hand.browser.find_elements("css selector", ".chip-amount input")]
    assert amounts == ["1 L", "25 ml"]


@pytest.mark.walk
def test_a_spoken_recipe_is_asked_about_put_in_order_made_as_it_is_told_and_bottled(hand, at_most) -> None:
    hand.begin()
    hand.open("/formulas/check/")
    hand.type("#id_text", TALKED)
    hand.press("Read it")
    hand.reads("told twice", ".heard-dangers")
    hand.find("button[value='drop-chip-3']").click()  # twenty-four grams were put right
    hand.reads("Put 30 g glycerol in the cup", "#check-plan")
    hand.reads("Add 630 g ethanol in 10 additions", "#check-plan")
    assert "sister" not in hand.find("#check-plan .plan-cards").text
    hand.find("button[value='more-act-5']").click()
    hand.reads("in 11 additions", "#check-plan")
    hand.find("button[value='down-act-2']").click()
    hand.reads("3Pour the cup into the rest", "#check-plan")
    hand.wait.until(lambda browser: browser.switch_to.active_element.get_attribute("value") == "down-act-3")
    hand.find("button[value='up-act-3']").click()
    hand.reads("3Add 340 g water", "#check-plan")
    hand.find("#check-plan .plan-gap button").click()  # the quarantine that was not told
    hand.reads("Keep it closed and still for 72 hours", "#check-plan .plan-cards")
    hand.type("#keep-name", "Slipway gel")
    hand.press("Keep as formula")
    hand.reads("Slipway gel is in the book")
    hand.press("Start a batch")
    hand.press("Ready: begin making")
    hand.reads("1 of ")
    tasks = int(hand.find("main").text.split("1 of ")[1].split()[0])
    for place in range(1, tasks + 1):
        hand.reads(f"{place} of {tasks}")
        waits = "Begin the wait" in hand.find(".confirm button").text
        if "in 11 additions" in hand.find("main").text:
            hand.browser.find_element("xpath", "//summary[contains(., 'All of it is in')]").click()
        hand.press(hand.browser.find_elements("css selector", ".confirm .btn:not(.pour-link)")[-1].text.split("\n")[0])
        if waits and place < tasks:  # the swelling, and the night
            hand.reads("Ready on")
            Wait.objects.update(free_at=timezone.now() - timedelta(minutes=1))
            hand.open(hand.browser.current_url.removeprefix(hand.address))
            hand.press("Go on making")
    hand.reads("Ready on")
    hand.press("Fill the bottles now")
    hand.reads("to fill")
    hand.press("Filled, now the label")
    hand.reads("Slipway gel", ".label-figure")
    pours = Batch.objects.get().entries.filter(kind="pour")
    assert [one.line.material for one in pours] == ["glycerol", "xanthan-gum", "water", "ethanol"]
    at_most("a spoken recipe read, put right, made and labelled", hand, presses=21, fields=2)
