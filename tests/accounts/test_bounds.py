"""The one rule for what is stored: no path writes what a table may not hold, and every number has its bounds."""

import math

import pytest
from django.apps import apps
from django.core.exceptions import ValidationError
from django.db import models
from django.test import Client, RequestFactory
from django.urls import reverse

from firkin.accounts.bounded import Bounded, Within
from firkin.batches.models import Batch, Entry, Filling
from firkin.core.formula import house_formulas
from firkin.exchange.archive import TABLES
from firkin.shelf.models import Material, Stock, Vessel
from firkin.site.views import went_wrong
from steps import begin

KEPT = [model for model, _ in TABLES.values()]
NUMBERS = [
    (model, column)
    for model in KEPT
    for column in model._meta.concrete_fields
    if isinstance(column, models.FloatField | models.DecimalField)
]


def test_every_table_of_a_workshop_is_looked_at_before_it_is_stored() -> None:
    own = {model for app in apps.get_app_configs() if app.name.startswith("firkin") for model in app.get_models()}
    outside = {model.__name__ for model in own if not issubclass(model, Bounded)}
    assert outside == {"User"}  # the framework's own account


@pytest.mark.parametrize(("model", "column"), NUMBERS, ids=lambda one: getattr(one, "name", None) or one.__name__)
def test_every_number_has_bounds_and_what_is_none_is_refused(model, column) -> None:
    (within,) = [one for one in column.validators if isinstance(one, Within)]
    assert math.isfinite(within.low) and math.isfinite(within.high)
    for value in (math.nan, math.inf, -math.inf, within.high * 1.01 + 1.0, within.low - 1.0):
        row = model(**{column.name: value})
        with pytest.raises(ValidationError) as refused:
            row.check_columns()
        assert column.name in refused.value.message_dict, value
    for value in (within.low, within.high):
        within(value)


WRONG = [
    lambda workshop, batch: Stock(workshop=workshop, material="ethanol", name="can", amount_value=-1.0, amount_unit="L"),
    lambda workshop, batch: Stock(workshop=workshop, material="ethanol", name="can", amount_value=1.0, amount_unit="bucket"),
    lambda workshop, batch: Stock(workshop=workshop, material="ethanol", name="x" * 121, amount_value=1.0, amount_unit="L"),
    lambda workshop, batch: Vessel(workshop=workshop, name="jug", volume_mL=math.nan),
    lambda workshop, batch: Material(workshop=workshop, name="tar", density_g_per_mL=1e9),
    lambda workshop, batch: Entry(batch=batch, kind="sung", text="la"),
    lambda workshop, batch: Filling(batch=batch, container="flask", count=-3, fill_mL=100.0),
]  # fmt: skip


@pytest.mark.parametrize("make", WRONG, ids=range(len(WRONG)))
def test_nothing_of_it_is_stored_and_it_is_said(make, workshop, maker) -> None:
    batch = begin(house_formulas()["who-one"].formula, workshop, maker, "1 L")
    row = make(workshop, batch)
    before = type(row)._default_manager.count()
    try:
        row.save()
    except ValidationError as error:
        try:
            raise error
        except ValidationError:
            answer = went_wrong(RequestFactory().get("/"))
    assert type(row)._default_manager.count() == before
    assert answer.status_code == 422
    assert "That cannot be stored" in answer.content.decode()


def test_what_is_refused_without_a_column_is_said_too() -> None:
    try:
        raise ValidationError("Too much of it.")
    except ValidationError:
        answer = went_wrong(RequestFactory().get("/"))
    assert (answer.status_code, "Too much of it." in answer.content.decode()) == (422, True)


def test_what_a_form_says_at_its_field_is_the_same_rule(bench: Client, workshop) -> None:
    answer = bench.post(
        reverse("shelf:add", args=["vessel"]), {"kind": "bottle", "size": "500 mL", "count": "2000000", "name": "Many"}
    )
    assert answer.status_code == 200
    assert "This goes from 0 to 1000000." in answer.content.decode()
    assert not Vessel.objects.filter(name="Many").exists()
    assert not Batch.objects.exists()
