"""A database of every earlier shape, with something in every table, is brought up to date and loses nothing."""

import datetime
import uuid

import pytest
from django.db import connections, models
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.loader import MigrationLoader

from conftest import WHO_I
from firkin.batches.models import Batch
from firkin.formulas.models import FormulaVersion

OURS = ("accounts", "shelf", "formulas", "batches")
ALIAS = "of_old"
AT = datetime.datetime(2026, 5, 1, 9, tzinfo=datetime.UTC)
#: What stands in a column of a name, where anything else would make no sense.
SENSE = {
    "basis": "volume", "family": "liquid-rub", "state": "making", "kind": "note", "time_zone": "Europe/Berlin",
    "make_value": 1.0, "make_unit": "L", "temperature_c": 20.0, "currency": "EUR", "amount_unit": "mL",
    "amount_value": 10.0, "material": "ethanol", "strength_value": 96.0, "strength_low": 96.0, "strength_high": 96.0,
    "strength_basis": "v/v", "guidelines": [], "claims": {}, "own_sizes": {}, "data": {}, "lines": [0], "frozen": WHO_I,
    "household": "us", "kitchen": "", "decimal_mark": "", "role": "keeper", "number": 1, "position": 0,
}  # fmt: skip


def in_order() -> list[tuple[str, str]]:
    """Every migration, in the order they are applied."""
    graph = MigrationLoader(None, ignore_no_migrations=True).graph
    return list(dict.fromkeys(key for leaf in graph.leaf_nodes() for key in graph.forwards_plan(leaf)))


@pytest.fixture
def of_old(django_db_blocker, monkeypatch):
    """An empty database beside the tests' own."""
    connections.databases[ALIAS] = connections.databases["default"] | {"NAME": ":memory:", "OPTIONS": {}}
    monkeypatch.setattr("firkin.formulas.models.own_materials", lambda workshop: ())  # it asks the usual database
    with django_db_blocker.unblock():
        yield connections[ALIAS]
        connections[ALIAS].close()
    del connections.databases[ALIAS]
    delattr(connections._connections, ALIAS)


def filled(model, made: dict, turn: int) -> dict[str, object]:
    """The columns of a row with something in each, other than in other turns."""
    row = {}
    for column in model._meta.concrete_fields:
        name = column.name
        if column.primary_key and not column.related_model:
            continue
        if column.related_model is not None:
            there = made.get(column.related_model._meta.label)
            row[column.attname] = there if there is not None else None
        elif name in SENSE:
            row[name] = SENSE[name]
        elif column.choices:
            row[name] = column.choices[0][0]
        elif isinstance(column, models.DateTimeField):
            row[name] = AT
        elif isinstance(column, models.DateField):
            row[name] = AT.date()
        elif isinstance(column, models.BooleanField):
            row[name] = False
        elif isinstance(column, models.IntegerField | models.FloatField | models.DecimalField):
            row[name] = 1
        elif isinstance(column, models.JSONField):
            row[name] = {}
        elif isinstance(column, models.UUIDField):
            row[name] = uuid.uuid4()
        elif isinstance(column, models.BinaryField):
            row[name] = b"\xff\xd8"
        else:
            row[name] = f"{turn} {name} of old"[: column.max_length or 60]
    return row


def fill(apps, present: set[str], turn: int) -> dict[tuple[str, int], dict[str, object]]:
    """A row in every table of ours that there is, each after those it refers to; what stands in it, by table and key."""
    made: dict[str, int] = {}
    told = {}
    waiting = [model for app in OURS if app in present for model in apps.get_app_config(app).get_models()]
    while waiting:
        before = len(waiting)
        for model in list(waiting):
            needs = [
                column.related_model._meta.label
                for column in model._meta.concrete_fields
                if column.related_model is not None and not column.null and column.related_model is not model
            ]
            if all(label in made for label in needs):
                row = filled(model, made, turn)
                made[model._meta.label] = model._default_manager.using(ALIAS).create(**row).pk
                told[model._meta.label, made[model._meta.label]] = row
                waiting.remove(model)
        assert len(waiting) < before, waiting
    return told


@pytest.mark.long
def test_what_was_stored_under_every_earlier_shape_is_there_under_the_newest(of_old) -> None:
    """Migration by migration: after each of ours a row is put into every table; at the end all of them are there."""
    executor, state, told, shapes = MigrationExecutor(of_old), None, {}, []
    for key in in_order():
        plan = [(executor.loader.get_migration(*key), False)]
        state = executor.migrate([key], plan=plan, state=state)
        if key[0] in OURS:
            shapes.append(key)
            present = {app for app in OURS if any(name[0] == app for name in state.models)}
            told |= {(label, pk, key): row for (label, pk), row in fill(state.apps, present, len(shapes)).items()}
    assert len(shapes) > 20
    frozen_since = shapes.index(("batches", "0004_freeze_the_steps"))
    batches = 0
    for (label, pk, shape), row in told.items():
        if label == "shelf.StockUse":  # taken out was a plus, and is a minus in the ledger
            label, row = "shelf.Movement", row | {"mass_g": -row["mass_g"]}  # noqa: PLW2901
        model = state.apps.get_model(label)
        kept = model._base_manager.using(ALIAS).get(pk=pk)
        there = {column.attname for column in model._meta.concrete_fields}
        for name, value in row.items():
            if name in there and not isinstance(value, datetime.datetime | dict | list | uuid.UUID):
                assert getattr(kept, name) == value, (label, shape, name)
        if label == "batches.Batch":
            batches += 1
            batch = Batch.objects.using(ALIAS).get(pk=pk)
            assert batch.frozen["lines"] == WHO_I["lines"]
            assert bool(batch.frozen.get("steps")) is (shapes.index(shape) < frozen_since)
        if label == "formulas.FormulaVersion":
            assert FormulaVersion.objects.using(ALIAS).get(pk=pk).as_core().lines
    assert batches > 4
