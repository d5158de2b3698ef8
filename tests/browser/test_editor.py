"""The editor in a browser: rows move without losing what is typed, and Enter never saves by accident."""

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from conftest import PASSWORD, PATIENCE_S, WHO_I
from firkin.core.formula import formula_from_dict
from firkin.formulas.models import Draft, Formula

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_line_is_moved_typed_into_and_saved_as_a_version(chromium, live_server, maker, workshop) -> None:
    kept = Formula.objects.keep(formula_from_dict(WHO_I), workshop, maker)
    wait = WebDriverWait(chromium, PATIENCE_S, ignored_exceptions=[Exception])
    chromium.get(live_server.url)
    chromium.find_element(By.ID, "id_username").send_keys("maker", Keys.TAB, PASSWORD, Keys.ENTER)
    wait.until(lambda browser: browser.find_elements(By.CSS_SELECTOR, ".bench"))
    chromium.get(f"{live_server.url}/formulas/{kept.pk}/edit/")

    def value(field: str) -> str:
        return chromium.find_element(By.ID, field).get_attribute("value")

    def says(words: str):
        return lambda browser: words in browser.find_element(By.ID, "editor-answer").get_attribute("textContent")

    note = chromium.find_element(By.ID, "id_note_2")
    note.send_keys("warm it first", Keys.ENTER)
    wait.until(lambda _: value("id_note_2") == "warm it first")
    assert Formula.objects.get().current.number == 1
    chromium.find_element(By.CSS_SELECTOR, "button[value='up-line-2']").click()
    wait.until(lambda _: value("id_material_1") == "Glycerol")
    assert value("id_note_1") == "warm it first"
    here = chromium.switch_to.active_element  # the focus goes with the row
    assert here.get_attribute("value") == "up-line-1"
    here.send_keys(Keys.ENTER)
    wait.until(lambda _: value("id_material_0") == "Glycerol")
    assert chromium.find_element(By.ID, "order-said").text == "Now line 1 of 4"
    here = chromium.switch_to.active_element
    assert here.get_attribute("value") == "up-line-0"
    chromium.find_element(By.CSS_SELECTOR, "button[value='down-line-0']").send_keys(Keys.ENTER)
    wait.until(lambda _: value("id_material_1") == "Glycerol")
    assert chromium.switch_to.active_element.get_attribute("value") == "down-line-1"
    amount = chromium.find_element(By.ID, "id_amount_0")
    amount.send_keys(Keys.CONTROL, "a")
    amount.send_keys("781.25 mL", Keys.TAB)
    wait.until(says("75 % v/v"))
    wait.until(says("meets"))
    chromium.find_element(By.CSS_SELECTOR, "button[value='save']").click()
    wait.until(lambda browser: "version 2" in browser.find_element(By.TAG_NAME, "main").text)
    assert [line.material for line in Formula.objects.get().current.lines.all()][:2] == ["ethanol", "glycerol"]


def test_a_recipe_that_was_only_typed_is_offered_again_and_gone_on_with(chromium, live_server, maker, workshop) -> None:
    """Nothing was pressed: the page keeps aside what is typed by itself."""
    wait = WebDriverWait(chromium, PATIENCE_S, ignored_exceptions=[Exception])
    chromium.get(live_server.url)
    chromium.find_element(By.ID, "id_username").send_keys("maker", Keys.TAB, PASSWORD, Keys.ENTER)
    wait.until(lambda browser: browser.find_elements(By.CSS_SELECTOR, ".bench"))
    chromium.get(f"{live_server.url}/formulas/check/")
    chromium.find_element(By.ID, "id_text").send_keys("99% isopropyl 751 ml, glycerin 14 ml")
    wait.until(lambda _: Draft.objects.filter(page="check").exists())
    chromium.get(f"{live_server.url}/shelf/")
    chromium.get(f"{live_server.url}/formulas/check/")
    assert "“99% isopropyl 751 ml, glycerin 14 ml”" in chromium.find_element(By.CSS_SELECTOR, ".left-here").text
    chromium.find_element(By.CSS_SELECTOR, "button[value='resume']").click()
    wait.until(lambda browser: browser.find_element(By.ID, "id_text").get_attribute("value").startswith("99% iso"))
    chromium.find_element(By.CSS_SELECTOR, "button[value='read']").click()
    wait.until(lambda browser: browser.find_elements(By.ID, "keep-name"))
    assert not chromium.find_elements(By.CSS_SELECTOR, ".left-here"), (
        "it is offered on the way in, and not beside the work"
    )
