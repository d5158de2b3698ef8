"""The reckoner at the bench: by keyboard alone, and on a phone."""

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from browser.conftest import let_in
from conftest import PASSWORD, PATIENCE_S
from firkin.batches.models import Batch
from firkin.core.questions import QUESTIONS
from firkin.formulas.models import Formula
from quay import lantern_quay

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def signed_in(chromium, live_server, maker):
    let_in(chromium, live_server, maker)
    return chromium


def answered(browser, words: str) -> None:
    def said(_) -> bool:
        return words in browser.find_element(By.ID, "answer").get_attribute("textContent")

    WebDriverWait(browser, PATIENCE_S, ignored_exceptions=[Exception]).until(said, f"never answered: {words}")


@pytest.mark.long
@pytest.mark.parametrize("slug", list(QUESTIONS))
def test_every_field_of_a_question_is_reached_by_the_tab_key(signed_in, live_server, slug: str) -> None:
    signed_in.get(f"{live_server.url}/reckon/{slug}/")
    wanted = [field.get_attribute("name") for field in signed_in.find_elements(By.CSS_SELECTOR, "#question [name]")]
    signed_in.find_element(By.CSS_SELECTOR, "#question [name]").send_keys("")
    reached = []
    while len(reached) < len(wanted):
        active = signed_in.switch_to.active_element
        if active.tag_name != "summary":  # the word beside a field is reached on the way
            reached.append(active.get_attribute("name"))
        active.send_keys(Keys.TAB)
    assert reached == wanted


def test_a_question_is_answered_by_keyboard_and_stands_in_the_address(signed_in, live_server) -> None:
    signed_in.get(f"{live_server.url}/reckon/max-additive/")
    field = signed_in.find_element(By.ID, "id_stock")
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("91 %", Keys.TAB)
    answered(signed_in, "34 % additive")
    address = signed_in.current_url
    signed_in.get(f"{live_server.url}/guide/")
    signed_in.get(address)
    assert signed_in.find_element(By.ID, "id_stock").get_attribute("value") == "91 %"
    answered(signed_in, "34 % additive")


@pytest.mark.long
@pytest.mark.parametrize("slug", ["strength", "max-additive", "strengthen", "pack"])
def test_on_a_phone_the_answer_stays_in_view_while_typing(signed_in, live_server, slug: str) -> None:
    size = {"width": 390, "height": 844, "deviceScaleFactor": 1, "mobile": True}
    signed_in.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    signed_in.get(f"{live_server.url}/reckon/{slug}/")
    bar = signed_in.find_element(By.CSS_SELECTOR, ".answer-bar")
    signed_in.execute_script("window.scrollTo(0, 0)")
    box = signed_in.execute_script("return arguments[0].getBoundingClientRect()", bar)
    assert box["top"] >= 0
    assert box["bottom"] <= 844
    assert signed_in.execute_script("return document.documentElement.scrollWidth") <= 390


@pytest.mark.long
def test_no_page_is_wider_than_a_phone(chromium, live_server, transactional_db) -> None:
    from django.contrib.auth import get_user_model

    lantern_quay()
    keeper = get_user_model().objects.get(username="lantern-quay")
    keeper.set_password(PASSWORD)
    keeper.save()
    size = {"width": 390, "height": 844, "deviceScaleFactor": 1, "mobile": True}
    chromium.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    chromium.get(live_server.url)
    chromium.find_element(By.ID, "id_username").send_keys("lantern-quay", Keys.TAB, PASSWORD, Keys.ENTER)
    WebDriverWait(chromium, PATIENCE_S).until(lambda browser: browser.find_elements(By.CSS_SELECTOR, ".bench"))
    rub = Formula.objects.get(name="Landing rub").pk
    batches = {batch.number: batch.pk for batch in Batch.objects.all()}
    paths = [
        "/",
        "/formulas/",
        f"/formulas/{rub}/?kitchen=metric",
        f"/formulas/{rub}/edit/",
        "/batches/",
        "/shelf/",
        "/guide/",
    ]
    stages = ((6, "make"), (5, "wait"), (2, "fill"), (1, "label"), (1, "record"))
    paths += [f"/batches/{batches[number]}/{stage}/" for number, stage in stages]
    wide = {}
    for path in paths:
        chromium.get(live_server.url + path)
        width = chromium.execute_script("return document.documentElement.scrollWidth")
        if width > 390:
            wide[path] = width
    assert not wide
