"""Forms of what really happened: left out and why, put in late, out of which bottle."""

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.batches.forms.stages import stock_words
from firkin.batches.making import Making
from firkin.core.measures import Quantity
from firkin.shelf.models import Stock
from firkin.ui.fields import AmountField, ReadField, Select, number_pad, text_widget


class LeaveOutForm(forms.Form):
    """A task that was left out, and why."""

    why = forms.CharField(
        max_length=200, required=False, label="Why, if you like", widget=text_widget("none in the house")
    )
    task = forms.IntegerField(widget=forms.HiddenInput, min_value=0)
    key = forms.UUIDField(widget=forms.HiddenInput)


class LateForm(forms.Form):
    """How much of a line went in after all."""

    amount: ReadField = AmountField(
        label="Went in",
        widget=number_pad(),
        error_messages={"required": "Enter how much went in, such as 15 mL."},
    )
    key = forms.UUIDField(widget=forms.HiddenInput)

    def clean_amount(self) -> Quantity:
        """Only volumes and weights can be measured."""
        amount: Quantity = self.cleaned_data["amount"]
        if amount.kind not in ("volume", "mass") or not amount.value:
            raise ValidationError("Enter a volume or a weight, such as 15 mL or 20 g.")
        return amount


class NeverForm(forms.Form):
    """A measured line that is not in this batch after all."""

    why = forms.CharField(max_length=200, required=False, label="Why, if you like", widget=text_widget("other jug"))
    key = forms.UUIDField(widget=forms.HiddenInput)


class BottleForm(forms.Form):
    """Out of which bottle a line really is."""

    stock = forms.ModelChoiceField(
        queryset=Stock.objects.none(),
        label="It is from",
        empty_label="choose a bottle",
        widget=Select(),
        error_messages={"required": "Choose the bottle it really is from."},
    )
    key = forms.UUIDField(widget=forms.HiddenInput)

    def __init__(self, *args: Any, making: Making, line: int, **options: Any) -> None:
        super().__init__(*args, **options)
        field = self.fields["stock"]
        assert isinstance(field, forms.ModelChoiceField)
        row = making.lines[line]
        others = Stock.objects.filter(workshop=making.batch.workshop, material=row.material)
        field.queryset = others.exclude(pk=row.stock.pk) if row.stock is not None else others
        field.label_from_instance = stock_words  # type: ignore[method-assign, assignment]
