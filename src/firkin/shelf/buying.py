"""Stock in: a line as written on a label becomes bottles on the shelf; a bar code seen before brings the last back."""

import uuid
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.db import transaction
from django.utils import timezone

from firkin.accounts.models import Workshop
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity
from firkin.core.recipe import Label, read_label
from firkin.core.texts import uncapped
from firkin.shelf.models import Stock, own_materials
from firkin.ui.fields import MakeField, Select, number_widget, text_widget

#: More bottles of one kind nobody carries home.
MOST_AT_ONCE = 200


class BuyForm(forms.Form):
    """A purchase, shown to be confirmed: so many bottles of one kind."""

    material = forms.CharField(max_length=80, label="Material", widget=text_widget("isopropanol", list="materials"))
    strength = forms.CharField(
        max_length=60, required=False, label="Strength on the label", widget=text_widget("91 %", autocomplete="off")
    )
    size = MakeField(
        label="Size of one",
        widget=text_widget("946 mL"),
        error_messages={"required": "How much is in one? A volume or a weight, such as 946 mL."},
    )
    count = forms.IntegerField(
        min_value=1, max_value=MOST_AT_ONCE, initial=1, label="How many", widget=number_widget(min="1", max="200")
    )
    price = forms.DecimalField(
        max_digits=9,
        decimal_places=2,
        min_value=0,
        required=False,
        label="Price",
        widget=number_widget(min="0", step="0.01"),
    )
    price_of = forms.ChoiceField(
        choices=[("all", "for all of them"), ("each", "for each")], required=False, label="That is", widget=Select()
    )
    name = forms.CharField(
        max_length=110, required=False, label="What you call it", widget=text_widget("as its label says")
    )
    lot = forms.CharField(max_length=60, required=False, label="Lot number", widget=text_widget("on the label"))
    shop = forms.CharField(max_length=80, required=False, label="Shop", widget=text_widget())
    grade = forms.CharField(max_length=40, required=False, label="Grade", widget=text_widget("USP, food grade"))
    best_before = forms.DateField(
        required=False, label="Best before", widget=forms.DateInput(attrs={"class": "form-control", "type": "date"})
    )
    stands = forms.CharField(max_length=60, required=False, label="Where it stands", widget=text_widget("top shelf"))
    wording = forms.CharField(max_length=300, required=False, widget=forms.HiddenInput)
    bar_code = forms.CharField(max_length=40, required=False, widget=forms.HiddenInput)

    #: What is asked first; the rest is folded.
    FIRST = ("material", "strength", "size", "count", "price", "price_of")

    def __init__(self, *args: Any, workshop: Workshop, **options: Any) -> None:
        super().__init__(*args, **options)
        self.workshop = workshop

    @property
    def first(self) -> list[forms.BoundField]:
        """The fields that matter at once."""
        return [self[name] for name in self.FIRST]

    @property
    def more(self) -> list[forms.BoundField]:
        """The others."""
        return [field for field in self.visible_fields() if field.name not in self.FIRST]

    def clean_size(self) -> Quantity:
        """A volume or a weight, more than nothing."""
        size: Quantity = self.cleaned_data["size"]
        if size.kind not in ("volume", "mass") or not size.value:
            raise ValidationError("A volume or a weight, such as 946 mL or 1 kg.")
        return size

    def clean(self) -> dict[str, Any]:
        """Read the strength on the material's usual basis; what is an active needs one."""
        data = super().clean() or {}
        if not data.get("material", "").strip():
            return data
        material = find(data["material"], own_materials(self.workshop.pk))
        data["found"], data["read_strength"] = material, None
        try:
            if data.get("strength"):
                data["read_strength"] = material.read_strength(data["strength"])
            elif material.reports == "active":
                self.add_error("strength", f"How strong is it? Look on the label of the {uncapped(material.name)}.")
        except CannotReckon as error:
            self.add_error("strength", str(error))
        return data

    def save(self) -> list[Stock]:
        """The bottles, each a stock of its own, of one purchase."""
        data, purchase = self.cleaned_data, uuid.uuid4()
        material, strength, count = data["found"], data["read_strength"], data["count"]
        name = data["name"] or (f"{material.name}, {strength}" if strength else material.name)
        each = data["price"]
        if each is not None and data["price_of"] != "each":
            each = (each / count).quantize(Decimal("0.01"))
        kept = []
        with transaction.atomic():
            for number in range(1, count + 1):
                stock = Stock(
                    workshop=self.workshop,
                    material=material.written,
                    name=f"{name}, {number} of {count}" if count > 1 else name,
                    price=each,
                    bought_on=timezone.localdate(),
                    purchase=purchase,
                    **{key: data[key] or "" for key in ("lot", "shop", "grade", "stands", "wording", "bar_code")},
                    best_before=data["best_before"],
                )
                stock.strength, stock.amount = strength, data["size"]
                stock.save()
                kept.append(stock)
        return kept


def as_fields(label: Label, line: str) -> dict[str, Any]:
    """A label as read, as the fields of the form."""
    return {
        "material": label.line.material.name if label.line is not None else "",
        "strength": (label.line.strength_said or str(label.strength or "")) if label.line is not None else "",
        "size": str(label.amount) if label.amount is not None and size_known(label.amount) else "",
        "count": label.count,
        "price": label.price,
        "price_of": "each" if label.each else "all",
        "lot": label.lot,
        "shop": label.shop,
        "grade": label.grade,
        "best_before": label.best_before,
        "wording": line[:300],
    }


def size_known(amount: Quantity) -> bool:
    """True for a volume or a weight."""
    return amount.kind in ("volume", "mass")


def as_bought_before(workshop: Workshop, code: str) -> dict[str, Any] | None:
    """The last purchase of a bar code as fields, without lot and best before; None where it was never bought."""
    last = Stock.objects.filter(workshop=workshop, bar_code=code).order_by("-pk").first() if code else None
    if last is None:
        return None
    there = find(last.material, own_materials(workshop.pk))
    return {
        "material": there.name,
        "strength": str(last.strength or ""),
        "size": str(last.amount),
        "count": 1,
        "price": last.price,
        "price_of": "each",
        "shop": last.shop,
        "grade": last.grade,
        "stands": last.stands,
        "wording": last.wording,
        "bar_code": code,
    }


def read_line(line: str, workshop: Workshop) -> Label:
    """A line off a label, in the cups and ounces of the workshop."""
    return read_label(line, workshop.household)


@dataclass(frozen=True, slots=True)
class Purchase:
    """One purchase of a material: what one bottle held and cost, how many, and what that is for a litre or a kg."""

    stock: Stock
    count: int
    of_a_unit: float
    unit: str


def purchases_of(stock: Stock) -> list[Purchase]:
    """What a material of a strength cost each time it was bought, the newest first; none where it was bought once."""
    same = Stock.objects.filter(workshop=stock.workshop_id, material=stock.material, price__isnull=False)
    found: dict[object, Purchase] = {}
    for one in same.order_by("-bought_on", "-pk")[:MOST_AT_ONCE]:
        if str(one.strength) != str(stock.strength) or not one.amount.value:
            continue
        key = one.purchase or one.pk
        if key in found:
            found[key] = replace(found[key], count=found[key].count + 1)
            continue
        by_volume = one.amount.kind == "volume"
        per = 1000.0 / (one.amount.mL if by_volume else one.amount.g)
        found[key] = Purchase(one, 1, float(one.price or 0) * per, "L" if by_volume else "kg")
    return list(found.values()) if len(found) > 1 else []
