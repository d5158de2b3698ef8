"""A database to try things in: it has the tables of the real one and none of its rows, and is gone afterwards."""

from collections.abc import Iterator
from contextlib import contextmanager

from django.db import DEFAULT_DB_ALIAS, connections
from django.db.utils import load_backend


@contextmanager
def scratch() -> Iterator[None]:
    """Within it this thread reads from and writes to an empty database in memory; the real one is not locked."""
    real = connections[DEFAULT_DB_ALIAS]
    with real.cursor() as cursor:
        cursor.execute("SELECT name, sql FROM sqlite_master WHERE sql IS NOT NULL AND name NOT LIKE 'sqlite_%'")
        rows = cursor.fetchall()
        virtual = tuple(f"{name}_" for name, sql in rows if sql.startswith("CREATE VIRTUAL"))  # it makes its own tables
        tables = [sql for name, sql in rows if not name.startswith(virtual)]
    asked = {**real.settings_dict, "NAME": ":memory:", "OPTIONS": {}}
    tried = load_backend(asked["ENGINE"]).DatabaseWrapper(asked, DEFAULT_DB_ALIAS)
    connections[DEFAULT_DB_ALIAS] = tried
    try:
        with tried.cursor() as cursor:
            for sql in tables:
                cursor.execute(sql)
        yield
    finally:
        connections[DEFAULT_DB_ALIAS] = real
        if tried.connection is not None:
            tried.connection.close()
