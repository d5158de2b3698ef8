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
from firkin.formulas.models import FormulaLine, FormulaStep, FormulaVersion
from firkin.shelf.models import Material, Movement, Stock, Tool, Vessel
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


#: By what the numbers are: no strength is past 100 %, no error past the whole, nothing a kitchen holds is lighter than cork
#: dust or heavier than osmium, no wait is below nothing.
MEANT = [
    (Stock, "strength_value", [-0.1, 100.1], [0.0, 100.0]),
    (Stock, "amount_value", [-0.1, 1.1e9], [0.0, 1e9]),
    (Stock, "bulk", [0.0, 31.0], [0.05, 22.6]),
    (Stock, "price", [-0.01], [0.0, 4.9]),
    (Movement, "mass_g", [1e20], [-500.0, 500.0]),
    (Tool, "error_pct", [-0.1, 100.1], [0.0, 50.0]),
    (FormulaLine, "error", [-0.01, 1.01], [0.0, 0.5]),
    (FormulaStep, "portions", [0, 1001], [1, 1000]),
    (FormulaStep, "wait_h", [-0.1, 1e6], [0.1, 43_800.0]),
    (FormulaStep, "temperature_c", [-60.0, 250.0], [-20.0, 120.0]),
    (FormulaVersion, "keep_days", [-1.0, 40_000.0], [1.0, 3650.0]),
    (Filling, "count", [1_000_001], [1, 10_000]),
]


@pytest.mark.parametrize(("model", "column", "refused", "taken"), MEANT, ids=range(len(MEANT)))
def test_bounds_are_what_the_numbers_can_mean(model, column: str, refused, taken) -> None:
    field = model._meta.get_field(column)
    for value in refused:
        with pytest.raises(ValidationError):
            field.clean(str(value), None)
    for value in taken:
        field.clean(str(value), None)


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
