"""Lantern Quay in a test's database: made once in a process, and then laid down row by row."""

from typing import Any

from django.db import IntegrityError, connection, transaction

from firkin.accounts.models import Workshop
from firkin.search.index import index_anew
from firkin.site import demo

_rows: dict[str, list[tuple[Any, ...]]] = {}


def lantern_quay() -> Workshop:
    """The demo, in a database that has no workshop yet."""
    if _rows and not Workshop.objects.exists():
        try:
            _lay_down()
        except IntegrityError:  # somebody is there already who has the number of one of its rows
            demo.load()
    else:
        if not Workshop.objects.exists():
            with connection.cursor() as cursor:  # its batches have the numbers they have in a database of its own
                cursor.execute("DELETE FROM sqlite_sequence")
        demo.load()
        _keep()
    return Workshop.objects.get(name="Lantern Quay")


def _keep() -> None:
    if Workshop.objects.count() > 1:
        return
    with connection.cursor() as cursor:
        for table in connection.introspection.table_names(cursor):
            cursor.execute(f'SELECT * FROM "{table}"')  # noqa: S608  a table of this database
            rows = cursor.fetchall()
            if rows and not table.startswith(("django_", "auth_", "axes_", "search_")):
                _rows[table] = rows


def _lay_down() -> None:
    with transaction.atomic(), connection.cursor() as cursor:
        for table, rows in _rows.items():
            marks = ", ".join(["%s"] * len(rows[0]))
            cursor.executemany(f'INSERT INTO "{table}" VALUES ({marks})', rows)  # noqa: S608
        index_anew(Workshop.objects.get())  # the search keeps tables of its own
