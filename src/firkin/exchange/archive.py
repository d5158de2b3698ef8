"""A whole workshop as plain data that another Firkin reads: firkin-workshop, written and read back row by row.

Every row of every table that is a workshop's own, by the names of its columns; a row is referred to by its place in its
table, a person by the name they sign in by. Out and in again gives the same workshop. What is a secret of an
installation (passwords, sessions, addresses of feeds) stays behind. A file of an earlier version is brought up to this
one first (exchange/upgrades). The file itself is written and read by exchange/files.

A file's word proves nothing: who wrote an entry stands as "said to be by" unless whoever runs this machine reads it in.
"""

import io
import zoneinfo
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path
from typing import Any

from django.core.exceptions import ValidationError
from django.db import IntegrityError, models, transaction
from django.utils.dateparse import parse_datetime

from firkin.accounts.bounded import Bounded
from firkin.accounts.models import Membership, Role, User, Workshop
from firkin.batches.models import (
    Batch,
    BatchLine,
    Bottle,
    BottleEvent,
    Draw,
    Due,
    Entry,
    Filling,
    Holder,
    Photo,
    Recall,
    Wait,
)
from firkin.core.bench import readings_of, series_of
from firkin.core.catalogue import Verdict, families
from firkin.core.errors import CannotRead
from firkin.core.formula import formula_from_dict, formula_to_dict, reckon
from firkin.drawings.series import aspect_series
from firkin.exchange.scratch import scratch
from firkin.exchange.upgrades import FORMAT, upgraded
from firkin.exchange.validation import check, check_formula
from firkin.formulas.models import Bought, Formula, FormulaLine, FormulaStep, FormulaVersion
from firkin.search.index import index_anew
from firkin.season.models import Habits, Need, Product, StandsIn
from firkin.shelf.models import LabelPhoto, Material, Movement, Stock, Tool, Vessel, own_materials
from firkin.ui.photos import bare_jpeg

#: Every table that is a workshop's own, each after those it refers to, with the way from it to its workshop.
TABLES: dict[str, tuple[type[Bounded], str]] = {
    "materials": (Material, "workshop"),
    "stocks": (Stock, "workshop"),
    "movements": (Movement, "stock__workshop"),
    "label_photos": (LabelPhoto, "stock__workshop"),
    "tools": (Tool, "workshop"),
    "vessels": (Vessel, "workshop"),
    "formulas": (Formula, "workshop"),
    "versions": (FormulaVersion, "formula__workshop"),
    "formula_lines": (FormulaLine, "version__formula__workshop"),
    "formula_steps": (FormulaStep, "version__formula__workshop"),
    "bought": (Bought, "formula__workshop"),
    "batches": (Batch, "workshop"),
    "batch_lines": (BatchLine, "batch__workshop"),
    "entries": (Entry, "batch__workshop"),
    "draws": (Draw, "batch__workshop"),
    "photos": (Photo, "batch__workshop"),
    "fillings": (Filling, "batch__workshop"),
    "holders": (Holder, "workshop"),
    "bottles": (Bottle, "filling__batch__workshop"),
    "recalls": (Recall, "workshop"),
    "bottle_events": (BottleEvent, "bottle__filling__batch__workshop"),
    "waits": (Wait, "batch__workshop"),
    "dues": (Due, "batch__workshop"),
    "habits": (Habits, "workshop"),
    "products": (Product, "formula__workshop"),
    "stands_in": (StandsIn, "product__formula__workshop"),
    "season_needs": (Need, "product__formula__workshop"),
}
#: The key of the page a version was saved from is unique in an installation, and says nothing.
_LEFT_OUT = {(FormulaVersion, "key")}
#: Who wrote a row by a file's word stands in the file where any other's name stands.
SAID_BY = "said_by"
#: Columns that are files of their own.
FILES = {(Photo, "jpeg"), (LabelPhoto, "jpeg")}
#: More rows than this no bench has: a table that holds more is refused unread.
MOST_ROWS = {
    **dict.fromkeys(TABLES, 20_000),
    **dict.fromkeys(
        (
            *("entries", "batch_lines", "formula_lines", "formula_steps", "movements", "draws", "dues"),
            *("bottles", "bottle_events"),
        ),
        200_000,
    ),
    "photos": 5_000,
    "label_photos": 5_000,
}
#: So many rows are put into the database at a time.
_AT_A_TIME = 500
#: Told how far it is: what, how many of how many.
Told = Callable[[str, int, int], None]


def tell_nobody(_what: str, _done: int, _of: int) -> None:
    """For what is quick."""


def columns(model: type[models.Model]) -> "Iterator[models.Field[Any, Any]]":
    """The columns of a table that are written: without its own number and its workshop, which its place says."""
    for column in model._meta.concrete_fields:
        stays = column.primary_key or column.related_model is Workshop or column.name == SAID_BY
        if not stays and (model, column.name) not in _LEFT_OUT:
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
    """A workshop as plain data, and its pictures by their names in the file; ``bare`` once those were made anew."""

    document: dict[str, Any]
    files: Mapping[str, bytes] = field(default_factory=dict)
    bare: bool = False

    @property
    def counts(self) -> dict[str, int]:
        """How many rows each table has."""
        return {name: len(rows) for name, rows in self.document["tables"].items()}

    @property
    def words(self) -> str:
        """What it holds, in words."""
        names = ("formulas", "batches", "entries", "stocks", "vessels", "tools", "photos")
        return ", ".join(f"{self.counts[name]} {name}" for name in names)


class _Stored(Mapping[str, bytes]):
    """The pictures of a workshop, each read from the database when it is asked for."""

    def __init__(self, places: Mapping[str, tuple[type[models.Model], int, str]]) -> None:
        self.places = places

    def __getitem__(self, name: str) -> bytes:
        model, key, column = self.places[name]
        return bytes(model._default_manager.values_list(column, flat=True).get(pk=key))

    def __iter__(self) -> Iterator[str]:
        return iter(self.places)

    def __len__(self) -> int:
        return len(self.places)


def written(workshop: Workshop) -> Archive:
    """A workshop as an archive."""
    files: dict[str, tuple[type[models.Model], int, str]] = {}
    archive = Archive({"format": FORMAT, "workshop": {}, "members": {}, "tables": {}}, _Stored(files))
    archive.document["workshop"] = {column.name: _plain(workshop, column, {}) for column in settings_of()}
    members = workshop.membership_set.order_by("user__username").values_list("user__username", "role")
    archive.document["members"] = dict(members)
    places: Places = {}
    for name, (model, way) in TABLES.items():
        every = getattr(model, "every", model._default_manager)
        pictures = [column for table, column in FILES if table is model]
        rows = list(every.filter(**{way: workshop}).order_by("pk").defer(*pictures))
        places[model] = {row.pk: place for place, row in enumerate(rows)}
        table = []
        for place, row in enumerate(rows):
            plain = {}
            for column in columns(model):
                if (model, column.name) in FILES:
                    plain[column.name] = f"photos/{'' if model is Photo else f'{name}-'}{place + 1}.jpg"
                    files[plain[column.name]] = (model, row.pk, column.name)
                else:
                    plain[column.name] = _plain(row, column, places)
            table.append(plain)
        archive.document["tables"][name] = table
    return archive


def _plain(row: models.Model, column: "models.Field[Any, Any]", places: Places) -> Any:
    """A column of a row as JSON has it."""
    if column.related_model is User:
        person = getattr(row, column.name)
        return getattr(row, SAID_BY, "") or (person.username if person is not None else None)
    value = getattr(row, column.attname)
    if column.related_model is not None:
        return None if value is None else places[column.related_model][value]
    if isinstance(value, datetime):
        return value.isoformat()
    kept_as_it_is = value is None or isinstance(value, bool | int | float | str | list | dict)
    return value if kept_as_it_is else str(value)


def read(
    archive: Archive, name: str = "", account: str = "", bringer: User | None = None, told: Told = tell_nobody
) -> Workshop:
    """The workshop of an archive, made anew under a name; everything or nothing.

    With a ``bringer``, somebody at a page, it is theirs alone, and what it says others wrote is said to be theirs.
    Without one it is read in on the machine: those of its members who have an account here are members again, as what
    they were, and ``account`` is a keeper. Raises CannotRead, with the path of what is wrong.
    """
    archive = checked(archive)
    document = archive.document
    name = name or document["workshop"]["name"]
    if Workshop.objects.filter(name=name).exists():
        raise CannotRead(f"There is a workshop “{name}” here already. Give it another name.")
    roles = document["members"] if bringer is None else {bringer.username: Role.KEEPER}
    people = User.objects.filter(username__in=[*roles, account])
    if account and not any(person.username == account for person in people):
        raise CannotRead(f"There is no account {account} here.")
    trial(archive, told)
    with transaction.atomic():
        workshop = _made(document, name)
        for person in people:
            role = Role.KEEPER if person.username == account else roles[person.username]
            Membership.objects.create(user=person, workshop=workshop, role=role)
        put_rows(archive, workshop, bringer=bringer, told=told)
        index_anew(workshop)
    return workshop


def trial(archive: Archive, told: Told = tell_nobody) -> None:
    """Try an archive that was checked, without its pictures, in a database of its own that nobody else waits for.

    Raises CannotRead, with the path of what is wrong.
    """
    with scratch():
        workshop = _made(archive.document, archive.document["workshop"]["name"])
        put_rows(archive, workshop, photos=False, told=told)
        try_all(workshop, told)


def _made(document: dict[str, Any], name: str) -> Workshop:
    workshop = Workshop(**{c.attname: _value(c, document["workshop"], ("workshop",)) for c in settings_of()})
    workshop.name = name
    _sound(workshop, ("workshop",))
    workshop.save()
    return workshop


def try_all(workshop: Workshop, told: Told = tell_nobody) -> None:
    """Everything that pages work out of these rows can be worked out; CannotRead with the path of what cannot.

    Columns that hold JSON hold what Firkin wrote there, and nothing says so but working with it.
    """
    if workshop.time_zone not in zoneinfo.available_timezones():
        raise CannotRead(f"{workshop.time_zone[:40]!r} is no time zone").at("workshop", "time_zone")
    sizes = workshop.own_sizes
    if not isinstance(sizes, dict) or not all(isinstance(size, int | float) and size > 0 for size in sizes.values()):
        raise CannotRead("expected a size in mL or g for each unit").at("workshop", "own_sizes")
    for place, formula in enumerate(Formula.objects.filter(workshop=workshop).order_by("pk")):
        if not formula.versions.exists():
            raise CannotRead("a formula without a version").at("tables", "formulas", place)
        if formula.last_verdict not in ("", *Verdict):
            raise CannotRead(f"{formula.last_verdict!r} is no verdict").at("tables", "formulas", place, "last_verdict")
    versions = FormulaVersion.objects.filter(formula__workshop=workshop).order_by("pk")
    works: list[tuple[str, models.QuerySet[Any], Callable[[Any], object]]] = [
        ("versions", versions, _is_a_formula),
        ("batches", Batch.objects.filter(workshop=workshop).order_by("pk"), _worked_out),
    ]
    for table, rows, work in works:
        for place, row in enumerate(rows):
            told(f"{table} tried", place, len(rows))
            try:
                work(row)
            except Exception as error:
                raise CannotRead(f"this cannot be worked out ({error})"[:200]).at("tables", table, place) from None


def _is_a_formula(version: FormulaVersion) -> object:
    """A version says a formula as its own format has it, and can be worked out."""
    document = formula_to_dict(version.as_core())
    check_formula(document)
    return reckon(formula_from_dict(document, own_materials(version.formula.workshop_id)))


def _worked_out(batch: Batch) -> tuple[object, ...]:
    """What the pages of a batch work out of it."""
    check_formula(batch.frozen)
    if batch.family not in families():
        raise CannotRead(f"{batch.family!r} is no family")
    if batch.verdict not in ("", *Verdict):
        raise CannotRead(f"{batch.verdict!r} is no verdict")
    progress = batch.progress()
    of_tasks = [(progress.portions_of(task), progress.timer_end(task)) for task in progress.tasks]
    series = [aspect_series(one.name, one.points, one.words) for one in series_of(progress, batch.begun)]
    seen = readings_of(progress), series
    told = [entry.amount.words for entry in batch.entries.all() if entry.amount_value is not None]
    return told, progress.recorded(), of_tasks, seen, progress.to_fill_mL, batch.keep_by


def put_rows(
    archive: Archive,
    workshop: Workshop,
    there: Keys | None = None,
    *,
    bringer: User | None = None,
    photos: bool = True,
    told: Told = tell_nobody,
) -> None:
    """Put the rows of an archive into a workshop, each checked; CannotRead with the path of one that will not do.

    ``there`` holds, table by table, the keys of rows that are in the workshop already, and None for those that are not.
    Without ``photos`` their pictures are left out: for a trial that is taken back.
    """
    people = {person.username: person.pk for person in User.objects.all()} if bringer is None else {}
    keys: Keys = {}
    for name, (model, _) in TABLES.items():
        table = archive.document["tables"][name]
        keys[model] = []
        waiting: list[Bounded] = []
        refers_to_itself = any(column.related_model is model for column in columns(model))
        for place, plain in enumerate(table):
            here = ("tables", name, place)
            if there and (key := there[model][place]) is not None:
                _store(model, waiting, keys)
                keys[model].append(key)
                continue
            if refers_to_itself and any(plain[c.name] is not None for c in columns(model) if c.related_model is model):
                _store(model, waiting, keys)
            row = model()
            for column in model._meta.concrete_fields:
                if column.related_model is Workshop:
                    row.workshop_id = workshop.pk  # type: ignore[attr-defined]
            for column in columns(model):
                if (model, column.name) in FILES:
                    content = _picture(archive, plain[column.name], (*here, column.name)) if photos else b""
                    setattr(row, column.attname, content)
                elif column.related_model is User:
                    _sign(row, column, plain[column.name], people, bringer)
                elif column.related_model is not None:
                    setattr(row, column.attname, _referred(column, plain, keys, here))
                else:
                    setattr(row, column.attname, _value(column, plain, here))
            _sound(row, here, without=() if photos else tuple(column for _, column in FILES))
            waiting.append(row)
            if len(waiting) == _AT_A_TIME:
                _store(model, waiting, keys)
                told(name.replace("_", " "), place + 1, len(table))
        _store(model, waiting, keys)
        _as_told(model, table, keys[model], there)


def _store(model: type[Bounded], waiting: list[Bounded], keys: Keys) -> None:
    """Put the rows that wait into the database, and note their keys."""
    try:
        keys[model] += [row.pk for row in model._default_manager.bulk_create(waiting)]
    except IntegrityError:
        raise CannotRead("two rows are the same that may not be").at("tables", _name_of(model)) from None
    waiting.clear()


def _as_told(model: type[Bounded], table: list[dict[str, Any]], keys: list[int | None], there: Keys | None) -> None:
    """Set the hours that the database writes by itself when a row is made to those of the archive."""
    hours = [c for c in columns(model) if getattr(c, "auto_now_add", False)]
    new = [at for at in range(len(table)) if not there or there[model][at] is None]
    if not hours or not new:
        return
    rows = model._default_manager.in_bulk([keys[at] for at in new])
    for at in new:
        for column in hours:
            setattr(rows[keys[at]], column.attname, _hour_of(column, table[at]))
    model._default_manager.bulk_update(rows.values(), [c.name for c in hours], batch_size=_AT_A_TIME)


def _sign(row: Bounded, column: Any, name: str | None, people: Mapping[str, int], bringer: User | None) -> None:
    """Say who wrote a row: an account here where the machine's own keeper reads it in, else who brings it in.

    A name that is no proven account is kept as a word.
    """
    key = people.get(name or "") if bringer is None else bringer.pk
    setattr(row, column.attname, key)
    proven = name is None or (name in people if bringer is None else name == bringer.username)
    setattr(row, SAID_BY, "" if proven else name)


def made_anew(archive: Archive, folder: Path, told: Told = tell_nobody) -> Archive:
    """The archive with each of its pictures made anew, one at a time, and laid into a folder."""
    folder.mkdir(parents=True, exist_ok=True)
    places: dict[str, Path] = {}
    for model, column in FILES:
        name = _name_of(model)
        rows = archive.document["tables"][name]
        for place, row in enumerate(rows):
            told(name.replace("_", " "), place, len(rows))
            if row[column] not in places:
                places[row[column]] = folder / f"{len(places)}.jpg"
                places[row[column]].write_bytes(_picture(archive, row[column], ("tables", name, place, column)))
    return Archive(archive.document, LaidOut(places), bare=True)


class LaidOut(Mapping[str, bytes]):
    """Pictures that lie about as files, each read when it is asked for."""

    def __init__(self, places: Mapping[str, Path]) -> None:
        self.places = places

    def __getitem__(self, name: str) -> bytes:
        return self.places[name].read_bytes()

    def __iter__(self) -> Iterator[str]:
        return iter(self.places)

    def __len__(self) -> int:
        return len(self.places)


def _picture(archive: Archive, name: str, here: Any) -> bytes:
    """A picture of an archive, made anew: nothing but its points comes in."""
    if archive.bare:
        return archive.files[name]
    try:
        return bare_jpeg(io.BytesIO(archive.files[name]))
    except ValidationError as error:
        raise CannotRead(" ".join(error.messages)).at(*here) from None
    except CannotRead as error:
        raise error.at(*here) from None


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
    raw = plain[column.name]
    json_itself = isinstance(column, models.JSONField)
    try:
        if raw is None and not column.null:
            raise ValidationError("null")
        return raw if json_itself or raw is None else column.to_python(raw)
    except (ValidationError, TypeError, ValueError):
        raise CannotRead(f"{str(raw)[:40]!r} is no {column.get_internal_type()}").at(*here, column.name) from None


def _sound(row: Bounded, here: Any, without: tuple[str, ...] = ()) -> None:
    """What the table itself asks of a row: lengths, choices, bounds."""
    try:
        row.check_columns()
    except ValidationError as error:
        wrong = {column: messages for column, messages in error.message_dict.items() if column not in without}
        if not wrong:
            return
        column, messages = next(iter(wrong.items()))
        raise CannotRead(messages[0]).at(*here, column) from None


def checked(archive: Archive) -> Archive:
    """The archive as this version has it: every table, every column, none besides, every picture there, no more than
    a bench has. Raises CannotRead with the path."""
    document = upgraded(archive.document)
    for name, rows in _tables(document):
        if isinstance(rows, list) and len(rows) > MOST_ROWS[name]:
            raise CannotRead(f"{len(rows)} rows; no bench has more than {MOST_ROWS[name]}").at("tables", name)
    check(document, FORMAT.replace("/", "-"))
    for model, column in FILES:
        name = _name_of(model)
        for place, row in enumerate(document["tables"][name]):
            if row[column] not in archive.files:
                raise CannotRead(f"{str(row[column])[:60]} is not in the file").at("tables", name, place, column)
    return Archive(document, archive.files, archive.bare)


def _name_of(model: type[models.Model]) -> str:
    """The name of a table's rows in an archive."""
    return next(name for name, (table, _) in TABLES.items() if table is model)


def _tables(document: Any) -> list[tuple[str, Any]]:
    tables = document.get("tables")
    return [(name, tables[name]) for name in TABLES if name in tables] if isinstance(tables, dict) else []
