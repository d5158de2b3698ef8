"""Forms of a stock's ledger: weighed with its bottle, or some of it spilled, given away, thrown away."""

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.core.formula import falls_short
from firkin.core.measures import Quantity, figures
from firkin.shelf.models import Movement, Stock
from firkin.ui.fields import AmountField, MakeField, ReadField, Select, number_pad, text_widget


class WeighForm(forms.Form):
    """What a bottle weighs with what is in it, and empty: the rest is what is left."""

    shows = MakeField(
        bare="g",
        label="With what is in it, g",
        widget=number_pad("1240"),
        error_messages={"required": "Put the bottle on the scale, and enter what it shows, such as 1240 g."},
    )
    empty = MakeField(
        bare="g",
        label="The empty bottle, g",
        widget=number_pad("85"),
        error_messages={"required": "Enter what a bottle like it weighs empty, such as 85 g."},
    )

    def __init__(self, *args: Any, stock: Stock, **options: Any) -> None:
        options["initial"] = {"empty": f"{stock.tare_g:.6g}" if stock.tare_g is not None else ""}
        super().__init__(*args, **options)
        self.stock = stock

    def clean(self) -> dict[str, Any]:
        """Weights, and no more in it than it held when it was full."""
        data = super().clean() or {}
        for name in ("shows", "empty"):
            if isinstance(data.get(name), Quantity) and data[name].kind != "mass":
                self.add_error(name, "Weigh it: a weight such as 85 g.")
        if self.errors:
            return data
        content, full = data["shows"].g - data["empty"].g, self.stock.grams_of(self.stock.amount)
        if content < 0.0:
            self.add_error("shows", "That is less than the empty bottle weighs.")
        elif falls_short(full, content):
            self.add_error("shows", f"{figures(content)} g are in it then, and full it held {figures(full)} g.")
        return data

    def save(self) -> Movement:
        """Correct the ledger, and keep what the bottle weighs empty."""
        self.stock.tare_g = self.cleaned_data["empty"].g
        self.stock.save(update_fields=["tare_g"])
        return self.stock.weigh(self.cleaned_data["shows"].g - self.cleaned_data["empty"].g)


class MoveForm(forms.Form):
    """Some of a stock that went nowhere near a batch."""

    kind = forms.ChoiceField(
        label="It was",
        choices=[
            (kind.value, kind.label) for kind in (Movement.Kind.SPILLED, Movement.Kind.GIVEN, Movement.Kind.THROWN)
        ],
        widget=Select(),
    )
    amount: ReadField = AmountField(label="How much", widget=text_widget("50 mL"))
    reason = forms.CharField(
        max_length=100, required=False, label="A word, if you like", widget=text_widget("to the lock")
    )

    def __init__(self, *args: Any, stock: Stock, **options: Any) -> None:
        super().__init__(*args, **options)
        self.stock = stock

    def clean_amount(self) -> Quantity:
        """A volume or a weight, and no more than is left."""
        amount: Quantity = self.cleaned_data["amount"]
        if amount.kind not in ("volume", "mass") or not amount.value:
            raise ValidationError("Enter a volume or a weight, such as 50 mL or 40 g.")
        if falls_short(self.stock.left_g, self.stock.grams_of(amount)):
            raise ValidationError(f"Only {self.stock.left.words} is left by its ledger. Weigh it if there is more.")
        return amount

    def save(self) -> Movement:
        """One movement more."""
        data = self.cleaned_data
        grams = self.stock.grams_of(data["amount"])
        return self.stock.move(Movement.Kind(data["kind"]), -grams, data["reason"])
