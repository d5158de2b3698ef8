"""Each family in a browser, from the formula or the question to the label, every press a maker's."""

from collections.abc import Callable

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import Select, WebDriverWait

from batches.test_slips import told_by_the_rows
from conftest import PATIENCE_S
from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.bench import TaskKind, approach_of
from firkin.shelf.models import Vessel

pytestmark = pytest.mark.django_db(transaction=True)


def turn_of(batch: Batch) -> tuple[str, int | None]:
    """Where a batch stands: its state and the turn of its task."""
    batch = Batch.objects.get(pk=batch.pk)
    return batch.state, Making(batch).progress.turn


class Family:
    """A maker at a family's batch."""

    def __init__(self, hand) -> None:
        self.hand = hand

    @property
    def batch(self) -> Batch:
        return Batch.objects.get()

    def begin(self, start: str) -> None:
        """From a sheet, or from a question that is kept as a formula, to the first task."""
        self.hand.open(start)
        if start.startswith("/reckon/"):
            self.hand.type("#keep-name", "Quay’s own")
            self.hand.press("Keep as formula")
        self.hand.reads("Start a batch of")
        self.hand.press("Start a batch of")
        self.hand.reads("Clean and lay out")
        self.hand.press("Ready: begin making")
        self.hand.reads("1 of ")

    def press(self, css: str) -> None:
        """Press something of the task, and wait until it is stored and the page shows what follows."""
        batch, before, page = self.batch, turn_of(self.batch), self.hand.find("html").id
        self.hand.find(css).click()
        waits = WebDriverWait(self.hand.browser, PATIENCE_S, ignored_exceptions=[Exception])
        waits.until(lambda _: turn_of(batch) != before and self.hand.find("html").id != page)

    def make(self, at: dict[str, Callable[["Family"], None]], slip: int | None = None) -> None:
        """Every task in turn as planned; ``at`` says what is done besides at a task, by what it does.

        The line ``slip`` is forgotten, and put in at the next task.
        """
        for _ in range(60):
            batch = self.batch
            progress = Making(batch).progress
            task = progress.task
            if batch.state == State.RESTING and progress.unfinished:
                at.get("rest", lambda _: None)(self)
                self.release()
            elif task is None or batch.state != State.MAKING:
                return
            else:
                line = None if task.line is None else progress.formula.lines[task.line].material.id
                if (
                    slip is not None
                    and task.line == slip
                    and slip not in progress.left_out
                    and slip not in progress.measured
                ):
                    self.slip(slip)
                    continue
                at.get(line or task.do, lambda _: None)(self)
                if approach_of(progress, task) is not None or task.portions > 1:
                    self.hand.find(".task details > summary").click()
                    self.press(".task details .confirm button[type=submit]")
                else:
                    self.press(".task .confirm button[type=submit]")

    def slip(self, line: int) -> None:
        """A line is left out, noticed, and put in late."""
        hand, batch = self.hand, self.batch
        hand.find(".leave-out > summary").click()
        hand.type("#out_why", "forgot it")
        self.press(".leave-out button[type=submit]")
        hand.find(".left-out a").click()
        hand.reads("What really went in")
        hand.find("button[value=late]").click()
        waits = WebDriverWait(hand.browser, PATIENCE_S, ignored_exceptions=[Exception])
        waits.until(lambda _: line in Making(Batch.objects.get(pk=batch.pk)).progress.measured)
        hand.reads("is in now")
        hand.open(f"/batches/{batch.pk}/make/")

    def release(self) -> None:
        self.hand.find(".early > summary").click()
        self.hand.type("#id_reason", "for the test")
        self.press(".early button")

    def read(self, what: str, value: str, says: str) -> None:
        """Read something inside a step."""
        self.hand.type(f"#{what}_value", value)
        self.hand.browser.find_element(By.XPATH, f"//form[.//*[@id='{what}_value']]//button").click()
        self.hand.reads(says)

    def bottle(self) -> None:
        """Into bottles, and to the label."""
        if self.batch.state == State.RESTING:
            self.release()
        self.hand.reads("to fill")
        self.hand.press("Filled")
        self.hand.reads("Take back")
        self.hand.press("Print the label")
        self.hand.reads("Label size")

    def label(self) -> str:
        return " ".join(self.hand.find(".label-figure").get_attribute("textContent").split())


def vents(family: Family) -> None:
    """A look and a pH are written down as it is vented."""
    hand = family.hand
    hand.reads("Its pH was never read")
    Select(hand.find("#log_gas")).select_by_visible_text("strong")
    Select(hand.find("#log_mould")).select_by_visible_text("none")
    hand.type("#log_ph", "3.8")
    hand.press("Write it down")
    hand.reads("for 0 days: read it again")


def strains(family: Family) -> None:
    family.read("volume", "1.45 L", "1450 mL of liquid came of it")


def preserves(family: Family) -> None:
    """The batch is weighed and its warmth read, and the dose follows."""
    family.hand.reads("The batch was not weighed")
    family.read("mass", "1900", "For the 1900 g it weighs now")
    family.read("temperature", "52", "too warm")
    family.read("temperature", "31", "31 °C")


def forgotten(batch: Batch, at: dict[str, Callable[[Family], None]]) -> int | None:
    """The line that is forgotten: the last that is measured at once, and at which nothing else is looked at."""
    formula, tasks = batch.formula(), Making(batch).progress.tasks
    lines = [task.line for task in tasks if task.kind is TaskKind.POUR and task.portions == 1 and task.line]
    roles = frozenset({"neutraliser", "acid", "salt", "preservative"})
    plain = [i for i in lines if not roles & formula.lines[i].material.roles and formula.lines[i].material.id not in at]
    return plain[-1] if plain else None


@pytest.mark.parametrize(
    ("start", "at", "label"),
    [
        pytest.param(
            "/reckon/ferment/?container=2+x+1+L+%2B+500+mL&container_is=plastic",
            {"rest": vents, "strain": strains},
            ["500 g citrus peel", "Dilute for use", "Began on"],
            id="ferment",
        ),
        pytest.param(
            "/reckon/powder/?jar=500+mL&powders_1_material=borax&powders_1_parts=2&powders_2_material=washing+soda"
            "&powders_2_parts=2&powders_3_material=citric+acid&powders_3_parts=1",
            {},
            ["Keep dry and closed", "Dishwasher powder"],
            id="powder",
        ),
        pytest.param("/reckon/foam/?bottle=250+mL&parts_water=4", {}, ["Liquid castile soap"], id="foam"),
        pytest.param(
            "/formulas/house/bar-soap-liquid/?make=2+L&way=size",
            {"phenoxyethanol": preserves},
            ["Contents: bar soap", "Liquid soap"],
            id="bars",
        ),
        pytest.param(
            "/formulas/house/laundry-concentrate/?make=1+L&way=size",
            {},
            ["Shake before use", "108 to 120 mL a load", "about 3"],
            id="laundry",
        ),
        pytest.param(
            "/formulas/house/dish-gentle/?make=1+kg&way=size",
            {"labsa": lambda family: family.hand.reads("Acid against caustic")},
            ["Active matter 14.46 % w/w", "pH not checked. Wear gloves."],
            id="dish",
        ),
        pytest.param(
            "/formulas/house/chlorine-surfaces/?make=500+mL&way=size",
            {"sodium-hypochlorite": lambda family: family.hand.reads("1000 ppm")},
            ["0.1 %"],
            id="surface",
        ),
    ],
)
def test_a_family_from_formula_to_label(hand, workshop, start: str, at, label: list[str]) -> None:
    Vessel.objects.create(workshop=workshop, name="Foaming pump", kind="bottle", volume_mL=300, count=4, top="foaming")
    hand.begin()
    family = Family(hand)
    family.begin(start)
    family.make(at, forgotten(family.batch, at))
    told_by_the_rows(family.batch)
    family.bottle()
    for words in label:
        assert words in family.label(), family.label()
