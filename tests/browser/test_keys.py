"""Keys that save a way, the words beside fields, and drawings as files: by keyboard alone, and silent while one types."""

import pytest
from selenium.webdriver.common.keys import Keys


def focused(hand) -> str:
    return hand.browser.switch_to.active_element.get_attribute("id")


def test_keys_lead_to_the_rooms_the_search_and_the_answer(hand) -> None:
    hand.begin()
    here = hand.browser.current_url
    hand.browser.execute_script("document.activeElement.blur()")
    hand.keys("n")
    assert "btn-primary" in hand.browser.switch_to.active_element.get_attribute("class")
    assert hand.browser.current_url == here, "jumped to, and not pressed"
    hand.open("/reckon/dilute/")
    hand.reads("297.4")
    hand.browser.execute_script("document.activeElement.blur()")
    hand.keys("?")
    hand.reads("Search", "#keys")
    assert hand.find("#keys").is_displayed()
    hand.keys("7")  # the list is open: no key leads away from it
    assert "/reckon/dilute/" in hand.browser.current_url
    hand.keys(Keys.ESCAPE)
    assert not hand.find("#keys").is_displayed()
    hand.browser.execute_script("document.activeElement.blur()")
    hand.keys("a")
    assert focused(hand) == "answer"
    hand.keys("7")
    hand.wait.until(lambda browser: browser.current_url.endswith("/shelf/"))
    hand.keys("/")
    hand.wait.until(lambda browser: browser.current_url.endswith("/search/"))


@pytest.mark.long
def test_what_is_typed_into_a_field_is_no_key(hand) -> None:
    hand.begin()
    hand.open("/reckon/dilute/")
    hand.type("#id_make", "7 L / a?")
    assert hand.find("#id_make").get_attribute("value") == "7 L / a?"
    assert "/reckon/dilute/" in hand.browser.current_url
    assert not hand.find("#keys").is_displayed()


def test_a_digit_that_missed_its_field_leads_nowhere_where_amounts_are_typed(hand) -> None:
    hand.begin()
    hand.open("/formulas/check/")
    hand.type("textarea", "2 cups of 91 % alcohol")
    hand.browser.execute_script("document.activeElement.blur()")
    hand.keys("29")
    assert hand.browser.current_url.endswith("/formulas/check/")
    assert hand.find("textarea").get_attribute("value") == "2 cups of 91 % alcohol"


@pytest.mark.long
def test_a_word_beside_its_field_opens_by_keyboard_and_leads_into_the_guide(hand) -> None:
    hand.begin()
    hand.open("/reckon/dilute/")
    word = hand.find(".beside summary")
    assert word.get_attribute("aria-label") == "What is meant by “Strength on the label”?"
    assert min(word.size.values()) >= 24
    word.send_keys(Keys.ENTER)
    hand.reads("How much of the active is in it", ".beside[open]")
    assert hand.find(".beside a").get_attribute("href").endswith("/guide/words/#strength")


@pytest.mark.long
def test_on_a_phone_no_word_of_a_drawing_is_smaller_than_12_px(hand) -> None:
    hand.begin()
    hand.browser.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride", {"width": 390, "height": 844, "deviceScaleFactor": 1, "mobile": True}
    )
    smallest = """
    return [...document.querySelectorAll("svg.drawing text")].filter((one) => one.getBoundingClientRect().width)
      .map((one) => [parseFloat(getComputedStyle(one).fontSize) * one.getScreenCTM().a, one.textContent])
    """
    try:
        for path in (
            "/reckon/dilute/",
            "/reckon/max-additive/",
            "/reckon/blend/",
            "/reckon/alcoholmeter/",
            "/guide/rules/",
        ):
            hand.open(path)
            words = hand.browser.execute_script(smallest)
            assert words, path
            assert min(words)[0] >= 12, (path, min(words))
    finally:
        hand.browser.execute_cdp_cmd("Emulation.clearDeviceMetricsOverride", {})


@pytest.mark.long
def test_a_live_answer_is_said_in_one_sentence_once_typing_pauses(hand, landing_rub) -> None:
    hand.begin()
    hand.open("/reckon/dilute/")
    assert hand.find("#answer").get_attribute("aria-live") is None, "its whole text is not read out"
    hand.type("#id_make", "2 L")
    hand.reads("594.7 mL of water", "#heard")
    assert len(hand.find("#heard").get_attribute("textContent")) < 200
    hand.open("/formulas/house/who-one/")
    hand.type("#id_make", "3 L")
    hand.reads("Comes to 3 L", "#heard")
    hand.open("/formulas/")
    hand.type("#id_q", "spray")
    hand.reads("“spray” is in none of yours", "#heard")
    hand.open(f"/formulas/{landing_rub.pk}/sure/")
    assert not hand.browser.find_elements("css selector", "main [aria-live]")
    hand.browser.execute_script(
        "const one = document.querySelector('.sure-tools select'); one.selectedIndex = 3;"
        "one.dispatchEvent(new Event('change', {bubbles: true}))"
    )
    hand.reads("%", "#heard")
