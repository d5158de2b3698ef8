"""Forms of the formula book."""

from collections.abc import Mapping
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.core.formula import WAYS, Formula, formula_from_dict
from firkin.core.kitchen import Kitchen
from firkin.ui.fields import MakeField, Select, text_widget
from firkin.ui.signing import unsigned


class KeepForm(forms.Form):
    """Keep a reckoned mix as a formula. The mix travels signed, so it is the one that was shown."""

    name = forms.CharField(
        max_length=200,
        label="Name",
        error_messages={"required": "Give the formula a name to find it by."},
        widget=text_widget("a name of your own"),
    )
    signed = forms.CharField(widget=forms.HiddenInput)
    said = forms.CharField(max_length=300, required=False, widget=forms.HiddenInput)

    def clean_signed(self) -> dict[str, Any]:
        """The formula as plain data."""
        data = unsigned(self.cleaned_data["signed"])
        if data is None:
            raise ValidationError("This mix did not arrive whole. Go back and keep it again.")
        return data

    def formula(self, own: tuple[Any, ...]) -> Formula:
        """The formula under its name."""
        return formula_from_dict({**self.cleaned_data["signed"], "name": self.cleaned_data["name"]}, own)


class SizeForm(forms.Form):
    """How much of a formula, carried along unseen."""

    make = MakeField(required=False, widget=forms.HiddenInput)


class StripForm(SizeForm):
    """For which container a fill strip is drawn."""

    diameter = forms.FloatField(
        label="Inner diameter of the container, mm",
        min_value=5,
        max_value=2000,
        widget=text_widget("68", inputmode="decimal"),
    )


class ScaleForm(forms.Form):
    """How much of a formula to make, said in one of several ways, and with whose measures."""

    make = forms.CharField(required=False, max_length=60, label="Make", widget=text_widget("1.5 L", autocomplete="off"))
    way = forms.ChoiceField(
        required=False,
        label="Make it",
        choices=list(WAYS.items()),
        widget=Select(),
    )
    kitchen = forms.ChoiceField(
        required=False,
        label="Measured with",
        choices=[("", "exact amounts")],
        widget=Select(),
    )

    def __init__(self, *args: Any, kitchens: Mapping[str, Kitchen], **options: Any) -> None:
        super().__init__(*args, **options)
        choice = self.fields["kitchen"]
        assert isinstance(choice, forms.ChoiceField)
        choice.choices = [("", "exact amounts"), *((kitchen.id, kitchen.name) for kitchen in kitchens.values())]
