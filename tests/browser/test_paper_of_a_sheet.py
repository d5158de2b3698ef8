"""A sheet on paper and a step read aloud: what a maker takes to the wash-house."""

import base64
import io

import pytest
from pypdf import PdfReader

from firkin.core.formula import house_formulas
from often import often

from .test_bench import begin

#: A4 in inches, ISO 216.
A4 = {"paperWidth": 8.27, "paperHeight": 11.69, "preferCSSPageSize": True}
SHOWN = "return [...document.querySelectorAll('main .icon, main input, main button')].filter((one) => one.getClientRects().length).length"


@pytest.mark.parametrize("key", often(["who-one", "dish-gentle", "xanthan-gel"], "xanthan-gel"))
def test_a_sheet_is_one_page_with_no_icon_and_no_field(hand, key: str) -> None:
    """The longest of the house formulas too."""
    hand.begin()
    hand.open(f"/formulas/house/{key}/")
    driver = hand.browser
    printed = driver.execute_cdp_cmd("Page.printToPDF", A4)["data"]
    pages = PdfReader(io.BytesIO(base64.b64decode(printed))).pages
    assert len(pages) == 1
    text = pages[0].extract_text()
    assert "How it is made" in text
    assert "Mind" in text
    driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
    try:
        assert driver.execute_script(SHOWN) == 0
    finally:
        driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": ""})


@pytest.mark.long
def test_a_step_is_read_aloud_with_its_amount_and_unit(hand, maker, workshop) -> None:
    batch = begin(house_formulas()["who-one"].formula, workshop, maker, "1 L")
    hand.begin()
    hand.open(f"/batches/{batch.pk}/make/")
    hand.browser.execute_script("window.said = []; speechSynthesis.speak = (one) => window.said.push(one.text)")
    hand.press("Read it aloud")
    (said,) = hand.browser.execute_script("return window.said")
    assert "Measure the ethanol" in said
    assert "833.3 millilitres" in said
    hand.press("Read it aloud")
    assert hand.browser.execute_script("return window.said.length") == 2
