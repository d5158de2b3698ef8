"""Forms of the season: evenings, products, needs, a day to move to, what was paid."""

import re
from datetime import date
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.utils import timezone

from firkin.accounts.models import Workshop
from firkin.core.measures import amount_words
from firkin.core.season import WEEKDAYS
from firkin.core.texts import quoted
from firkin.formulas.models import Formula
from firkin.season.models import Habits, Need, Product, StandsIn
from firkin.shelf.models import Vessel
from firkin.ui.fields import Select, VolumeField, number_widget, text_widget

_DAYS = dict(zip(WEEKDAYS, ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"), strict=True))
_SERVICE = ((5, "one week in five"), (10, "one week in ten"), (20, "one week in twenty"), (50, "one week in fifty"))
#: So many days kept free are taken.
_MOST_CLOSED = 60


def date_widget(**attributes: str) -> forms.DateInput:
    """A day, as the browser lets it be chosen."""
    return forms.DateInput(format="%Y-%m-%d", attrs={"type": "date", "class": "form-control", **attributes})


class HabitsForm(forms.ModelForm):  # type: ignore[type-arg]
    """When there is time, how far ahead to look, how sure to be."""

    open_days = forms.MultipleChoiceField(
        choices=list(_DAYS.items()),
        widget=forms.CheckboxSelectMultiple,
        label="Evenings at the bench",
        error_messages={"required": "Choose at least one evening a week."},
    )
    closed_text = forms.CharField(
        max_length=900,
        required=False,
        label="Days to keep free",
        help_text="Dates such as 2026-12-24, with commas.",
        widget=text_widget("2026-12-24, 2026-12-31"),
    )
    service = forms.TypedChoiceField(choices=_SERVICE, coerce=int, widget=Select(), label="May run dry at most")

    class Meta:
        model = Habits
        fields = ("open_days", "minutes", "weeks", "delivery_days", "service")
        labels = {  # noqa: RUF012  as Django has it
            "minutes": "Minutes an evening",
            "weeks": "Weeks ahead",
            "delivery_days": "Days until an order comes",
        }
        widgets = {  # noqa: RUF012  as Django has it
            "minutes": number_widget(min="5", max="1440"),
            "weeks": number_widget(min="1", max="52"),
            "delivery_days": number_widget(min="0", max="90"),
        }

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.fields["closed_text"].initial = ", ".join(self.instance.closed)
        self.fields["minutes"].min_value = 1  # type: ignore[attr-defined]

    def clean_closed_text(self) -> list[str]:
        """The days kept free, as dates."""
        written = [one for one in re.split(r"[,;\s]+", self.cleaned_data["closed_text"]) if one]
        if len(written) > _MOST_CLOSED:
            raise ValidationError(f"At most {_MOST_CLOSED} days.")
        found = []
        for one in written:
            try:
                found.append(date.fromisoformat(one).isoformat())
            except ValueError:
                raise ValidationError(f"{quoted(one)} is no date such as 2026-12-24.") from None
        return sorted(set(found))

    def save(self, commit: bool = True) -> Habits:
        """Store them with the days kept free."""
        self.instance.closed = self.cleaned_data["closed_text"]
        saved: Habits = super().save(commit)
        return saved


class ProductForm(forms.Form):
    """What is made: its formula, least and most of a batch, minutes, and where it may stand."""

    formula = forms.ModelChoiceField(
        Formula.objects.none(),
        label="What you make",
        widget=Select(),
        empty_label="choose a formula",
        error_messages={"required": "Which formula?"},
    )
    least = VolumeField(bare="mL", label="Smallest batch", widget=text_widget("1 L"))
    most = VolumeField(bare="mL", label="Largest batch", widget=text_widget("10 L"))
    minutes = forms.FloatField(
        required=False,
        min_value=1,
        max_value=1440,
        label="Minutes at the bench",
        help_text="Empty: as your last batches took.",
        widget=number_widget(min="1", max="1440"),
    )
    vessels = forms.ModelMultipleChoiceField(
        Vessel.objects.none(),
        required=False,
        label="May stand in",
        help_text="None ticked: any that holds it.",
        widget=forms.CheckboxSelectMultiple,
    )

    def __init__(self, *args: Any, workshop: Workshop, product: Product | None = None, **options: Any) -> None:
        super().__init__(*args, **options)
        self.workshop, self.product = workshop, product
        formulas = Formula.objects.filter(workshop=workshop, put_away_at=None)
        taken = Product.objects.filter(formula__workshop=workshop)
        if product is not None:
            taken = taken.exclude(pk=product.pk)
        self.fields["formula"].queryset = formulas.exclude(product__in=taken)  # type: ignore[attr-defined]
        mixing = Vessel.objects.filter(workshop=workshop, kind="mixing", count__gt=0)
        self.fields["vessels"].queryset = mixing  # type: ignore[attr-defined]

    def clean(self) -> dict[str, Any]:
        """The smallest is no more than the largest."""
        data = super().clean() or {}
        least, most = data.get("least"), data.get("most")
        if least is not None and most is not None and least.mL > most.mL:
            self.add_error("most", f"Less than the smallest batch of {least.words}.")
        return data

    def save(self) -> Product:
        """Store it with where it may stand."""
        data = self.cleaned_data
        product = self.product or Product()
        product.formula = data["formula"]
        product.least_mL, product.most_mL = data["least"].mL, data["most"].mL
        product.minutes = data["minutes"]
        product.save()
        product.stands_in.exclude(vessel__in=data["vessels"]).delete()
        for vessel in data["vessels"]:
            StandsIn.objects.get_or_create(product=product, vessel=vessel)
        return product

    @staticmethod
    def begun(product: Product) -> dict[str, Any]:
        """What the form of a product opens with."""
        return {
            "formula": product.formula_id,
            "least": amount_words(product.least_mL),
            "most": amount_words(product.most_mL),
            "minutes": None if product.minutes is None else f"{product.minutes:g}",
            "vessels": [one.pk for one in product.vessels],
        }


class NeedForm(forms.Form):
    """Who needs how much, and when."""

    kind = forms.ChoiceField(
        choices=[(one.value, one.label) for one in Need.Kind], widget=Select(), label="How it comes", initial="every"
    )
    who = forms.CharField(max_length=80, required=False, label="Who", widget=text_widget("the boats"))
    mL = VolumeField(bare="mL", required=False, label="How much each", widget=text_widget("100 mL"))
    times = forms.IntegerField(
        min_value=1, max_value=10_000, initial=1, label="For how many", widget=number_widget(min="1", max="10000")
    )
    every_days = forms.IntegerField(
        min_value=1,
        max_value=366,
        required=False,
        initial=7,
        label="Every so many days",
        widget=number_widget(min="1", max="366"),
    )
    on = forms.DateField(required=False, label="On, or first on", widget=date_widget())

    def clean(self) -> dict[str, Any]:
        """What each kind needs to be known."""
        data = super().clean() or {}
        kind = data.get("kind")
        if kind in ("every", "once") and not data.get("mL") and "mL" not in self.errors:
            self.add_error("mL", "How much? Such as 100 mL.")
        if kind == "every" and not data.get("every_days") and "every_days" not in self.errors:
            self.add_error("every_days", "How often? 7 is once a week.")
        if kind == "once" and "on" not in self.errors:
            if not data.get("on"):
                self.add_error("on", "On which day?")
            elif data["on"] < timezone.localdate():
                self.add_error("on", "That day has passed.")
        return data

    def save(self, product: Product) -> Need:
        """Store it."""
        data = self.cleaned_data
        kind = data["kind"]
        return Need.objects.create(
            product=product,
            kind=kind,
            who=data["who"],
            mL=0.0 if kind == "used" or data["mL"] is None else data["mL"].mL,
            times=data["times"] if kind != "used" else 1,
            every_days=data["every_days"] if kind == "every" else None,
            on=data["on"] if kind != "used" else None,
        )


class MoveForm(forms.Form):
    """Another day for a batch."""

    to = forms.DateField(label="Start on", widget=date_widget(), error_messages={"required": "On which day?"})


class PaidForm(forms.Form):
    """What all packs of a line cost together."""

    price = forms.DecimalField(
        required=False,
        min_value=0,
        max_digits=9,
        decimal_places=2,
        label="Paid",
        widget=number_widget(min="0", step="0.01"),
    )
