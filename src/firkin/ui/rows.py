"""Rows of lines and steps as parallel lists of fields: reading them, a press that moves one, errors in place."""

import json
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from hashlib import sha256
from typing import Any, Protocol

from django import forms
from django.http import QueryDict

from firkin.core.audit import Finding
from firkin.core.catalogue import Material, Stock, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, Reckoning, formula_to_dict
from firkin.core.measures import read_error
from firkin.ui.fields import AmountField, ErrorField, text_widget

MOST_ROWS = 80
Row = dict[str, str]
_ACT = re.compile(r"(add|up|down|drop|move)-([a-z]+)(?:-(\d{1,3}))?(?:-to-(\d{1,3}))?", re.ASCII)
_FIX = re.compile(r"fix-([a-z-]{1,40})-([0-9.]{0,400})-([0-9a-f]{16})", re.ASCII)


class OnHand(Protocol):
    """What stands on a shelf: stocks that can be named in place of a material, tools with their error in per cent."""

    @property
    def tools(self) -> Iterable[tuple[str, float]]:
        """The tools, by name."""

    def find(self, name: str) -> Stock | None:
        """The stock that goes by a name."""


def rows_from(data: QueryDict, fields: Sequence[str], prefix: str = "", *, blanks: bool = False) -> list[Row]:
    """The rows of parallel lists; a row that is empty in every field is left out, unless ``blanks`` are kept."""
    columns = [data.getlist(prefix + field) for field in fields]
    count = min(max(map(len, columns), default=0), MOST_ROWS)
    rows = [
        {field: column[i] if i < len(column) else "" for field, column in zip(fields, columns, strict=True)}
        for i in range(count)
    ]
    return rows if blanks else [row for row in rows if filled(row)]


def filled(row: Mapping[str, str]) -> bool:
    """True where anything is typed."""
    return any(value.strip() for value in row.values())


@dataclass(frozen=True, slots=True)
class Act:
    """A press on a row: what to do, with which kind of row, at which place, and where to."""

    verb: str
    kind: str
    at: int = 0
    to: int = 0

    @classmethod
    def read(cls, data: QueryDict) -> "Act | None":
        """The press in what was sent, if there is one: "up-line-2", "move-step-3-to-0"."""
        found = _ACT.fullmatch(data.get("act", ""))
        return None if found is None else cls(found[1], found[2], int(found[3] or 0), int(found[4] or 0))

    def order(self, count: int) -> list[int | None]:
        """The new order of ``count`` rows as old positions; None is a new row."""
        order: list[int | None] = list(range(count))
        if self.verb == "add" and count < MOST_ROWS:
            return [*order, None]
        if self.verb == "drop" and self.at < count:
            return order[: self.at] + order[self.at + 1 :]
        if self.verb == "move" and self.at < count:
            order.insert(min(self.to, count - 1), order.pop(self.at))
            return order
        other = self.at - 1 if self.verb == "up" else self.at + 1
        if self.verb in ("up", "down") and 0 <= other < count and self.at < count:
            order[self.at], order[other] = order[other], order[self.at]
        return order


def reordered(rows: Sequence[Row], order: Iterable[int | None], fields: Iterable[str]) -> list[Row]:
    """The rows in a new order; a new one is blank."""
    return [rows[i] if i is not None else dict.fromkeys(fields, "") for i in order]


def marks(rows: Sequence[Any]) -> str:
    """Where the findings of each row are marked on the page, as a selector list."""
    return ",".join(f"#mark-{place},#errors-{place}" for place in range(len(rows)))


def fix_key(finding: Finding, result: Reckoning | None) -> str:
    """What the button of a fix posts: its rule, its lines, and which formula it was worked out for."""
    lines = ".".join(map(str, finding.lines))
    return f"{finding.rule}-{lines}-{_digest(result)}"


def _digest(result: Reckoning | None) -> str:
    if result is None:
        return "0" * 16
    formula = result.formula
    heard = [repr(line.claims) for line in formula.lines]
    shown = json.dumps([formula_to_dict(formula), repr(formula.claims), heard])
    return sha256(shown.encode()).hexdigest()[:16]


def fix_asked(data: QueryDict, findings: Sequence[Finding], result: Reckoning | None) -> Formula | None:
    """The formula with the fix done whose button was pressed; None where the formula has changed since it was shown."""
    act = _FIX.fullmatch(data.get("act", ""))
    if act is None or act[3] != _digest(result):
        return None
    wanted = f"{act[1]}-{act[2]}-"
    return next(
        (one.fixed for one in findings if one.fixed is not None and fix_key(one, result).startswith(wanted)), None
    )


def say_at_field(error: CannotReckon, rows: Sequence[forms.Form], head: forms.Form) -> str:
    """Show what core says at the field it is about; what has no field comes back, for the whole."""
    match error.path:
        case ("lines", int(index), str(name)) if index < len(rows) and name in rows[index].fields:
            rows[index].add_error(name, str(error))
        case (str(name),) if name in head.fields:
            head.add_error(name, str(error))
        case _:
            return str(error)
    return ""


class LineForm(forms.Form):
    """One line of what goes in. Every row of a question has the same names; the order tells them apart."""

    material = forms.CharField(
        max_length=80,
        label="What",
        widget=text_widget("what goes in", list="materials", autocomplete="off"),
        error_messages={"required": "Say what goes in, or take the line out."},
    )
    strength = forms.CharField(
        max_length=60,
        required=False,
        label="Strength on the label",
        widget=text_widget("strength", autocomplete="off"),
    )
    amount = AmountField(
        label="How much",
        widget=text_widget("how much"),
        error_messages={"required": "Say how much, such as 250 mL or 2 parts, or take the line out."},
    )
    error = ErrorField(label="Good to", required=False, widget=text_widget("5 %", list="tools"))

    use_required_attribute = False  # an empty row is fine, so the browser must not insist

    def __init__(self, row: dict[str, str], index: int, own: tuple[Material, ...], shelf: OnHand) -> None:
        super().__init__(row, auto_id=f"id_%s_{index}")
        self.own, self.shelf = own, shelf
        error = self.fields.get("error")
        if isinstance(error, ErrorField):
            error.reader = partial(read_error, own=shelf.tools)
        self.line: Line | None = None
        for name in self.fields:
            self.fields[name].widget.attrs["aria-describedby"] = f"id_{name}_{index}_error"

    def clean(self) -> dict[str, Any]:
        """Read the line; a stock's name brings its strength, a typed strength the material's usual basis."""
        data = super().clean() or {}
        if not data.get("material"):
            return data
        stock = self.shelf.find(data["material"])
        material = find(stock.material if stock else data["material"], self.own)
        strength = stock.strength if stock else None
        if data.get("strength"):
            try:
                strength = material.read_strength(data["strength"])
                material.mass_fraction(strength)
            except CannotReckon as error:
                self.add_error("strength", str(error))
        if data.get("amount") is not None:
            self.line = Line(material, data["amount"], strength, error=data.get("error") or 0.0)
        return data
