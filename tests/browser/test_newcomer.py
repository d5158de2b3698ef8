"""From an empty workshop to the first labelled batch: at most 12 presses and 4 fields."""

import pytest
from selenium.webdriver.common.by import By

from firkin.batches.models import Batch, Filling
from firkin.shelf.models import Stock, Vessel

pytestmark = pytest.mark.django_db(transaction=True)

MOST_PRESSES, MOST_FIELDS = 12, 4


class Newcomer:
    """A hand that counts what it does."""

    def __init__(self, hand) -> None:
        self.hand, self.presses, self.fields = hand, 0, 0

    def press(self, words: str, then: str) -> None:
        self.hand.press(words)
        self.presses += 1
        self.hand.reads(then)

    def type(self, css: str, words: str) -> None:
        self.hand.type(css, words)
        self.fields += 1


def test_the_first_labelled_batch_is_near(hand, workshop, maker) -> None:
    """From what the bottle's label says: on the shelf, what can be made of it, made, bottled, labelled."""
    Vessel.objects.all().delete()
    Stock.objects.all().delete()
    hand.begin()
    new = Newcomer(hand)
    hand.reads("What is in your bottle?")
    new.type("#id_line", "isopropyl 91 % 500 mL 6.99")
    new.press("Read it", "Is that right?")
    new.press("Put it on the shelf", "You also need aloe gel")
    new.press("Aloe rub at the 60 % line", "Start a batch of")
    new.press("Start a batch of", "Gather")
    new.press("Ready: begin making", "1 of")
    tasks = int(hand.find("main").text.split("1 of ")[1].split()[0])
    for place in range(2, tasks + 1):
        new.press(hand.find(".confirm button").text.split("\n")[0], f"{place} of {tasks}")
    new.press(hand.find(".confirm button").text.split("\n")[0], "Quarantine")
    new.press("Fill the bottles now", "to fill")
    new.type("#id_size", "500 mL")
    new.type("#id_bottles", "2")
    new.press("Put the bottles there", "Filled, now the")
    new.press("Filled, now the label", "Label size")
    batch = Batch.objects.get()
    assert Filling.objects.get().count >= 1
    assert batch.lines.get(material="isopropanol").stock == Stock.objects.get()
    assert hand.browser.find_elements(By.CSS_SELECTOR, ".label-figure svg")
    assert (new.presses <= MOST_PRESSES, new.fields <= MOST_FIELDS) == (True, True), (new.presses, new.fields)
