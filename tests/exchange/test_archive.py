"""A whole workshop out and in again: every row, or nothing and the path of what is wrong."""

import argparse
import copy
import io
import json
import re
import zipfile
from datetime import timedelta
from pathlib import Path

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from PIL import Image

from firkin.accounts.models import User, Workshop
from firkin.batches.models import Batch, CalendarFeed, Photo
from firkin.core.errors import CannotRead
from firkin.exchange import archive, files
from firkin.exchange.one_batch import of_batch
from firkin.exchange.transfer import run
from firkin.formulas.models import Formula
from firkin.shelf.models import LabelPhoto, Stock
from often import often, some
from quay import lantern_quay

pytestmark = pytest.mark.django_db


def picture(kind: str = "JPEG", **options: object) -> bytes:
    """A small picture, the bytes of its file."""
    out = io.BytesIO()
    Image.new("RGB", (40, 30), (120, 80, 30)).save(out, kind, **options)
    return out.getvalue()


@pytest.fixture
def quay() -> Workshop:
    """Lantern Quay with a picture, own measures and a filling that was taken back."""
    lantern_quay()
    workshop = Workshop.objects.get()
    workshop.own_sizes, workshop.decimal_mark = {"capful": 15.0}, ","
    workshop.save()
    batch = Batch.objects.get(number=1)
    Photo.objects.create(batch=batch, jpeg=picture(), caption="day one", by=User.objects.get())
    LabelPhoto.objects.create(stock=Stock.objects.first(), jpeg=picture())
    batch.take_back(batch.fillings.get(), User.objects.get())
    Formula.objects.filter(name="Landing rub").update(created_at=timezone.now() - timedelta(days=400))
    return workshop


def go(*arguments: str, capsys) -> tuple[int, str, str]:
    """Run export or import as the start-up script does."""
    command, file, *rest = arguments
    options = {
        "command": command,
        "file": Path(file),
        "workshop": "",
        "formula": "",
        "batch": "",
        "check": False,
        "name": "",
        "into": "",
        "account": "",
    }
    for one in rest:
        name, _, value = one.partition("=")
        options[{"as": "name"}.get(name, name)] = value or True
    status = run(argparse.Namespace(**options))
    said = capsys.readouterr()
    return status, said.out, said.err


@pytest.mark.parametrize("name", often(["all.zip", "all"], "all.zip"))
def test_out_and_in_is_the_same_workshop_row_by_row(quay: Workshop, tmp_path: Path, capsys, name: str) -> None:
    before = archive.written(quay)
    assert all(before.counts[table] for table in set(archive.TABLES) - {"materials"}), before.counts
    status, out, error = go("export", str(tmp_path / name), capsys=capsys)
    assert (status, error) == (0, "")
    assert "12 batches" in out
    status, out, error = go("import", str(tmp_path / name), "as=Lantern Quay again", capsys=capsys)
    assert (status, error) == (0, "")
    again = Workshop.objects.get(name="Lantern Quay again")
    after = archive.written(again)
    assert after.document["tables"] == before.document["tables"]
    assert after.document["workshop"] == before.document["workshop"] | {"name": "Lantern Quay again"}
    assert (list(after.files), after.document["members"]) == (list(before.files), before.document["members"])
    assert [Image.open(io.BytesIO(one)).size for one in after.files.values()] == [(40, 30)] * 2
    assert archive.written(quay).document == before.document  # and nothing of the first has changed


@pytest.mark.parametrize(("listed", "role"), [({"mate": "onlooker"}, "onlooker"), (["mate"], "keeper")])
def test_members_come_in_as_what_they_were_and_who_brings_it_in_keeps_it(quay, listed, role: str) -> None:
    for name in ("mate", "bringer"):
        User.objects.create_user(name)
    whole = archive.written(quay)
    whole.document |= {"members": listed, "format": "firkin-workshop/1" if isinstance(listed, list) else archive.FORMAT}
    roles = archive.read(whole, "Again", "bringer").membership_set.values_list("user__username", "role")
    assert dict(roles) == {"mate": role, "bringer": "keeper"}


@pytest.mark.long
def test_what_came_in_is_worked_with_as_before(quay: Workshop, tmp_path: Path, capsys, client: Client) -> None:
    User.objects.create_user("lock-keeper")
    go("export", str(tmp_path / "all.zip"), capsys=capsys)
    go("import", str(tmp_path / "all.zip"), "as=Second quay", "account=lock-keeper", capsys=capsys)
    client.force_login(User.objects.get(username="lock-keeper"))
    for batch in Batch.objects.filter(workshop__name="Second quay"):
        for stage in ("record", "check", "label"):
            assert client.get(reverse(f"batches:{stage}", args=[batch.pk])).status_code == 200
    assert client.get("/").status_code == 200
    mine = Batch.objects.filter(workshop__name="Second quay").values_list("number", "name")
    assert list(mine) == list(Batch.objects.filter(workshop=quay).values_list("number", "name"))


def test_secrets_stay_behind(quay: Workshop) -> None:
    feed = CalendarFeed.objects.create(workshop=quay)
    text = json.dumps(archive.written(quay).document)
    assert feed.token not in text
    assert "password" not in text


def test_every_table_that_belongs_to_a_workshop_is_in_it() -> None:
    """A new model must be written too, or said here to stay behind."""
    from django.apps import apps

    stays = {"User", "Membership", "Invitation", "Press", "CalendarFeed", "Workshop", "PasswordReset", "AuditLine"}
    stays |= {"Plan", "Started", "Bagged", "Card"}  # plans are worked out anew; what a person practised is theirs
    stays |= {"Draft"}  # what somebody typed and saved nowhere yet
    stays |= {"Example"}  # says whose example a workshop is, here
    ours = {model for model in apps.get_models() if model.__module__.startswith("firkin.")}
    assert {model.__name__ for model in ours} - stays == {model.__name__ for model, _ in archive.TABLES.values()}


def test_a_check_adds_nothing_and_a_name_that_is_taken_is_refused(quay: Workshop, tmp_path: Path, capsys) -> None:
    go("export", str(tmp_path / "all.zip"), capsys=capsys)
    status, out, _ = go("import", str(tmp_path / "all.zip"), "as=Again", "check", capsys=capsys)
    assert (status, out.startswith("It would add"), Workshop.objects.count()) == (0, True, 1)
    status, out, error = go("import", str(tmp_path / "all.zip"), capsys=capsys)
    assert (status, out, Workshop.objects.count()) == (2, "", 1)
    assert "another name" in error
    assert go("export", str(tmp_path / "all.zip"), capsys=capsys)[0] == 2  # nothing is written over
    assert go("import", str(tmp_path / "all.zip"), "as=Again", "account=nobody", capsys=capsys)[0] == 2


def test_a_workshop_comes_into_another_by_the_text_command(quay: Workshop, tmp_path: Path, capsys) -> None:
    go("export", str(tmp_path / "all.zip"), "workshop=Lantern Quay", capsys=capsys)
    Workshop.objects.create(name="Upper quay")
    status, out, error = go("import", str(tmp_path / "all.zip"), "into=Upper quay", "check", capsys=capsys)
    assert (status, error, Batch.objects.filter(workshop__name="Upper quay").count()) == (0, "", 0)
    assert "Batches: 12 would come in, 0 here already." in out
    status, out, error = go("import", str(tmp_path / "all.zip"), "into=Upper quay", capsys=capsys)
    assert (status, error, Batch.objects.filter(workshop__name="Upper quay").count()) == (0, "", 12)
    assert go("import", str(tmp_path / "all.zip"), "into=No quay", capsys=capsys)[0] == 2


def _first(document, kind: str):
    """The first entry of a kind."""
    return next(row for row in document["tables"]["entries"] if row["kind"] == kind)


HARM = [
    (
        lambda d: d.update(format="firkin-workshop/9"),
        "format: firkin-workshop/9; it was written by a newer Firkin. This one reads up to",
    ),
    (lambda d: d.update(format=7), "format: 7; expected"),
    (lambda d: d.update(more=1), "more: unknown key"),
    (lambda d: d["workshop"].pop("time_zone"), "workshop.time_zone: missing"),
    (lambda d: d["workshop"].update(time_zone="x" * 500), "workshop.time_zone"),
    (lambda d: d["workshop"].update(time_zone="Mars"), "workshop.time_zone: 'Mars' is no time zone"),
    (lambda d: d["workshop"].update(own_sizes={"capful": "much"}), "workshop.own_sizes"),
    (lambda d: d["tables"]["batches"][2].update(frozen={"name": "x"}), "tables.batches.2: this cannot be worked out"),
    (lambda d: d["tables"]["batches"][0].update(frozen=[1]), "tables.batches.0: this cannot be worked out"),
    (lambda d: _first(d, "reading").update(data={"what": "ph"}), "tables.batches."),
    (lambda d: _first(d, "observe").update(data={"seen": {"colour": "red"}}), "tables.batches."),
    (lambda d: d["tables"].pop("dues"), "tables.dues: missing"),
    (lambda d: d["tables"]["stocks"][0].update(colour="red"), "tables.stocks.0.colour: unknown key"),
    (lambda d: d["tables"]["stocks"][1].update(amount_value="much"), "tables.stocks.1.amount_value"),
    (lambda d: d["tables"]["stocks"][1].update(amount_value=None), "tables.stocks.1.amount_value"),
    (lambda d: d["tables"]["stocks"][1].update(amount_unit="bucket"), "tables.stocks.1.amount_unit"),
    (lambda d: d["tables"]["movements"][0].update(stock=9999), "tables.movements.0.stock: 9999 is no row"),
    (lambda d: d["tables"]["movements"][0].update(stock=-1), "tables.movements.0.stock: -1 is no row"),
    (lambda d: d["tables"]["batches"][0].update(created_at="yesterday"), "tables.batches.0.created_at"),
    (lambda d: d["tables"]["batches"][0].update(state="lost"), "tables.batches.0.state"),
    (lambda d: d["tables"]["photos"][0].update(jpeg="photos/9.jpg"), "tables.photos.0.jpeg"),
    (lambda d: d.update(tables=[]), "tables: []; expected an object"),
    (lambda d: d["tables"].update(dues={}), "tables.dues: {}; expected a list"),
    (lambda d: d.update(members="me"), 'members: "me"; expected an object'),
    (lambda d: d["members"].update(mate="admiral"), 'members.mate: "admiral"; expected one of keeper, maker, onlooker'),
    (
        lambda d: d["tables"]["photos"][0].update(jpeg="/etc/passwd"),
        'tables.photos.0.jpeg: "/etc/passwd"; expected text such as photos/1.jpg',
    ),
    (lambda d: d["tables"]["dues"][0].update(text="x" * 301), "tables.dues.0.text: "),
]


def test_a_file_with_anything_wrong_names_the_path_and_writes_nothing(quay: Workshop, tmp_path: Path, capsys) -> None:
    whole = archive.written(quay)
    rows = Batch.objects.count()
    for number, (harm, says) in enumerate(some(HARM, 10)):
        broken = archive.Archive(copy.deepcopy(whole.document), whole.files)
        harm(broken.document)
        file = tmp_path / f"{number}.zip"
        files.to_file(broken, file)
        status, out, error = go("import", str(file), "as=Broken", capsys=capsys)
        assert (status, out) == (2, ""), says
        assert error.startswith(says), error
        assert error.count("\n") == 1
        assert (Workshop.objects.count(), Batch.objects.count()) == (1, rows)


@pytest.mark.parametrize("content", [b"", b"PK nothing", b"{}"])
def test_what_is_no_archive_is_refused(tmp_path: Path, capsys, content: bytes) -> None:
    (tmp_path / "odd.zip").write_bytes(content)
    status, _, error = go("import", str(tmp_path / "odd.zip"), capsys=capsys)
    assert (status, "is no firkin-workshop" in error) == (2, True)
    with zipfile.ZipFile(tmp_path / "other.zip", "w") as other:
        other.writestr("something.txt", "else")
    with pytest.raises(CannotRead):
        files.from_file(tmp_path / "other.zip")


def test_one_formula_goes_out_and_in_and_is_not_added_twice(quay: Workshop, tmp_path: Path, capsys) -> None:
    file = tmp_path / "rub.json"
    assert go("export", str(file), "formula=Landing rub", capsys=capsys)[0] == 0
    status, out, _ = go("import", str(file), capsys=capsys)
    assert (status, "there already" in out) == (0, True)
    document = json.loads(file.read_text())
    file.write_text(json.dumps(document | {"name": "Landing rub of the spring"}))
    before = Formula.objects.count()
    assert "It would add" in go("import", str(file), "check", capsys=capsys)[1]
    assert Formula.objects.count() == before
    assert "Added: the formula “Landing rub of the spring”" in go("import", str(file), capsys=capsys)[1]
    assert Formula.objects.count() == before + 1
    file.write_text(json.dumps(document | {"colour": "red"}))
    status, _, error = go("import", str(file), capsys=capsys)
    assert (status, error.startswith("colour: unknown key")) == (2, True)
    assert go("export", str(tmp_path / "x.json"), "formula=No such", capsys=capsys)[0] == 2


@pytest.mark.parametrize("number", often([1, 4, 6, 10, 12], 12))
def test_one_batch_goes_out_alone_and_says_the_same_in_another_workshop(quay, tmp_path, capsys, number: int) -> None:
    """With what it refers to and nothing else; at home it is known again."""
    batch = Batch.objects.get(number=number)
    whole = archive.written(quay)
    alone = of_batch(batch)
    archive.checked(alone)
    assert alone.counts["batches"] == alone.counts["formulas"] == 1
    assert alone.counts["entries"] == batch.entries.count()
    assert alone.counts["stocks"] == len({line.stock_id for line in batch.lines.all()} - {None})
    assert alone.counts["photos"] == batch.photos.count()
    assert len(alone.files) == alone.counts["photos"] + alone.counts["label_photos"]
    with_whom = ("holders", "bottles", "bottle_events", "recalls")  # who has the bottles stays at home
    assert [alone.counts[name] for name in with_whom] == [0] * 4 < [whole.counts[name] for name in with_whom]
    assert len(json.dumps(alone.document)) < 0.5 * len(json.dumps(whole.document))
    file = tmp_path / "batch.zip"
    status, out, error = go("export", str(file), f"batch={batch.code}", capsys=capsys)
    assert (status, error) == (0, "") and batch.code in out
    status, out, _ = go("import", str(file), "into=Lantern Quay", capsys=capsys)
    assert (status, out) == (0, "All of it is here already; nothing comes in.\n")
    assert archive.written(quay).document == whole.document
    Workshop.objects.create(name="Upper quay", time_zone=quay.time_zone, decimal_mark=quay.decimal_mark)
    status, out, error = go("import", str(file), "into=Upper quay", capsys=capsys)
    assert (status, error) == (0, "")
    (there,) = Batch.objects.filter(workshop__name="Upper quay")
    mine, theirs = batch.progress(), there.progress()
    assert [(e.at, e.kind, e.text) for e in mine.standing] == [(e.at, e.kind, e.text) for e in theirs.standing]
    assert theirs.result.verdicts == mine.result.verdicts
    assert theirs.to_fill_mL == mine.to_fill_mL
    assert [line.stock and line.stock.name for line in there.lines.all()] == [
        line.stock and line.stock.name for line in batch.lines.all()
    ]
    assert go("export", str(tmp_path / "x.zip"), "batch=99-001", capsys=capsys)[0] == 2


def test_a_batch_is_taken_out_at_its_record(client: Client, quay: Workshop, tmp_path: Path) -> None:
    client.force_login(User.objects.get())
    batch = Batch.objects.get(number=1)
    assert (
        reverse("exchange:batch", args=[batch.pk])
        in client.get(reverse("batches:record", args=[batch.pk])).content.decode()
    )
    answer = client.get(reverse("exchange:batch", args=[batch.pk]))
    (tmp_path / "b.zip").write_bytes(b"".join(answer.streaming_content))
    assert batch.code in answer["Content-Disposition"]
    assert files.from_file(tmp_path / "b.zip").document == json.loads(json.dumps(of_batch(batch).document))


def test_the_page_of_the_format_names_every_table_and_column() -> None:
    page = (Path(__file__).resolve().parents[2] / "docs" / "formats" / "workshop.md").read_text()
    sections = {part.split("\n")[0]: part for part in page.split("## ")[1:]}
    assert set(sections) == {"workshop", *archive.TABLES}
    for name, (model, _) in archive.TABLES.items():
        told = re.findall(r"^\| `(\w+)` \|", sections[name], re.MULTILINE)
        assert told == [column.name for column in archive.columns(model)], name
    assert re.findall(r"^\| `(\w+)` \|", sections["workshop"], re.M) == [c.name for c in archive.settings_of()]
