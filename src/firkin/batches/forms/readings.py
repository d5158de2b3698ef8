"""Forms of what is read and seen of a batch, and of what went wrong."""

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from firkin.batches.forms.making import ReadingField
from firkin.batches.forms.stages import stock_words
from firkin.batches.making import Making
from firkin.core.bench import ASPECTS, READINGS, looked_at, reading_words
from firkin.core.catalogue import find
from firkin.core.measures import Quantity
from firkin.core.mending import TROUBLES, Seen, chosen, left_be
from firkin.shelf.models import Stock
from firkin.ui.fields import (
    HeatField,
    MakeField,
    NumberField,
    Select,
    StrengthField,
    number_pad,
    text_widget,
)
from firkin.ui.photos import small_photo


class ReadingForm(forms.Form):
    """One reading of an instrument."""

    what = forms.ChoiceField(
        label="Read",
        choices=[(key, readable.name) for key, readable in READINGS.items() if key != "volume"],
        widget=Select(),
    )
    value = ReadingField(label="It shows", widget=number_pad("7.2"))
    celsius = HeatField(required=False, label="at", help_text="°C, for an alcoholmeter or pH.", widget=number_pad("20"))
    key = forms.UUIDField(widget=forms.HiddenInput)
    #: What a simulated instrument showed: a value that is still that was not measured.
    taken = forms.FloatField(required=False, widget=forms.HiddenInput)

    def __init__(self, *args: Any, strained: bool = False, **options: Any) -> None:
        """``strained`` for a batch of which the liquid alone is filled: that it is measured can be written then."""
        super().__init__(*args, **options)
        what = self.fields["what"]
        assert isinstance(what, forms.ChoiceField)
        if strained:
            what.choices = [(key, readable.name) for key, readable in READINGS.items()]

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
        if self.cleaned_data.get("taken") == self.cleaned_data["value"]:
            data["simulated"] = True
        return data

    def words(self) -> str:
        """The reading as the journal says it."""
        simulated = " (simulated)" if self.data_read().get("simulated") else ""
        return f"{reading_words(self.data_read())}{simulated}"


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
            raise ValidationError("Say what you see in at least one of these.")
        return data

    def seen(self) -> dict[str, int]:
        """The levels of what was looked at."""
        return {aspect: self.cleaned_data[aspect] for aspect in self.aspects if self.cleaned_data[aspect] is not None}


class LogForm(LookForm):
    """What is seen and read of a ferment in one press, as it is vented."""

    ph = ReadingField(required=False, label="pH", widget=number_pad("3.8"))

    ASKED = ("gas", "smell", "mould")

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, family="ferment", **options)
        self.order_fields([*self.ASKED, "ph"])
        for aspect in set(self.aspects) - set(self.ASKED):
            del self.fields[aspect]
        self.aspects = self.ASKED

    def clean_ph(self) -> float | None:
        """What a strip or a meter shows."""
        value: float | None = self.cleaned_data["ph"]
        if value is not None and not READINGS["ph"].least <= value <= READINGS["ph"].most:
            raise ValidationError("pH is between 0 and 14.")
        return value

    def clean(self) -> dict[str, Any]:
        """Something was seen or read."""
        if self.cleaned_data.get("ph") is not None:
            return forms.Form.clean(self) or {}
        return super().clean()


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
    aim = forms.ChoiceField(required=False, label="Bring it to", widget=Select())
    mass = MakeField(bare="g", required=False, label="It weighs now, g", widget=number_pad("4200"))
    soap = NumberField(required=False, label="Soap that worked, g in a litre", widget=text_widget("80"))

    #: Which troubles ask for which field.
    ASKS = {  # noqa: RUF012
        "weak": ("now", "stock", "aim"),
        "strong": ("now", "aim"),
        "watery": ("soap",),
        "thick": ("soap",),
        "boiled-over": ("mass",),
    }

    def __init__(self, *args: Any, making: Making, **options: Any) -> None:
        super().__init__(*args, **options)
        self.label_suffix = ""
        self.making = making
        aim = self.fields["aim"]
        assert isinstance(aim, forms.ChoiceField)
        aim.choices = [(one.key, one.words) for one in making.aims]
        aim.initial = making.aim.key if making.aim is not None else ""
        field = self.fields["stock"]
        assert isinstance(field, forms.ModelChoiceField)
        alcohols = [line.material.id for line in making.progress.formula.lines if line.material.alcohol]
        field.queryset = Stock.objects.filter(workshop=making.batch.workshop, material__in=alcohols).on_hand()
        field.label_from_instance = stock_words  # type: ignore[method-assign, assignment]

    def asked(self) -> list[forms.BoundField]:
        """The fields the chosen trouble asks for; of soap only where bars are in it, of strength where alcohol is;
        none where nothing helps.
        """
        trouble, formula = str(self["trouble"].value() or ""), self.making.progress.formula
        asked = () if left_be(trouble, formula) else self.ASKS.get(trouble, ())
        there = {"soap": formula.lines_of("bar-soap"), "now": formula.lines_with("alcohol")}
        there["stock"] = there["now"]
        choices = len(self.making.aims) > 1
        return [self[name] for name in asked if (choices if name == "aim" else there.get(name, True))]

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
        aim = chosen(self.making.aims, data["aim"] or self.making.batch.aim)
        return Seen(
            now=data["now"],
            stock=(find(stock.material), stock.strength) if stock and stock.strength else None,
            mass_g=data["mass"].g if data["mass"] else None,
            soap_g_per_L=data["soap"],
            aim_pct=aim.pct if aim is not None and aim.key != "rule" else None,
        )
