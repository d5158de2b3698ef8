"""Taking back what was pressed last on a batch, from the page that follows, while nothing was written after it."""

from datetime import datetime

from django.db import transaction

from firkin.accounts.models import User
from firkin.batches.models import Batch, Entry
from firkin.core.bench import UNDOABLE_AFTERWARDS, EntryKind

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
            at = datetime.fromisoformat(before["at"])
            batch.waits.filter(ended_at=at).update(ended_at=None, early_reason="")
            batch.dues.filter(answered_at=at).update(answered_at=None, answer="")
            rests = before.get("rests_until")
            batch.state = before["state"]
            batch.rests_until = datetime.fromisoformat(rests) if rests else None
            batch.save(update_fields=["state", "rests_until"])
        batch.write(EntryKind.UNDO, user, undoes_id=entry.pk, text=f"Undone: {entry.text}")
        return entry
