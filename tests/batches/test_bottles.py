"""Into bottles and out again; what labels say; sheets of them."""

import io
import re
import uuid

import pytest
from django.test import Client
from django.urls import reverse
from pypdf import PdfReader

from firkin.batches.models import Batch, Filling
from firkin.core.formula import house_formulas
from firkin.shelf.models import Vessel
from mixes import mix
from steps import begin, make_at_once, said

WEAK = mix(
    ("ethanol", "550 mL", "96 %"), ("water", "q.s."), make="1 L", family="liquid-rub", guidelines=("cdc-alcohol-60",)
)  # fmt: skip


@pytest.fixture
def flask(workshop) -> Vessel:
    return Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=500, count=6)


@pytest.fixture
def made(workshop, maker, flask) -> Batch:
    batch = begin(house_formulas()["who-one"].formula, workshop, maker, "1 L")
    make_at_once(batch, maker)
    return batch


def fill(bench: Client, batch: Batch, flask: Vessel, count: int = 2, **more: str):
    data = {"vessel": flask.pk, "count": count, "fill": "475", "key": uuid.uuid4(), **more}
    return bench.post(reverse("batches:fill", args=[batch.pk]), data, follow=True)


def test_a_filling_is_taken_back_and_stays_in_the_record(bench: Client, made: Batch, flask: Vessel) -> None:
    for _ in range(2):
        fill(bench, made, flask, 1)
    made.refresh_from_db()
    assert made.state == "filled"
    for filling in list(made.fillings.all()):
        bench.post(reverse("batches:unfill", args=[made.pk, filling.pk]))
    made.refresh_from_db()
    assert (made.state, made.fillings.count(), Filling.every.count()) == ("released", 0, 2)
    assert Filling.objects.full(made.workshop) == {}
    assert "Undone: 1 × Flask, 475 mL each." in said(bench.get(reverse("batches:record", args=[made.pk])))
    assert bench.post(reverse("batches:unfill", args=[made.pk, filling.pk])).status_code == 404
    fill(bench, made, flask)  # and in again
    assert made.fillings.count() == 1


@pytest.fixture
def weak(workshop, maker, flask) -> Batch:
    batch = begin(WEAK, workshop, maker, "1 L")
    make_at_once(batch, maker)
    return batch


def test_a_batch_below_its_line_asks_before_filling_and_says_so_on_its_label(bench: Client, weak: Batch, flask) -> None:
    """By hand: 550 mL of 96 % in a litre is 52.8 %."""
    page = said(fill(bench, weak, flask))
    assert "Tick this to fill it anyway" in page
    assert not weak.fillings.exists()
    fill(bench, weak, flask, anyway="on")
    assert weak.fillings.count() == 1
    assert "Filled all the same" in said(bench.get(reverse("batches:record", args=[weak.pk])))
    notice = "Does not meet “At least 60 % alcohol”: it holds 52.8 % v/v."
    for size in ("90x60", "60x40", "round-80"):
        label = bench.get(reverse("batches:label_svg", args=[weak.pk]), {"size": size}).content.decode()
        words = " ".join(re.findall(r"<text[^>]*>([^<]*)</text>", label))
        assert notice in words, size


def test_a_batch_that_meets_its_line_says_nothing_of_it(bench: Client, made: Batch) -> None:
    label = bench.get(reverse("batches:label_svg", args=[made.pk])).content.decode()
    assert "Does not meet" not in label


def test_ones_own_words_stand_on_the_label_and_the_cautions_stay(bench: Client, made: Batch) -> None:
    before = bench.get(reverse("batches:label_svg", args=[made.pk])).content.decode()
    data = {"words": "For the  wash-house", "opened": "on", "key": uuid.uuid4()}
    for _ in range(2):
        bench.post(reverse("batches:label", args=[made.pk]), data)
    assert made.entries.filter(kind="note").count() == 1
    after = bench.get(reverse("batches:label_svg", args=[made.pk])).content.decode()
    assert "For the wash-house" in after
    assert "Opened on" in after
    assert "children" in before
    assert "children" in after
    page = bench.get(reverse("batches:label", args=[made.pk]))
    assert page.context["words_form"]["words"].value() == "For the wash-house"


def test_a_laundry_soap_says_shake_and_how_much_a_load_takes(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["laundry-bottle"].formula, workshop, maker, "1.5 L")
    make_at_once(batch, maker)
    label = bench.get(reverse("batches:label_svg", args=[batch.pk]), {"size": "100x70"}).content.decode()
    assert "Shake before use." in label
    assert "108 to 120 mL a load." in label


def test_labels_of_several_batches_begin_where_the_sheet_is_still_full(
    bench: Client, made, workshop, maker, flask
) -> None:
    """8 labels of 90 x 60 mm on a sheet: from the seventh on, 3 of one batch and 2 of another take two pages."""
    other = begin(house_formulas()["who-two"].formula, workshop, maker, "1 L")
    make_at_once(other, maker)
    for batch in (made, other):
        fill(bench, batch, flask)
    there = reverse("batches:label_sheets")
    assert f"{made.code} {made.name}" in said(bench.get(there))
    asked = {"size": "90x60", "start": "7", f"count_{made.pk}": "3", f"count_{other.pk}": "2"}
    pages = PdfReader(io.BytesIO(bench.get(there, asked).content)).pages
    texts = [page.extract_text() for page in pages]
    assert [text.count("Batch") for text in texts] == [2, 3]
    assert [(made.code in text, other.code in text) for text in texts] == [(False, True), (True, False)]  # newest first


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"start": "9"}, "A sheet of these has 8 labels"),
        ({"start": "0"}, "greater than or equal to 1"),
        ({"size": "7x7"}, "valid choice"),
    ],
)
def test_a_sheet_that_cannot_be_is_said_at_its_field(bench: Client, made: Batch, flask, change, says: str) -> None:
    fill(bench, made, flask)
    asked = {"size": "90x60", "start": "1", f"count_{made.pk}": "2"} | change
    assert says in said(bench.get(reverse("batches:label_sheets"), asked))
    none = {"size": "90x60", "start": "1", f"count_{made.pk}": "0"}
    assert "at least one batch" in said(bench.get(reverse("batches:label_sheets"), none))


def test_what_is_filled_is_drawn_to_scale(bench: Client, made: Batch, flask: Vessel) -> None:
    page = bench.get(reverse("batches:fill", args=[made.pk]))
    assert page.context["to_fill_drawn"].count('class="wall"') == 3  # 2 full and one for the rest
    fill(bench, made, flask)
    page = bench.get(reverse("batches:fill", args=[made.pk]))
    assert page.context["filled_drawn"].count('class="wall"') == 2
