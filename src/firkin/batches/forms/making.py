"""Forms of the task at hand: what was measured, a small addition, what was put in besides."""

from collections.abc import Iterable, Sequence
from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.accounts.models import Workshop
from firkin.core.bench import ASPECTS, READINGS, Approach, Reads, read_shown
from firkin.core.catalogue import Material, find, out_of_usual, usual_share
from firkin.core.formula import Formula, Line, Reckoning, reckon
from firkin.core.kitchen import TOLERANCE
from firkin.core.measures import Quantity, figures
from firkin.core.measures import units as all_units
from firkin.shelf.models import Stock
from firkin.shelf.on_hand import only_bottle
from firkin.ui.fields import (
    AmountField,
    MakeField,
    ReadField,
    Select,
    VolumeField,
    number_pad,
    text_widget,
)


class MeasuredForm(forms.Form):
    """The amount really measured for one line: a number in the unit beside it, or any amount with its own."""

    amount: ReadField = AmountField(
        label="Really measured",
        widget=number_pad(autofocus="autofocus"),
        error_messages={"required": "Enter what you really measured, such as 250 mL."},
    )
    unit = forms.ChoiceField(label="Unit", required=False, widget=Select())
    key = forms.UUIDField(widget=forms.HiddenInput)
    task = forms.IntegerField(widget=forms.HiddenInput, min_value=0)

    def __init__(self, *args: Any, units: Iterable[str] = ("mL",), **options: Any) -> None:
        super().__init__(*args, **options)
        offered = [(unit, all_units()[unit].label) for unit in units]
        choice, amount = self.fields["unit"], self.fields["amount"]
        assert isinstance(choice, forms.ChoiceField)
        assert isinstance(amount, ReadField)
        choice.choices = offered
        amount.bare = self["unit"].value() if self["unit"].value() in dict(offered) else offered[0][0]

    def clean_amount(self) -> Quantity:
        """Only volumes and weights can be measured."""
        amount: Quantity = self.cleaned_data["amount"]
        if amount.kind not in ("volume", "mass"):
            raise ValidationError("Enter a volume or a weight, such as 250 mL or 200 g.")
        return amount


class TopUpForm(MeasuredForm):
    """The level really reached when topping up."""

    amount: ReadField = VolumeField(
        label="Topped up to",
        widget=number_pad(autofocus="autofocus"),
        error_messages={"required": "Enter the mark you topped up to, such as 1.5 L."},
    )


class TopUpByWeightForm(MeasuredForm):
    """The weight really reached when topping up by the scale."""

    amount: ReadField = MakeField(
        label="Topped up to",
        widget=number_pad(autofocus="autofocus"),
        error_messages={"required": "Enter the weight you topped up to, such as 1.5 kg."},
    )

    def clean_amount(self) -> Quantity:
        """A weight, as the mark is one."""
        amount: Quantity = self.cleaned_data["amount"]
        if amount.kind != "mass":
            raise ValidationError("You top up by weight here: enter what the scale shows, such as 500 g.")
        return amount


class EmptyForm(forms.Form):
    """What a vessel weighs empty."""

    empty = MakeField(
        bare="g",
        label="Empty weight, g",
        widget=number_pad("250"),
        error_messages={"required": "Weigh it empty, and enter what the scale shows, such as 250 g."},
    )

    def clean_empty(self) -> Quantity:
        """A weight."""
        empty: Quantity = self.cleaned_data["empty"]
        if empty.kind != "mass":
            raise ValidationError("Weigh it empty: a weight such as 250 g.")
        return empty


class ReadingField(ReadField):
    """What an instrument shows, with or without its unit: "78 %", "490 g", "pH 6.5"."""

    reader = staticmethod(read_shown)


class ExtraForm(forms.Form):
    """What was put in besides the plan."""

    material = forms.CharField(max_length=80, label="What", widget=text_widget("lavender oil", list="materials"))
    strength = forms.CharField(max_length=60, required=False, label="Strength", widget=text_widget("96 %"))
    amount: ReadField = AmountField(label="How much", widget=text_widget("5 mL"))
    sure = forms.BooleanField(required=False, widget=forms.HiddenInput, label="Yes, that is what went in")
    key = forms.UUIDField(widget=forms.HiddenInput)

    def asks_again(self, line: Line, batch: Reckoning) -> bool:
        """True once for an amount that no batch of this kind holds: it may be a slip of the pen."""
        mass_g = reckon(Formula("One line", (line,), temperature=batch.formula.temperature)).total.mass_g
        whole_g = batch.total.mass_g + mass_g
        off = out_of_usual(line.material, batch.formula.family, mass_g / whole_g)
        if self.cleaned_data["sure"] or (off <= 0 and 2.0 * mass_g <= whole_g):
            return False
        self.fields["sure"].widget = forms.CheckboxInput(attrs={"class": "form-check-input"})
        low, high = usual_share(line.material, batch.formula.family)
        self.add_error(
            "amount",
            f"That would be {figures(100 * mass_g / whole_g, 3)} % of the batch. Usual is {figures(100 * low, 3)} to "
            f"{figures(100 * high, 3)} %. Check the amount, or tick that it is right.",
        )
        return True

    def clean_amount(self) -> Quantity:
        """Only volumes and weights can be measured."""
        amount: Quantity = self.cleaned_data["amount"]
        if amount.kind not in ("volume", "mass") or not amount.value:
            raise ValidationError("What went in is a volume or a weight, such as 5 mL or 2 g.")
        return amount

    def _bottle(self, workshop: Workshop) -> Stock | None:
        """The bottle on the shelf that is named; None where a material is."""
        name = self.cleaned_data["material"].strip()
        return Stock.objects.filter(workshop=workshop, name__iexact=name).on_hand().first()

    def stock(self, workshop: Workshop, line: Line) -> Stock | None:
        """Out of which bottle it is: the one named, or the only one there is of it."""
        return self._bottle(workshop) or only_bottle(workshop, line)

    def line(self, workshop: Workshop, own: tuple[Material, ...]) -> Line:
        """The line it makes of the batch. Raises CannotReckon for a strength that cannot be read."""
        bottle = self._bottle(workshop)
        material = find(bottle.material if bottle is not None else self.cleaned_data["material"], own)
        written = self.cleaned_data["strength"]
        strength = material.read_strength(written) if written else bottle.strength if bottle is not None else None
        return Line(material, self.cleaned_data["amount"], strength, note="besides")


class DoseForm(forms.Form):
    """One small addition, and what is read after it."""

    amount: ReadField = AmountField(label="Went in now", widget=number_pad(autofocus="autofocus"))
    reading = ReadingField(required=False, label="pH now", help_text="After stirring.", widget=number_pad("6.5"))
    level = forms.TypedChoiceField(
        required=False,
        label="Thickness now",
        coerce=int,
        empty_value=None,
        choices=[("", "not looked at"), *enumerate(ASPECTS["thickness"][1])],
        widget=Select(),
    )
    unread = forms.BooleanField(required=False, widget=forms.HiddenInput, label="I cannot read it now")
    past = forms.BooleanField(required=False, widget=forms.HiddenInput, label="More than planned, and I mean it")
    key = forms.UUIDField(widget=forms.HiddenInput)
    task = forms.IntegerField(widget=forms.HiddenInput, min_value=0)

    def __init__(self, *args: Any, approach: Approach, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix, self.approach = "", approach
        amount = self.fields["amount"]
        assert isinstance(amount, ReadField)
        amount.bare = approach.unit
        amount.label = f"Went in now, {approach.unit}"

    def clean_amount(self) -> float:
        """In the unit of the approach."""
        amount: Quantity = self.cleaned_data["amount"]
        if amount.kind != Quantity(1.0, self.approach.unit).kind:
            raise ValidationError(f"It is counted in {self.approach.unit} here.")
        return amount.g if self.approach.unit == "g" else amount.mL

    def clean_reading(self) -> float | None:
        """What a meter shows."""
        value: float | None = self.cleaned_data["reading"]
        if value is not None and not READINGS["ph"].least <= value <= READINGS["ph"].most:
            raise ValidationError("pH is between 0 and 14.")
        return value

    def clean(self) -> dict[str, Any]:
        """A second dose goes by what the first one did; past the plan only when it is meant."""
        data = super().clean() or {}
        field = "reading" if self.approach.reads is Reads.PH else "level"
        amount = data.get("amount")
        if amount is None or self.errors:
            return data
        blind = data.get(field) is None and bool(self.approach.doses) and self.approach.doses[-1].reading is None
        if blind and not data.get("unread"):
            self._asks("unread")
            what = "pH" if field == "reading" else "thickness"
            self.add_error(field, f"Not read since the last dose. Stir, read the {what}, and enter it.")
        total = self.approach.so_far + amount
        if total > self.approach.planned * (1.0 + TOLERANCE) and not data.get("past"):
            self._asks("past")
            unit = self.approach.unit
            self.add_error(
                "amount",
                f"That makes {figures(total, 3)} {unit}; {figures(self.approach.planned, 3)} {unit} was planned. "
                "Read it first, or tick that you mean it.",
            )
        return data

    def _asks(self, name: str) -> None:
        """Show a box that was not there."""
        self.fields[name].widget = forms.CheckboxInput(attrs={"class": "form-check-input"})

    def read(self) -> float | None:
        """What was read, as the approach reads."""
        return self.cleaned_data["reading" if self.approach.reads is Reads.PH else "level"]  # type: ignore[no-any-return]


class TickForm(forms.Form):
    """Something done, with nothing to measure; it cannot be done with what was left out."""

    key = forms.UUIDField(widget=forms.HiddenInput)
    task = forms.IntegerField(widget=forms.HiddenInput, min_value=0)

    def __init__(self, *args: Any, not_in: Sequence[str] = (), **options: Any) -> None:
        super().__init__(*args, **options)
        self.not_in = not_in

    def clean(self) -> dict[str, Any]:
        """What it speaks of is in."""
        data = super().clean() or {}
        if self.not_in:
            verb = "is" if len(self.not_in) == 1 else "are"
            names = " and ".join(self.not_in)
            raise ValidationError(f"{names} {verb} left out, so this cannot be done as told. Or leave this out too.")
        return data
