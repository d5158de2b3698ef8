"""The form of one line of what goes in, wherever lines are typed."""

from functools import partial
from typing import Any

from django import forms

from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Line
from firkin.core.measures import read_error
from firkin.shelf.forms import AmountField, ReadField, text_widget
from firkin.shelf.on_hand import Shelf


class ErrorField(ReadField):
    """How well it was measured: an error such as 5 %, or a tool."""

    reader = staticmethod(read_error)


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
    error = ErrorField(label="Good to", required=False, widget=text_widget("good to", list="tools"))

    use_required_attribute = False  # an empty row is fine, so the browser must not insist

    def __init__(self, row: dict[str, str], index: int, own: tuple[Material, ...], shelf: Shelf) -> None:
        super().__init__(row, auto_id=f"id_%s_{index}")
        self.own, self.shelf = own, shelf
        if "error" in self.fields:
            self.fields["error"].reader = partial(read_error, own=shelf.tools)  # type: ignore[attr-defined]
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
