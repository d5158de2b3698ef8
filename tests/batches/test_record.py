"""The record as a file to keep: its figures are those of the page, whatever was written in it."""

import io
import re

import pytest
from django.test import Client
from PIL import Image
from pypdf import PdfReader

from firkin.accounts.models import User
from firkin.batches.models import Batch, Entry, Photo
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
    for batch in Batch.objects.all():
        page = said(quay.get(f"/batches/{batch.pk}/record/"))
        page = re.sub(r"<(form|nav|header|svg).*?</\1>", " ", page)
        page = re.sub(r'<details class="arithmetic why">.*?</details>', " ", page)  # worked out from the rest
        shown = figures_in(re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", page)))
        filed = text_of(quay.get(f"/batches/{batch.pk}/record.pdf").content)
        missing = {figure for figure in shown if figure.replace(" ", "") not in filed.replace(" ", "")}
        assert not missing, (batch, missing)
        compared += len(shown)
    assert compared > 80


def test_every_entry_of_the_journal_is_in_the_file(quay: Client) -> None:
    for batch in Batch.objects.all():
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


@pytest.mark.parametrize("text", ["مرحبا 你好 🧼", "word " * 2000, "x" * 5000, "<b>&amp;", "**bold** __u__ --s--", ""])
def test_whatever_was_written_the_file_opens(quay: Client, text: str) -> None:
    batch = Batch.objects.get(number=1)
    Entry.objects.create(batch=batch, kind="note", text=text)
    answer = quay.get(f"/batches/{batch.pk}/record.pdf")
    assert answer.status_code == 200
    assert PdfReader(io.BytesIO(answer.content)).pages
