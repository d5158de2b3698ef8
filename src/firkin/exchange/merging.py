"""Bringing an archive into a workshop that has things of its own: what is here already is left as it is.

Materials, tools, vessels, bottles and batches are known again by what names them (`KNOWN_BY`); a formula by its name
and everything it says, in every version. A formula of a name that says something else comes in beside it. A batch whose
number another batch has gets the next free one, and its journal says which it had.
"""

from dataclasses import dataclass
from typing import Any

from django.db import models, transaction

from firkin.accounts.models import User, Workshop
from firkin.batches.ledger import settle
from firkin.batches.making import Making
from firkin.batches.models import Batch
from firkin.core.bench import EntryKind
from firkin.core.errors import CannotRead
from firkin.exchange import archive
from firkin.exchange.archive import TABLES, Archive, Keys, Told, columns, tell_nobody
from firkin.search.index import index_anew

#: What a thing is known again by, table by table. A holder whose name was forgotten is known by nothing.
KNOWN_BY = {
    "materials": ("name",),
    "stocks": ("material", "name", "amount_value", "amount_unit", "bought_on"),
    "tools": ("name",),
    "vessels": ("name", "kind", "volume_mL"),
    "batches": ("created_at", "name"),
    "holders": ("name",),
    "recalls": ("at", "why"),
}
#: Tables of a formula, below the formula itself.
_OF_A_FORMULA = ("versions", "formula_lines", "formula_steps")
Row = dict[str, Any]


@dataclass
class Merge:
    """What came in, and what was here already, by table; and what has to be said of it."""

    added: dict[str, int]
    here: dict[str, int]
    remarks: list[str]

    @property
    def words(self) -> list[tuple[str, int, int]]:
        """Each kind of thing with how many came in and how many were here, where there are any."""
        kinds = ("formulas", "batches", "stocks", "vessels", "tools", "materials")
        counted = [(kind, self.added[kind], self.here[kind]) for kind in kinds]
        return [one for one in counted if one[1] or one[2]]


def look(whole: Archive, workshop: Workshop, user: User | None, told: Told = tell_nobody) -> Merge:
    """What bringing an archive into a workshop would do; nothing is written, and nobody waits for it.

    Raises CannotRead, with the path of what is wrong.
    """
    whole = archive.checked(whole)
    archive.trial(whole, told)
    return _plan(whole, workshop).came


def merge(whole: Archive, workshop: Workshop, user: User | None, told: Told = tell_nobody) -> Merge:
    """Bring an archive into a workshop, everything or nothing.

    What comes in is written by ``user``, and said to be by whom the file names; without a user, on the machine itself,
    by the accounts of those names. Raises CannotRead, with the path of what is wrong.
    """
    whole = archive.checked(whole)
    archive.trial(whole, told)  # sound by itself, before anything is compared with what is here
    with transaction.atomic():
        were_here = set(Batch.objects.filter(workshop=workshop).values_list("pk", flat=True))
        plan = _plan(whole, workshop)
        moved = Archive(whole.document | {"tables": plan.tables}, whole.files, whole.bare)
        archive.put_rows(moved, workshop, _keys(workshop, plan.found), bringer=user, told=told)
        for batch in Batch.objects.filter(workshop=workshop).exclude(pk__in=were_here):
            making = Making(batch)
            settle(batch, making.lines, making.progress)
        index_anew(workshop)
        for number, had in plan.numbers:
            row = Batch.objects.get(workshop=workshop, number=number)
            row.write(EntryKind.NOTE, user, text=f"Brought in; its number was {had} where it came from.")
    return plan.came


@dataclass
class _Plan:
    """What comes in as it is to be written, what is here already, which batches get another number."""

    tables: dict[str, list[Row]]
    found: dict[str, list[int | None]]
    numbers: list[tuple[int, str]]
    came: Merge


def _plan(whole: Archive, workshop: Workshop) -> _Plan:
    here = archive.written(workshop)
    found = _known(whole, here)
    tables = {name: [dict(row) for row in rows] for name, rows in whole.document["tables"].items()}
    _same_materials(tables["materials"], here.document["tables"]["materials"], found["materials"])
    numbers = _numbers(workshop, tables["batches"], found["batches"])
    remarks = _renumbered(numbers)
    remarks += _what_differs(whole, here, found)
    counts = {name: sum(place is None for place in found[name]) for name in TABLES}
    return _Plan(
        tables, found, numbers, Merge(counts, {name: len(found[name]) - counts[name] for name in TABLES}, remarks)
    )


#: Of more batches than this only the first is told with its new number.
_MOST_TOLD = 3


def _renumbered(numbers: list[tuple[int, str]]) -> list[str]:
    """Which batches get another number, each; of many the first, and how many there are."""
    told = [f"{had} comes in as {had[:3]}{new:03d}" for new, had in numbers]
    if len(told) > _MOST_TOLD:
        return [f"{len(told)} batches get another number, since theirs are taken here: {told[0]}, and so on."]
    return [f"Batch {one}: its number is taken here." for one in told]


def words_of(came: Merge, *, only_look: bool) -> list[str]:
    """What a merge did, or would do, line by line."""
    if not any(added for _, added, _ in came.words):
        return ["All of it is here already; nothing comes in.", *came.remarks]
    comes, is_here = ("would come in", "here already") if only_look else ("came in", "were here already")
    return [
        *(f"{kind.capitalize()}: {added} {comes}, {here} {is_here}." for kind, added, here in came.words),
        *came.remarks,
    ]


def _known(whole: Archive, here: Archive) -> dict[str, list[int | None]]:
    """For each row of each table the place of the same one here, or None."""
    theirs, ours = whole.document["tables"], here.document["tables"]
    found: dict[str, list[int | None]] = {}
    for name, (model, way) in TABLES.items():
        parent = way.split("__")[0]
        if name == "formulas":
            places = {_formula_content(ours, place): place for place in range(len(ours[name]))}
            found[name] = [places.get(_formula_content(theirs, place)) for place in range(len(theirs[name]))]
        elif name == "habits":  # a workshop has one of them
            found[name] = [0 if ours[name] else None for _ in theirs[name]]
        elif parent == "workshop":
            wanted = KNOWN_BY[name]
            named = {_by(row, wanted): place for place, row in enumerate(ours[name])}
            found[name] = [named.get(by) if any(by := _by(row, wanted)) else None for row in theirs[name]]
        else:
            of = next(
                table for table, (above, _) in TABLES.items() if above is model._meta.get_field(parent).related_model
            )
            found[name] = _children(theirs[name], ours[name], parent, found[of])
    for place, row in enumerate(theirs["draws"]):  # of a bottle that is here: its ledger here is put right instead
        if found["movements"][row["movement"]] is not None:
            found["draws"][place] = _NOWHERE
    return found


def _by(row: Row, wanted: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(str(row.get(column)) for column in wanted)


def _children(theirs: list[Row], ours: list[Row], parent: str, above: list[int | None]) -> list[int | None]:
    """The places of rows below things that are here: one after another, and the last for what is here no more."""
    below: dict[int, list[int]] = {}
    for place, row in enumerate(ours):
        below.setdefault(row[parent], []).append(place)
    taken: dict[int, int] = {}
    found: list[int | None] = []
    for row in theirs:
        known = above[row[parent]]
        if known is None:
            found.append(None)
            continue
        mine, turn = below.get(known, []), taken.get(row[parent], 0)
        taken[row[parent]] = turn + 1
        found.append(mine[min(turn, len(mine) - 1)] if mine else _NOWHERE)
    return found


#: The place of a row below a thing that is here, where nothing like it is.
_NOWHERE = -1


def _formula_content(tables: dict[str, list[Row]], place: int) -> str:
    """Everything a formula says, in all its versions: not when, by whom and why it was written."""
    said: list[Any] = [tables["formulas"][place].get("name")]
    versions = {at: row for at, row in enumerate(tables["versions"]) if row.get("formula") == place}
    for name in _OF_A_FORMULA:
        model, _ = TABLES[name]
        told = [c.name for c in columns(model) if c.related_model is None and not isinstance(c, models.DateTimeField)]
        rows = versions.values() if name == "versions" else [r for r in tables[name] if r.get("version") in versions]
        said.append([[row.get(column) for column in told if column != "note"] for row in rows])
    return repr(said)


def _same_materials(theirs: list[Row], ours: list[Row], found: list[int | None]) -> None:
    """An own material of a name that weighs otherwise here would change every formula that holds it."""
    for place, row in enumerate(theirs):
        known = found[place]
        if known is not None and ours[known] != row:
            raise CannotRead(f"“{row['name']}” is here with another density or kind: rename one of them first").at(
                "tables", "materials", place
            )


def _numbers(workshop: Workshop, theirs: list[Row], found: list[int | None]) -> list[tuple[int, str]]:
    """Give batches whose number is taken the next free one; each new number with the code it had."""
    taken = set(Batch.objects.filter(workshop=workshop).values_list("number", flat=True))
    wanted: set[int] = {row["number"] for row, known in zip(theirs, found, strict=True) if known is None} | taken
    changed = []
    for row, known in zip(theirs, found, strict=True):
        if known is None and row["number"] in taken:
            had = f"{str(row['created_at'])[2:4]}-{row['number']:03d}"
            row["number"] = max(wanted) + 1
            wanted.add(row["number"])
            changed.append((row["number"], had))
    return changed


def _keys(workshop: Workshop, found: dict[str, list[int | None]]) -> Keys:
    """The found rows by their keys here."""
    keys: Keys = {}
    for name, (model, way) in TABLES.items():
        every = getattr(model, "every", model._default_manager)
        ours = list(every.filter(**{way: workshop}).order_by("pk").values_list("pk", flat=True))
        keys[model] = [None if at is None else ours[at] if at != _NOWHERE else _NOWHERE for at in found[name]]
    return keys


def _what_differs(whole: Archive, here: Archive, found: dict[str, list[int | None]]) -> list[str]:
    """Of things that are here already and say something else: that the one here is kept."""
    theirs, ours = whole.document["tables"], here.document["tables"]
    remarks = []
    for name in ("stocks", "tools", "vessels"):
        for row, known in zip(theirs[name], found[name], strict=True):
            if known is not None and ours[name][known] != row:
                remarks.append(f"“{row['name']}” says something else here; the one here is kept as it is.")
    names = {row["name"] for row in ours["formulas"]}
    for row, known in zip(theirs["formulas"], found["formulas"], strict=True):
        if known is None and row["name"] in names:
            remarks.append(f"The formula “{row['name']}” comes in beside one of that name that says something else.")
    if any(known is None for known in found["batches"]) and any(known is not None for known in found["stocks"]):
        remarks.append("What the batches took out of bottles that are here already is taken out of them.")
    return remarks
