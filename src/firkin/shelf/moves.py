"""Forms of a stock's ledger: weighed with its bottle, or some of it spilled, given away, thrown away."""

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.core.formula import falls_short
from firkin.core.measures import Quantity, figures
from firkin.shelf.models import Movement, Stock
from firkin.ui.fields import AmountField, MakeField, ReadField, Select, number_pad, text_widget
from firkin.ui.photos import small_photo


class LabelPhotoForm(forms.Form):
    """A picture of what the label says."""

    picture = forms.FileField(
        label="A picture of its label",
        widget=forms.FileInput(attrs={"class": "form-control", "accept": "image/*", "capture": "environment"}),
        error_messages={"required": "Choose a picture, or take one."},
    )

    def clean_picture(self) -> bytes:
        """Small, upright, and without what the camera wrote into it."""
        return small_photo(self.cleaned_data["picture"])


#: A bottle out of which less than this share was taken counts as full, when its empty weight is guessed.
_AS_GOOD_AS_FULL = 0.995


class WeighForm(forms.Form):
    """What a bottle weighs with what is in it, and empty: the rest is what is left.

    Of a bottle that nothing was taken out of, the empty weight can be left open: it is what it weighs less what it
    holds, and stays a guess until an empty one is weighed.
    """

    shows = MakeField(
        bare="g",
        label="With what is in it, g",
        widget=number_pad("1240"),
        error_messages={"required": "Put the bottle on the scale, and enter what it shows, such as 1240 g."},
    )
    empty = MakeField(
        bare="g",
        label="The empty bottle, g",
        required=False,
        widget=number_pad("85"),
    )

    def __init__(self, *args: Any, stock: Stock, **options: Any) -> None:
        options["initial"] = {"empty": f"{stock.tare_g:.6g}" if stock.tare_g is not None else ""}
        super().__init__(*args, **options)
        self.stock = stock
        full = stock.grams_of(stock.amount)
        self.still_full = stock.tare_g is None and full > 0.0 and stock.ledger >= full * _AS_GOOD_AS_FULL
        if self.still_full:
            self.fields["empty"].help_text = "Still full? Leave this empty: it is worked out."
        elif stock.tare_guessed:
            self.fields["empty"].help_text = "Guessed, from when it was full. Weigh an empty one when you can."

    def clean(self) -> dict[str, Any]:
        """Weights, and no more in it than it held when it was full."""
        data = super().clean() or {}
        for name in ("shows", "empty"):
            if isinstance(data.get(name), Quantity) and data[name].kind != "mass":
                self.add_error(name, "Weigh it: a weight such as 85 g.")
        if self.errors:
            return data
        if not data.get("empty"):
            return self._as_full(data)
        content, full = data["shows"].g - data["empty"].g, self.stock.grams_of(self.stock.amount)
        if content < 0.0:
            self.add_error("shows", "That is less than the empty bottle weighs.")
        elif falls_short(full, content):
            self.add_error("shows", f"{figures(content)} g are in it then, and full it held {figures(full)} g.")
        return data

    def _as_full(self, data: dict[str, Any]) -> dict[str, Any]:
        """The empty weight of a bottle that nothing was taken out of."""
        tare = data["shows"].g - self.stock.ledger
        if not self.still_full:
            self.add_error("empty", "Enter what a bottle like it weighs empty, such as 85 g.")
        elif tare <= 0.0:
            self.add_error(
                "shows", f"Full it holds {figures(self.stock.ledger)} g, and the bottle weighs something too."
            )
        else:
            data["empty"], data["guessed"] = Quantity(tare, "g"), True
        return data

    def save(self) -> Movement:
        """Correct the ledger, and keep what the bottle weighs empty; a guess stays one until it is changed."""
        empty = self.cleaned_data["empty"].g
        kept = self.stock.tare_g is not None and abs(empty - self.stock.tare_g) < _SAME_G
        self.stock.tare_guessed = bool(self.cleaned_data.get("guessed")) or (self.stock.tare_guessed and kept)
        self.stock.tare_g = empty
        self.stock.save(update_fields=["tare_g", "tare_guessed"])
        return self.stock.weigh(self.cleaned_data["shows"].g - self.cleaned_data["empty"].g)


#: An empty weight that is entered again as it is shown.
_SAME_G = 0.01


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
