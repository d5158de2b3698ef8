"""Taking back what was pressed last on a batch, from the page that follows, while nothing was written after it."""

from datetime import datetime
from typing import Any

from django.db import transaction

from firkin.accounts.models import User
from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry, State
from firkin.core.bench import UNDOABLE_AFTERWARDS, EntryKind
from firkin.core.formula import formula_from_dict
from firkin.shelf.models import own_materials

#: What is kept with an entry that moved a batch, so that it can be put back.
UNDO = "undo"


def undoable(batch: Batch) -> Entry | None:
    """The entry that may be taken back now: the last one written, where nothing rests on it."""
    last = batch.entries.order_by("-pk").first()
    if last is None or EntryKind(last.kind) not in UNDOABLE_AFTERWARDS:
        return None
    moved = last.kind in (EntryKind.STATE, EntryKind.DUE)
    if (moved and UNDO not in last.data) or last.data.get("adds"):
        return None
    return last


def undo(batch: Batch, number: int, user: User | None) -> Entry | None:
    """Take back the last entry of a batch, if that is the one meant; None where something was written since."""
    with transaction.atomic():
        Batch.objects.select_for_update().get(pk=batch.pk)
        entry = undoable(batch)
        if entry is None or entry.pk != number:
            return None
        before = entry.data.get(UNDO)
        if before is not None:
            _put_back(batch, before)
        batch.write(EntryKind.UNDO, user, undoes_id=entry.pk, text=f"Undone: {entry.text}")
        if before is not None:
            _with_its_press(batch, entry, before, user)
        Making(Batch.objects.get(pk=batch.pk)).put_right()
        return entry


def _put_back(batch: Batch, before: dict[str, Any]) -> None:
    """The batch as it was before a press: state, waits, what comes due, what is made."""
    at = datetime.fromisoformat(before["at"])
    batch.waits.filter(started_at=at).delete()
    batch.waits.filter(ended_at=at).update(ended_at=None, early_reason="")
    if "dues" in before:
        waiting = {(kind, datetime.fromisoformat(due)) for kind, due in before["dues"]}
        for due in batch.dues.filter(answered_at=None):
            if (due.kind, due.at) not in waiting:
                due.delete()
    batch.dues.filter(answered_at=at).update(answered_at=None, answer="")
    batch.state = before["state"]
    batch.rests_until = _hour(before.get("rests_until"))
    if "made_at" in before:
        batch.made_at = _hour(before["made_at"])
    batch.save(update_fields=["state", "rests_until", "made_at"])
    if "frozen" in before:
        batch.freeze(formula_from_dict(before["frozen"], own_materials(batch.workshop_id)))


def _with_its_press(batch: Batch, entry: Entry, before: dict[str, Any], user: User | None) -> None:
    """Take back what brought the batch here in one press: the fix that was begun, or the last thing made."""
    standing = batch.entries.filter(pk__lt=entry.pk, undone_by=None).order_by("-pk")
    if "frozen" in before:
        fix = standing.filter(data__adds=True).first()
        late = fix.data.get("late") if fix is not None else None
        for one in (fix, standing.filter(pk=late).first() if late else None):
            if one is not None:
                batch.write(EntryKind.UNDO, user, undoes_id=one.pk, text=f"Undone: {one.text}")
    elif before["state"] == State.MAKING:
        making = Making(batch)
        if making.progress.last is not None:
            making.take_back(making.progress.last, user)


def _hour(written: str | None) -> datetime | None:
    return datetime.fromisoformat(written) if written else None
