"""Typing and pressing straight after, with answers that take half a second: presses win, and one submit is one version."""

from collections.abc import Iterator

import pytest
from selenium.webdriver.common.by import By

from conftest import WHO_I
from firkin.core.formula import formula_from_dict
from firkin.formulas.models import Formula

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def slow(chromium) -> Iterator[None]:
    """Answers take half a second more."""
    chromium.execute_cdp_cmd("Network.enable", {})
    network = {"offline": False, "latency": 500, "downloadThroughput": -1, "uploadThroughput": -1}
    chromium.execute_cdp_cmd("Network.emulateNetworkConditions", network)
    yield
    chromium.execute_cdp_cmd("Network.emulateNetworkConditions", network | {"latency": 0})


GEL = "3 parts 90 % isopropyl alcohol to 1 part aloe gel"


def check(hand, text: str, answer: str) -> None:
    """Has a recipe read, and waits for what it comes to."""
    hand.begin()
    hand.open("/formulas/check/")
    hand.type("#id_text", text)
    hand.find("button[value=read]").click()
    hand.reads(answer)


@pytest.mark.long
def test_typing_and_pressing_save_stores_one_version(hand, slow, workshop, maker) -> None:
    kept = Formula.objects.keep(formula_from_dict(WHO_I), workshop, maker)
    hand.begin()
    hand.open(f"/formulas/{kept.pk}/edit/")
    hand.type("#id_change", "more glycerol")
    hand.type("#id_amount_2", "20 mL")
    hand.find("button[value=save]").click()
    hand.reads("version 2")
    assert [version.number for version in Formula.objects.get().versions.all()] == [2, 1]
    assert Formula.objects.get().current.note == "more glycerol"


@pytest.mark.long
def test_another_line_straight_after_typing_is_not_lost(hand, slow, workshop, maker) -> None:
    kept = Formula.objects.keep(formula_from_dict(WHO_I), workshop, maker)
    hand.begin()
    hand.open(f"/formulas/{kept.pk}/edit/")
    for line in (4, 5, 6):
        hand.type("#id_amount_2", f"1{line} mL")
        hand.find("button[value=add-line]").click()
        hand.wait.until(lambda browser, line=line: browser.find_elements(By.ID, f"id_material_{line}"))
        assert hand.find("#id_amount_2").get_attribute("value") == f"1{line} mL"
        hand.type(f"#id_material_{line}", "Water")


@pytest.mark.long
def test_a_chip_added_straight_after_typing_is_not_lost_and_the_answer_is_of_all(hand, slow) -> None:
    check(hand, GEL, "67.5 %")
    hand.type("#id_amount_0", "4 parts")
    hand.find("button[value=add-chip]").click()
    hand.wait.until(lambda browser: browser.find_elements(By.ID, "id_material_2"))
    assert hand.find("#id_amount_0").get_attribute("value") == "4 parts"
    hand.find("button[value=drop-chip-2]").click()
    hand.reads("72 %")


@pytest.mark.long
def test_an_error_at_a_chip_goes_when_it_is_corrected(hand) -> None:
    check(hand, GEL, "67.5 %")
    hand.type("#id_amount_1", "1,500 mL\t")
    hand.reads("can be read as 1500", "#errors-1")
    hand.type("#id_amount_1", "1 part\t")
    hand.wait.until(lambda browser: not browser.find_element(By.ID, "errors-1").text)


def test_what_was_read_is_pressed_and_says_what_it_is(hand) -> None:
    check(hand, "2 cups 91 % isopropyl alcohol, a splash of aloe gel", "Not understood")
    hand.find(".heard-unread summary").click()
    hand.reads("How much that is, is not said", ".heard-text")
