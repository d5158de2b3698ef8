"""Form fields that read the bench's language, and the choices several forms offer."""

import re
from collections.abc import Callable, Iterable
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.core.catalogue import families, materials, rule_lines
from firkin.core.errors import CannotReckon
from firkin.core.formula import read_dose
from firkin.core.measures import (
    NUMBER,
    doubt_points,
    read_error,
    read_heat,
    read_hours,
    read_number,
    read_quantity,
    read_strength,
    read_temperature,
    read_volume,
    read_volume_or_mass,
)

#: A longer number is no number of a thing here.
MOST_DIGITS = 15


def whole_number(typed: str) -> int:
    """The number of a thing that a form or an address names; 0, which nothing has, where it is none."""
    return int(typed) if typed.isascii() and typed.isdigit() and len(typed) <= MOST_DIGITS else 0


def text_widget(placeholder: str = "", **attributes: str) -> forms.TextInput:
    """A text input in the look of the bench."""
    return forms.TextInput(attrs={"class": "form-control", "placeholder": placeholder, **attributes})


def number_pad(placeholder: str = "", **attributes: str) -> forms.TextInput:
    """A text input for a figure: a telephone shows digits, and what stands there is selected when it is entered."""
    return text_widget(placeholder, inputmode="decimal", **{"data-select": "", **attributes})


def number_widget(**attributes: str) -> forms.NumberInput:
    """An input of a plain number in the look of the bench."""
    return forms.NumberInput(attrs={"class": "form-control", **attributes})


class Select(forms.Select):
    """A list to choose from in the look of the bench."""

    def __init__(self, attrs: dict[str, str] | None = None, choices: Iterable[Any] = ()) -> None:
        super().__init__({"class": "form-select", **(attrs or {})}, choices)


class ReadField(forms.CharField):
    """A text field whose value is what core reads out of it; its sentence becomes the field's error."""

    reader: Callable[[str], Any] = staticmethod(read_quantity)

    def __init__(self, *, bare: str = "", **options: Any) -> None:
        """``bare`` is the unit of a number that is typed alone: the one shown beside the field."""
        self.bare = bare
        options.setdefault("max_length", 60)
        super().__init__(**options)
        example = self.widget.attrs.get("placeholder")
        if example and "required" not in options.get("error_messages", {}):
            self.error_messages["required"] = f"Fill this in, such as {example}."
        self.widget.attrs.setdefault("autocomplete", "off")
        self.widget.attrs.setdefault("class", "form-control")

    def clean(self, value: Any) -> Any:
        """The value core reads; None for an empty optional field."""
        written = super().clean(value)
        if not written:
            return None
        if self.bare and NUMBER.fullmatch(written.strip()):
            written = f"{written.strip()} {self.bare}"
        try:
            return self.reader(written)
        except CannotReckon as error:
            raise ValidationError(str(error)) from None


def _typed(reader: Callable[[str], Any]) -> Any:
    """A reader of what a person types: "1.500" is asked about."""

    def read(written: str) -> Any:
        doubt_points(written)
        return reader(written)

    return staticmethod(read)


class AmountField(ReadField):
    """An amount such as 250 mL, 2 parts or q.s."""

    reader = _typed(read_quantity)


class MakeField(ReadField):
    """A finished quantity such as 1.5 L."""

    reader = _typed(read_volume_or_mass)


class VolumeField(ReadField):
    """A volume."""

    reader = _typed(read_volume)


class HeatField(ReadField):
    """The temperature of what is mixed or read."""

    reader = staticmethod(read_heat)


class NumberField(ReadField):
    """A plain number, as people write it; a sign of money before it is passed over."""

    reader = staticmethod(lambda written: read_number(re.sub(r"^[$£€]\s*", "", written.strip())))


class TemperatureField(ReadField):
    """A temperature in degrees Celsius."""

    reader = staticmethod(read_temperature)


def material_choices() -> list[str]:
    """Names for the list a material input suggests from."""
    return [material.name for material in materials().values()]


class WaitField(ReadField):
    """How long to wait, in hours."""

    reader = staticmethod(read_hours)


class KeepField(ReadField):
    """How long something keeps, in days."""

    reader = staticmethod(lambda written: read_hours(written) / 24.0)


class DoseField(ReadField):
    """What one load or wash takes, with its word: 108 mL, or 20 mL per wash."""

    reader = staticmethod(read_dose)


class ShareField(ReadField):
    """A share of the batch: a number of per cent."""

    reader = staticmethod(lambda written: read_number(written.replace("%", "")))


class StrengthField(ReadField):
    """A strength; a bare per cent is by volume."""

    reader = staticmethod(read_strength)


class ErrorField(ReadField):
    """How well it was measured: an error such as 5 %, or a tool."""

    reader = staticmethod(read_error)


class FamilyField(forms.ChoiceField):
    """A family of products."""

    def __init__(self, **options: Any) -> None:
        options.setdefault("label", "Family")
        chosen = [(family.id, family.name) for family in families().values()]
        super().__init__(choices=chosen, widget=Select, **options)


class BasisField(forms.ChoiceField):
    """What parts and per cents mean."""

    def __init__(self, **options: Any) -> None:
        basis = [("volume", "by volume"), ("weight", "by weight")]
        super().__init__(label="Parts and % are", choices=basis, widget=Select, **options)


def _rules() -> list[tuple[str, str]]:
    return [(rule.id, rule.name) for rule in rule_lines().values()]


class RuleField(forms.ChoiceField):
    """One rule line, or none."""

    def __init__(self, **options: Any) -> None:
        rules = [("", "no rule line"), *_rules()]
        super().__init__(label="Judge it against", required=False, choices=rules, widget=Select, **options)


class RulesField(forms.MultipleChoiceField):
    """Any number of rule lines."""

    def __init__(self, **options: Any) -> None:
        boxes = forms.CheckboxSelectMultiple
        super().__init__(label="Judge it against", required=False, choices=_rules(), widget=boxes, **options)
