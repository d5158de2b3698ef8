"""Forms of a batch's stages."""

from collections.abc import Iterable
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.utils import timezone

from firkin.batches.making import Making
from firkin.batches.models import Batch, BatchLine
from firkin.batches.photos import small_photo
from firkin.core.bench import (
    ASPECTS,
    READINGS,
    TROUBLES,
    Approach,
    Reads,
    Seen,
    can_be_filled,
    looked_at,
    read_shown,
    reading_words,
)
from firkin.core.catalogue import Material, find
from firkin.core.formula import Line, falls_short, overflows
from firkin.core.measures import Quantity
from firkin.core.measures import units as all_units
from firkin.drawings.label import FORMATS, USUAL
from firkin.shelf.models import Stock, Vessel, kitchens_of
from firkin.shelf.on_hand import will_do
from firkin.ui.fields import (
    AmountField,
    HeatField,
    MakeField,
    NumberField,
    ReadField,
    Select,
    StrengthField,
    VolumeField,
    number_pad,
    number_widget,
    text_widget,
)

#: So many labels in one file at the most.
MOST_LABELS = 500
#: Days after which a stock is called old (common practice, no source).
OLD_DAYS = 365


class StartForm(forms.Form):
    """How much to make."""

    make = MakeField(label="Make")
    version = forms.IntegerField(min_value=1, required=False)
    house = forms.SlugField(max_length=60, required=False)
    kitchen = forms.CharField(max_length=20, required=False)


class PrepareForm(forms.Form):
    """Which bottle for each line, and which vessel."""

    vessel = forms.ModelChoiceField(
        queryset=Vessel.objects.none(),
        required=False,
        label="Mix it in",
        empty_label="not said",
        widget=Select(),
    )

    kitchen = forms.ChoiceField(required=False, label="Measure with", widget=Select())

    def __init__(self, *args: Any, making: Making, **options: Any) -> None:
        super().__init__(*args, **options)
        self.making = making
        workshop = making.batch.workshop
        measures = self.fields["kitchen"]
        assert isinstance(measures, forms.ChoiceField)
        known = kitchens_of(workshop).values()
        measures.choices = [("", "exact amounts"), *((kitchen.id, kitchen.name) for kitchen in known)]
        measures.initial = making.batch.kitchen
        vessels = self.fields["vessel"]
        assert isinstance(vessels, forms.ModelChoiceField)
        vessels.queryset = Vessel.objects.filter(workshop=workshop, kind="mixing", count__gt=0)
        materials = {row.material for row in making.lines}
        on_hand = Stock.objects.filter(workshop=workshop, material__in=materials).on_hand().with_use()
        self.on_hand = {stock.pk: stock for stock in on_hand}
        self.stock_names = [f"stock_{row.position}" for row in making.lines]
        for row, name in zip(making.lines, self.stock_names, strict=True):
            fit = [(stock.pk, _stock_words(stock)) for stock in self._of(row)]
            self.fields[name] = forms.TypedChoiceField(
                required=False,
                choices=[("", "as the formula says"), *fit],
                coerce=lambda key: self.on_hand[int(key)],
                empty_value=None,
                initial=self._sole_match(row),
                widget=Select(),
            )

    def _sole_match(self, row: BatchLine) -> int | None:
        """The only bottle of a line's material and strength that has enough left; none where there is a choice."""
        fit = [stock for stock in self._of(row) if will_do(stock.strength, row.strength)]
        fit = [stock for stock in fit if stock.strength == row.strength] or fit
        return fit[0].pk if len(fit) == 1 and not falls_short(fit[0].left_g, self._needed_g(row)) else None

    def _needed_g(self, row: BatchLine) -> float:
        """What all lines of its material take together."""
        return sum(other.planned_g for other in self.making.lines if other.material == row.material)

    def _of(self, row: BatchLine) -> list[Stock]:
        """The bottles at hand for a line."""
        return [stock for stock in self.on_hand.values() if stock.material == row.material]

    def clean_vessel(self) -> Vessel | None:
        """It must hold the batch."""
        vessel: Vessel | None = self.cleaned_data["vessel"]
        needed = self.making.progress.result.total.volume_mL
        if vessel is not None and overflows(needed, vessel.volume_mL):
            raise ValidationError(
                f"{vessel.name} holds {vessel.volume_mL:.0f} mL and the batch comes to {needed:.0f} mL. "
                "Choose a larger one or make less."
            )
        return vessel

    def warnings(self, row: BatchLine) -> list[str]:
        """What there is to say of the bottles at hand for a line: too little left, bought long ago."""
        said = []
        for stock in self._of(row):
            if falls_short(stock.left_g, self._needed_g(row)):
                said.append(f"{stock.name}: only {stock.left.words} left.")
            if stock.bought_on and (timezone.localdate() - stock.bought_on).days > OLD_DAYS:
                said.append(f"{stock.name}: bought {stock.bought_on:%b %Y}. Old stock may have lost strength.")
        return said

    def stocks(self) -> dict[int, Stock]:
        """The stocks chosen, by line."""
        chosen = {row.position: self.cleaned_data.get(f"stock_{row.position}") for row in self.making.lines}
        return {position: stock for position, stock in chosen.items() if stock is not None}


def _stock_words(stock: Stock) -> str:
    return f"{stock.name}, {stock.strength}" if stock.strength else stock.name


class MeasuredForm(forms.Form):
    """The amount really measured for one line: a number in the unit beside it, or any amount with its own."""

    amount: ReadField = AmountField(
        label="Really measured",
        widget=number_pad(autofocus="autofocus"),
        error_messages={"required": "Enter what was really measured, such as 250 mL."},
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
            raise ValidationError("What was measured is a volume or a weight, such as 250 mL or 200 g.")
        return amount


class TopUpForm(MeasuredForm):
    """The level really reached when topping up."""

    amount: ReadField = VolumeField(
        label="Topped up to",
        widget=number_pad(autofocus="autofocus"),
        error_messages={"required": "Enter the mark it was topped up to, such as 1.5 L."},
    )


class TopUpByWeightForm(MeasuredForm):
    """The weight really reached when topping up by the scale."""

    amount: ReadField = MakeField(
        label="Topped up to",
        widget=number_pad(autofocus="autofocus"),
        error_messages={"required": "Enter the weight it was topped up to, such as 1.5 kg."},
    )

    def clean_amount(self) -> Quantity:
        """A weight, as the mark is one."""
        amount: Quantity = self.cleaned_data["amount"]
        if amount.kind != "mass":
            raise ValidationError("It is topped up by weight here: enter what the scale shows, such as 500 g.")
        return amount


class ReadingField(ReadField):
    """What an instrument shows, with or without its unit: "78 %", "490 g", "pH 6.5"."""

    reader = staticmethod(read_shown)


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


class ExtraForm(forms.Form):
    """What was put in besides the plan."""

    material = forms.CharField(max_length=80, label="What", widget=text_widget("lavender oil", list="materials"))
    strength = forms.CharField(max_length=60, required=False, label="Strength", widget=text_widget("96 %"))
    amount: ReadField = AmountField(label="How much", widget=text_widget("5 mL"))
    key = forms.UUIDField(widget=forms.HiddenInput)

    def clean_amount(self) -> Quantity:
        """Only volumes and weights can be measured."""
        amount: Quantity = self.cleaned_data["amount"]
        if amount.kind not in ("volume", "mass") or not amount.value:
            raise ValidationError("What went in is a volume or a weight, such as 5 mL or 2 g.")
        return amount

    def line(self, own: tuple[Material, ...]) -> Line:
        """The line it makes of the batch. Raises CannotReckon for a strength that cannot be read."""
        material = find(self.cleaned_data["material"], own)
        written = self.cleaned_data["strength"]
        strength = material.read_strength(written) if written else None
        return Line(material, self.cleaned_data["amount"], strength, note="besides")


class DoseForm(forms.Form):
    """One small addition, and what is read after it."""

    amount: ReadField = AmountField(label="Went in now", widget=number_pad(autofocus="autofocus"))
    reading = ReadingField(
        required=False, label="pH now", help_text="After stirring; empty: not read.", widget=number_pad("6.5")
    )
    level = forms.TypedChoiceField(
        required=False,
        label="Thickness now",
        coerce=int,
        empty_value=None,
        choices=[("", "not looked at"), *enumerate(ASPECTS["thickness"][1])],
        widget=Select(),
    )
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

    def read(self) -> float | None:
        """What was read, as the approach reads."""
        return self.cleaned_data["reading" if self.approach.reads is Reads.PH else "level"]  # type: ignore[no-any-return]


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
    key = forms.UUIDField(widget=forms.HiddenInput)

    def __init__(self, *args: Any, left_mL: float, empty: dict[Vessel, int], fails: str = "", **options: Any) -> None:
        super().__init__(*args, **options)
        self.fails = fails
        self.left_mL, self.empty = left_mL, empty
        bottles = self.fields["vessel"]
        assert isinstance(bottles, forms.ModelChoiceField)
        bottles.queryset = Vessel.objects.filter(pk__in=[bottle.pk for bottle in empty])
        bottles.label_from_instance = self._bottle_words  # type: ignore[method-assign, assignment]

    def _bottle_words(self, bottle: Vessel) -> str:
        top = f" with {bottle.get_top_display()}" if bottle.top else ""
        return f"{bottle.name}, {bottle.volume_mL:g} mL{top}, {self.empty[bottle]} empty"

    def clean(self) -> dict[str, Any]:
        """No bottle above its brim, no more than is left of the batch; below its line only when it is meant."""
        data = super().clean() or {}
        if self.fails and not data.get("anyway"):
            self.add_error("anyway", f"{self.fails} Tick this to fill it all the same, or put it right first.")
        vessel, count, fill = data.get("vessel"), data.get("count"), data.get("fill")
        if vessel is not None and fill is not None and fill.mL > vessel.volume_mL:
            self.add_error("fill", f"{vessel.name} holds {vessel.volume_mL:g} mL to the brim; leave headspace.")
        if vessel is not None and count is not None and count > self.empty[vessel]:
            full = f" and {vessel.count - self.empty[vessel]} full" if vessel.count > self.empty[vessel] else ""
            self.add_error("count", f"There are {self.empty[vessel]} of them empty{full}.")
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
        help_text="Counted along the rows; the ones before it are gone already.",
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


class NoteForm(forms.Form):
    """A note in the journal."""

    text = forms.CharField(
        max_length=2000,
        label="Write in the journal",
        widget=forms.Textarea(attrs={"class": "form-control", "rows": 2}),
    )
    key = forms.UUIDField(widget=forms.HiddenInput)


class ReadingForm(forms.Form):
    """One reading of an instrument."""

    what = forms.ChoiceField(
        label="Read",
        choices=[(key, readable.name) for key, readable in READINGS.items()],
        widget=Select(),
    )
    value = ReadingField(label="It shows", widget=number_pad("7.2"))
    celsius = HeatField(required=False, label="at", help_text="°C, for an alcoholmeter or pH.", widget=number_pad("20"))
    key = forms.UUIDField(widget=forms.HiddenInput)

    def clean(self) -> dict[str, Any]:
        """Within what the instrument shows."""
        data = super().clean() or {}
        what, value = data.get("what"), data.get("value")
        if what and value is not None:
            readable = READINGS[what]
            if not readable.least <= value <= readable.most:
                window = f"between {readable.least:g} and {readable.most:g} {readable.unit}".strip()
                self.add_error("value", f"{readable.name} is {window}.")
        if what == "alcoholmeter" and data.get("celsius") is None and "celsius" not in self.errors:
            self.add_error("celsius", "An alcoholmeter is read with a thermometer: say how warm the liquid is.")
        return data

    def data_read(self) -> dict[str, Any]:
        """The reading as it is stored."""
        data = {"what": self.cleaned_data["what"], "value": self.cleaned_data["value"]}
        if self.cleaned_data["celsius"] is not None:
            data["celsius"] = self.cleaned_data["celsius"]
        return data

    def words(self) -> str:
        """The reading as the journal says it."""
        return reading_words(self.data_read())


class LookForm(forms.Form):
    """What is seen of a batch: each aspect on its own scale of words, or left out."""

    key = forms.UUIDField(widget=forms.HiddenInput)

    def __init__(self, *args: Any, family: str, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix, self.aspects = "", looked_at(family)
        for aspect in self.aspects:
            name, words = ASPECTS[aspect]
            self.fields[aspect] = forms.TypedChoiceField(
                label=name,
                required=False,
                coerce=int,
                empty_value=None,
                choices=[("", "not looked at"), *enumerate(words)],
                widget=Select(),
            )

    def clean(self) -> dict[str, Any]:
        """At least one thing was looked at."""
        data = super().clean() or {}
        if not self.errors and all(data.get(aspect) is None for aspect in self.aspects):
            raise ValidationError("Say what you see: one of these at least.")
        return data

    def seen(self) -> dict[str, int]:
        """The levels of what was looked at."""
        return {aspect: self.cleaned_data[aspect] for aspect in self.aspects if self.cleaned_data[aspect] is not None}


class PhotoForm(forms.Form):
    """A picture of a batch."""

    picture = forms.FileField(
        label="Picture", widget=forms.FileInput(attrs={"class": "form-control", "accept": "image/*"})
    )
    caption = forms.CharField(max_length=200, required=False, label="In words", widget=text_widget())

    def clean_picture(self) -> bytes:
        """Small, upright, and without what the camera wrote into it."""
        return small_photo(self.cleaned_data["picture"])


class RescueForm(forms.Form):
    """What went wrong, and what is known of it."""

    trouble = forms.ChoiceField(label="What is wrong", choices=list(TROUBLES.items()))
    now = StrengthField(bare="%", required=False, label="It measures, % v/v", widget=number_pad("55"))
    stock = forms.ModelChoiceField(
        queryset=Stock.objects.none(),
        required=False,
        label="Mend it with",
        empty_label="choose a bottle",
        widget=Select(),
    )
    mass = MakeField(bare="g", required=False, label="It weighs now, g", widget=number_pad("4200"))
    soap = NumberField(required=False, label="Soap that worked, g in a litre", widget=text_widget("80"))

    #: Which troubles ask for which field.
    ASKS = {  # noqa: RUF012
        "weak": ("now", "stock"),
        "strong": ("now",),
        "watery": ("soap",),
        "thick": ("soap",),
        "boiled-over": ("mass",),
    }

    def __init__(self, *args: Any, making: Making, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix = ""
        self.making = making
        field = self.fields["stock"]
        assert isinstance(field, forms.ModelChoiceField)
        alcohols = [line.material.id for line in making.progress.formula.lines if line.material.alcohol]
        field.queryset = Stock.objects.filter(workshop=making.batch.workshop, material__in=alcohols).on_hand()
        field.label_from_instance = _stock_words  # type: ignore[method-assign, assignment]

    def asked(self) -> list[forms.BoundField]:
        """The fields the chosen trouble asks for; of soap only where bars are in it."""
        asked = self.ASKS.get(str(self["trouble"].value() or ""), ())
        bars = self.making.progress.formula.lines_of("bar-soap")
        return [self[name] for name in asked if name != "soap" or bars]

    def clean_mass(self) -> Quantity | None:
        """A weight."""
        mass: Quantity | None = self.cleaned_data["mass"]
        if mass is not None and mass.kind != "mass":
            raise ValidationError("Weigh it: a weight such as 4.2 kg.")
        return mass

    def seen(self) -> Seen:
        """What the maker knows of it."""
        data = self.cleaned_data
        stock: Stock | None = data["stock"]
        return Seen(
            now=data["now"],
            stock=(find(stock.material), stock.strength) if stock and stock.strength else None,
            mass_g=data["mass"].g if data["mass"] else None,
            soap_g_per_L=data["soap"],
        )
