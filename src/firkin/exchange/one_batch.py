"""One batch as a file of its own: firkin-workshop with that batch, and what it refers to, in it."""

from typing import Any

from firkin.batches.models import Batch
from firkin.exchange.archive import TABLES, Archive, columns, written

Row = dict[str, Any]
#: Who has the bottles is between the workshop and them: it does not go out with a batch.
_STAYS = frozenset({"holders", "bottles", "bottle_events", "recalls"})
#: Tables whose rows name a material of the workshop's own.
_NAME_A_MATERIAL = ("stocks", "formula_lines", "batch_lines")


def of_batch(batch: Batch) -> Archive:
    """A batch with its journal, readings, photos, waits and fillings; its formula, the bottles and vessels it used.

    Nobody is a member: who wrote what is told by name. Another workshop takes it in beside what it has.
    """
    whole = written(batch.workshop)
    tables = whole.document["tables"]
    (place,) = (at for at, row in enumerate(tables["batches"]) if row["number"] == batch.number)
    kept: dict[str, set[int]] = {name: set() for name in TABLES}
    _take(tables, kept, "batches", place)
    named = {tables[name][at]["material"] for name in _NAME_A_MATERIAL for at in kept[name]}
    kept["materials"] = {at for at, row in enumerate(tables["materials"]) if row["name"] in named}
    pruned = {name: [_moved(name, tables[name][at], kept) for at in sorted(kept[name])] for name in TABLES}
    pictures = (row["jpeg"] for table in ("photos", "label_photos") for row in pruned[table])
    files = {name: whole.files[name] for name in pictures}
    return Archive(whole.document | {"members": {}, "tables": pruned}, files)


def _refers_to(name: str) -> dict[str, str]:
    """The columns of a table that hold a place, each with the table it is a place in."""
    of_model = {model: table for table, (model, _) in TABLES.items()}
    return {c.name: of_model[c.related_model] for c in columns(TABLES[name][0]) if c.related_model in of_model}


def _take(tables: dict[str, list[Row]], kept: dict[str, set[int]], name: str, place: int) -> None:
    """Keep a row, what it refers to, and what is a part of it."""
    if place in kept[name]:
        return
    kept[name].add(place)
    for column, table in _refers_to(name).items():
        if tables[name][place][column] is not None:
            _take(tables, kept, table, tables[name][place][column])
    for table, (_, way) in TABLES.items():
        if table in _STAYS:
            continue
        of = way.split("__")[0]
        if _refers_to(table).get(of) == name:
            for at, row in enumerate(tables[table]):
                if row[of] == place:
                    _take(tables, kept, table, at)


def _moved(name: str, row: Row, kept: dict[str, set[int]]) -> Row:
    """A row with the places it refers to as they are among what is kept."""
    moved = dict(row)
    for column, table in _refers_to(name).items():
        if row[column] is not None:
            moved[column] = sorted(kept[table]).index(row[column])
    return moved
