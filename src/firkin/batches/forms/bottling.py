"""Forms of filling and of labels."""

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.batches.models import Batch
from firkin.core.bench import can_be_filled
from firkin.core.measures import Quantity, amount_words
from firkin.drawings.label import FORMATS, USUAL
from firkin.shelf.models import Vessel
from firkin.ui.fields import (
    Select,
    VolumeField,
    number_pad,
    number_widget,
)

#: So many labels in one file at the most.
MOST_LABELS = 500


class StarterForm(forms.Form):
    """What of a finished ferment is kept back to start the next."""

    amount = VolumeField(bare="mL", label="Keep back, mL", widget=number_pad("100"))

    def __init__(self, *args: Any, left_mL: float, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix, self.left_mL = "", left_mL

    def clean_amount(self) -> Quantity:
        """No more than is left of the batch."""
        amount: Quantity = self.cleaned_data["amount"]
        if not can_be_filled(amount.mL, self.left_mL):
            raise ValidationError(f"About {amount_words(self.left_mL)} are left of it.")
        return amount


class FillForm(forms.Form):
    """Bottles of one kind, filled."""

    vessel = forms.ModelChoiceField(
        queryset=Vessel.objects.none(),
        label="Bottle",
        empty_label=None,
        widget=Select(),
    )
    count = forms.IntegerField(
        min_value=1,
        max_value=10_000,
        label="How many",
        widget=number_widget(inputmode="numeric"),
    )
    fill = VolumeField(bare="mL", label="Filled to, each, mL", widget=number_pad("475"))
    anyway = forms.BooleanField(required=False, label="I know, and fill it all the same")
    clean_ones = forms.BooleanField(required=False, label="These bottles never held soap")
    key = forms.UUIDField(widget=forms.HiddenInput)

    def __init__(
        self,
        *args: Any,
        left_mL: float,
        empty: dict[Vessel, int],
        fails: str = "",
        never_soaped: dict[int, int] | None = None,
        **options: Any,
    ) -> None:
        super().__init__(*args, **options)
        self.fails, self.never_soaped = fails, never_soaped
        self.left_mL, self.empty = left_mL, empty
        bottles = self.fields["vessel"]
        assert isinstance(bottles, forms.ModelChoiceField)
        bottles.queryset = Vessel.objects.filter(pk__in=[bottle.pk for bottle in empty])
        bottles.label_from_instance = self._bottle_words  # type: ignore[method-assign, assignment]

    def _bottle_words(self, bottle: Vessel) -> str:
        top = f" with {bottle.get_top_display()}" if bottle.top else ""
        here = self.empty[bottle]
        unwashed = min(bottle.to_wash, here)
        wash = f", {unwashed} of them to be washed" if unwashed else ""
        return f"{bottle.name}, {bottle.volume_mL:g} mL{top}, {here} empty{wash}"

    def clean(self) -> dict[str, Any]:
        """No bottle above its brim, no more than is left of the batch; below its line only when it is meant."""
        data = super().clean() or {}
        if self.fails and not data.get("anyway"):
            self.add_error("anyway", f"{self.fails} Tick this to fill it anyway, or fix it first.")
        vessel, count, fill = data.get("vessel"), data.get("count"), data.get("fill")
        if vessel is not None and fill is not None and fill.mL > vessel.volume_mL:
            self.add_error("fill", f"{vessel.name} holds {vessel.volume_mL:g} mL to the brim; leave headspace.")
        if vessel is not None and count is not None and count > self.empty[vessel]:
            full = f" and {vessel.count - self.empty[vessel]} full" if vessel.count > self.empty[vessel] else ""
            self.add_error("count", f"There are {self.empty[vessel]} of them empty{full}.")
        elif vessel is not None and count is not None and self.never_soaped is not None and not data.get("clean_ones"):
            sure = self.never_soaped.get(vessel.pk, 0)
            if count > sure:
                known = f"Only {sure} of them" if sure else "None of them"
                self.add_error("clean_ones", f"{known} surely never held soap. Soap left in a bottle spoils a rub.")
        if fill is not None and count is not None and not can_be_filled(fill.mL * count, self.left_mL):
            self.add_error("count", f"That is {fill.mL * count:.0f} mL; about {self.left_mL:.0f} mL are left.")
        return data


class LabelForm(forms.Form):
    """What a batch's label says in the maker's own words."""

    words = forms.CharField(
        max_length=160,
        required=False,
        label="Your words, above the cautions",
        widget=forms.Textarea(attrs={"class": "form-control", "rows": 2}),
    )
    opened = forms.BooleanField(required=False, label="A line for the day it is opened")
    key = forms.UUIDField(widget=forms.HiddenInput)


class SheetForm(forms.Form):
    """Labels of several batches on sheets, from a place on."""

    size = forms.ChoiceField(
        label="Label size",
        choices=[(one.id, f"{one.name}, {one.sheet.count} on a sheet") for one in FORMATS.values()],
        initial=USUAL,
        widget=Select(),
    )
    start = forms.IntegerField(
        label="Begin at label",
        min_value=1,
        initial=1,
        help_text="Counted row by row. The ones before it are used already.",
        widget=number_widget(inputmode="numeric"),
    )

    def __init__(self, *args: Any, batches: list[Batch], **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix, self.batches = "", batches
        for batch in batches:
            self.fields[f"count_{batch.pk}"] = forms.IntegerField(
                label=f"{batch.code} {batch.name}",
                required=False,
                min_value=0,
                max_value=MOST_LABELS,
                initial=sum(filling.count for filling in batch.fillings.all()),
                widget=number_widget(inputmode="numeric"),
            )

    def of_batches(self) -> list[forms.BoundField]:
        """The fields that say how many of each batch."""
        return [self[f"count_{batch.pk}"] for batch in self.batches]

    def counts(self) -> list[tuple[Batch, int]]:
        """How many labels of which batch."""
        found = [(batch, self.cleaned_data.get(f"count_{batch.pk}") or 0) for batch in self.batches]
        return [(batch, count) for batch, count in found if count]

    def clean(self) -> dict[str, Any]:
        """At least one label, not too many, and a place that is on the sheet."""
        data = super().clean() or {}
        size = FORMATS.get(data.get("size", ""))
        if size is not None and data.get("start", 1) > size.sheet.count:
            self.add_error("start", f"A sheet of these has {size.sheet.count} labels.")
        total = sum(count for _, count in self.counts())
        if not self.errors and not total:
            raise ValidationError("Say how many labels of at least one batch.")
        if total > MOST_LABELS:
            raise ValidationError(f"That is {total} labels; print up to {MOST_LABELS} at a time.")
        return data
