"""Bringing a workshop's archive into another that has things of its own."""

import copy
import json

import pytest

from firkin.accounts.models import User, Workshop
from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry
from firkin.core.errors import CannotRead
from firkin.core.formula import formula_from_dict, house_formulas
from firkin.exchange import archive
from firkin.exchange.archive import TABLES
from firkin.exchange.merging import look, merge
from firkin.formulas.models import Formula
from firkin.shelf.models import Material, Stock, Tool
from firkin.site import demo
from quay import lantern_quay
from steps import begin, make_at_once

pytestmark = pytest.mark.django_db


@pytest.fixture
def quay() -> Workshop:
    lantern_quay()
    return Workshop.objects.get()


@pytest.fixture
def hand(quay: Workshop) -> User:
    return User.objects.get()


def rows_of(workshop: Workshop) -> dict[str, list[dict]]:
    return archive.written(workshop).document["tables"]


@pytest.mark.long
def test_into_an_empty_workshop_comes_every_row(quay: Workshop, hand: User) -> None:
    empty = Workshop.objects.create(name="Upper quay")
    came = merge(archive.written(quay), empty, hand)
    assert rows_of(empty) == rows_of(quay)
    assert (came.added["batches"], came.here["batches"], came.remarks) == (12, 0, [])


def test_into_itself_and_a_second_time_comes_nothing(quay: Workshop, hand: User) -> None:
    before = copy.deepcopy(rows_of(quay))
    came = merge(archive.written(quay), quay, hand)
    assert not any(came.added.values())
    assert rows_of(quay) == before
    upper = Workshop.objects.create(name="Upper quay")
    for _ in range(2):
        merge(archive.written(quay), upper, hand)
    assert rows_of(upper) == before


@pytest.mark.long
def test_a_look_says_the_same_and_adds_nothing(quay: Workshop, hand: User) -> None:
    upper = Workshop.objects.create(name="Upper quay")
    Tool.objects.create(workshop=upper, name="Galley cup", amount_value=240, amount_unit="mL", error_pct=5)
    seen = look(archive.written(quay), upper, hand)
    assert [len(rows) for name, rows in rows_of(upper).items() if name != "tools"] == [0] * (len(TABLES) - 1)
    came = merge(archive.written(quay), upper, hand)
    assert (seen.added, seen.here, seen.remarks) == (came.added, came.here, came.remarks)
    assert "“Galley cup” says something else here; the one here is kept as it is." in came.remarks
    assert Tool.objects.get(workshop=upper, name="Galley cup").amount_value == 240


def test_a_batch_whose_number_is_taken_gets_the_next_and_says_which_it_had(quay: Workshop, hand: User) -> None:
    upper = Workshop.objects.create(name="Upper quay")
    rub = Formula.objects.keep(formula_from_dict(demo._FORMULAS[0]), upper, hand).current
    own = Batch.objects.start(rub, rub.as_core(), hand)
    came = merge(archive.written(quay), upper, hand)
    codes = [batch.code for batch in Batch.objects.filter(workshop=upper).order_by("number")]
    assert len(set(codes)) == 13
    own.refresh_from_db()
    assert own.number == 1
    moved = Batch.objects.get(workshop=upper, number=13)
    assert moved.name == Batch.objects.get(workshop=quay, number=1).name
    said = Entry.objects.filter(batch=moved).last().text
    assert said == f"Brought in; its number was {Batch.objects.get(workshop=quay, number=1).code} where it came from."
    assert any(moved.code in remark for remark in came.remarks)


def test_a_formula_that_says_the_same_is_one_and_one_that_differs_comes_in_beside(quay: Workshop, hand: User) -> None:
    upper = Workshop.objects.create(name="Upper quay")
    Formula.objects.keep(formula_from_dict(demo._FORMULAS[0]), upper, hand)
    other = demo._FORMULAS[1] | {"make": "3 L"}
    Formula.objects.keep(formula_from_dict(other), upper, hand)
    versions = Formula.objects.get(workshop=quay, name=demo._FORMULAS[0]["name"]).versions.count()
    came = merge(archive.written(quay), upper, hand)
    names = list(Formula.objects.filter(workshop=upper).values_list("name", flat=True))
    assert names.count(str(other["name"])) == 2
    assert names.count(str(demo._FORMULAS[0]["name"])) == (1 if versions == 1 else 2)
    assert any(str(other["name"]) in remark for remark in came.remarks)
    for batch in Batch.objects.filter(workshop=upper):
        assert batch.version.formula.workshop == upper
        assert batch.version.formula.name == Batch.objects.get(workshop=quay, number=batch.number).version.formula.name


def test_an_own_material_that_weighs_otherwise_here_is_refused(quay: Workshop, hand: User) -> None:
    Material.objects.create(workshop=quay, name="Quay clay", density_g_per_mL=1.4)
    whole = archive.written(quay)
    upper = Workshop.objects.create(name="Upper quay")
    Material.objects.create(workshop=upper, name="Quay clay", density_g_per_mL=1.6)
    with pytest.raises(CannotRead, match="another density") as refused:
        merge(whole, upper, hand)
    assert refused.value.path == ("tables", "materials", 0)
    assert not Stock.objects.filter(workshop=upper).exists()


def test_what_is_taken_out_of_a_bottle_stands_once(quay: Workshop, hand: User) -> None:
    left = {stock.name: stock.left_g for stock in Stock.objects.filter(workshop=quay)}
    merge(archive.written(quay), quay, hand)
    assert {stock.name: stock.left_g for stock in Stock.objects.filter(workshop=quay)} == left


@pytest.mark.parametrize("number", ["one", None, [1], -3])
def test_what_is_not_sound_is_refused_before_anything_is_compared(quay: Workshop, hand: User, number) -> None:
    whole = archive.written(quay)
    whole.document = json.loads(json.dumps(whole.document))
    whole.document["tables"]["batches"][0]["number"] = number
    with pytest.raises(CannotRead) as refused:
        merge(whole, quay, hand)
    assert refused.value.path[:3] == ("tables", "batches", 0)
    assert Workshop.objects.count() == 1


@pytest.mark.long
def test_a_batch_made_since_comes_in_beside_the_bottles_that_are_here(quay: Workshop, hand: User) -> None:
    """What it took out of bottles that are here is taken out of them, once."""
    upper = Workshop.objects.create(name="Upper quay")
    merge(archive.written(quay), upper, hand)
    batch = begin(house_formulas()["who-one"].formula, quay, hand, "1 L")
    can = Stock.objects.get(workshop=quay, name__startswith="Tall blue")
    batch.lines.filter(position=0).update(stock=can)
    make_at_once(batch, hand)
    assert batch.draws.exists()
    here = Stock.objects.get(workshop=upper, name__startswith="Tall blue")
    before = here.left_g
    came = merge(archive.written(quay), upper, hand)
    assert came.added["batches"] == 1
    took = -batch.draws.get().movement.mass_g
    assert here.left_g == pytest.approx(before - took)
    theirs = Batch.objects.get(workshop=upper, name=batch.name, created_at=batch.created_at)
    assert theirs.lines.get(position=0).stock == here
    Making(theirs).put_right()
    merge(archive.written(quay), upper, hand)
    assert here.left_g == pytest.approx(before - took)
