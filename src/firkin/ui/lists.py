"""Lists that grow: searched, filtered, sorted and paged, in the same few queries however long they are."""

from typing import Any, ClassVar

from django import forms
from django.core.paginator import Page, Paginator
from django.db.models import QuerySet
from django.http import QueryDict

from firkin.ui.fields import Select, text_widget

#: So many rows stand on a page.
A_PAGE = 50


class ListForm(forms.Form):
    """What is asked of a list: words to find, and in which order it stands; a list adds its own filters."""

    q = forms.CharField(max_length=80, required=False, label="Find", widget=text_widget("name or number"))
    sort = forms.ChoiceField(required=False, label="Order", widget=Select())

    #: Each order by its key: its words, and the columns it sorts by.
    ORDERS: ClassVar[dict[str, tuple[str, tuple[str, ...]]]] = {}

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        choices = [(key, words) for key, (words, _) in self.ORDERS.items()]
        self.fields["sort"].choices = [("", choices[0][1]), *choices[1:]]  # type: ignore[attr-defined]
        self.order_fields([*[name for name in self.fields if name != "sort"], "sort"])

    @property
    def asked(self) -> dict[str, Any]:
        """What is asked for, as far as it can be read: a filter nobody offered is none."""
        return self.cleaned_data if self.is_valid() else dict.fromkeys(self.fields, "") | dict(self.cleaned_data)

    def ordered(self, rows: Any) -> Any:
        """The rows in the order that is asked for; in the first one where none is."""
        keys = list(self.ORDERS)
        _, columns = self.ORDERS.get(self.asked["sort"] or keys[0], self.ORDERS[keys[0]])
        return rows.order_by(*columns)


def page_of(rows: "QuerySet[Any] | list[Any]", query: QueryDict, size: int = A_PAGE) -> dict[str, Any]:
    """A page of rows, and the rest of the address for its links; the nearest page for one that is not there."""
    page: Page[Any] = Paginator(rows, size).get_page(query.get("page"))
    others = query.copy()
    others.pop("page", None)
    return {"page": page, "query": others.urlencode()}


def number_in(word: str) -> int | None:
    """The batch number in a word such as 26-014, 014 or 26-014-3; None where there is none."""
    parts = word.split("-")
    number = parts[1] if len(parts) > 1 else parts[0]
    return int(number) if number.isascii() and number.isdigit() and len(number) < 9 else None
