"""Bottles of another strength than the formula was written for."""

import uuid

import pytest
from django.test import Client
from django.urls import reverse
from hypothesis import given
from hypothesis import strategies as st

from firkin.batches.models import Batch, BatchLine
from firkin.core.catalogue import find
from firkin.core.formula import house_formulas, reckon, with_bottles
from firkin.core.measures import Strength, read_quantity
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock, Vessel
from steps import said

DISH = house_formulas()["dish-gentle"].formula.scaled_to(read_quantity("5 kg"))


@given(st.floats(20, 100), st.floats(25, 99))
def test_whatever_the_bottles_hold_the_batch_holds_what_was_written(sles: float, caustic: float) -> None:
    """By hand: 400 g of 70 % SLES are 1000 g of 28 %; the water gives way, and the whole stays 5 kg."""
    strengths = {3: Strength.of(round(sles, 1), "w/w"), 1: Strength.of(round(caustic, 1), "w/w")}
    made, words = with_bottles(DISH, strengths)
    before, after = reckon(DISH), reckon(made)
    assert after.total.mass_g == pytest.approx(5000)
    for at, strength in strengths.items():
        held = before.lines[at].mass_g * DISH.lines[at].counted_strength.value
        assert after.lines[at].mass_g * strength.value == pytest.approx(held, rel=2e-3)
        assert after.lines[at].mass_g == pytest.approx(held / strength.value, rel=2e-3)
    assert len(words) == sum(strength != DISH.lines[at].counted_strength for at, strength in strengths.items())


def test_choosing_a_weaker_bottle_at_prepare_rewrites_the_line_and_says_so(bench: Client, workshop, maker) -> None:
    kept = Formula.objects.keep(house_formulas()["dish-gentle"].formula, workshop, maker)
    batch = Batch.objects.start(kept.current, DISH, maker)
    thin = Stock(workshop=workshop, material="sles", name="Thin SLES", amount_value=3, amount_unit="kg")
    thin.strength = find("sles").read_strength("28 % w/w")
    thin.save()
    page = bench.post(
        reverse("batches:prepare", args=[batch.pk]), {"stock_3": thin.pk, "press": uuid.uuid4()}, follow=True
    )
    assert "is written for 70 % w/w and the bottle is 28 % w/w: 2.5 times as much." in said(page)
    line = BatchLine.objects.get(batch=batch, material="sles")
    assert (line.planned_g, str(line.strength)) == (pytest.approx(1000), "28 % w/w")
    batch.refresh_from_db()
    assert "2.5 times as much" in said(bench.get(reverse("batches:record", args=[batch.pk])))


def test_a_sole_bottle_of_the_right_strength_is_chosen_already(bench: Client, workshop, maker, landing_rub) -> None:
    batch = Batch.objects.start(landing_rub.current, landing_rub.current.as_core(), maker)
    for name, strength in (("Right", "96 %"), ("Near", "95.5 %"), ("Weak", "70 %")):
        stock = Stock(workshop=workshop, material="ethanol", name=name, amount_value=5, amount_unit="L")
        stock.strength = find("ethanol").read_strength(strength)
        stock.save()
    form = bench.get(reverse("batches:prepare", args=[batch.pk])).context["form"]
    assert form.on_hand[form["stock_0"].initial].name == "Right"
    assert form["stock_1"].initial is None


def test_a_bottle_is_fetched_and_what_was_chosen_before_is_chosen_still(
    bench: Client, workshop, maker, landing_rub
) -> None:
    jug = Vessel.objects.create(workshop=workshop, name="Jug", volume_mL=2000)
    batch = Batch.objects.start(landing_rub.current, landing_rub.current.as_core(), maker)
    here = reverse("batches:prepare", args=[batch.pk])
    away = bench.post(here, {"fetch": "stock_0", "vessel": jug.pk, "kitchen": "us"})
    form = bench.get(away.url).context["form"]
    assert (form["material"].value(), form["strength_text"].value()) == ("Ethanol", "96 % v/v")
    page = bench.get(away.url)
    data = {
        "material": "Ethanol",
        "strength_text": "96 %",
        "size": "1 L",
        "as": "stock_0",
        "back": page.context["back"],
    }
    back = bench.post(away.url.partition("?")[0], data)
    chosen = bench.get(back.url).context["form"]
    assert str(chosen["vessel"].value()) == str(jug.pk)
    assert chosen["kitchen"].value() == "us"
    assert str(chosen["stock_0"].value()) == str(Stock.objects.get().pk)
