"""The pages of how sure a mix is, and of rehearsals of what is planned: they keep nothing."""

import re

import pytest
from django.test import Client

from firkin.accounts.models import User
from firkin.batches.models import Batch, Entry
from firkin.batches.models.batch import State
from firkin.core.formula import reckon
from firkin.core.measures import amount_words, weight_words
from firkin.formulas.models import Formula
from firkin.shelf.models import Movement
from quay import lantern_quay
from steps import said


@pytest.fixture
def quay(client: Client, db) -> Client:
    lantern_quay()
    client.force_login(User.objects.get())
    return client


def test_acid_and_caustic_are_told_where_both_are_in_it_and_follow_the_tools(quay: Client) -> None:
    dish = Formula.objects.get(name="Gentler dish liquid")
    names = [line.material.id for line in dish.current.as_core().lines]
    caustic = f"tool_{names.index('caustic-soda')}"
    exact = {f"tool_{at}": "exact" for at in range(len(names))}
    page = said(quay.get(f"/formulas/{dish.pk}/sure/", exact))
    assert "Practically all batches made with these tools end within 5 % of neutral." in page
    page = said(quay.get(f"/formulas/{dish.pk}/sure/", exact | {caustic: "spoon"}))
    assert re.search(r"(\d+) of 20 batches made with these tools end within 5 % of neutral", page)
    assert re.search(r"\d+ in 100 have caustic left over, which burns: check the pH of each", page)
    rub = Formula.objects.get(name="Landing rub")
    assert "Acid and caustic" not in said(quay.get(f"/formulas/{rub.pk}/sure/"))


def test_a_planned_batch_is_rehearsed_in_its_own_size_and_keeps_nothing(quay: Client) -> None:
    batch = Batch.objects.filter(state=State.MAKING).first()
    assert batch is not None
    Batch.objects.filter(pk=batch.pk).update(state=State.PLANNED)
    kept = [model.objects.count() for model in (Batch, Entry, Movement)]
    page = said(quay.get(f"/batches/{batch.pk}/rehearsal/", {"care": "careful", "slips": "none", "seed": "3"}))
    assert str(batch) in page
    first = reckon(batch.formula()).lines[0]
    assert amount_words(first.volume_mL) in page or weight_words(first.mass_g) in page  # in its own size
    assert "What really went in" in page
    assert kept == [model.objects.count() for model in (Batch, Entry, Movement)]
    assert "Rehearse it first" in said(quay.get(f"/batches/{batch.pk}/prepare/"))
