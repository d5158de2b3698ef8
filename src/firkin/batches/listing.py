"""The list of batches: found by number, name or formula; by state and family; newest first or otherwise."""

from typing import Any

from django import forms
from django.db.models import Q

from firkin.batches.models import BatchQuerySet, State
from firkin.core.catalogue import families
from firkin.ui.fields import Select
from firkin.ui.lists import ListForm, number_in


class BatchListForm(ListForm):
    """What is asked of the list of batches."""

    state = forms.ChoiceField(
        choices=[("", "any"), *State.choices, ("bad", "marked as bad")], required=False, label="State", widget=Select()
    )
    family = forms.ChoiceField(required=False, label="Family", widget=Select())

    ORDERS = {  # noqa: RUF012
        "new": ("newest first", ("-number",)),
        "old": ("oldest first", ("number",)),
        "name": ("by name", ("name", "-number")),
        "strength": ("strongest first", ("-strength_pct", "-number")),
    }

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        kinds = [(one.id, one.name) for one in families().values()]
        self.fields["family"].choices = [("", "any"), *kinds]  # type: ignore[attr-defined]

    def found(self, rows: BatchQuerySet) -> BatchQuerySet:
        """The batches that are asked for, in the order that is asked for."""
        asked = self.asked
        if asked["state"] == "bad":
            rows = rows.filter(bad_since__isnull=False)
        elif asked["state"]:
            rows = rows.filter(state=asked["state"])
        if asked["family"]:
            rows = rows.filter(family=asked["family"])
        rows = found_by(rows, asked["q"])
        ordered: BatchQuerySet = self.ordered(rows)
        return ordered


def found_by(rows: BatchQuerySet, words: str) -> BatchQuerySet:
    """The batches that every word of a search fits: a number, or a piece of the name."""
    for word in words.split():
        number = number_in(word)
        by_number = Q(number=number) if number is not None else Q(pk__in=[])
        rows = rows.filter(by_number | Q(name__icontains=word))
    return rows
