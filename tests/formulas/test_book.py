"""Keeping, scaling and reading formulas."""

import io
import re

import pytest
from django.test import Client
from django.urls import reverse
from pypdf import PdfReader

from conftest import WHO_I
from firkin.batches.models import Batch
from firkin.core.formula import formula_from_dict, house_formulas, reckon
from firkin.formulas.models import Formula
from firkin.ui.lists import A_PAGE
from steps import said


def kept_from(page: str) -> str:
    return re.search(r'name="signed" value="([^"]+)"', page)[1]


def test_a_reckoned_mix_is_kept_as_a_formula_with_numbers_and_units(bench: Client, workshop) -> None:
    page = bench.get(
        "/reckon/strength/?material=ipa&strength=90-91+%25&amount=2+parts&material=aloe&strength=&amount=1+part&rule=cdc-alcohol-60&family=aloe-rub"
    )
    answer = bench.post(reverse("formulas:keep"), {"signed": kept_from(page.content.decode()), "name": "Tiller rub"})
    formula = Formula.objects.get()
    assert answer.url == reverse("formulas:sheet", args=[formula.pk])
    assert (formula.name, formula.family, formula.workshop) == ("Tiller rub", "aloe-rub", workshop)
    first = formula.current.lines.first()
    assert (first.material, first.amount_value, first.amount_unit) == ("isopropanol", 2.0, "part")
    assert (first.strength_value, first.strength_low, first.strength_high) == (90.5, 90.0, 91.0)
    assert formula.current.guidelines == ["cdc-alcohol-60"]


def test_a_mix_without_a_name_is_asked_for_one_and_not_lost(bench: Client) -> None:
    signed = kept_from(bench.get("/reckon/strength/").content.decode())
    answer = bench.post(reverse("formulas:keep"), {"signed": signed, "name": " "})
    assert answer.status_code == 422
    assert signed in answer.content.decode()
    assert "Give the formula a name" in answer.content.decode()


def test_a_mix_that_was_tampered_with_is_refused(bench: Client) -> None:
    answer = bench.post(reverse("formulas:keep"), {"signed": "nonsense:1:2", "name": "Rub"})
    assert "did not arrive whole" in answer.content.decode()
    assert not Formula.objects.exists()


def test_a_formula_comes_back_from_the_database_as_it_went_in(landing_rub: Formula) -> None:
    assert landing_rub.current.as_core() == formula_from_dict(WHO_I)


def test_the_sheet_scales_to_a_volume(bench: Client, landing_rub: Formula) -> None:
    page = said(bench.get(reverse("formulas:sheet", args=[landing_rub.pk]), {"make": "1.5 L"}))
    for amount in ("1.25 L", "62.55 mL", "21.75 mL", "193.9 mL", "Start a batch of 1.5 L"):
        assert amount in page
    assert "meets" in page


@pytest.mark.parametrize("make", ["nonsense", "-1 L", "2 parts", "0 L"])
def test_a_size_that_cannot_be_read_keeps_the_formula_as_it_is(bench: Client, landing_rub, make: str) -> None:
    page = bench.get(reverse("formulas:sheet", args=[landing_rub.pk]), {"make": make}).content.decode()
    assert "field-error" in page
    assert f'value="{make}"' in page
    assert "833.3 mL" in page


def test_a_version_is_added_and_the_old_one_stays(bench: Client, landing_rub: Formula, maker) -> None:
    weaker = formula_from_dict({**WHO_I, "lines": [{**WHO_I["lines"][0], "amount": "800 mL"}, *WHO_I["lines"][1:]]})
    landing_rub.add_version(weaker, maker, "less alcohol")
    again = Formula.objects.get(pk=landing_rub.pk)
    assert again.current.number == 2
    first = again.versions.get(number=1)
    assert first.as_core() == formula_from_dict(WHO_I)
    page = bench.get(reverse("formulas:sheet", args=[again.pk]), {"version": "1"}).content.decode()
    assert "833.3 mL" in page
    assert "less alcohol" in page
    assert bench.get(reverse("formulas:sheet", args=[again.pk]), {"version": "9"}).status_code == 404


def test_a_formula_opens_in_the_reckoner_with_the_same_strength(bench: Client, landing_rub: Formula) -> None:
    page = bench.get(reverse("formulas:in_reckoner", args=[landing_rub.pk]), follow=True).content.decode()
    assert "80" in page
    assert 'value="q.s."' in page
    assert reckon(landing_rub.current.as_core()).actives[0].label == pytest.approx(80, abs=0.01)


def test_the_book_takes_the_same_number_of_queries_for_many(
    bench: Client, landing_rub, workshop, maker, django_assert_num_queries
) -> None:
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    with CaptureQueriesContext(connection) as few:
        bench.get(reverse("formulas:book"))
    for number in range(12):
        Formula.objects.keep(formula_from_dict({**WHO_I, "name": f"Rub {number}"}), workshop, maker)
    with django_assert_num_queries(len(few)):
        bench.get(reverse("formulas:book"))


def test_a_house_formula_is_copied_and_becomes_ones_own(bench: Client, workshop) -> None:
    address = reverse("formulas:house", args=["xanthan-gel"])
    page = bench.get(address, {"make": "6 x 100 mL", "way": "bottles", "kitchen": "metric"}).content.decode()
    assert "570 mL" in page
    assert "After rounding" in page
    assert "Start a batch" in page
    copied = bench.post(address)
    formula = Formula.objects.get(workshop=workshop)
    assert copied.url == reverse("formulas:sheet", args=[formula.pk])
    assert formula.tags == "gel, no neutraliser"
    assert len(formula.current.steps.all()) == 7
    assert bench.get(reverse("formulas:house", args=["riddle"])).status_code == 404


@pytest.mark.parametrize(
    ("asked", "found", "not_found"),
    [
        ("aloe", "Aloe rub at the 60", "Xanthan"),
        ("borax-free", "without borax", "WHO"),
        ("labsa gentle", "Gentler", "classic"),
        ("zebra", "is in none of yours and", "WHO"),
    ],
)
def test_the_book_is_searched_by_name_tag_and_material(bench: Client, landing_rub, asked, found, not_found) -> None:
    page = bench.get(reverse("formulas:book"), {"q": asked}, headers={"HX-Request": "true"}).content.decode()
    assert found in page
    assert not_found not in page
    assert "<html" not in page


def test_the_fill_strip_has_true_millimetres_and_a_control_ruler(bench: Client, landing_rub: Formula) -> None:
    """Height of a cylinder: volume over its area; 1 L at 100 mm inside stands at 127.3 mm."""
    import xml.etree.ElementTree as ET

    answer = bench.get(reverse("formulas:strip", args=[landing_rub.pk]), {"make": "1 L", "diameter": "100"})
    assert answer["Content-Type"] == "image/svg+xml"
    root = ET.fromstring(answer.content)
    assert root.get("width") == "100mm"
    assert root.get("height") == f"{root.get('viewBox').split()[3]}mm"
    marks = [
        float(e.get("y1")) for e in root.iter("{http://www.w3.org/2000/svg}line") if e.get("stroke-width") == "0.4"
    ]
    foot = max(float(e.get("y1")) for e in root.iter("{http://www.w3.org/2000/svg}line"))
    assert foot - min(marks) == pytest.approx(127.3, abs=0.05)
    assert "control: 50 mm" in answer.content.decode()
    pdf = bench.get(reverse("formulas:strip_pdf", args=[landing_rub.pk]), {"make": "1 L", "diameter": "100"})
    page = PdfReader(io.BytesIO(pdf.content)).pages[0]
    assert float(page.mediabox.height) / 72 * 25.4 == pytest.approx(float(root.get("viewBox").split()[3]), abs=0.01)
    assert "top up to 1 L" in page.extract_text()


@pytest.mark.parametrize("diameter", ["", "0", "wide", "20", "1e99"])
def test_a_strip_that_cannot_be_printed_says_why(bench: Client, landing_rub: Formula, diameter: str) -> None:
    answer = bench.get(reverse("formulas:strip", args=[landing_rub.pk]), {"make": "1 L", "diameter": diameter})
    assert answer.status_code == 422
    assert "field-error" in answer.content.decode()


def test_another_bottle_is_swapped_in_and_kept_as_a_version_or_beside(bench: Client, landing_rub: Formula) -> None:
    address = reverse("formulas:swap", args=[landing_rub.pk, 0])
    assert "Isopropanol" in bench.get(address).content.decode()
    page = bench.get(address, {"to": "isopropanol", "strength": "99.8 %"}).content.decode()
    assert "801.6 mL" in page  # 833.3 x 96 / 99.8
    assert "WHO formulation II" in page
    bench.post(address, {"to": "isopropanol", "strength": "99.8 %", "keep": "copy"})
    assert {kept.name for kept in Formula.objects.all()} == {"Landing rub", "Landing rub with isopropanol"}
    bench.post(address, {"to": "ethanol", "strength": "190 proof", "keep": "version"})
    assert landing_rub.versions.count() == 2
    assert str(landing_rub.current.as_core().lines[0].strength) == "95 % v/v"


@pytest.mark.parametrize(
    "query",
    [
        {"to": "isopropanol", "strength": "70 %"},
        {"to": "isopropanol", "strength": "strong"},
        {"to": "nowhere"},
        {"to": ""},
        {"to": "water"},
    ],
)
def test_a_swap_that_cannot_be_says_why(bench: Client, landing_rub: Formula, query) -> None:
    answer = bench.get(reverse("formulas:swap", args=[landing_rub.pk, 0]), query)
    assert answer.status_code == 200
    assert "Save as a version" not in answer.content.decode()
    assert bench.get(reverse("formulas:swap", args=[landing_rub.pk, 99])).status_code == 404


def test_a_house_formula_is_started_from_its_sheet_and_copied_once(bench: Client, workshop) -> None:
    for _ in range(2):
        answer = bench.post(reverse("batches:start"), {"house": "who-one", "make": "1 L"})
    assert Formula.objects.get(workshop=workshop).name == house_formulas()["who-one"].formula.name
    assert [batch.version.number for batch in Batch.objects.all()] == [1, 1]
    assert answer.url == reverse("batches:prepare", args=[Batch.objects.latest("pk").pk])
    assert bench.post(reverse("batches:start"), {"house": "riddle", "make": "1 L"}).status_code == 404


@pytest.mark.parametrize("key", house_formulas())
def test_every_house_formula_is_known_again_in_the_book(workshop, maker, key: str) -> None:
    """Started twice it is copied once: what is read back is what was written."""
    house = house_formulas()[key]
    assert Formula.objects.of_house(house, workshop, maker) == Formula.objects.of_house(house, workshop, maker)


def test_a_formula_is_put_away_and_taken_out_again(bench: Client, landing_rub: Formula) -> None:
    there = reverse("formulas:put_away", args=[landing_rub.pk])
    bench.post(there, {"away": "1"})
    page = bench.get(reverse("formulas:book"))
    assert not page.context["shelves"]
    assert "Archived: 1" in page.content.decode()
    assert landing_rub.name not in bench.get("/").content.decode()
    assert bench.get(reverse("formulas:sheet", args=[landing_rub.pk])).status_code == 200
    bench.post(there, {"away": "0"})
    assert bench.get(reverse("formulas:book")).context["shelves"]


def test_a_thick_book_is_paged_in_a_fixed_number_of_queries_and_found_whole(
    bench: Client, workshop, maker, django_assert_max_num_queries
) -> None:
    for number in range(A_PAGE + 3):
        Formula.objects.keep(formula_from_dict(WHO_I | {"name": f"Rub {number:03}"}), workshop, maker)
    address = reverse("formulas:book")
    with django_assert_max_num_queries(14):
        first = bench.get(address)
    assert sum(len(rows) for _, rows in first.context["shelves"]) == A_PAGE
    assert "Page 1 of 2, 53 in all" in said(first)
    assert [row.name for _, rows in bench.get(f"{address}?page=2").context["shelves"] for row in rows][-1] == "Rub 052"
    (rows,) = [rows for _, rows in bench.get(f"{address}?q=052").context["shelves"]]
    assert [row.name for row in rows] == ["Rub 052"]
