"""What the questions share: reading strengths on the right basis, stocks by name, errors in place."""

from typing import Any, ClassVar

from django import forms
from django.http import QueryDict

from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength
from firkin.reckoner.answers import Answer
from firkin.shelf.at_hand import Shelf
from firkin.shelf.forms import text_widget


def active_field(*extra: tuple[str, str]) -> forms.ChoiceField:
    """Which active a question is about: the two alcohols first."""
    return forms.ChoiceField(
        label="What",
        choices=[("isopropanol", "Isopropanol"), ("ethanol", "Ethanol"), *extra],
        widget=forms.Select(attrs={"class": "form-select"}),
    )


def strength_field(label: str, placeholder: str, help_text: str = "", *, required: bool = True) -> forms.CharField:
    """A strength as typed, or the name of a stock on the shelf; read in Question.clean."""
    return forms.CharField(
        max_length=120,
        label=label,
        required=required,
        help_text=help_text,
        error_messages={"required": "A strength is missing. Write one such as 70 % or 190 proof."},
        widget=text_widget(placeholder, autocomplete="off", list="stocks"),
    )


class Question(forms.Form):
    """A question: its address, its words, its fields, and its answer."""

    slug: ClassVar[str]
    short: ClassVar[str]
    title: ClassVar[str]
    lead: ClassVar[str]
    example: ClassVar[dict[str, str]]
    #: Fields that hold strengths, read with the material of the field "active".
    strengths: ClassVar[tuple[str, ...]] = ()
    #: Which field shows an error that core names by another word.
    places: ClassVar[dict[str, str]] = {}

    use_required_attribute = False
    do_not_call_in_templates = True  # the frame lists the questions themselves

    def __init__(self, data: QueryDict, shelf: Shelf) -> None:
        asked = any(name in data for name in self.base_fields)
        super().__init__(data if asked else self.example, label_suffix="", auto_id="id_%s")
        self.shelf = shelf

    @property
    def material(self) -> Material:
        """The material of the field "active"."""
        return find(self.cleaned_data.get("active") or "ethanol")

    def clean(self) -> dict[str, Any]:
        """Read the strengths: typed ones on the material's usual basis, or a stock's by its name."""
        data = super().clean() or {}
        for name in self.strengths:
            if data.get(name):
                try:
                    data[name] = self._read(data[name])
                except CannotReckon as error:
                    self.add_error(name, str(error))
        return data

    def _read(self, text: str) -> Strength:
        stock = self.shelf.find(text)
        if stock is not None:
            if stock[1] != self.material.id:
                raise CannotReckon(f"{stock[0]} is {find(stock[1]).name.lower()}, not {self.material.name.lower()}.")
            return stock[2]
        strength = self.material.read_strength(text)
        self.material.mass_fraction(strength)
        return strength

    def try_answer(self) -> Answer | None:
        """The answer, or None with the errors at their fields."""
        if not self.is_valid():
            return None
        try:
            return self.answer(self.cleaned_data)
        except CannotReckon as error:
            place = str(error.path[0]) if error.path else ""
            place = self.places.get(place, place)
            self.add_error(place if place in self.fields else None, str(error))
            return None

    def answer(self, data: dict[str, Any]) -> Answer:
        """Answer from fields that were all read; CannotReckon names the field at fault."""
        raise NotImplementedError
