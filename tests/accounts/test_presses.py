"""One page pressed twice is one deed."""

import uuid

import pytest
from django.test import Client
from django.urls import reverse

from firkin.accounts.models import Press
from firkin.batches.models import Batch
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock
from firkin.ui.signing import signed
from mixes import GEL


def deeds(rub: Formula) -> dict[str, tuple[str, dict[str, object], type]]:
    """Forms that make something new: address, fields, and what is made."""
    return {
        "start": (reverse("batches:start"), {"version": rub.current.pk, "make": "1 L"}, Batch),
        "start from the house": (reverse("batches:start"), {"house": "xanthan-gel", "make": "1 L"}, Batch),
        "copy": (reverse("formulas:house", args=["xanthan-gel"]), {}, Formula),
        "keep": (reverse("formulas:keep"), {"signed": signed(GEL), "name": "Kept"}, Formula),
        "swap": (reverse("formulas:swap", args=[rub.pk, 2]), {"to": "propanediol", "keep": "copy"}, Formula),
        "a stock": (reverse("shelf:add", args=["stock"]), {"material": "water", "size": "1 L"}, Stock),
        "a stock on the shelf": ("/shelf/", {"add-stock": "1", "stock-material": "water", "stock-size": "1 L"}, Stock),
    }


@pytest.mark.parametrize(
    "deed", ["start", "start from the house", "copy", "keep", "swap", "a stock", "a stock on the shelf"]
)
def test_pressed_three_times_it_is_done_once_and_leads_to_one_place(
    bench: Client, landing_rub: Formula, deed: str
) -> None:
    address, data, made = deeds(landing_rub)[deed]
    before = made.objects.count()
    key = uuid.uuid4()
    led = {bench.post(address, data | {"press": key}).url for _ in range(3)}
    assert len(led) == 1
    assert made.objects.count() == before + 1
    bench.post(address, data | {"press": uuid.uuid4()})  # another page is another deed
    assert made.objects.count() == before + 2


def test_what_was_refused_may_be_pressed_again(bench: Client) -> None:
    key = uuid.uuid4()
    there = reverse("shelf:add", args=["stock"])
    assert bench.post(there, {"material": "ethanol", "size": "much", "press": key}).status_code == 200
    assert not Press.objects.exists()
    bench.post(there, {"material": "water", "size": "1 L", "press": key})
    assert Stock.objects.count() == 1


def test_anothers_key_leads_nowhere_of_theirs(bench: Client, workshop) -> None:
    from firkin.accounts.models import Workshop

    other = Workshop.objects.create(name="Elsewhere")
    press = Press.objects.create(key=uuid.uuid4(), workshop=other, address="/batches/99/")
    there = reverse("shelf:add", args=["stock"])
    assert bench.post(there, {"material": "water", "size": "1 L", "press": press.key}).url == there
