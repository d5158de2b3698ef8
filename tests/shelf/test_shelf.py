"""The shelf."""

from decimal import Decimal

import pytest
from django.test import Client
from django.urls import reverse

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch
from firkin.core.catalogue import find
from firkin.core.formula import formula_from_dict
from firkin.core.measures import Quantity
from firkin.formulas.models import Formula
from firkin.shelf.models import Material, Movement, Stock, Tool, Vessel, kitchens_of, own_materials

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
        ({"density_g_per_mL": "0"}, "between 0.3 and 5"),
        ({"density_g_per_mL": "nan"}, "number"),
    ],
)
def test_a_material_that_would_mislead_is_refused(bench: Client, workshop, change: dict, says: str) -> None:
    Material.objects.create(workshop=workshop, name="Marsh water")
    assert says in bench.post(SHELF, material(**change)).content.decode()
    assert Material.objects.count() == 1


def tool(**change: str) -> dict[str, str]:
    data = {"name": "Small syringe", "size": "10 mL", "graduation": "0.5 mL", "error": "4 %", **change}
    return {"add-tool": "1", **{f"tool-{key}": value for key, value in data.items()}}


def test_ones_own_tools_measure_the_sheet_and_their_error_counts(bench: Client, workshop, landing_rub) -> None:
    for change in (
        {},
        {"name": "Long cylinder", "size": "100 mL", "graduation": "1 mL", "error": "1 %"},
        {"name": "Galley scale", "size": "5 kg", "graduation": "1 g", "error": "1 %"},
    ):
        assert bench.post(SHELF, tool(**change)).status_code == 302
    assert set(kitchens_of(workshop)) >= {"own", "own-scale", "us", "metric"}
    page = bench.get(
        reverse("formulas:sheet", args=[landing_rub.pk]), {"make": "1 L", "kitchen": "own"}
    ).content.decode()
    assert "Long cylinder full" in page
    assert "14.5 mL" in page
    weighed = bench.get(reverse("formulas:sheet", args=[landing_rub.pk]), {"make": "1 L", "kitchen": "own-scale"})
    assert "673 g on the scale" in weighed.content.decode()
    line = "material=ethanol&strength=96+%25&amount=10+mL&error=small+syringe"
    worst = bench.get(
        f"/reckon/strength/?{line}&material=water&strength=&amount=5+mL&error=&family=other"
    ).content.decode()
    assert "At worst" in worst


@pytest.mark.parametrize(
    ("change", "says"),
    [({"graduation": "20 mL"}, "smaller than all it holds"), ({"graduation": "1 g"}, "read it off in a unit like that"), ({"size": "5 kg", "graduation": ""}, "to how many grams"), ({"error": "80 %"}, "is no measuring"), ({"error": "good"}, "not an error"), ({"name": ""}, "required")],
)  # fmt: skip
def test_a_tool_that_cannot_measure_is_refused(bench: Client, change: dict, says: str) -> None:
    assert says in bench.post(SHELF, tool(**change)).content.decode()
    assert not Tool.objects.exists()


def test_what_is_left_is_size_less_what_was_taken(workshop) -> None:
    kept = Stock(workshop=workshop, name="Glycerol", material="glycerol")
    kept.amount = Quantity(1.0, "L")
    kept.save()
    kept.move(Movement.Kind.POURED, -126.1)
    kept.move(Movement.Kind.SPILLED, -126.1)
    assert kept.left.mL == pytest.approx(800)  # 1.261 g/mL: handbook, from memory
    listed = Stock.objects.on_hand().with_use().get()
    assert listed.left.mL == pytest.approx(800)
    kept.move(Movement.Kind.THROWN, -9000.0)
    assert Stock.objects.get().left.mL == 0


def test_the_sheet_says_what_runs_out_first_and_scales_to_it(bench: Client, workshop, landing_rub) -> None:
    """By hand: 40 mL of glycerol at 14.5 mL a litre is 2.758 L."""
    for material, size in (("glycerol", Quantity(40.0, "mL")), ("ethanol", Quantity(5.0, "L"))):
        kept = Stock(workshop=workshop, name=material, material=material)
        kept.strength = find(material).usual_strength
        kept.amount = size
        kept.save()
    address = reverse("formulas:sheet", args=[landing_rub.pk])
    page = bench.get(address).content.decode()
    assert "enough for 2.758 L; the glycerol runs out first" in page
    assert "Not on the shelf: hydrogen peroxide" in page
    scaled = bench.get(address, {"make": "", "way": "shelf"}).context["result"]
    assert scaled.total.volume_mL == pytest.approx(2758, abs=1)


def test_vessels_are_counted_again(bench: Client, workshop) -> None:
    vessel = Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=500, count=6)
    address = reverse("shelf:recount", args=[vessel.pk])
    bench.post(address, {"count": "4"})
    answer = bench.post(address, {"count": "some"}, follow=True)
    assert "count them as a whole number" in answer.content.decode()
    assert Vessel.objects.get().count == 4


def test_nothing_is_asked_for_that_has_a_usual_answer(bench: Client) -> None:
    """A stock goes by its material and strength, a vessel by its volume, a tool errs as such tools do."""
    bench.post(SHELF, stock(name="", price=""))
    assert Stock.objects.get().name == "Isopropanol, 90-91 % v/v"
    bench.post(SHELF, {"add-vessel": "1", "vessel-size": "500 mL", "vessel-kind": "bottle", "vessel-count": "6"})
    assert (Vessel.objects.get().name, Vessel.objects.get().count) == ("Bottle, 500 mL", 6)
    for name, size, step, error in (
        ("Small syringe", "10 mL", "0.5 mL", 4),
        ("Old scale", "3 kg", "1 g", 1),
        ("Blue cup", "200 mL", "", 5),
    ):
        bench.post(SHELF, {"add-tool": "1", "tool-name": name, "tool-size": size, "tool-graduation": step})
        assert Tool.objects.get(name=name).error_pct == error


def test_a_row_is_changed_in_place(bench: Client, workshop) -> None:
    bench.post(SHELF, stock())
    there = reverse("shelf:item", args=["stock", Stock.objects.get().pk])
    page = bench.get(there)
    form = page.context["form"]
    data = {name: form[name].value() or "" for name in form.fields}
    assert (data["material"], data["strength_text"], data["size"]) == ("Isopropanol", "90-91 % v/v", "946 mL")
    bench.post(there, data | {"size": "1 L"})
    kept = Stock.objects.get()
    assert (kept.amount.words, str(kept.strength), kept.name) == ("1 L", "90-91 % v/v", "Tall blue bottle")
    kept.move(Movement.Kind.POURED, -8.0)
    answer = bench.post(there, data | {"material": "ethanol"})
    assert "Put what it really is on the shelf as a new bottle" in answer.content.decode()


def test_what_nothing_depends_on_goes_and_what_records_name_stays(bench: Client, workshop, maker, landing_rub) -> None:
    batch = Batch.objects.start(landing_rub.current, landing_rub.current.as_core(), maker)
    kept, spare = (
        Stock.objects.create(workshop=workshop, material="ethanol", name=name, amount_value=1, amount_unit="L")
        for name in ("Can", "Spare")
    )
    batch.lines.filter(material="ethanol").update(stock=kept)
    page = bench.get(reverse("shelf:item", args=["stock", kept.pk])).content.decode()
    assert f"Made with it: {batch}." in page
    for one in (kept, spare):
        bench.post(reverse("shelf:remove", args=["stock", one.pk]))
    assert [(one.name, one.used_up) for one in Stock.objects.all()] == [("Can", True)]
    jug = Vessel.objects.create(workshop=workshop, name="Jug", volume_mL=2000)
    batch.vessel = jug
    batch.save()
    bench.post(reverse("shelf:remove", args=["vessel", jug.pk]))
    assert Vessel.objects.get().count == 0


def test_a_material_that_formulas_are_counted_with_keeps_its_density(bench: Client, workshop, maker) -> None:
    own = Material.objects.create(workshop=workshop, name="Marsh gel", density_g_per_mL=1.02)
    there = reverse("shelf:item", args=["material", own.pk])
    assert b"No formula and no batch depends on it" in bench.get(there).content
    bench.post(there, {"name": "Marsh gel", "density_g_per_mL": "1.05"})
    assert Material.objects.get().density_g_per_mL == 1.05
    gel = formula_from_dict(
        {"format": "firkin-formula/1", "name": "G", "lines": [{"material": "Marsh gel", "amount": "1 L"}]}
    )
    Formula.objects.keep(gel, workshop, maker)
    assert b"Formulas with it: G." in bench.get(there).content
    bench.post(there, {"name": "Marsh gel", "density_g_per_mL": "2"})
    bench.post(reverse("shelf:remove", args=["material", own.pk]))
    assert Material.objects.get().density_g_per_mL == 1.05


def test_a_stranger_sees_and_removes_nothing(bench: Client, db) -> None:
    other = Workshop.objects.create(name="Elsewhere")
    theirs = Stock.objects.create(workshop=other, material="ethanol", name="Can", amount_value=1, amount_unit="L")
    for page in ("item", "remove"):
        assert bench.post(reverse(f"shelf:{page}", args=["stock", theirs.pk])).status_code == 404
    assert Stock.objects.exists()


@pytest.mark.parametrize("back", ["//elsewhere.example/", "https://elsewhere.example/", "javascript:1", "batches/"])
def test_the_way_back_leads_nowhere_else(bench: Client, back: str) -> None:
    data = {"material": "water", "size": "1 L", "back": back}
    assert bench.post(reverse("shelf:add", args=["stock"]), data).url == SHELF
