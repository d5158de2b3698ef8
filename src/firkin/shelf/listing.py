"""The list of stocks: found by what they are called, are, or where they came from; those at hand, or finished ones."""

from typing import Any

from django import forms
from django.db.models import Q

from firkin.shelf.models import StockQuerySet
from firkin.ui.fields import Select
from firkin.ui.lists import ListForm


class StockListForm(ListForm):
    """What is asked of the list of stocks."""

    which = forms.ChoiceField(
        choices=[("", "at hand"), ("finished", "finished"), ("all", "all")],
        required=False,
        label="Which",
        widget=Select(),
    )

    ORDERS = {  # noqa: RUF012
        "material": ("by material", ("material", "-strength_value", "name")),
        "new": ("newest first", ("-bought_on", "-pk")),
        "best": ("best before", ("best_before", "pk")),
        "name": ("by name", ("name",)),
    }

    def found(self, rows: StockQuerySet) -> StockQuerySet:
        """The stocks that are asked for, in the order that is asked for."""
        asked: dict[str, Any] = self.asked
        if asked["which"] == "finished":
            rows = rows.filter(used_up=True)
        elif asked["which"] != "all":
            rows = rows.on_hand()
        for word in asked["q"].split():
            fields = ("name", "material", "lot", "shop", "stands", "bar_code")
            fits = Q()
            for name in fields:
                fits |= Q(**{f"{name}__icontains": word})
            rows = rows.filter(fits)
        ordered: StockQuerySet = self.ordered(rows)
        return ordered
