"""The record as a file to keep: its figures are those of the page, whatever was written in it."""

import io
import re
from pathlib import Path

import pytest
from django.test import Client
from PIL import Image
from pypdf import PdfReader

from firkin.accounts.models import User
from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry, Photo, State
from firkin.batches.record import _after, _journal, _mind
from firkin.drawings.document import Grid, Paragraph
from kept import same_as_kept
from often import some
from quay import lantern_quay
from steps import said


@pytest.fixture
def quay(client: Client, db) -> Client:
    lantern_quay()
    client.force_login(User.objects.get())
    return client


def text_of(pdf: bytes) -> str:
    return " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages).split())


def figures_in(text: str) -> set[str]:
    """Every amount with its unit."""
    return set(re.findall(r"\d[\d.]* (?:mL|L|g|kg|% v/v|% w/v|EUR|°C)(?![a-z])", text))


def test_every_amount_on_the_page_is_in_the_file(quay: Client) -> None:
    compared = 0
    for batch in some(Batch.objects.order_by("pk"), 3):
        page = said(quay.get(f"/batches/{batch.pk}/record/"))
        page = re.sub(r"<(form|nav|header|svg).*?</\1>", " ", page)
        page = re.sub(r'<details class="arithmetic why">.*?</details>', " ", page)  # worked out from the rest
        shown = figures_in(re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", page)))
        filed = text_of(quay.get(f"/batches/{batch.pk}/record.pdf").content)
        missing = {figure for figure in shown if figure.replace(" ", "") not in filed.replace(" ", "")}
        assert not missing, (batch, missing)
        compared += len(shown)
    assert compared > 20


def test_every_entry_of_the_journal_is_in_the_file(quay: Client) -> None:
    for batch in some(Batch.objects.order_by("pk"), 3):
        filed = text_of(quay.get(f"/batches/{batch.pk}/record.pdf").content).replace(" ", "")
        for entry in batch.entries.all():
            for word in entry.text.split():
                assert word.replace("½", "") in filed or not word.isascii(), (entry, word)


def test_a_photo_is_in_the_file_and_one_that_is_damaged_is_said(quay: Client) -> None:
    batch, out = Batch.objects.get(number=1), io.BytesIO()
    Image.new("RGB", (60, 40), "red").save(out, "JPEG")
    Photo.objects.create(batch=batch, jpeg=out.getvalue(), caption="day one")
    Photo.objects.create(batch=batch, jpeg=out.getvalue()[:100], caption="day two")
    pdf = quay.get(f"/batches/{batch.pk}/record.pdf").content
    assert sum(len(page.images) for page in PdfReader(io.BytesIO(pdf)).pages) == 1
    assert "A photo that cannot be read." in text_of(pdf)
    assert "day two" in text_of(pdf)


def test_whatever_was_written_the_file_opens(quay: Client) -> None:
    batch = Batch.objects.get(number=1)
    for text in ("مرحبا 你好 🧼", "word " * 2000, "x" * 5000, "<b>&amp;", "**bold** __u__ --s--", ""):
        Entry.objects.create(batch=batch, kind="note", text=text)
    answer = quay.get(f"/batches/{batch.pk}/record.pdf")
    assert answer.status_code == 200
    assert PdfReader(io.BytesIO(answer.content)).pages


def test_what_stands_behind_the_amounts_is_as_kept(quay: Client) -> None:
    """Costs, what was filled, readings, cautions: of a rub, of what is cut with water, of what has no price for a line.

    Days are those of the demo, and masked.
    """
    sections = {}
    for batch in Batch.objects.whole().order_by("number"):
        making = Making(batch)
        parts = [*_after(making), *_mind(making)]
        words = [part.words for part in parts if isinstance(part, Paragraph)]
        words += [" | ".join(row) for part in parts if isinstance(part, Grid) for row in part.rows]
        sections[f"{batch.code} {batch.name}"] = re.sub(
            r"\d+ (?:Jan|Feb|Mar|Apr|May|Jun|Jul|Aug|Sep|Oct|Nov|Dec)( \d{4})?(, \d\d:\d\d)?|\d\d:\d\d",
            "#",
            "\n".join(words),
        )
    same_as_kept(Path(__file__).parent / "records.txt", sections)


def test_an_entry_that_was_undone_says_so_in_the_file(quay: Client) -> None:
    batch = Batch.objects.filter(state=State.MAKING).first()
    assert batch is not None
    assert "(undone)" not in text_of(quay.get(f"/batches/{batch.pk}/record.pdf").content)
    quay.post(f"/batches/{batch.pk}/make/undo/", {"entry": batch.progress().last.number})
    (journal,) = [part for part in _journal(batch) if isinstance(part, Grid)]
    undone = [row for row in journal.rows if any("(undone)" in cell for cell in row)]
    assert len(undone) == 1
