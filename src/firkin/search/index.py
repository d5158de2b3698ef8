"""The index: one row a thing of a workshop, in a table of SQLite's FTS5, kept in step with what is stored.

Rows put into the database in bulk (a file brought in) say nothing of it: whoever does so has the workshop indexed anew.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from django.db import connections, models, transaction
from django.db.models.signals import post_delete, post_save

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch, Holder
from firkin.core.catalogue import find
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock, Vessel

#: The words of a thing, what it is, its key and its workshop, in a table made by the migration.
_TAKE_OUT = "DELETE FROM search_entry WHERE rowid = %s"
_PUT_IN = "INSERT INTO search_entry(rowid, title, body, kind, ref, workshop) VALUES (%s, %s, %s, %s, %s, %s)"
_EMPTY = "DELETE FROM search_entry WHERE workshop = %s"
_FIND = (
    "SELECT kind, ref, title, snippet(search_entry, 1, '', '', ' … ', 12) FROM search_entry "
    "WHERE search_entry MATCH %s AND workshop = %s ORDER BY rowid DESC LIMIT %s"
)
#: So many finds of a kind are shown, the newest.
MOST = 15
_MOST_WORDS = 8


@dataclass(frozen=True, slots=True)
class Found:
    """One find: what kind of thing it is, its key, its title, and the words around what was looked for."""

    kind: str
    ref: int
    title: str
    around: str


#: What is indexed: each kind with its model, and what is looked for in a row: a title and more words.
KINDS: dict[str, tuple[type[models.Model], Callable[[Any], tuple[str, str]]]] = {
    "formula": (Formula, lambda one: (one.name, f"{one.get_family_display()} {one.tags}")),
    "batch": (Batch, lambda one: (f"{one.code} {one.name}", f"{one.family} {one.get_state_display()} {one.bad_why}")),
    "stock": (
        Stock,
        lambda one: (
            one.name,
            f"{find(one.material).name} {one.lot} {one.shop} {one.stands} {one.grade} {one.bar_code} {one.note}",
        ),
    ),
    "vessel": (Vessel, lambda one: (one.name, one.get_kind_display())),
    "holder": (Holder, lambda one: (one.name, "place" if one.place else "")),
}


def follow() -> None:
    """Put each thing into the index as it is stored, and take it out as it goes."""
    for kind, (model, _) in KINDS.items():
        post_save.connect(_stored, sender=model, dispatch_uid=f"index {kind}", weak=False)
        post_delete.connect(_gone, sender=model, dispatch_uid=f"index {kind} gone", weak=False)


def _kind_of(model: type[models.Model]) -> str:
    return next(kind for kind, (one, _) in KINDS.items() if one is model)


def _stored(sender: type[models.Model], instance: Any, using: str, raw: bool = False, **_: object) -> None:
    kind = _kind_of(sender)
    title, body = KINDS[kind][1](instance)
    with transaction.atomic(using=using), connections[using].cursor() as cursor:
        cursor.execute(_TAKE_OUT, [_row(kind, instance.pk)])
        if title:
            cursor.execute(_PUT_IN, [_row(kind, instance.pk), title, body, kind, instance.pk, instance.workshop_id])


def _gone(sender: type[models.Model], instance: Any, using: str, **_: object) -> None:
    with connections[using].cursor() as cursor:
        cursor.execute(_TAKE_OUT, [_row(_kind_of(sender), instance.pk)])


def _row(kind: str, key: int) -> int:
    """The number of a thing's row, from its key and kind: a write finds it without a search."""
    return key * len(_PLACES) + _PLACES[kind]


_PLACES = {kind: place for place, kind in enumerate(KINDS)}


def index_anew(workshop: Workshop) -> None:
    """Put everything of a workshop into the index again."""
    with transaction.atomic(), connections["default"].cursor() as cursor:
        cursor.execute(_EMPTY, [workshop.pk])
        rows = list(_rows(workshop))
        cursor.executemany(_PUT_IN, rows)


def _rows(workshop: Workshop) -> Iterator[tuple[int | str, ...]]:
    for kind, (model, words) in KINDS.items():
        for one in model._default_manager.filter(workshop=workshop):
            title, body = words(one)
            if title:
                yield _row(kind, one.pk), title, body, kind, one.pk, workshop.pk


def found(workshop: Workshop, text: str) -> list[Found]:
    """What holds every word of a text, or begins with it: by kind, the newest first. Nothing for no words.

    Whatever is typed is words to look for: no sign of it commands the index.
    """
    words = "".join(sign if sign.isalnum() else " " for sign in text[:200]).split()[:_MOST_WORDS]
    if not words:
        return []
    asked = " AND ".join(f'"{word}"*' for word in words)
    finds: list[Found] = []
    with connections["default"].cursor() as cursor:
        for kind in KINDS:
            cursor.execute(_FIND, [f"{{title body}} : ({asked}) AND kind : {kind}", workshop.pk, MOST])
            finds += [Found(*row) for row in cursor.fetchall()]
    return finds
