"""Forms of starting, preparing, releasing and noting."""

from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.db import models
from django.utils import timezone

from firkin.batches.bottles import empty_bottles
from firkin.batches.making import Making
from firkin.batches.models import BatchLine
from firkin.core.catalogue import suits
from firkin.core.formula import Formula, falls_short
from firkin.core.kitchen import Against, against_vessel, mixed_in_its_bottle
from firkin.core.measures import Quantity
from firkin.shelf.models import Stock, Vessel, kitchens_of
from firkin.shelf.on_hand import will_do
from firkin.ui.fields import (
    MakeField,
    Select,
    text_widget,
)

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
    aim = forms.ChoiceField(required=False, label="Aim for", widget=Select())
    anyway = forms.BooleanField(required=False, label="I know, and make it all the same")

    def __init__(self, *args: Any, making: Making, **options: Any) -> None:
        super().__init__(*args, **options)
        self.making = making
        workshop = making.batch.workshop
        measures = self.fields["kitchen"]
        assert isinstance(measures, forms.ChoiceField)
        known = kitchens_of(workshop).values()
        measures.choices = [("", "exact amounts"), *((kitchen.id, kitchen.name) for kitchen in known)]
        measures.initial = making.batch.kitchen
        aim = self.fields["aim"]
        assert isinstance(aim, forms.ChoiceField)
        aim.choices = [(one.key, one.words) for one in making.aims]
        aim.initial = making.aim.key if making.aim is not None else ""
        vessels = self.fields["vessel"]
        assert isinstance(vessels, forms.ModelChoiceField)
        mixing = models.Q(kind="mixing", count__gt=0)
        bottles = [bottle.pk for bottle in self._bottles(making.progress.formula)]
        vessels.queryset = Vessel.objects.filter(mixing | models.Q(pk__in=bottles), workshop=workshop)
        vessels.initial = bottles[0] if len(bottles) == 1 else None
        materials = {row.material for row in making.lines}
        on_hand = Stock.objects.filter(workshop=workshop, material__in=materials).on_hand().with_use()
        self.on_hand = {stock.pk: stock for stock in on_hand}
        self.stock_names = [f"stock_{row.position}" for row in making.lines]
        for row, name in zip(making.lines, self.stock_names, strict=True):
            fit = [(stock.pk, stock_words(stock)) for stock in self._of(row)]
            self.fields[name] = forms.TypedChoiceField(
                required=False,
                choices=[("", "as the formula says"), *fit],
                coerce=lambda key: self.on_hand[int(key)],
                empty_value=None,
                initial=self._sole_match(row),
                widget=Select(),
            )

    def _bottles(self, formula: Formula) -> list[Vessel]:
        """The empty bottles that it can be mixed in, where it is mixed in the bottle it is used from."""
        if not mixed_in_its_bottle(formula):
            return []
        empty = empty_bottles(self.making.batch.workshop)
        return [one for one, count in empty.items() if count and suits(formula.family, one.top)]

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
        """It must hold the batch, and stand it."""
        vessel: Vessel | None = self.cleaned_data["vessel"]
        stops = [one.text for one in self.against(vessel) if one.stops] if vessel is not None else []
        if stops:
            raise ValidationError(" ".join(stops))
        return vessel

    def against(self, vessel: Vessel) -> tuple[Against, ...]:
        """What stands against making the batch in a vessel."""
        return against_vessel(self.making.progress.result, vessel.name, vessel.volume_mL, vessel.made_of)

    @property
    def smaller(self) -> Quantity | None:
        """The most that the vessel chosen would hold, where it holds too little; None where it will do."""
        chosen = str(self["vessel"].value() or "")
        field = self.fields["vessel"]
        assert isinstance(field, forms.ModelChoiceField)
        vessel = field.queryset.filter(pk=chosen).first() if chosen.isdigit() and field.queryset else None
        found = () if vessel is None else self.against(vessel)
        fits = next((one.fits_mL for one in found if one.fits_mL is not None), None)
        return Quantity(fits, "mL") if fits else None

    @property
    def vessels_against(self) -> list[str]:
        """What stands against each vessel on the shelf, for the maker to see before one is chosen."""
        field = self.fields["vessel"]
        assert isinstance(field, forms.ModelChoiceField)
        return [one.text for vessel in field.queryset for one in self.against(vessel)]  # type: ignore[union-attr]

    @property
    def bar(self) -> str:
        """Which bar of soap is chosen, or stands chosen; empty without one."""
        for position in self.making.progress.formula.lines_of("bar-soap"):
            key = str(self[f"stock_{position}"].value() or "")
            if key.isdigit() and int(key) in self.on_hand:
                return self.on_hand[int(key)].name
        return ""

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


def stock_words(stock: Stock) -> str:
    """A stock in a list: its name, and its strength where it has one."""
    return f"{stock.name}, {stock.strength}" if stock.strength else stock.name


class ReleaseForm(forms.Form):
    """Release a batch; early, a reason is asked for."""

    reason = forms.CharField(
        max_length=300, required=False, label="Why early", widget=text_widget("stays in the record")
    )


class NoteForm(forms.Form):
    """A note in the journal."""

    text = forms.CharField(
        max_length=2000,
        label="Write in the journal",
        widget=forms.Textarea(attrs={"class": "form-control", "rows": 2}),
    )
    key = forms.UUIDField(widget=forms.HiddenInput)
