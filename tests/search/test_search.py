"""One search over everything: by the beginnings of words, whatever is typed, and in one's own workshop alone."""

import time

import pytest
from django.test import Client
from django.urls import reverse
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from conftest import WHO_I
from firkin.accounts.models import Membership, User, Workshop
from firkin.batches.models import Batch, Holder
from firkin.core.formula import formula_from_dict
from firkin.formulas.models import Formula
from firkin.search import guide
from firkin.search.index import found, index_anew
from firkin.shelf.models import Stock
from pace import slower
from steps import begin, said


@pytest.fixture
def things(workshop, maker) -> Batch:
    Stock.objects.create(
        workshop=workshop, material="glycerol", name="Tall flask", amount_value=1.0, amount_unit="L", lot="GL-0417"
    )
    Holder.objects.create(workshop=workshop, name="Odile")
    return begin(formula_from_dict(WHO_I), workshop, maker, "1 L")


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("asked", "kind"),
    [
        ("land", "formula"),
        ("glyc", "stock"),
        ("GL-0417", "stock"),
        ("0417", "stock"),
        ("odile", "holder"),
        ("tall fl", "stock"),
    ],
)
def test_each_kind_is_found_by_the_beginnings_of_its_words(workshop, things: Batch, asked: str, kind: str) -> None:
    assert kind in [one.kind for one in found(workshop, asked)]


@pytest.mark.django_db
def test_a_batch_is_found_by_its_number(workshop, things: Batch) -> None:
    assert [one.ref for one in found(workshop, things.code)] == [things.pk]


@pytest.mark.django_db
def test_what_is_renamed_taken_away_or_forgotten_is_found_so_no_more(workshop, things: Batch) -> None:
    stock = Stock.objects.get()
    stock.name = "Short jar"
    stock.save()
    assert not found(workshop, "tall")
    assert [one.title for one in found(workshop, "short")] == ["Short jar"]
    stock.delete()
    assert not found(workshop, "short")
    Holder.objects.get().forget()
    assert not found(workshop, "odile")


@pytest.mark.django_db
def test_one_workshop_finds_nothing_of_another(client: Client, workshop, things: Batch) -> None:
    other = Workshop.objects.create(name="Elsewhere")
    user = User.objects.create_user("stranger")
    Membership.objects.create(user=user, workshop=other)
    client.force_login(user)
    page = said(client.get(reverse("search:search"), {"q": "landing"}))
    assert "Nothing found" in page
    Formula.objects.keep(formula_from_dict(WHO_I), other, user)
    assert len(found(other, "landing")) == 1


@pytest.mark.django_db
def test_the_guide_and_the_house_are_found_too(bench: Client) -> None:
    page = said(bench.get(reverse("search:search"), {"q": "foam"}))
    assert "In Firkin" in page
    assert {one.kind for one in guide.found("who")} >= {"rule", "house formula"}
    assert guide.found("") == []


@pytest.mark.django_db
def test_indexed_anew_it_finds_the_same(workshop, things: Batch) -> None:
    before = {(one.kind, one.ref, one.title) for word in ("land", "tall", "odile") for one in found(workshop, word)}
    index_anew(workshop)
    assert {
        (one.kind, one.ref, one.title) for word in ("land", "tall", "odile") for one in found(workshop, word)
    } == before


class Typed(TestCase):
    """Whatever is typed."""

    @given(st.text(max_size=60))
    def test_any_text_finds_or_finds_nothing(self, text: str) -> None:
        workshop, _ = Workshop.objects.get_or_create(name="Any")
        assert isinstance(found(workshop, text), list)
        assert isinstance(guide.found(text), list)


@pytest.mark.django_db
@pytest.mark.long
def test_ten_thousand_things_are_searched_at_once(workshop) -> None:
    Stock.objects.bulk_create(
        Stock(workshop=workshop, material="glycerol", name=f"Bottle {n}", amount_value=1.0, amount_unit="L")
        for n in range(10_000)
    )
    index_anew(workshop)
    begun = time.perf_counter()
    assert found(workshop, "bottle 9999")[0].title == "Bottle 9999"
    assert time.perf_counter() - begun < 0.5 * slower()
