"""Files by strangers: whose word they are, what they may cost, and files of earlier versions."""

import io
import json
import zipfile
from pathlib import Path

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from PIL import Image

from firkin.accounts.models import Membership, User, Workshop
from firkin.batches.models import Batch, Entry, Photo
from firkin.core.bench import EntryKind
from firkin.core.errors import CannotRead
from firkin.core.texts import unwritable
from firkin.exchange import archive, files, upgrades
from firkin.exchange.merging import merge
from firkin.formulas.models import Formula, FormulaVersion
from firkin.shelf.models import Stock
from firkin.site import demo
from often import often, some
from quay import lantern_quay

KEPT = Path(__file__).parent / "kept"
HALF = "half \ud83e"

pytestmark = pytest.mark.django_db


@pytest.fixture
def quay() -> Workshop:
    lantern_quay()
    return Workshop.objects.get()


def picture(kind: str = "JPEG", side: int = 40, **options: object) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (side, side), (120, 80, 30)).save(out, kind, **options)
    return out.getvalue()


def zipped(document: object, pictures: dict[str, bytes] | None = None) -> io.BytesIO:
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as parts:
        parts.writestr(files.DOCUMENT, document if isinstance(document, bytes) else json.dumps(document))
        for name, content in (pictures or {}).items():
            parts.writestr(name, content)
    stream.seek(0)
    return stream


def document_of(workshop: Workshop) -> dict[str, object]:
    return json.loads(json.dumps(archive.written(workshop).document))


# whose word it is


def test_what_is_brought_in_at_a_page_is_the_bringer_s_and_said_to_be_others(quay: Workshop) -> None:
    """The file names an account of this machine, one of nowhere, and the bringer: none of them wrote it here."""
    other = User.objects.create_user("stranger-to-it")
    bringer = User.objects.create_user("bringer")
    document = document_of(quay)
    names = ["stranger-to-it", "nobody-here", "bringer", None]
    for place, row in enumerate(document["tables"]["entries"]):
        row["by"] = names[place % len(names)]
    document["members"] = {"stranger-to-it": "keeper", "lantern-quay": "keeper"}
    upper = Workshop.objects.create(name="Upper quay")
    Membership.objects.create(user=bringer, workshop=upper)
    merge(archive.Archive(document), upper, bringer)
    brought = archive.read(archive.Archive(document), "Brought", bringer=bringer)
    for workshop in (upper, brought):
        told = Entry.objects.filter(batch__workshop=workshop).exclude(text__startswith="Brought in;")
        assert {entry.by for entry in told} == {bringer}
        assert [entry.said_by for entry in told.order_by("pk")][:4] == ["stranger-to-it", "nobody-here", "", ""]
        assert list(workshop.members.all()) == [bringer]
        assert {v.created_by for v in FormulaVersion.objects.filter(formula__workshop=workshop)} == {bringer}
    assert not other.workshops.exists()
    batch = Batch.objects.filter(workshop=upper).last()
    client = Client()
    client.force_login(bringer)
    record = client.get(reverse("batches:record", args=[batch.pk])).content.decode()
    assert "said to be by stranger-to-it" in record


@pytest.mark.long
def test_what_was_said_goes_out_and_in_again_as_said(quay: Workshop) -> None:
    document = document_of(quay)
    document["tables"]["entries"][0]["by"] = "nobody-here"
    once = archive.read(archive.Archive(document), "Once")
    assert document_of(once)["tables"] == document["tables"]
    twice = archive.read(archive.written(once), "Twice")
    assert document_of(twice)["tables"] == document["tables"]


@pytest.mark.parametrize("name", often(["lantern-quay", "no-such-account"], "no-such-account"))
def test_a_file_does_not_tell_which_accounts_there_are(quay: Workshop, name: str) -> None:
    bringer = User.objects.create_user("bringer")
    document = document_of(quay) | {"members": {name: "keeper"}}
    for row in document["tables"]["entries"]:
        row["by"] = name
    brought = archive.read(archive.Archive(document), "Brought", bringer=bringer)
    assert {entry.author for entry in Entry.objects.filter(batch__workshop=brought)} == {f"said to be by {name}"}
    assert list(brought.members.all()) == [bringer]


# text that cannot be written


def _spoiled(document: dict[str, object]) -> list[tuple[str, ...]]:
    """Every place of text in a workshop's document, once for each column."""
    places = {(f"{table}.{column}",): (table, column) for table, rows in document["tables"].items() for row in rows[:1] for column, value in row.items() if isinstance(value, str) and column not in ("jpeg",)}  # fmt: skip
    return sorted(places.values())


def test_half_a_character_in_any_text_is_refused_with_its_path_and_nothing_is_stored(quay: Workshop) -> None:
    whole = document_of(quay)
    places = _spoiled(whole)
    assert len(places) > 40
    for table, column in some(places, 12):
        document = json.loads(json.dumps(whole))
        document["tables"][table][0][column] = HALF
        with pytest.raises(CannotRead) as refused:
            archive.read(archive.Archive(document), "Broken")
        assert refused.value.path == ("tables", table, 0, column)
    for kind in ({"name": HALF}, {"deep": [1, {HALF: 2}]}):
        document = json.loads(json.dumps(whole))
        document["tables"]["batches"][0]["frozen"] = kind
        with pytest.raises(CannotRead):
            archive.read(archive.Archive(document), "Broken")
    assert Workshop.objects.count() == 1


@pytest.mark.parametrize("text", [HALF, "a\0b"], ids=["half", "nul"])
def test_no_row_with_such_a_text_is_stored_whoever_writes_it(quay: Workshop, text: str) -> None:
    from django.core.exceptions import ValidationError

    batch = Batch.objects.first()
    for row in (Stock.objects.first(), Formula.objects.first(), quay):
        row.name = text
        with pytest.raises(ValidationError):
            row.save()
    with pytest.raises(ValidationError):
        batch.write(EntryKind.NOTE, None, text=text)
    with pytest.raises(ValidationError):
        batch.write(EntryKind.NOTE, None, text="x", data={"deep": [text]})
    assert unwritable(document_of(Workshop.objects.get())) is None


def test_a_workshop_with_such_a_text_from_long_ago_goes_out_all_the_same(quay: Workshop, tmp_path: Path) -> None:
    Stock.objects.filter(pk=Stock.objects.first().pk).update(note="plain")
    whole = archive.written(quay)
    whole.document["tables"]["stocks"][0]["note"] = HALF
    files.to_file(whole, tmp_path / "out.zip")
    assert files.from_file(tmp_path / "out.zip").document["tables"]["stocks"][0]["note"] == "half ?"


@pytest.mark.parametrize("name", ["out.zip", "out"])
def test_an_export_that_fails_leaves_nothing_and_can_be_done_again(quay: Workshop, tmp_path: Path, name: str) -> None:
    class Lost(dict):
        def __getitem__(self, _name):
            raise OSError(28, "No space left on device")

    whole = archive.written(quay)
    lost = archive.Archive(whole.document, Lost({"photos/1.jpg": b""}))
    with pytest.raises(CannotRead, match="No space left"):
        files.to_file(lost, tmp_path / name)
    assert list(tmp_path.iterdir()) == []
    files.to_file(whole, tmp_path / name)
    assert [path.name for path in tmp_path.iterdir()] == [name]


# what it may cost


def test_limits_of_a_file_just_within_and_just_beyond(tmp_path: Path, monkeypatch) -> None:
    monkeypatch.setattr(files, "MOST_DOCUMENT", 1000)
    monkeypatch.setattr(files, "MOST_PHOTO", 500)
    monkeypatch.setattr(files, "MOST_PARTS", 3)
    file = tmp_path / "x.zip"
    for size, much in ((1000, False), (1001, True)):
        file.write_bytes(zipped(b'"' + b"x" * (size - 2) + b'"').read())
        if much:
            with pytest.raises(CannotRead, match="larger than"):
                files.from_file(file)
        else:
            assert len(files.from_file(file).document) == size - 2
    file.write_bytes(zipped({}, {"photos/1.jpg": b"x" * 500, "photos/2.jpg": b"x" * 501}).read())
    whole = files.from_file(file)
    assert len(whole.files["photos/1.jpg"]) == 500
    with pytest.raises(CannotRead, match="larger than"):
        whole.files["photos/2.jpg"]
    file.write_bytes(zipped({}, {f"photos/{i}.jpg": b"" for i in range(3)}).read())
    with pytest.raises(CannotRead, match="more than 3 files"):
        files.from_file(file)


@pytest.mark.parametrize("table", often(archive.TABLES, "batches", "photos"))
def test_a_table_holds_no_more_rows_than_a_bench_has(quay: Workshop, table: str, monkeypatch) -> None:
    document = document_of(quay)
    rows = len(document["tables"][table])
    monkeypatch.setitem(archive.MOST_ROWS, table, rows)
    archive.checked(archive.Archive(document, archive.written(quay).files))
    document["tables"][table] = [*document["tables"][table], {}]
    with pytest.raises(CannotRead, match="no bench has more") as refused:
        archive.checked(archive.Archive(document))
    assert refused.value.path == ("tables", table)


def test_what_is_no_picture_is_refused_at_its_place(quay: Workshop) -> None:
    document = document_of(quay)
    row = {"batch": 0, "at": "2026-11-01T10:00:00+00:00", "by": None, "jpeg": "photos/1.jpg", "caption": ""}
    document["tables"]["photos"] = [row]
    script, drawing = b"<html><script>alert(1)</script>", b"<svg xmlns='http://www.w3.org/2000/svg'/>"
    for content in (script, drawing, b"", b"\xff\xd8\xff"):
        with pytest.raises(CannotRead, match="no picture") as refused:
            archive.read(archive.Archive(document, {"photos/1.jpg": content}), "Again")
        assert refused.value.path == ("tables", "photos", 0, "jpeg")


def test_a_picture_comes_in_without_what_the_camera_wrote_into_it(quay: Workshop) -> None:
    document = document_of(quay)
    row = {"batch": 0, "at": "2026-11-01T10:00:00+00:00", "by": None, "caption": ""}
    exif = Image.Exif()
    exif[0x010F], exif[0x8825] = "Camera of a stranger", {1: "N", 2: (52.0, 30.0, 0.0)}
    pictures = {
        "photos/1.jpg": picture(exif=exif, comment=b"the house at the lock"),
        "photos/2.jpg": picture("PNG", 3000),
    }
    assert b"Camera of a stranger" in pictures["photos/1.jpg"]
    document["tables"]["photos"] = [row | {"jpeg": name} for name in pictures]
    brought = archive.read(archive.Archive(document, pictures), "Again")
    for photo in Photo.objects.filter(batch__workshop=brought):
        content = bytes(photo.jpeg)
        with Image.open(io.BytesIO(content)) as made:
            assert made.format == "JPEG"
            assert max(made.size) <= 1280
            assert not made.getexif()
            assert "comment" not in made.info
        assert b"stranger" not in content
        assert b"lock" not in content


# versions


def test_there_is_a_kept_archive_and_a_step_of_every_version() -> None:
    kept = sorted(int(path.stem.rpartition("-")[2]) for path in KEPT.glob("firkin-workshop-*.zip"))
    assert kept == list(range(1, upgrades.VERSION + 1))
    assert sorted(upgrades.STEPS) == list(range(1, upgrades.VERSION))


@pytest.mark.parametrize("version", often(range(1, upgrades.VERSION + 1), 1))
def test_an_archive_of_every_version_is_read_and_every_page_of_it_opens(version: int, tmp_path: Path, settings) -> None:
    """What was written then is there now; written again it is of today's version, and row by row the same."""
    keeper = User.objects.create_user("lock-keeper")
    whole = files.from_file(KEPT / f"firkin-workshop-{version}.zip")
    assert whole.document["format"] == f"firkin-workshop/{version}"
    workshop = archive.read(whole, "Kept quay", "lock-keeper")
    told = archive.written(workshop).document
    assert told["format"] == upgrades.FORMAT
    for name, rows in upgrades.upgraded(whole.document)["tables"].items():
        assert len(told["tables"][name]) == len(rows)
        for then, now in zip(rows, told["tables"][name], strict=True):
            assert {column: now[column] for column in then} == then
    for stock, taken in zip(Stock.objects.filter(workshop=workshop).order_by("pk"), out_of(whole), strict=True):
        assert stock.left_g == pytest.approx(max(0.0, stock.grams_of(stock.amount) - taken))
    client = Client()
    client.force_login(keeper)
    for batch in Batch.objects.filter(workshop=workshop):
        for stage in ("record", "label"):
            assert client.get(reverse(f"batches:{stage}", args=[batch.pk])).status_code == 200
    for formula in Formula.objects.filter(workshop=workshop):
        assert client.get(reverse("formulas:sheet", args=[formula.pk])).status_code == 200


def out_of(whole: archive.Archive) -> list[float]:
    """Grams taken out of each stock, as the tables of each version tell it."""
    tables = whole.document["tables"]
    uses = [(row["stock"], row["mass_g"]) for row in tables.get("stock_uses", ())]
    uses += [(row["stock"], -row["mass_g"]) for row in tables.get("movements", ()) if row["kind"] != "bought"]
    return [sum(grams for at, grams in uses if at == place) for place in range(len(tables["stocks"]))]


@pytest.mark.parametrize(
    "told", ["firkin-workshop/8", "firkin-workshop/0", "firkin-workshop/", "firkin-workshop/x", "firkin-formula/1", 2, None, "firkin-workshop/02", "firkin-workshop/٣"]
)  # fmt: skip
def test_only_a_version_that_is_known_is_read(told: object) -> None:
    with pytest.raises(CannotRead) as refused:
        upgrades.upgraded({"format": told})
    newer = told == f"firkin-workshop/{upgrades.VERSION + 1}"
    assert ("newer Firkin" in str(refused.value)) is newer
    assert refused.value.path == ("format",)


def test_a_file_that_was_taken_apart_is_refused_in_words(quay: Workshop, tmp_path: Path) -> None:
    """Cut short, its bytes changed, its parts locked or packed otherwise: a sentence, never a fault."""
    files.to_file(archive.written(quay), tmp_path / "whole.zip")
    whole = (tmp_path / "whole.zip").read_bytes()
    file, refused = tmp_path / "broken.zip", 0
    for step in range(0, len(whole), max(1, len(whole) // 60)):
        for broken in (whole[:step], whole[:step] + bytes([whole[step] ^ 0xFF]) + whole[step + 1 :]):
            file.write_bytes(broken)
            try:
                archive.read(files.from_file(file), f"Broken {step}")
            except CannotRead:
                refused += 1
    assert refused > 60


def test_a_file_sent_with_a_lone_half_is_a_sentence_on_the_page(
    client: Client, quay: Workshop, settings, tmp_path
) -> None:
    settings.DATA = tmp_path
    client.force_login(User.objects.get())
    document = document_of(quay)
    document["tables"]["stocks"][0]["name"] = HALF
    file = SimpleUploadedFile("x.zip", zipped(document).read())
    page = client.post("/exchange/", {"act": "look", "file": file}, follow=True)
    assert page.status_code == 200
    assert "tables.stocks.0.name" in page.content.decode()
    rub = json.dumps(demo._FORMULAS[0] | {"format": "firkin-formula/1", "name": HALF}).encode()
    page = client.post("/exchange/", {"act": "look", "file": SimpleUploadedFile("x.json", rub)}, follow=True)
    assert "cannot be written" in page.content.decode()
