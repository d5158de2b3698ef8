"""What depends on a thing of the shelf: each app says it of its own records, the shelf knows none of them."""

from django.db import models
from django.dispatch import Signal

#: Sent with ``thing``; whoever keeps records of it answers with sentences.
what_depends = Signal()

#: So many are named; of more their number is said.
_MOST_NAMED = 4


def dependants(thing: models.Model) -> list[str]:
    """Sentences about what depends on a thing; none where nothing does."""
    answers = what_depends.send(type(thing), thing=thing)
    return [said for _, found in answers for said in found or ()]


def named(what: str, names: list[str]) -> list[str]:
    """One sentence that names the records: "Made from it: 26-003 Landing rub, and 2 more."; none for no names."""
    if not names:
        return []
    more = f", and {len(names) - _MOST_NAMED} more" if len(names) > _MOST_NAMED else ""
    return [f"{what}: {', '.join(names[:_MOST_NAMED])}{more}."]
