"""Forms about filled bottles: who gets them, what became of them, what is called back, what is bought instead."""

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch, Bottle, Holder
from firkin.core.measures import Quantity
from firkin.core.use import BottleEventKind, BottleIs
from firkin.formulas.models import Bought
from firkin.shelf.models import Stock
from firkin.ui.fields import AmountField, ReadField, Select, number_widget, text_widget


def holder_named(workshop: Workshop, name: str, *, place: bool) -> Holder:
    """The holder of a name, known or new."""
    name = " ".join(name.split())
    there = Holder.objects.filter(workshop=workshop, name__iexact=name).first()
    return there or Holder.objects.create(workshop=workshop, name=name, place=place)


class GiveForm(forms.Form):
    """So many bottles of a batch to somebody, or to a place."""

    to = forms.CharField(
        max_length=80,
        label="To whom",
        widget=text_widget("the wash-house", list="holders"),
        error_messages={"required": "Who gets it? A name, a boat, or a place."},
    )
    count = forms.IntegerField(
        min_value=1,
        max_value=10_000,
        initial=1,
        label="How many",
        widget=number_widget(min="1", max="10000"),
        error_messages={
            "invalid": "A whole number of bottles.",
            "min_value": "At least 1.",
            "max_value": "At most 10,000.",
        },
    )
    place = forms.BooleanField(required=False, label="It is a place, not a person")
    anyway = forms.BooleanField(required=False, label="I know, and give it all the same")

    def __init__(self, *args: Any, in_store: int, not_yet: str = "", **options: Any) -> None:
        super().__init__(*args, **options)
        self.in_store, self.not_yet = in_store, not_yet

    def clean(self) -> dict[str, Any]:
        """What is at rest still, or past its day, goes out only where it is meant."""
        data = super().clean() or {}
        if self.not_yet and not data.get("anyway"):
            self.add_error("anyway", self.not_yet)
        return data

    def clean_count(self) -> int:
        """No more than are in the store."""
        count: int = self.cleaned_data["count"]
        if count > self.in_store:
            are = "bottle is" if self.in_store == 1 else "bottles are"
            raise ValidationError(f"Only {self.in_store} {are} in the store.")
        return count


class ToldForm(forms.Form):
    """What happened to one bottle."""

    kind = forms.ChoiceField(choices=[(kind.value, kind.value) for kind in BottleEventKind])
    to = forms.CharField(max_length=80, required=False, label="To whom", widget=text_widget("", list="holders"))
    reason = forms.CharField(max_length=120, required=False, label="Why", widget=text_widget("it smelled off"))
    anyway = forms.BooleanField(required=False, label="I know, and give it all the same")
    loads = forms.FloatField(
        min_value=0.5, max_value=10_000, required=False, label="How many", widget=number_widget(min="1", step="1")
    )

    def __init__(self, *args: Any, not_yet: str = "", **options: Any) -> None:
        super().__init__(*args, **options)
        self.not_yet = not_yet

    def clean(self) -> dict[str, Any]:
        """A name for what is given, a number for what was washed; what is not ready goes out only where it is meant."""
        data = super().clean() or {}
        if data.get("kind") == BottleEventKind.GIVEN and self.not_yet and not data.get("anyway"):
            self.add_error("anyway", self.not_yet)
        if data.get("kind") == BottleEventKind.GIVEN and not data.get("to", "").strip():
            self.add_error("to", "Who gets it? A name, a boat, or a place.")
        if data.get("kind") == BottleEventKind.LOADS and not data.get("loads") and "loads" not in self.errors:
            self.add_error("loads", "How many loads? A number such as 3.")
        return data


class RefillForm(forms.Form):
    """An empty bottle filled again, from a batch of the same product that has some left."""

    batch = forms.ModelChoiceField(
        Batch.objects.none(), label="From", widget=Select(), error_messages={"required": "From which batch?"}
    )

    def __init__(self, *args: Any, bottle: Bottle, batches: "list[Batch]", **options: Any) -> None:
        super().__init__(*args, **options)
        field = self.fields["batch"]
        assert isinstance(field, forms.ModelChoiceField)
        field.queryset = Batch.objects.filter(pk__in=[batch.pk for batch in batches])
        self.bottle = bottle


class FilterForm(forms.Form):
    """Which bottles of the list are shown."""

    q = forms.CharField(max_length=80, required=False, label="Find", widget=text_widget("name or code"))
    place = forms.ChoiceField(required=False, label="Where", widget=Select())
    product = forms.ChoiceField(required=False, label="Product", widget=Select())

    def __init__(self, *args: Any, products: list[tuple[int, str]], **options: Any) -> None:
        super().__init__(*args, **options)
        self.fields["place"].choices = [  # type: ignore[attr-defined]
            ("", "anywhere"),
            (BottleIs.OUT.value, "out"),
            (BottleIs.EMPTY_OUT.value, "used up, not back"),
            (BottleIs.BACK.value, "empty, back here"),
            (BottleIs.THROWN.value, "thrown away"),
            (BottleIs.LOST.value, "lost"),
        ]
        self.fields["product"].choices = [("", "all"), *((str(pk), name) for pk, name in products)]  # type: ignore[attr-defined]


class RecallForm(forms.Form):
    """Bottles called back: why, and because of which stock or batch."""

    why = forms.CharField(
        max_length=300,
        label="What is wrong",
        widget=text_widget("The chemist calls this lot back."),
        error_messages={"required": "Write down why: whoever has a bottle will ask."},
    )
    bad = forms.BooleanField(required=False, label="Mark the batch as bad: no labels, and every page says so")

    def __init__(self, *args: Any, batch: Batch | None, stock: Stock | None, **options: Any) -> None:
        super().__init__(*args, **options)
        if batch is None:
            self.fields["bad"].label = "Mark its batches as bad: no labels, and every page says so"


class DealtForm(forms.Form):
    """What was done about a bottle that was called back."""

    reason = forms.CharField(max_length=120, required=False, label="Note", widget=text_widget("poured away"))


class BoughtForm(forms.ModelForm):  # type: ignore[type-arg]
    """A product from a shop to compare with."""

    size: ReadField = AmountField(label="Size", widget=text_widget("250 mL"))

    class Meta:
        model = Bought
        fields = ("name", "price", "loads")
        labels = {"name": "What it is", "price": "Price", "loads": "Does so many (if it says)"}  # noqa: RUF012
        widgets = {  # noqa: RUF012
            "name": text_widget("Soap from the shop"),
            "price": number_widget(min="0", step="0.01"),
            "loads": number_widget(min="1", step="1"),
        }

    field_order = ("name", "size", "price", "loads")

    def clean_size(self) -> Quantity:
        """A volume or a weight."""
        size: Quantity = self.cleaned_data["size"]
        if size.kind not in ("volume", "mass") or not size.value:
            raise ValidationError("A volume or a weight, such as 250 mL or 1 kg.")
        self.instance.amount = size
        return size
