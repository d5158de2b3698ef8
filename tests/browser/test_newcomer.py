"""From an empty workshop to the first labelled batch: at most 12 presses and 4 fields."""

import pytest
from selenium.webdriver.common.by import By

from firkin.batches.models import Batch, Filling
from firkin.shelf.models import Stock, Vessel

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.mark.long
@pytest.mark.walk
def test_the_first_labelled_batch_is_near(hand, workshop, maker, at_most) -> None:
    """From what the bottle's label says: on the shelf, what can be made of it, made, bottled, labelled."""
    Vessel.objects.all().delete()
    Stock.objects.all().delete()
    hand.begin()

    def press(words: str, then: str) -> None:
        hand.press(words)
        hand.reads(then)

    hand.reads("What is in your bottle?")
    hand.type("#id_line", "isopropyl 91 % 500 mL 6.99")
    press("Read it", "Is that right?")
    press("Put it on the shelf", "You also need aloe gel")
    press("Aloe rub at the 60 % line", "Start a batch of")
    press("Start a batch of", "Gather")
    press("Ready: begin making", "1 of")
    tasks = int(hand.find("main").text.split("1 of ")[1].split()[0])
    for place in range(2, tasks + 1):
        press(hand.find(".confirm button").text.split("\n")[0], f"{place} of {tasks}")
    press(hand.find(".confirm button").text.split("\n")[0], "Quarantine")
    press("Fill the bottles now", "to fill")
    hand.type("#id_size", "500 mL")
    hand.type("#id_bottles", "2")
    press("Put the bottles there", "Filled, now the")
    press("Filled, now the label", "Label size")
    batch = Batch.objects.get()
    assert Filling.objects.get().count >= 1
    assert batch.lines.get(material="isopropanol").stock == Stock.objects.get()
    assert hand.browser.find_elements(By.CSS_SELECTOR, ".label-figure svg")
    at_most("from an empty workshop to the first labelled batch", hand, presses=12, fields=4)
