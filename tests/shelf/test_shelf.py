"""The shelf."""

from decimal import Decimal

import pytest
from django.test import Client
from django.urls import reverse

from firkin.core.catalogue import find
from firkin.shelf.models import Material, Stock, Vessel, own_materials

SHELF = "/shelf/"


def stock(**change: str) -> dict[str, str]:
    data = {
        "name": "Tall blue bottle",
        "material": "rubbing alcohol",
        "strength_text": "90-91 %",
        "size": "946 mL",
        "price": "7.90",
    }
    return {"add-stock": "1", **{f"stock-{key}": value for key, value in {**data, **change}.items()}}


def test_a_stock_is_put_on_the_shelf_with_numbers_and_units(bench: Client, workshop) -> None:
    assert bench.post(SHELF, stock()).status_code == 302
    kept = Stock.objects.get()
    assert (kept.workshop, kept.material, kept.amount_value, kept.amount_unit) == (
        workshop,
        "isopropanol",
        946,
        "mL",
    )
    assert str(kept.strength) == "90-91 % v/v"
    # 7.90 for 946 mL of 90.5 %: common arithmetic, no source
    assert kept.price_per_pure_litre() == Decimal("9.23")
    assert "9.23" in bench.get(SHELF).content.decode()


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"strength_text": "190"}, "differ by half"),
        ({"strength_text": "120 %"}, "above 100"),
        ({"strength_text": ""}, "Say how strong"),
        ({"size": "big"}, "not an amount"),
        ({"size": "2 parts"}, "not a volume or a weight"),
        ({"name": ""}, "required"),
        ({"price": "cheap"}, "number"),
        ({"price": "99999999999"}, "digits"),
    ],
)
def test_a_bad_stock_gets_a_sentence_and_keeps_what_was_typed(bench: Client, change, says: str) -> None:
    page = bench.post(SHELF, stock(**change)).content.decode()
    assert says in page
    assert not Stock.objects.exists()
    assert 'value="rubbing alcohol"' in page


def test_a_stock_that_is_used_up_leaves_the_shelf_and_stays_in_the_records(bench: Client) -> None:
    bench.post(SHELF, stock())
    bench.post(reverse("shelf:use_up", args=[Stock.objects.get().pk]))
    assert Stock.objects.get().used_up
    assert not Stock.objects.on_hand().exists()


def test_a_vessel_is_put_on_the_shelf(bench: Client) -> None:
    vessel = {"name": "Jug", "kind": "mixing", "size": "2,5 L", "count": "1", "inner_diameter_mm": "140"}
    bench.post(SHELF, {"add-vessel": "1", **{f"vessel-{key}": value for key, value in vessel.items()}})
    assert Vessel.objects.get().volume_mL == 2500
    bad = {**vessel, "inner_diameter_mm": "9e9"}
    page = bench.post(SHELF, {"add-vessel": "1", **{f"vessel-{key}": value for key, value in bad.items()}})
    assert "between 1 and 2000 mm" in page.content.decode()


def test_a_material_of_ones_own_is_found_before_the_catalogue(workshop) -> None:
    Material.objects.create(workshop=workshop, name="Marsh gel", density_g_per_mL=1.02)
    own = own_materials(workshop)
    assert find("marsh gel", own).density == 1.02
    assert find("ethanol", own).id == "ethanol"


def material(**change: str) -> dict[str, str]:
    data = {"name": "Marsh water", "density_g_per_mL": "1.02", **change}
    return {"add-material": "1", **{f"material-{key}": value for key, value in data.items()}}


def test_a_material_of_ones_own_is_added_and_counts_with_its_density(bench: Client) -> None:
    bench.post(SHELF, material())
    assert Material.objects.get().density_g_per_mL == 1.02
    query = "material=marsh+water&strength=&amount=1+L&error=&family=other"
    page = bench.get(f"/reckon/strength/?{query}").content.decode()
    assert "1.02 kg" in page
    assert "does not know" not in page


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"name": "IPA"}, "knows this already, as isopropanol"),
        ({"name": "marsh WATER"}, "by this name already"),
        ({"name": ""}, "required"),
        ({"density_g_per_mL": "0"}, "between 0.3 and 5"),
        ({"density_g_per_mL": "nan"}, "number"),
    ],
)
def test_a_material_that_would_mislead_is_refused(bench: Client, workshop, change: dict, says: str) -> None:
    Material.objects.create(workshop=workshop, name="Marsh water")
    assert says in bench.post(SHELF, material(**change)).content.decode()
    assert Material.objects.count() == 1
