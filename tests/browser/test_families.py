"""Each family in a browser, from the formula or the question to the label, every press a maker's, with slips.

Each batch gets one slip of each kind, at a task that a seed draws; the record, the label and the shelf are then held
against the journal told once more (tests/batches/retold.py).
"""

import random
import time
from collections.abc import Callable

import pytest
from django.db import OperationalError
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import Select

from batches.test_slips import told_by_the_rows
from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.bench import TaskKind, approach_of
from firkin.shelf.models import Stock, Vessel

pytestmark = pytest.mark.django_db(transaction=True)

#: What the slips are drawn by, another each month.
SEED = 1126
#: What stands on the shelf and belongs to another batch.
STRAY = "dye"
OTHER = "The other bottle"


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
        batch, before = self.batch, turn_of(self.batch)
        self.sends(css)
        assert turn_of(batch) != before

    def make(self, at: dict[str, Callable[["Family"], None]], slips: dict[int, list[str]]) -> None:
        """Every task in turn; ``at`` says what is done besides at a task, by what it does.

        ``slips`` says what goes wrong at a line, and is put right at once.
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
            elif slips.get(progress.position):
                getattr(self, slips[progress.position].pop(0))(task.line)
            else:
                line = None if task.line is None else progress.formula.lines[task.line].material.id
                at.get(line or task.do, lambda _: None)(self)
                self.confirm()

    def confirm(self) -> None:
        """The task at hand, as planned."""
        progress = Making(self.batch).progress
        if approach_of(progress, progress.task) is not None or progress.task.portions > 1:
            self.hand.find(".task details > summary").click()
            self.press(".task details .confirm button[type=submit]")
        else:
            self.press(".task .confirm button[type=submit]")

    def late(self, line: int) -> None:
        """The line is left out, noticed, and put in late."""
        hand, batch = self.hand, self.batch
        hand.find(".leave-out > summary").click()
        hand.type("#out_why", "forgot it")
        self.press(".leave-out button[type=submit]")
        hand.find(".left-out a").click()
        hand.reads("What really went in")
        self.sends("button[value=late]")
        assert line in Making(self.batch).progress.measured
        hand.open(f"/batches/{batch.pk}/make/")
        hand.reads("of ")

    def stray(self, _: int) -> None:
        """Something is written down that went into another jug, and is taken out again."""
        hand, batch = self.hand, self.batch
        lines = len(batch.formula().lines)
        hand.find(".besides > summary").click()
        hand.type(".besides input[name=material]", STRAY)
        hand.type(".besides input[name=amount]", "0.2 g")
        self.sends(".besides button[type=submit]")
        hand.open(f"/batches/{batch.pk}/really/")
        hand.find(f"#line-{lines} .line-slips details:last-of-type > summary").click()
        self.sends(f"#line-{lines} button[value=never]")
        assert lines not in Making(self.batch).progress.measured
        hand.open(f"/batches/{batch.pk}/make/")
        hand.reads("of ")

    def other_bottle(self, line: int) -> None:
        """After it was made: a line was from the other bottle."""
        hand, batch = self.hand, self.batch
        other = Stock.objects.get(name=OTHER)
        hand.open(f"/batches/{batch.pk}/really/")
        hand.find(f"#line-{line} .line-slips details > summary").click()
        Select(hand.find(f"#line-{line} select[name=stock]")).select_by_value(str(other.pk))
        self.sends(f"#line-{line} button[value=bottle]")
        assert Making(self.batch).lines[line].stock == other
        hand.open(f"/batches/{batch.pk}/")

    def twice(self, _: int | None) -> None:
        """The task is answered in two tabs: the second is told, and nothing goes in twice."""
        hand, batch = self.hand, self.batch
        browser, here = hand.browser, hand.browser.current_window_handle
        address = browser.current_url
        browser.switch_to.new_window("tab")
        second = browser.current_window_handle
        browser.get(address)
        hand.reads("of ")
        browser.switch_to.window(here)
        self.confirm()
        entries = batch.entries.count()
        browser.switch_to.window(second)
        hand.find(".task .confirm button[type=submit]").click()
        hand.reads("did this already at", "body")
        browser.close()
        browser.switch_to.window(here)
        assert batch.entries.count() == entries

    def sends(self, css: str) -> None:
        """Press a button and wait for the page that comes of it; nothing is asked of the tables meanwhile."""
        page = self.hand.find("html").id

        self.hand.find(css).click()
        self.hand.wait.until(lambda _: self.hand.find("html").id != page and self.hand.find("footer"))

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
        self.hand.reads("Undo")
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


def slips_of(batch: Batch, at: dict[str, Callable[[Family], None]], seed: int) -> dict[int, list[str]]:
    """One slip of each kind, by the place of the task it happens at: drawn from those where nothing else is looked at."""
    formula, tasks, draws = batch.formula(), Making(batch).progress.tasks, random.Random(seed)
    roles = frozenset({"neutraliser", "acid", "salt", "preservative"})
    pours = [
        place
        for place, task in enumerate(tasks)
        if task.kind is TaskKind.POUR
        and task.portions == 1
        and not roles & formula.lines[task.line].material.roles
        and formula.lines[task.line].material.id not in at
    ]
    late = draws.choice(pours)
    plain = [place for place, task in enumerate(tasks) if task.kind is TaskKind.DO and task.do not in at]
    drawn = {draws.choice([place for place in pours + plain if place != late]): ["twice"], late: ["late"]}
    drawn.setdefault(draws.choice(pours), []).insert(0, "stray")
    return drawn


def stocked(workshop, material: str) -> None:
    """Another bottle on the shelf, once the page that was just opened lets go of it."""
    for _ in range(20):
        try:
            Stock.objects.create(workshop=workshop, material=material, name=OTHER, amount_value=20, amount_unit="kg")
            return
        except OperationalError:  # the tests' database is in memory, where a reader locks a table
            time.sleep(0.2)
    raise AssertionError("the shelf stayed locked")


@pytest.mark.parametrize(
    ("start", "at", "label"),
    [
        pytest.param(
            "/reckon/ferment/?container=2+x+1+L+%2B+500+mL&container_is=plastic",
            {"rest": vents, "strain": strains},
            ["500 g citrus peel", "Dilute for use", "Began on"],
            id="ferment",
            marks=pytest.mark.long,
        ),
        pytest.param(
            "/reckon/powder/?jar=500+mL&powders_1_material=borax&powders_1_parts=2&powders_2_material=washing+soda"
            "&powders_2_parts=2&powders_3_material=citric+acid&powders_3_parts=1",
            {},
            ["Keep dry and closed", "Dishwasher powder"],
            id="powder",
            marks=pytest.mark.long,
        ),
        pytest.param(
            "/reckon/foam/?bottle=250+mL&parts_water=4", {}, ["Liquid castile soap"], id="foam", marks=pytest.mark.long
        ),
        pytest.param(
            "/formulas/house/bar-soap-liquid/?make=2+L&way=size",
            {"phenoxyethanol": preserves},
            ["Contents: bar soap", "Liquid soap"],
            id="bars",
            marks=pytest.mark.long,
        ),
        pytest.param(
            "/formulas/house/laundry-concentrate/?make=1+L&way=size",
            {},
            ["Shake before use", "108 to 120 mL a load", "about 3"],
            id="laundry",
            marks=pytest.mark.long,
        ),
        pytest.param(
            "/formulas/house/dish-gentle/?make=1+kg&way=size",
            {"labsa": lambda family: family.hand.reads("Acid against caustic")},
            ["Active matter 14.46 % w/w", "pH not checked. Wear gloves."],
            id="dish",
            marks=pytest.mark.long,
        ),
        pytest.param(
            "/formulas/house/chlorine-surfaces/?make=500+mL&way=size",
            {"sodium-hypochlorite": lambda family: family.hand.reads("1000 ppm")},
            ["0.1 %"],
            id="surface",
            marks=pytest.mark.long,
        ),
    ],
)
def test_a_family_from_formula_to_label(hand, workshop, start: str, at, label: list[str]) -> None:
    Vessel.objects.create(workshop=workshop, name="Foaming pump", kind="bottle", volume_mL=300, count=4, top="foaming")
    hand.begin()
    family = Family(hand)
    family.begin(start)
    bottled_from = random.Random(SEED).randrange(len(family.batch.lines.all()))
    material = family.batch.lines.get(position=bottled_from).material
    stocked(workshop, material)
    family.make(at, slips_of(family.batch, at, SEED))
    family.other_bottle(bottled_from)
    told_by_the_rows(family.batch)
    family.bottle()
    for words in label:
        assert words in family.label(), family.label()
