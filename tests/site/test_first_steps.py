"""A new workshop is led from what is in its bottle to what can be made of it, and never to what falls short."""

import pytest
from django.test import Client
from django.urls import reverse

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch
from firkin.core.measures import read_quantity, read_strength
from firkin.shelf.models import Stock
from firkin.site.first_steps import first_steps, offers_of

pytestmark = pytest.mark.django_db


@pytest.fixture
def shelf(workshop: Workshop):
    """Puts bottles on an empty shelf: material, strength, size."""
    Stock.objects.all().delete()

    def put(*bottles: tuple[str, str, str]) -> list[Stock]:
        kept = []
        for material, strength, size in bottles:
            stock = Stock(workshop=workshop, material=material, name=material, amount=read_quantity(size))
            stock.strength = read_strength(strength) if strength else None
            stock.save()
            kept.append(stock)
        return kept

    return put


@pytest.mark.parametrize(
    ("bottles", "offered", "never"),
    [
        ([("isopropanol", "91 % v/v", "1 L")], "aloe-sixty", "who-one"),
        ([("isopropanol", "70 % v/v", "1 L")], "straight-wipes", "aloe-sixty"),  # with gel it falls short
        ([("ethanol", "96 % v/v", "5 L")], "who-one", "aloe-sixty"),
        ([("ethanol", "40 % v/v", "5 L")], None, "who-one"),
        ([("isopropanol", "", "1 L")], None, "aloe-sixty"),  # how strong it is nobody said
        ([("castile-soap", "", "1 L")], "foam-plain", "who-one"),
        ([("water", "", "5 L")], None, "foam-plain"),
        ([], None, "foam-plain"),
    ],
)
def test_what_holds_its_rule_with_the_bottles_there_is_offered(shelf, bottles, offered, never) -> None:
    found = [offer.house.id for offer in offers_of(shelf(*bottles))]
    assert (offered in found) if offered else found == []
    assert never not in found


def test_what_lacks_least_stands_first_and_says_what_it_lacks(shelf) -> None:
    offers = offers_of(shelf(("isopropanol", "91 % v/v", "1 L"), ("aloe-gel", "", "1 L")))
    lacks = [len(offer.lacks) for offer in offers]
    assert lacks == sorted(lacks)
    assert {offer.house.id for offer in offers if not offer.lacks} >= {"aloe-sixty", "aloe-seventy"}
    assert offers_of(shelf(("aloe-gel", "", "1 L")))[0].lacks == ("Isopropanol",)


def test_one_bottle_alone_puts_what_needs_nothing_else_first(shelf) -> None:
    lacks = [len(offer.lacks) for offer in offers_of(shelf(("isopropanol", "91 % v/v", "1 L")))]
    assert lacks == sorted(lacks)
    assert lacks[0] < lacks[-1]


def test_the_bottle_that_is_emptied_first_says_the_size(shelf) -> None:
    """Aloe for a third of the batch: 100 mL of it is enough for about 300 mL, whatever the alcohol is enough for."""
    offers = offers_of(shelf(("isopropanol", "91 % v/v", "5 L"), ("aloe-gel", "", "100 mL")))
    make = next(offer.make for offer in offers if offer.house.id == "aloe-sixty")
    assert 250.0 <= read_quantity(make).mL <= 350.0


@pytest.mark.parametrize(("size", "make"), [("5 L", ""), ("500 mL", "700 mL"), ("10 mL", "")])
def test_the_size_is_one_the_bottle_is_enough_for(shelf, size: str, make: str) -> None:
    offers = {offer.house.id: offer for offer in offers_of(shelf(("isopropanol", "91 % v/v", size)))}
    assert offers["aloe-sixty"].make == make


def test_the_bench_leads_a_new_workshop_and_leaves_one_with_a_batch_alone(
    bench: Client, workshop, maker, shelf
) -> None:
    page = bench.get("/").content.decode()
    assert "What is in your bottle?" in page
    assert "All quiet" not in page
    shelf(("isopropanol", "91 % v/v", "500 mL"))
    page = bench.get("/").content.decode()
    assert f"{reverse('formulas:house', args=['aloe-sixty'])}?make=700%20mL" in page
    assert page.count("Aloe rub at the 60 % line") == 1  # not once more among the house formulas
    bench.post("/batches/start/", {"house": "aloe-sixty", "make": "700 mL", "kitchen": ""})
    assert Batch.objects.count() == 1
    assert first_steps(workshop) is None
    assert "What is in your bottle?" not in bench.get("/").content.decode()


def test_a_bottle_read_for_the_bench_leads_back_to_it_and_nowhere_else(bench: Client, shelf) -> None:
    for then, leads in (("bench", "/"), ("", "/shelf/"), ("https://elsewhere.example", "/shelf/")):
        page = bench.get(reverse("shelf:buy"), {"line": "isopropyl 91 % 500 mL 6.99", "then": then})
        form = page.context["form"]
        typed = {name: form[name].value() or "" for name in form.fields} | {"put": "1", "then": then}
        assert bench.post(reverse("shelf:buy"), typed).headers["Location"] == leads
