"""The page of taking out and bringing in, the tables, and a formula as a file."""

import csv
import io
import json
import os
import re
import time
import zipfile

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from firkin.accounts.models import User, Workshop
from firkin.batches.making import Making
from firkin.batches.models import Batch
from firkin.core.bench import readings_of
from firkin.exchange import archive
from firkin.exchange.tables import TABLES
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock
from firkin.site import demo
from quay import lantern_quay
from steps import said

HERE = "/exchange/"


@pytest.fixture
def quay(client: Client, db, settings, tmp_path) -> Client:
    settings.DATA = tmp_path
    lantern_quay()
    client.force_login(User.objects.get())
    return client


def table(client: Client, name: str) -> list[dict[str, str]]:
    text = client.get(f"{HERE}tables/{name}.csv").content.decode("utf-8-sig")
    return list(csv.DictReader(io.StringIO(text)))


def bring(client: Client, name: str, content: bytes):
    return client.post(HERE, {"act": "look", "file": SimpleUploadedFile(name, content)}, follow=True)


def test_what_is_left_in_each_bottle_stands_in_the_table_as_on_the_shelf(quay: Client) -> None:
    shelf = {row["what the label says"]: row for row in table(quay, "shelf")}
    assert len(shelf) == Stock.objects.count()
    for stock in Stock.objects.all():
        row = shelf[stock.name]
        assert float(row["left"]) == pytest.approx(stock.left_as_bought.value, rel=1e-5)
        assert row["unit"] == stock.amount.unit
        assert (row["strength from, %"] == "") is (stock.strength is None)
    assert shelf["Chandlery rubbing alcohol"]["strength from, %"] == "90"
    assert shelf["Chandlery rubbing alcohol"]["strength to, %"] == "91"


def test_the_lines_of_the_costs_add_up_to_the_cost_of_the_batch(quay: Client) -> None:
    """Each line is rounded to a cent, and so is the sum."""
    lines = table(quay, "costs")
    batches = [row for row in table(quay, "batches") if row["cost"]]
    assert len(batches) > 3
    for row in lines:
        if row["cost"]:
            assert float(row["price of a kg"]) * float(row["weight, g"]) / 1000 == pytest.approx(
                float(row["cost"]), abs=0.006
            )
    for batch in batches:
        own = [float(row["cost"]) for row in lines if row["batch"] == batch["batch"] and row["cost"]]
        assert sum(own) == pytest.approx(float(batch["cost"]), abs=0.005 * (len(own) + 1))


def test_every_reading_and_every_batch_has_its_row(quay: Client) -> None:
    rows = table(quay, "readings")
    there = [reading for batch in Batch.objects.all() for reading in readings_of(Making(batch).progress)]
    assert len(rows) == len(there) > 0
    assert sorted(float(row["value"]) for row in rows) == pytest.approx(sorted(one.value for one in there), rel=1e-5)
    assert [row["batch"] for row in table(quay, "batches")] == [one.code for one in Batch.objects.order_by("number")]


@pytest.mark.parametrize("name", ["=HYPERLINK(A1)", "+1", "-1+cmd|' /C calc'!A0", "@SUM(A1)", "\t=1", "\r=1"])
def test_no_cell_is_run_by_a_spreadsheet(quay: Client, name: str) -> None:
    Stock.objects.filter(name="Glycerol").update(name=name, note=name)
    for kind in TABLES:
        text = quay.get(f"{HERE}tables/{kind}.csv").content.decode("utf-8-sig")
        for row in csv.reader(io.StringIO(text, newline="")):
            for cell in row:
                is_number = re.fullmatch(r"-?\d+(\.\d+)?(e[-+]\d+)?", cell)
                assert is_number or not cell.startswith(("=", "+", "-", "@", "\t", "\r")), cell
    assert f"'{name}" in [row["what the label says"] for row in table(quay, "shelf")]


def test_the_whole_workshop_out_of_the_page_into_another_on_it(quay: Client) -> None:
    taken = b"".join(quay.get(f"{HERE}workshop.zip").streaming_content)
    assert "workshop.json" in zipfile.ZipFile(io.BytesIO(taken)).namelist()
    page = said(bring(quay, "quay.zip", taken))
    assert "All of it is here already; nothing comes in." in page
    page = said(quay.post(HERE, {"act": "bring", "way": "own", "name": "Lantern Quay"}, follow=True))
    assert "There is a workshop “Lantern Quay” here already" in page
    page = said(quay.post(HERE, {"act": "bring", "way": "own", "name": "Upper quay"}, follow=True))
    assert "The workshop Upper quay is here" in page
    upper = Workshop.objects.get(name="Upper quay")
    assert archive.written(upper).document["tables"] == archive.written(Workshop.objects.first()).document["tables"]
    assert "Upper quay" in said(quay.get("/"))


@pytest.mark.long
def test_a_file_brought_into_a_workshop_adds_what_is_new_and_is_gone_from_the_machine(quay: Client, tmp_path) -> None:
    taken = b"".join(quay.get(f"{HERE}workshop.zip").streaming_content)
    Stock.objects.filter(name="Glycerol").delete()
    Formula.objects.filter(name="Lock-side rub").update(name="Lock-side rub, old")
    page = said(bring(quay, "quay.zip", taken))
    assert "Stocks: 1 would come in, 14 here already." in page
    assert "Batches: 0 would come in, 12 here already." in page
    assert not Stock.objects.filter(name="Glycerol").exists()
    assert [path.name for path in (tmp_path / "incoming").rglob("*.zip")] == ["quay.zip"]
    assert next((tmp_path / "incoming").iterdir()).stat().st_mode & 0o777 == 0o700
    assert next((tmp_path / "incoming").rglob("*.zip")).stat().st_mode & 0o777 == 0o600
    assert "Stocks: 1 came in, 14 were here already." in said(
        quay.post(HERE, {"act": "bring", "way": "into"}, follow=True)
    )
    assert Stock.objects.get(name="Glycerol").price is not None
    assert Formula.objects.filter(name="Lock-side rub").exists()
    assert not list((tmp_path / "incoming").rglob("*.*"))


def test_what_was_looked_at_can_be_left_and_one_maker_s_file_is_not_another_s(quay: Client, tmp_path) -> None:
    document = json.dumps(demo._FORMULAS[0] | {"format": "firkin-formula/1", "name": "New rub"}).encode()
    assert "It would add: the formula “New rub”" in said(bring(quay, "rub.json", document))
    other = Client()
    stranger = User.objects.create_user("stranger")
    Workshop.objects.create(name="Other quay").membership_set.create(user=stranger)
    other.force_login(stranger)
    assert "New rub" not in said(other.get(HERE))
    other.post(HERE, {"act": "bring", "way": "into"})
    assert "It would add" in said(quay.get(HERE))
    quay.post(HERE, {"act": "forget"})
    assert "It would add" not in said(quay.get(HERE))
    quay.post(HERE, {"act": "bring", "way": "into"})
    assert not Formula.objects.filter(name="New rub").exists()


def test_a_file_that_lay_for_a_day_is_gone(quay: Client, tmp_path) -> None:
    document = json.dumps(demo._FORMULAS[0] | {"format": "firkin-formula/1", "name": "New rub"}).encode()
    bring(quay, "rub.json", document)
    (laid,) = (tmp_path / "incoming").rglob("*.json")
    for age_h, there in ((23, True), (25, False)):
        os.utime(laid, (time.time() - age_h * 3600,) * 2)
        assert ("It would add" in said(quay.get(HERE))) is there
    assert not laid.exists()


@pytest.mark.parametrize(
    ("name", "content", "says"),
    [
        ("quay.zip", b"PK no zip", "no firkin-workshop"),
        ("quay.zip", b"", "That file is empty"),
        ("rub.json", b"{", "no JSON"),
        ("rub.json", b"[]", "expected firkin-formula/1"),
        ("rub.json", b'{"format": "firkin-formula/9"}', "written by a newer Firkin"),
        ("photo.jpg", b"\xff\xd8", "neither a .zip nor a .json"),
    ],
)
def test_what_is_no_file_of_firkin_is_refused_with_what_is_wrong(quay: Client, name, content, says: str) -> None:
    before = archive.written(Workshop.objects.get()).document
    page = said(bring(quay, name, content))
    assert says in page
    assert "See what it would add" in page
    assert archive.written(Workshop.objects.get()).document == before


def test_a_formula_is_taken_out_and_brought_in_again(quay: Client) -> None:
    kept = Formula.objects.get(name="Landing rub")
    document = quay.get(f"/formulas/{kept.pk}/formula.json").content
    assert "is there already, just so" in said(bring(quay, "rub.json", document))
    changed = json.loads(document) | {"make": "3 L"}
    bring(quay, "rub.json", json.dumps(changed).encode())
    assert "beside one of that name that differs" in said(quay.post(HERE, {"act": "bring", "way": "into"}, follow=True))
    assert Formula.objects.filter(name="Landing rub").count() == 2


def test_a_formula_as_text_says_the_figures_of_its_sheet(quay: Client) -> None:
    for kept in Formula.objects.all():
        text = quay.get(f"/formulas/{kept.pk}/formula.md?make=1700 mL").content.decode()
        sheet = re.sub(r"<[^>]+>", " ", said(quay.get(f"/formulas/{kept.pk}/?make=1700 mL")))
        sheet = " ".join(sheet.split())
        rows = [line.split("|")[2:4] for line in text.splitlines() if re.match(r"\| \d+\. ", line)]
        assert len(rows) == len(kept.current.as_core().lines)
        for cells in rows:
            for cell in cells:
                assert cell.strip() in sheet, (kept.name, cell)
        for line in text.splitlines():
            if line.startswith("- **meets**") or line.startswith("- **falls short**"):
                assert line.split(": ")[1].split(" (")[0].strip() in sheet


def test_a_name_with_marks_in_it_breaks_no_table_of_the_text(quay: Client) -> None:
    kept = Formula.objects.get(name="Landing rub")
    kept.name = "a | b <script> *c*"
    kept.save()
    text = quay.get(f"/formulas/{kept.pk}/formula.md").content.decode()
    assert text.splitlines()[0] == r"# a \| b \<script\> \*c\*"


def test_no_table_of_another_name(quay: Client) -> None:
    assert quay.get(f"{HERE}tables/users.csv").status_code == 404
