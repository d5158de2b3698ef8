"""The path of a first batch, walked in a browser: from a labelled bottle to a bottled, labelled rub."""

import io
from datetime import timedelta

import pytest
from django.utils import timezone
from pypdf import PdfReader
from selenium.webdriver.common.keys import Keys

from firkin.batches.models import Batch, Wait

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.mark.long
def test_from_a_labelled_bottle_to_a_bottled_labelled_hand_rub(hand) -> None:
    hand.sign_in()

    # What is in the bottle, and what else goes in: the answer follows the typing.
    hand.open("/reckon/strength/")
    hand.type("#id_strength_0", "70 %")
    hand.type("#id_amount_0", "3 parts")
    hand.reads("52.5", "#answer")
    hand.reads("short", "#answer")
    hand.type("#id_strength_0", "191 %")
    hand.reads("a strength cannot be above 100 %", "#errors_0")
    hand.type("#id_strength_0", "190 proof")
    hand.type("#id_material_0", "ethanol")
    hand.type("#id_amount_0", "2 parts")
    hand.reads("63.33", "#answer .big-number")
    hand.reads("really 65.0", "#answer")
    hand.reads("meets", "#answer")
    assert "190%20proof" in hand.browser.current_url
    hand.find("#answer summary").click()
    hand.reads("Alcohol and water shrink together", "#answer .working")
    assert hand.find("#answer .rail polygon")
    assert hand.find("#answer .vessel .layer-alcohol")

    # Keep it, scale it, start a batch.
    hand.type("#keep-name", "Swing-bridge rub")
    hand.press("Keep as formula")
    hand.reads("Swing-bridge rub is in the book")
    hand.type("#id_make", "1.5 L")
    hand.reads("Start a batch of 1.5 L")
    hand.reads("1.027 L", ".amounts")
    hand.press("Start a batch")

    # Prepare.
    hand.reads("Clean and lay out")
    hand.press("Ready")

    # Make: the amount really measured is stored and counts at once.
    hand.reads("1 of 4")
    hand.type("#id_amount", "1050 mL")
    hand.press("Measured")
    hand.reads("2.2 % too much")
    hand.reads("63.8", ".make-answer")
    batch = Batch.objects.get()
    assert batch.entries.get(kind="pour").amount_value == 1050
    hand.press("The figure was wrong")
    hand.reads("1 of 4")
    hand.type("#id_amount", "1027 mL")
    hand.press("Measured")
    hand.reads("2 of 4")
    hand.press("Measured")
    hand.reads("3 of 4")
    hand.press("Done")
    hand.reads("4 of 4")
    hand.press("Begin the wait")

    # Wait: 72 hours, with the hour it is free.
    hand.reads("Ready on")
    wait = Wait.objects.get()
    assert wait.hours == 72
    free = timezone.localtime(wait.free_at, timezone.get_fixed_timezone(60))
    hand.reads(f"{free:%-d} {free:%B}")
    Wait.objects.update(free_at=timezone.now() - timedelta(hours=2))
    hand.open("/")
    hand.reads("Quarantine is over")
    hand.press("Mark it ready")

    # Fill and label.
    hand.reads("3 × Half-litre flask")
    hand.press("Filled")
    hand.reads("Undo")
    hand.reads("475 mL each")
    hand.press("Print the label")
    hand.reads("Ethanol 63.33 % v/v", ".label-figure")
    hand.reads("475 mL", ".label-figure")
    batch.refresh_from_db()
    assert batch.state == "filled"
    cookies = {cookie["name"]: cookie["value"] for cookie in hand.browser.get_cookies()}
    text = printed(hand, batch, cookies)
    for words in ("Swing-bridge rub", "Ethanol 63.33 % v/v", "475 mL", batch.code, "Danger", "Ready from"):
        assert words in text


def printed(hand, batch: Batch, cookies: dict[str, str]) -> str:
    """The text of the label's PDF, fetched as the browser would."""
    from urllib.request import Request, urlopen

    header = "; ".join(f"{name}={value}" for name, value in cookies.items())
    request = Request(f"{hand.address}/batches/{batch.pk}/label.pdf", headers={"Cookie": header})
    with urlopen(request) as answer:
        pages = PdfReader(io.BytesIO(answer.read())).pages
    return " ".join(" ".join(page.extract_text().split()) for page in pages)


def test_the_reckoner_works_without_script(hand) -> None:
    """Everything answers by pressing the button: the address alone brings the answer."""
    hand.sign_in()
    hand.browser.execute_cdp_cmd("Emulation.setScriptExecutionDisabled", {"value": True})
    hand.open("/reckon/strength/")
    hand.find("#id_strength_0").send_keys(Keys.CONTROL, "a")
    hand.find("#id_strength_0").send_keys("60 %")
    hand.press("Reckon")
    hand.browser.execute_cdp_cmd("Emulation.setScriptExecutionDisabled", {"value": False})
    hand.reads("40", "#answer .big-number")
    hand.reads("short", "#answer")
