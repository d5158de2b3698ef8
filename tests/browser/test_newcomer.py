"""From an empty workshop to the first labelled batch: at most 15 presses and 5 fields."""

import pytest
from selenium.webdriver.common.by import By

from firkin.batches.models import Batch, Filling
from firkin.shelf.models import Vessel

pytestmark = pytest.mark.django_db(transaction=True)

MOST_PRESSES, MOST_FIELDS = 15, 5


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
    Vessel.objects.all().delete()
    hand.begin()
    new = Newcomer(hand)
    new.press("WHO formulation I", "Start a batch of")
    new.press("Start a batch of", "Gather")
    new.press("Ready: begin making", "1 of 6")
    for place in range(2, 7):
        new.press(hand.find(".confirm button").text.split("\n")[0], f"{place} of 6")
    new.press(hand.find(".confirm button").text.split("\n")[0], "Quarantine")
    new.press("Fill the bottles now", "to fill")
    new.press("Put a bottle there", "Volume to the brim")
    new.type("#id_size", "500 mL")
    new.type("#id_count", "2")
    new.press("Put it there", "to fill")
    new.press("Filled", "Take back")
    new.press("Print the label", "Label size")
    batch = Batch.objects.get()
    assert (batch.state, Filling.objects.get().count) == ("resting", 2)
    assert hand.browser.find_elements(By.CSS_SELECTOR, ".label-figure svg")
    assert (new.presses <= MOST_PRESSES, new.fields <= MOST_FIELDS) == (True, True), (new.presses, new.fields)
