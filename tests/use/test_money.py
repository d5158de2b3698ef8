"""Money and review: what a batch, a bottle and a load cost by hand, a season against the shop, and the odd batch out."""

import uuid
from datetime import timedelta
from decimal import Decimal

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from conftest import WHO_I
from firkin.batches.models import Batch, Filling, bottles_of, told_of
from firkin.core.formula import formula_from_dict
from firkin.core.use import LEAST_POINTS, BottleEventKind
from firkin.shelf.models import Movement, Stock
from firkin.use.worth import SEASON_D, Costed, against, lost_beside, used_mL
from steps import begin, make_as_planned, said

pytestmark = pytest.mark.django_db
SOAP = {
    "format": "firkin-formula/1.1",
    "name": "Laundry soap",
    "family": "laundry-soap",
    "dose": "100 mL per load",
    "lines": [{"material": "borax", "amount": "100 g"}, {"material": "water", "amount": "q.s."}],
    "make": "2 L",
}


def stock(workshop, material: str, price: str, size: float, unit: str = "g") -> Stock:
    one = Stock(
        workshop=workshop, material=material, name=material, price=Decimal(price), amount_value=size, amount_unit=unit
    )
    one.save()
    return one


@pytest.fixture
def soap(workshop, maker, bench: Client) -> Batch:
    """2 L of soap with 100 g of borax at 5.00 for 500 g: 1.00."""
    borax = stock(workshop, "borax", "5.00", 500.0)
    batch = begin(formula_from_dict(SOAP), workshop, maker, "2 L")
    batch.lines.filter(material="borax").update(stock=borax)
    make_as_planned(bench, batch)
    return Batch.objects.get(pk=batch.pk)


def test_a_litre_a_load_and_a_bottle_by_hand(bench: Client, soap: Batch) -> None:
    """1.00 for 2 L: 0.50 a litre, a twentieth of it for a load of 100 mL."""
    costed = Costed(soap)
    assert costed.cost.total == pytest.approx(1.0)
    assert costed.cost.of_a_litre == pytest.approx(0.5)
    assert costed.of_a_dose == (pytest.approx(0.05), "a load")
    assert costed.by_line == [("Borax", pytest.approx(1.0)), ("Water", None)]
    page = said(bench.get(reverse("use:money", args=[soap.version.formula_id])))
    assert "1.00 EUR" in page
    assert "At 100 mL a load (as the formula says)." in page
    assert "Without a price" not in page


def test_what_was_spilled_over_costs_too_and_no_price_is_said(bench: Client, workshop, soap: Batch) -> None:
    bench.post(
        reverse("batches:besides", args=[soap.pk]),
        {"material": "washing soda", "amount": "5 g", "key": uuid.uuid4()},
    )
    page = said(bench.get(reverse("use:money", args=[soap.version.formula_id])))
    assert "more than" in page
    assert "Washing soda" in page.split("Without a price, and not counted:")[1][:40]


def test_a_season_against_the_shop_by_hand(bench: Client, maker, soap: Batch) -> None:
    """Shop: 3 L for 6.00, 2.00 a litre; 1 L of ours used up: 2.00 - 0.50 saved. By load: 30 loads at 0.20 against 0.05."""
    formula = soap.version.formula
    address = reverse("use:money", args=[formula.pk])
    bench.post(address, {"name": "From the shop", "size": "3 L", "price": "6.00", "press": uuid.uuid4()})
    bought = formula.bought.get()
    assert against(bought, Costed(soap)).saved is None
    Filling.objects.create(batch=soap, by=maker, container="Jar", count=2, fill_mL=1000)
    told_of(bottles_of(soap)[:1], BottleEventKind.USED_UP, maker)
    told = against(bought, Costed(soap))
    assert (told.of_a_litre, told.used_mL) == (pytest.approx(2.0), pytest.approx(1000.0))
    assert told.saved == pytest.approx(1.5)
    bought.loads = 30
    bought.save()
    assert against(bought, Costed(soap)).saved == pytest.approx((0.2 - 0.05) * 10)
    assert "That saved 1.50 EUR" in said(bench.get(address))
    assert used_mL(formula, timezone.now() + timedelta(days=183)) == 0.0
    assert used_mL(formula, timezone.now() + timedelta(days=181)) == 1000.0
    assert "Price" in said(bench.post(address, {"name": "x", "size": "three", "price": "-1", "press": uuid.uuid4()}))
    bench.post(reverse("use:bought_remove", args=[formula.pk, bought.pk]))
    assert not formula.bought.exists()


@pytest.mark.long
def test_the_odd_batch_is_named_and_what_differed_from_the_others(bench: Client, workshop, maker) -> None:
    formula = None
    for n in range(LEAST_POINTS + 4):
        batch = begin(formula_from_dict(WHO_I), workshop, maker, "1 L")
        formula = formula or batch.version.formula
        batch.version = formula.current
        batch.save()
        make_as_planned(bench, batch)
        Batch.objects.filter(pk=batch.pk).update(
            strength_pct=80.0 + 0.1 * (n % 3) if n != 5 else 74.0, made_at=timezone.now() - timedelta(days=30 - n)
        )
    page = said(bench.get(reverse("use:review", args=[formula.pk])))
    odd = Batch.objects.get(strength_pct=74.0)
    assert f"Outside its usual range: {odd.code}." in page
    assert f"and {odd.code}, least" in page


def test_only_alcohol_has_a_price_of_its_pure_litre(bench: Client, workshop, maker) -> None:
    """By hand: 10.00 for a litre of 96 %: 800 mL of it, 8.00, in a rub of 1 L are 768 mL of pure alcohol. Soap has none."""
    stocks = {
        "ethanol": stock(workshop, "ethanol", "10.00", 1000.0, "mL"),
        "castile-soap": stock(workshop, "castile-soap", "9.00", 900.0, "mL"),
    }
    stocks["ethanol"].strength = formula_from_dict(WHO_I).lines[0].strength
    stocks["ethanol"].save()
    for lines, family, price in (
        ([{"material": "ethanol", "strength": "96 % v/v", "amount": "800 mL"}], "liquid-rub", 10.0 / 0.96),
        ([{"material": "castile-soap", "amount": "250 mL"}], "foaming-soap", None),
    ):
        recipe = {
            "format": "firkin-formula/1",
            "name": family,
            "family": family,
            "make": "1 L",
            "lines": [*lines, {"material": "water", "amount": "q.s."}],
        }
        batch = begin(formula_from_dict(recipe), workshop, maker, "1 L")
        batch.lines.filter(position=0).update(stock=stocks[lines[0]["material"]])
        make_as_planned(bench, batch)
        told = Costed(Batch.objects.get(pk=batch.pk)).of_a_pure_litre
        assert told == (None if price is None else pytest.approx(price, rel=1e-3))


def test_what_was_spilled_beside_a_batch_is_told_by_itself(bench: Client, workshop, soap: Batch) -> None:
    """50 g of borax at 5.00 for 500 g are 0.50; what is given away is not lost, what is older is of another season."""
    borax = Stock.objects.get(material="borax")
    address = reverse("use:money", args=[soap.version.formula_id])
    assert "Lost beside" not in said(bench.get(address))
    borax.move(Movement.Kind.GIVEN, -30.0)
    stock(workshop, "citric-acid", "5.00", 500.0).move(Movement.Kind.SPILLED, -100.0)  # none of this formula's
    borax.move(Movement.Kind.SPILLED, -50.0)
    old = borax.move(Movement.Kind.SPILLED, -60.0)
    Movement.objects.filter(pk=old.pk).update(at=timezone.now() - timedelta(days=SEASON_D + 1))
    page = said(bench.get(address))
    assert "Lost beside its batches: 0.50 EUR" in page
    assert "50 g of borax spilled" in page
    assert "60 g" not in page
    Stock.objects.filter(pk=borax.pk).update(price=None)
    lost = lost_beside(soap.version.formula)
    assert lost is not None
    assert (lost.total, lost.what, lost.unpriced) == (0.0, (), ("50 g of borax spilled",))
