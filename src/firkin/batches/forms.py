"""Forms of a batch's stages."""

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.batches.making import Making
from firkin.core.quantities import Quantity
from firkin.shelf.forms import AmountField, MakeField, ReadField, VolumeField, text_widget
from firkin.shelf.models import Stock, Vessel


class StartForm(forms.Form):
    """How much to make."""

    make = MakeField(label="Make")
    version = forms.IntegerField(min_value=1)


class PrepareForm(forms.Form):
    """Which bottle for each line, and which vessel."""

    vessel = forms.ModelChoiceField(
        queryset=Vessel.objects.none(),
        required=False,
        label="Mix it in",
        empty_label="not said",
        widget=forms.Select(attrs={"class": "form-select"}),
    )

    def __init__(self, *args: Any, making: Making, **options: Any) -> None:
        super().__init__(*args, **options)
        self.making = making
        workshop = making.batch.workshop
        vessels = self.fields["vessel"]
        assert isinstance(vessels, forms.ModelChoiceField)
        vessels.queryset = Vessel.objects.filter(workshop=workshop, kind="mixing")
        on_hand = Stock.objects.filter(workshop=workshop).on_hand()
        self.stock_names: list[str] = []
        for row in making.lines:
            name = f"stock_{row.position}"
            self.stock_names.append(name)
            field = forms.ModelChoiceField(
                queryset=on_hand.of(row.material),
                required=False,
                empty_label="as the formula says",
                widget=forms.Select(attrs={"class": "form-select"}),
            )
            field.label_from_instance = _stock_words  # type: ignore[method-assign, assignment]
            self.fields[name] = field

    def clean_vessel(self) -> Vessel | None:
        """It must hold the batch."""
        vessel: Vessel | None = self.cleaned_data["vessel"]
        needed = self.making.result.total.volume_mL
        if vessel is not None and vessel.volume_mL < needed:
            raise ValidationError(
                f"{vessel.name} holds {vessel.volume_mL:.0f} mL and the batch comes to {needed:.0f} mL. "
                "Choose a larger one or make less."
            )
        return vessel

    def stocks(self) -> dict[int, Stock]:
        """The stocks chosen, by line."""
        chosen = {row.position: self.cleaned_data.get(f"stock_{row.position}") for row in self.making.lines}
        return {position: stock for position, stock in chosen.items() if stock is not None}


def _stock_words(stock: Stock) -> str:
    return f"{stock.name}, {stock.strength}" if stock.strength else stock.name


def _bottle_words(bottle: Vessel) -> str:
    return f"{bottle.name}, {bottle.volume_mL:g} mL, {bottle.count} on hand"


class MeasuredForm(forms.Form):
    """The amount really measured for one line."""

    amount: ReadField = AmountField(
        label="Really measured",
        widget=text_widget(inputmode="text"),
        error_messages={"required": "Enter what was really measured, such as 250 mL."},
    )
    key = forms.UUIDField(widget=forms.HiddenInput)
    task = forms.IntegerField(widget=forms.HiddenInput, min_value=0)

    def clean_amount(self) -> Quantity:
        """Only volumes and weights can be measured."""
        amount: Quantity = self.cleaned_data["amount"]
        if amount.kind not in ("volume", "mass"):
            raise ValidationError("What was measured is a volume or a weight, such as 250 mL or 200 g.")
        return amount


class TopUpForm(MeasuredForm):
    """The level really reached when topping up."""

    amount: ReadField = VolumeField(
        label="Topped up to",
        widget=text_widget(inputmode="text"),
        error_messages={"required": "Enter the mark it was topped up to, such as 1.5 L."},
    )


class TickForm(forms.Form):
    """Something done, with nothing to measure."""

    key = forms.UUIDField(widget=forms.HiddenInput)
    task = forms.IntegerField(widget=forms.HiddenInput, min_value=0)


class ReleaseForm(forms.Form):
    """Release a batch; early, a reason is asked for."""

    reason = forms.CharField(
        max_length=300, required=False, label="Why early", widget=text_widget("stays in the record")
    )


class FillForm(forms.Form):
    """Bottles of one kind, filled."""

    vessel = forms.ModelChoiceField(
        queryset=Vessel.objects.none(),
        label="Bottle",
        empty_label=None,
        widget=forms.Select(attrs={"class": "form-select"}),
    )
    count = forms.IntegerField(
        min_value=1,
        max_value=10_000,
        label="How many",
        widget=forms.NumberInput(attrs={"class": "form-control", "inputmode": "numeric"}),
    )
    fill = VolumeField(label="Filled to, each", widget=text_widget("475 mL"))
    key = forms.UUIDField(widget=forms.HiddenInput)

    def __init__(self, *args: Any, left_mL: float, workshop: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.left_mL = left_mL
        bottles = self.fields["vessel"]
        assert isinstance(bottles, forms.ModelChoiceField)
        bottles.queryset = Vessel.objects.filter(workshop=workshop, kind="bottle")
        bottles.label_from_instance = _bottle_words  # type: ignore[method-assign, assignment]

    def clean(self) -> dict[str, Any]:
        """No bottle above its brim, no more than is left of the batch."""
        data = super().clean() or {}
        vessel, count, fill = data.get("vessel"), data.get("count"), data.get("fill")
        if vessel is not None and fill is not None and fill.mL > vessel.volume_mL:
            self.add_error("fill", f"{vessel.name} holds {vessel.volume_mL:g} mL to the brim; leave headspace.")
        if vessel is not None and count is not None and count > vessel.count:
            self.add_error("count", f"There are {vessel.count} of them on the shelf.")
        if fill is not None and count is not None and fill.mL * count > self.left_mL * 1.02 + 1.0:
            self.add_error("count", f"That is {fill.mL * count:.0f} mL; about {self.left_mL:.0f} mL are left.")
        return data


class NoteForm(forms.Form):
    """A note in the journal."""

    text = forms.CharField(
        max_length=2000,
        label="Write in the journal",
        widget=forms.Textarea(attrs={"class": "form-control", "rows": 2}),
    )
    key = forms.UUIDField(widget=forms.HiddenInput)
