"""A whole workshop as one file that another Firkin reads: firkin-workshop/1, JSON and pictures in a zip or a folder.

Every row of every table that is a workshop's own, by the names of its columns; a row is referred to by its place in its
table, a person by the name they sign in by. Out and in again gives the same workshop. What is a secret of an
installation (passwords, sessions, addresses of feeds) stays behind.
"""

import json
import zipfile
import zoneinfo
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path
from typing import IO, Any

from django.core.exceptions import ValidationError
from django.db import models, transaction
from django.utils.dateparse import parse_datetime

from firkin.accounts.bounded import Bounded
from firkin.accounts.models import Membership, Role, User, Workshop
from firkin.batches.models import Batch, BatchLine, Due, Entry, Filling, Photo, Wait
from firkin.core.bench import readings_of, series_of
from firkin.core.errors import CannotRead
from firkin.exchange.validation import check
from firkin.formulas.models import Formula, FormulaLine, FormulaStep, FormulaVersion
from firkin.shelf.models import Material, Stock, StockUse, Tool, Vessel

FORMAT, DOCUMENT = "firkin-workshop/1", "workshop.json"
#: Every table that is a workshop's own, each after those it refers to, with the way from it to its workshop.
TABLES: dict[str, tuple[type[Bounded], str]] = {
    "materials": (Material, "workshop"),
    "stocks": (Stock, "workshop"),
    "stock_uses": (StockUse, "stock__workshop"),
    "tools": (Tool, "workshop"),
    "vessels": (Vessel, "workshop"),
    "formulas": (Formula, "workshop"),
    "versions": (FormulaVersion, "formula__workshop"),
    "formula_lines": (FormulaLine, "version__formula__workshop"),
    "formula_steps": (FormulaStep, "version__formula__workshop"),
    "batches": (Batch, "workshop"),
    "batch_lines": (BatchLine, "batch__workshop"),
    "entries": (Entry, "batch__workshop"),
    "photos": (Photo, "batch__workshop"),
    "fillings": (Filling, "batch__workshop"),
    "waits": (Wait, "batch__workshop"),
    "dues": (Due, "batch__workshop"),
}
#: The key of the page a version was saved from is unique in an installation, and says nothing.
_LEFT_OUT = {(FormulaVersion, "key")}
#: Columns that older files of this format do not hold: they get their usual value.
LATER = {(Workshop, "simulated_instruments"), (Workshop, "address")}
#: Columns that are files of their own.
FILES = {(Photo, "jpeg")}
_LARGEST_BYTES = 2_000_000_000


def columns(model: type[models.Model]) -> "Iterator[models.Field[Any, Any]]":
    """The columns of a table that are written: without its own number and its workshop, which its place says."""
    for column in model._meta.concrete_fields:
        if not column.primary_key and column.related_model is not Workshop and (model, column.name) not in _LEFT_OUT:
            yield column


def settings_of() -> "list[models.Field[Any, Any]]":
    """The columns of a workshop itself."""
    return [column for column in Workshop._meta.concrete_fields if not column.primary_key]


#: Where each row stands in its table, by its number here.
Places = dict[type[models.Model], dict[int, int]]
#: The number here of each row of a table, by its place; None for one that is not here.
Keys = dict[type[models.Model], list[int | None]]


@dataclass
class Archive:
    """A workshop as plain data, and its pictures by their names in the file."""

    document: dict[str, Any]
    files: dict[str, bytes] = field(default_factory=dict)

    @property
    def counts(self) -> dict[str, int]:
        """How many rows each table has."""
        return {name: len(rows) for name, rows in self.document["tables"].items()}


def written(workshop: Workshop) -> Archive:
    """A workshop as an archive."""
    archive = Archive({"format": FORMAT, "workshop": {}, "members": {}, "tables": {}})
    archive.document["workshop"] = {column.name: _plain(workshop, column, {}) for column in settings_of()}
    members = workshop.membership_set.order_by("user__username").values_list("user__username", "role")
    archive.document["members"] = dict(members)
    places: Places = {}
    for name, (model, way) in TABLES.items():
        every = getattr(model, "every", model._default_manager)
        rows = list(every.filter(**{way: workshop}).order_by("pk"))
        places[model] = {row.pk: place for place, row in enumerate(rows)}
        table = []
        for place, row in enumerate(rows):
            plain = {}
            for column in columns(model):
                if (model, column.name) in FILES:
                    plain[column.name] = f"{name}/{place + 1}.jpg"
                    archive.files[plain[column.name]] = bytes(getattr(row, column.name))
                else:
                    plain[column.name] = _plain(row, column, places)
            table.append(plain)
        archive.document["tables"][name] = table
    return archive


def _plain(row: models.Model, column: "models.Field[Any, Any]", places: Places) -> Any:
    """A column of a row as JSON has it."""
    if column.related_model is User:
        person = getattr(row, column.name)
        return person.username if person is not None else None
    value = getattr(row, column.attname)
    if column.related_model is not None:
        return None if value is None else places[column.related_model][value]
    if isinstance(value, datetime):
        return value.isoformat()
    kept_as_it_is = value is None or isinstance(value, bool | int | float | str | list | dict)
    return value if kept_as_it_is else str(value)


def read(archive: Archive, name: str = "", account: str = "") -> Workshop:
    """The workshop of an archive, made anew under a name; everything or nothing.

    Those of its members who have an account here are members again, as what they were, and ``account`` is a keeper.
    Raises CannotRead, with the path of what is wrong.
    """
    document = archive.document
    check_shape(archive)
    members = document["members"]
    roles = members if isinstance(members, dict) else dict.fromkeys(members, Role.KEEPER)  # a list is from before roles
    name = name or document["workshop"]["name"]
    if Workshop.objects.filter(name=name).exists():
        raise CannotRead(f"There is a workshop “{name}” here already. Give it another name.")
    people = User.objects.filter(username__in=[*roles, account])
    if account and not any(person.username == account for person in people):
        raise CannotRead(f"There is no account {account} here.")
    with transaction.atomic():
        workshop = Workshop(**{c.attname: _value(c, document["workshop"], ("workshop",)) for c in settings_of()})
        workshop.name = name
        _sound(workshop, ("workshop",))
        workshop.save()
        for person in people:
            role = Role.KEEPER if person.username == account else roles[person.username]
            Membership.objects.create(user=person, workshop=workshop, role=role)
        put_rows(archive, workshop)
        try_all(workshop)
    return workshop


def try_all(workshop: Workshop) -> None:
    """Everything that pages work out of these rows can be worked out; CannotRead with the path of what cannot.

    Columns that hold JSON hold what Firkin wrote there, and nothing says so but working with it.
    """
    if workshop.time_zone not in zoneinfo.available_timezones():
        raise CannotRead(f"{workshop.time_zone[:40]!r} is no time zone").at("workshop", "time_zone")
    sizes = workshop.own_sizes
    if not isinstance(sizes, dict) or not all(isinstance(size, int | float) and size > 0 for size in sizes.values()):
        raise CannotRead("expected a size in mL or g for each unit").at("workshop", "own_sizes")
    versions = FormulaVersion.objects.filter(formula__workshop=workshop).order_by("pk")
    works: list[tuple[str, Iterable[Any], Callable[[Any], object]]] = [
        ("versions", versions, FormulaVersion.as_core),
        ("batches", Batch.objects.filter(workshop=workshop).order_by("pk"), _worked_out),
    ]
    for table, rows, work in works:
        for place, row in enumerate(rows):
            try:
                work(row)
            except Exception as error:
                raise CannotRead(f"this cannot be worked out ({error})"[:200]).at("tables", table, place) from None


def _worked_out(batch: Batch) -> tuple[object, ...]:
    """What the pages of a batch work out of it."""
    progress = batch.progress()
    of_tasks = [(progress.portions_of(task), progress.timer_end(task)) for task in progress.tasks]
    seen = readings_of(progress), series_of(progress, batch.begun)
    return progress.recorded(), of_tasks, seen, progress.to_fill_mL, batch.keep_by


def put_rows(archive: Archive, workshop: Workshop, there: Keys | None = None) -> None:
    """Put the rows of an archive into a workshop, each checked; CannotRead with the path of one that will not do.

    ``there`` holds, table by table, the keys of rows that are in the workshop already, and None for those that are not.
    """
    known = {person.username: person.pk for person in User.objects.all()}
    keys: Keys = {}
    for name, (model, _) in TABLES.items():
        keys[model] = []
        for place, plain in enumerate(archive.document["tables"][name]):
            here = ("tables", name, place)
            if there and (key := there[model][place]) is not None:
                keys[model].append(key)
                continue
            row = model()
            for column in model._meta.concrete_fields:
                if column.related_model is Workshop:
                    row.workshop_id = workshop.pk  # type: ignore[attr-defined]
            for column in columns(model):
                if (model, column.name) in FILES:
                    setattr(row, column.attname, archive.files[plain[column.name]])
                elif column.related_model is User:
                    setattr(row, column.attname, known.get(plain[column.name]))
                elif column.related_model is not None:
                    setattr(row, column.attname, _referred(column, plain, keys, here))
                else:
                    setattr(row, column.attname, _value(column, plain, here))
            _sound(row, here)
            row.save(force_insert=True)
            as_told = {c.attname: _hour_of(c, plain) for c in columns(model) if getattr(c, "auto_now_add", False)}
            if as_told:  # the database writes its own hour when a row is made
                model._default_manager.filter(pk=row.pk).update(**as_told)
            keys[model].append(row.pk)


def _hour_of(column: "models.Field[Any, Any]", plain: dict[str, Any]) -> Any:
    """An hour as it stands in an archive."""
    return parse_datetime(plain[column.name])


def _referred(column: Any, plain: dict[str, Any], keys: Keys, here: Any) -> int | None:
    place = plain[column.name]
    if place is None and column.null:
        return None
    there = keys[column.related_model]
    if not isinstance(place, int) or isinstance(place, bool) or not 0 <= place < len(there):
        raise CannotRead(f"{place!r} is no row of its table that came before").at(*here, column.name)
    return there[place]


def _value(column: "models.Field[Any, Any]", plain: dict[str, Any], here: Any) -> Any:
    """A column's value from JSON; CannotRead for one that it cannot hold."""
    if column.name not in plain and (column.model, column.name) in LATER:
        return column.get_default()
    raw = plain[column.name]
    json_itself = isinstance(column, models.JSONField)
    try:
        if raw is None and not column.null:
            raise ValidationError("null")
        return raw if json_itself or raw is None else column.to_python(raw)
    except (ValidationError, TypeError, ValueError):
        raise CannotRead(f"{str(raw)[:40]!r} is no {column.get_internal_type()}").at(*here, column.name) from None


def _sound(row: Bounded, here: Any) -> None:
    """What the table itself asks of a row: lengths, choices, bounds."""
    try:
        row.check_columns()
    except ValidationError as error:
        column, messages = next(iter(error.message_dict.items()))
        raise CannotRead(messages[0]).at(*here, column) from None


def check_format(there: Any, wanted: str) -> None:
    """A file says what it is, and in which version. Raises CannotRead for another, and says so of a newer one."""
    if there != wanted:
        newer = isinstance(there, str) and there.startswith(wanted.rsplit("/", 1)[0] + "/")
        what = "it was written by a newer Firkin" if newer else f"expected {wanted}"
        raise CannotRead(f"{str(there)[:40]}; {what}").at("format")


def check_shape(archive: Archive) -> None:
    """Every table, every column, and none besides; every picture there. Raises CannotRead with the path."""
    document = archive.document
    check_format(document.get("format") if isinstance(document, dict) else None, FORMAT)
    check(document, "firkin-workshop-1")
    for name, column in ((name, column.name) for name, (model, _) in TABLES.items() for column in columns(model)):
        if (TABLES[name][0], column) in FILES:
            for place, row in enumerate(document["tables"][name]):
                if row[column] not in archive.files:
                    raise CannotRead(f"{str(row[column])[:60]} is not in the file").at("tables", name, place, column)


# files


def _text(archive: Archive) -> str:
    return json.dumps(archive.document, indent=1, ensure_ascii=False, sort_keys=True)


def to_zip(archive: Archive, stream: IO[bytes]) -> None:
    """Write an archive as a zip."""
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as zipped:
        zipped.writestr(DOCUMENT, _text(archive))
        for name, content in archive.files.items():
            zipped.writestr(name, content)


def to_file(archive: Archive, target: Path) -> None:
    """Write an archive: a zip where the name ends so, else a folder. CannotRead where something is there already."""
    if target.exists():
        raise CannotRead(f"{target} is there already; nothing is written over.")
    try:
        if target.suffix.lower() == ".zip":
            with target.open("xb") as stream:
                to_zip(archive, stream)
            return
        target.mkdir(parents=True)
        (target / DOCUMENT).write_text(_text(archive), "utf-8")
        for name, content in archive.files.items():
            (target / name).parent.mkdir(exist_ok=True)
            (target / name).write_bytes(content)
    except OSError as error:
        raise CannotRead(f"{target} cannot be written ({error.strerror}).") from None


def from_file(source: Path) -> Archive:
    """Read an archive back. Raises CannotRead for anything else."""
    try:
        if source.is_dir():
            document = json.loads((source / DOCUMENT).read_text("utf-8"))
            files = {str(path.relative_to(source)): path.read_bytes() for path in source.glob("photos/*.jpg")}
            return Archive(document, files)
        with zipfile.ZipFile(source) as zipped:
            if sum(part.file_size for part in zipped.infolist()) > _LARGEST_BYTES:
                raise CannotRead(f"{source.name} unpacks to more than 2 GB.")
            document = json.loads(zipped.read(DOCUMENT))
            return Archive(document, {name: zipped.read(name) for name in zipped.namelist() if name.endswith(".jpg")})
    except (OSError, KeyError, ValueError, RecursionError, zipfile.BadZipFile, NotImplementedError, RuntimeError):
        raise CannotRead(f"{source.name} is no {FORMAT}: a zip, or a folder, with a {DOCUMENT} in it.") from None
