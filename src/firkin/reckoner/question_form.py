"""The page of a question: core's declaration as inputs, what was typed read by core, each error at its input."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any

from django import forms
from django.http import QueryDict

from firkin.core.errors import CannotReckon
from firkin.core.questions import Answer, Field, Kind, Question
from firkin.shelf.on_hand import Shelf
from firkin.ui.fields import Select, text_widget

Path = tuple[str | int, ...]
#: So many rows of a list are shown at the most.
MOST_ROWS = 12


def name_of(path: Path) -> str:
    """The name of an input in the address: "stock", "parts_additive", "containers_1_volume"; rows count from 1.

    >>> name_of(("containers", 0, "volume"))
    'containers_1_volume'
    """
    return "_".join(str(part + 1) if isinstance(part, int) else part for part in path)


@dataclass
class Block:
    """Inputs that stand together, under a legend where there is one; ``more`` may have another row after it."""

    legend: str
    fields: list[forms.BoundField] = field(default_factory=list)
    more: str = ""


class QuestionForm(forms.Form):
    """A question as a form over the address; ``try_answer`` gives the answer, or leaves the errors at their inputs."""

    use_required_attribute = False

    def __init__(self, question: Question, data: QueryDict, shelf: Shelf) -> None:
        keys = tuple(one.key for one in question.fields)
        asked = any(name == key or name.startswith(f"{key}_") for name in data for key in keys)
        typed: Mapping[str, str] = data.dict() if asked else dict(_flat(question.opening))  # type: ignore[assignment]
        super().__init__(typed, label_suffix="", auto_id="id_%s")
        self.question, self.shelf = question, shelf
        self._rows: dict[str, int] = {}
        self._plan: list[tuple[str, list[str], str]] = []
        for one in question.fields:
            if one.on_page:
                self._add(one, data.get("more", ""))

    def _add(self, one: Field, more: str) -> None:
        if one.rows is None:
            parts = [part for part in one.fields if part.on_page]
            names = [self._input(part, (one.key, part.key)) for part in parts] or [self._input(one, (one.key,))]
            self._plan.append((one.label if len(parts) > 1 else "", names, ""))
            return
        fewest, most = one.rows
        count = max(fewest, self._typed_rows(one.key) + (fewest != most))
        count = self._rows[one.key] = min(count + (more == one.key), most, MOST_ROWS)
        for i in range(count):
            label = one.row_labels[i] if i < len(one.row_labels) else "And"
            last = one.key if i == count - 1 and count < min(most, MOST_ROWS) else ""
            if one.fields:
                self._plan.append((label, [self._input(part, (one.key, i, part.key)) for part in one.fields], last))
            else:
                self._plan.append(("", [self._input(one, (one.key, i), label)], last))

    def _typed_rows(self, key: str) -> int:
        """How many rows of a list have something typed in them, up to the last that has."""
        numbers = [
            int(name.split("_")[len(key.split("_"))])
            for name, value in self.data.items()
            if name.startswith(f"{key}_") and value.strip() and name[len(key) + 1 :].split("_")[0].isdecimal()
        ]
        return min(max(numbers, default=0), MOST_ROWS)

    def _input(self, one: Field, path: Path, label: str = "") -> str:
        name, choices = name_of(path), list(one.choices())
        if choices:
            widget: forms.Widget = Select(choices=choices)
        elif one.kind in (Kind.NUMBER, Kind.COUNT, Kind.READING):
            widget = text_widget(one.hint, inputmode="decimal", autocomplete="off")
        elif one.kind is Kind.MATERIAL:
            widget = text_widget(one.hint, autocomplete="off", list="materials")
        elif one.kind is Kind.STRENGTH:
            widget = text_widget(one.hint, autocomplete="off", list="stocks")
        else:
            widget = text_widget(one.hint, autocomplete="off")
        self.fields[name] = forms.CharField(
            required=False, max_length=120, label=label or one.label, help_text=one.help, widget=widget
        )
        return name

    @property
    def blocks(self) -> Iterator[Block]:
        """The inputs as they stand on the page."""
        for legend, names, more in self._plan:
            yield Block(legend, [self[name] for name in names], more)

    def _written(self, fields: Iterable[Field], path: Path = ()) -> dict[str, Any]:
        """What was typed, under the keys of the format."""
        written: dict[str, Any] = {}
        for one in fields:
            here = (*path, one.key)
            if not one.on_page:
                continue
            if one.rows is not None:
                rows = range(self._rows[one.key])
                written[one.key] = [
                    self._written(one.fields, (*here, i)) if one.fields else self._typed((*here, i)) for i in rows
                ]
            else:
                written[one.key] = self._written(one.fields, here) if one.fields else self._typed(here)
        return written

    def _typed(self, path: Path) -> str:
        return str(self.cleaned_data.get(name_of(path), ""))

    def clean(self) -> dict[str, Any]:
        """Nothing that a list of choices does not hold."""
        data = super().clean() or {}
        for name, one in self.fields.items():
            if isinstance(one.widget, forms.Select) and data.get(name):
                known = [key for key, _ in one.widget.choices]
                if data[name] not in known:
                    self.add_error(name, "Choose one of these.")
        return data

    def try_answer(self) -> Answer | None:
        """The answer, or None with the errors at their inputs."""
        if not self.is_valid():
            return None
        asked = self.question.read(self._written(self.question.fields), self.shelf.stocks)
        for error in asked.errors:
            self._say_at_field(error)
        if asked.errors:
            return None
        try:
            return self.question.solve(asked)
        except CannotReckon as error:
            self._say_at_field(error)
            return None

    def _say_at_field(self, error: CannotReckon) -> None:
        name = name_of(error.path)
        near = (one for one in self.fields if one == name or one.startswith(f"{name}_"))
        self.add_error(next(near, None) if name else None, str(error))


def _flat(written: Any, path: Path = ()) -> Iterator[tuple[str, str]]:
    """What stands under the keys of the format, as inputs by name."""
    if isinstance(written, dict | list):
        pairs = written.items() if isinstance(written, dict) else enumerate(written)
        for key, value in pairs:
            yield from _flat(value, (*path, key))
    else:
        yield name_of(path), str(written)
