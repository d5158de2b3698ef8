"""A batch whose recipe is made ready in a cup and goes in by halves: read, kept, made, and what may go wrong on the way."""

import uuid

import pytest
from django.test import Client
from django.urls import reverse

from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.bench import Stands, judge_reading
from firkin.core.formula import levels, vessel_order
from firkin.core.measures import read_quantity
from firkin.core.plan import in_parts
from firkin.core.recipe import read_recipe
from firkin.formulas.models import Formula
from steps import make_as_planned, press, said

TOLD = """Xanthan 6 g, glycerine 24 g, water 340 g, ethanol 96 % 600 g.
In a small cup stir the xanthan into the glycerine. Put half of the water in the jug. Whisk the cup into the jug.
Add the rest of the water. Then the ethanol."""


@pytest.fixture
def gel(bench: Client, workshop, maker) -> Batch:
    recipe = read_recipe(TOLD, "metric")
    version = Formula.objects.keep(in_parts(recipe.formula("Gel"), recipe.plan), workshop, maker).current
    batch = Batch.objects.start(version, version.as_core().scaled_to(read_quantity("500 g")), maker)
    batch.move_to(State.MAKING, maker, "Begun.")
    return batch


def scale_shows(batch: Batch) -> float | None:
    making = Making(batch)
    return making.progress.weighs_after_g(making.progress.task)


def test_the_jug_weighs_what_is_in_it_and_the_cup_is_none_of_that(bench: Client, gel: Batch) -> None:
    lines = {line.material.id: grams for line, grams in zip(
        Making(gel).progress.formula.lines, Making(gel).progress.masses_g, strict=True
    )}  # fmt: skip
    slurry, half = lines["xanthan-gum"] + lines["glycerol"], lines["water"]
    shown = []
    while (task := Making(gel).progress.task) is not None:
        shown.append(scale_shows(gel))
        target = Making(gel).progress.target(task) if task.line is not None else None
        press(bench, gel, amount=f"{target.value:.9g} {target.unit}" if target else "")
    jug = [half, None, slurry + 2 * half, 500.0]
    assert shown == [None, None, *(pytest.approx(grams, abs=0.01) if grams else None for grams in jug)]


def test_a_weight_of_the_jug_is_held_against_the_jug(bench: Client, gel: Batch) -> None:
    for _ in range(3):  # both into the cup, and half of the water into the jug
        target = Making(gel).progress.target(Making(gel).progress.task)
        press(bench, gel, amount=f"{target.value:.9g} {target.unit}")
    progress = Making(gel).progress
    water = next(progress.masses_g[i] for i in progress.measured if i not in progress.aside)
    assert len(progress.aside) == 2
    judged = judge_reading(progress, {"what": "mass", "value": water})
    assert judged is not None
    assert judged.verdict is Stands.WITHIN
    press(bench, gel)  # the cup is whisked in
    progress = Making(gel).progress
    assert progress.aside == set()
    judged = judge_reading(progress, {"what": "mass", "value": water})
    assert judged is not None
    assert judged.verdict is Stands.LOW


def test_it_comes_to_what_the_recipe_told(bench: Client, gel: Batch) -> None:
    whole = read_recipe(TOLD, "metric").formula()
    make_as_planned(bench, gel)
    progress = Making(gel).progress
    result = progress.result
    assert result.total.mass_g == pytest.approx(500.0, rel=1e-4)
    told = sum(line.amount.g for line in whole.lines)
    names = [line.material.id for line in progress.formula.lines]
    water = sum(grams for name, grams in zip(names, progress.masses_g, strict=True) if name == "water")
    assert water == pytest.approx(500.0 * 340.0 / told, rel=1e-3)


def test_the_page_says_what_goes_into_the_cup(bench: Client, gel: Batch) -> None:
    page = said(bench.get(reverse("batches:make", args=[gel.pk])))
    assert "Put the glycerine in a cup." in page
    assert "in the <b>cup</b>, not with the rest yet" in page
    assert "Left out" in page


def test_a_cup_is_not_left_out_as_a_whole_but_each_thing_in_it(bench: Client, gel: Batch) -> None:
    while (task := Making(gel).progress.task) is not None and not task.source:
        target = Making(gel).progress.target(task)
        press(bench, gel, amount=f"{target.value:.6g} {target.unit}")
    page = said(bench.get(reverse("batches:make", args=[gel.pk])))
    assert "Did you throw the cup away? Mark each thing in it as not in this batch." in page
    assert "Go on without it" not in page
    before = gel.entries.count()
    for _ in range(2):
        data = {"task": Making(gel).progress.turn, "key": uuid.uuid4(), "why": ""}
        answer = bench.post(reverse("batches:leave_out", args=[gel.pk]), data, follow=True)
        assert "Firkin counts what is in the cup as in." in said(answer)
    assert gel.entries.count() == before
    assert Making(gel).progress.task.source == "cup"


def test_what_comes_out_of_a_cup_is_in_its_jug_at_once(gel: Batch) -> None:
    formula = Making(gel).progress.formula
    names = [[formula.lines[i].material.id for i in together] for together in vessel_order(formula)]
    assert names == [["water"], ["glycerol", "xanthan-gum"], ["water"], ["ethanol"]]
    found = levels(formula)
    of = {line.material.id: level for line, level in zip(formula.lines, found, strict=True)}
    assert of["glycerol"] == of["xanthan-gum"] < of["ethanol"]
