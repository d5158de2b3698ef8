"""The ledger of a stock: what it was bought with, poured, spilled, weighed; corrections are lines more."""

import csv
import io
import uuid

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from firkin.shelf.models import Movement, Stock, Vessel
from steps import a_can, said


def press(client: Client, name: str, stock: Stock, **data: object):
    return client.post(reverse(f"shelf:{name}", args=[stock.pk]), {"press": uuid.uuid4(), **data}, follow=True)


def test_what_it_was_bought_with_comes_first_and_a_corrected_size_is_another_line(workshop) -> None:
    can = a_can(workshop, litres=5)
    assert [(one.kind, one.mass_g) for one in can.movements.all()] == [("bought", pytest.approx(4037.1, abs=0.5))]
    can.amount_value = 4.0
    can.save()
    assert [one.reason for one in can.movements.all()] == ["", "size corrected"]
    assert can.left.mL == pytest.approx(4000)
    can.name = "Blue can"
    can.save()
    assert can.movements.count() == 2


def test_weighed_with_its_bottle_it_holds_what_the_scale_says(bench: Client, workshop) -> None:
    """By hand: 3 kg on the scale and 400 g the empty can are 2.6 kg; at 0.80742 g/mL (OIML R 22) 3.22 L."""
    can = a_can(workshop, litres=5)
    page = said(press(bench, "weigh", can, shows="3 kg", empty="400"))
    assert "Can: 3.22 L left." in page
    can.refresh_from_db()
    assert can.tare_g == 400
    assert can.movements.last().mass_g == pytest.approx(2600 - 4037.1, abs=0.5)
    press(bench, "weigh", can, shows="3000", empty="400")
    assert can.left_g == pytest.approx(2600)


@pytest.mark.parametrize(
    ("sent", "says"),
    [
        ({"shows": "300", "empty": "400"}, "less than the empty bottle weighs"),
        ({"shows": "9 kg", "empty": "400"}, "full it held"),
        ({"shows": "3 L", "empty": "400"}, "Weigh it: a weight"),
        ({"shows": "", "empty": "400"}, "Put the bottle on the scale"),
        ({"shows": "much", "empty": "400"}, "much"),
    ],
)
def test_a_weight_that_cannot_be_is_said_at_its_field(bench: Client, workshop, sent: dict[str, str], says: str) -> None:
    can = a_can(workshop, litres=5)
    page = said(press(bench, "weigh", can, **sent))
    assert says in page
    assert not sent["shows"] or f'value="{sent["shows"]}"' in page
    assert can.movements.count() == 1


def test_spilled_given_and_thrown_away_leave_the_ledger(bench: Client, workshop) -> None:
    can = a_can(workshop, litres=5)
    for kind, amount in (("spilled", "100 mL"), ("given", "1 L"), ("thrown", "0.5 L")):
        press(bench, "move", can, kind=kind, amount=amount)
    assert can.left.mL == pytest.approx(3400)
    assert [one.kind for one in can.movements.all()] == ["bought", "spilled", "given", "thrown"]
    page = said(press(bench, "move", can, kind="given", amount="3.5 L"))
    assert "Only 3.4 L is left by its ledger." in page
    assert can.movements.count() == 4


def test_pressed_twice_it_is_spilled_once(bench: Client, workshop) -> None:
    can = a_can(workshop, litres=5)
    key = uuid.uuid4()
    for _ in range(2):
        bench.post(reverse("shelf:move", args=[can.pk]), {"press": key, "kind": "spilled", "amount": "100 mL"})
    assert can.movements.count() == 2


@settings(max_examples=20)
@given(moves=st.lists(st.tuples(st.sampled_from(["spilled", "given", "weigh"]), st.floats(0.0, 900.0)), max_size=8))
def test_what_is_left_is_the_sum_of_its_ledger(workshop, moves: list[tuple[str, float]]) -> None:
    can = a_can(workshop, litres=5)
    there = can.left_g
    for kind, grams in moves:
        if kind == "weigh":
            can.weigh(grams)
            there = grams
        else:
            can.move(Movement.Kind(kind), -grams)
            there -= grams
        assert can.ledger == pytest.approx(there, abs=1e-6)
        assert can.left_g == pytest.approx(max(0.0, there), abs=1e-6)
    listed = Stock.objects.with_use().get(pk=can.pk)
    assert listed.left_g == pytest.approx(can.left_g)


def test_a_full_bottle_on_the_scale_says_what_it_weighs_empty_and_that_this_is_a_guess(bench: Client, workshop) -> None:
    can = a_can(workshop, litres=5)
    page = said(bench.get(reverse("shelf:item", args=["stock", can.pk])))
    assert "Still full? Leave this empty: it is worked out." in page
    press(bench, "weigh", can, shows="4437.1 g", empty="")
    can.refresh_from_db()
    assert (can.tare_guessed, can.tare_g) == (True, pytest.approx(400.0, abs=0.5))
    assert can.left.mL == pytest.approx(5000)
    page = said(bench.get(reverse("shelf:item", args=["stock", can.pk])))
    assert "Guessed, from when it was full." in page
    # weighed again with the guess it stays one; with an empty one on the scale it is none any more
    press(bench, "weigh", can, shows="3000 g", empty=f"{can.tare_g:.6g}")
    can.refresh_from_db()
    assert can.tare_guessed
    press(bench, "weigh", can, shows="3000 g", empty="380")
    can.refresh_from_db()
    assert (can.tare_guessed, can.tare_g) == (False, 380.0)


@pytest.mark.parametrize(("taken_g", "guessed"), [(0.0, True), (20.0, True), (21.0, False)])
def test_only_a_bottle_that_is_as_good_as_full_says_what_it_weighs_empty(
    bench: Client, workshop, taken_g: float, guessed: bool
) -> None:
    """Within half a hundredth of its 4037 g."""
    can = a_can(workshop, litres=5)
    if taken_g:
        can.move(Movement.Kind.SPILLED, -taken_g)
    page = said(press(bench, "weigh", can, shows="4437 g", empty=""))
    can.refresh_from_db()
    assert (can.tare_g is not None) == guessed
    assert ("Enter what a bottle like it weighs empty" in page) != guessed


def test_a_full_bottle_that_weighs_less_than_what_is_in_it_is_no_bottle(bench: Client, workshop) -> None:
    can = a_can(workshop, litres=5)
    assert "the bottle weighs something too" in said(press(bench, "weigh", can, shows="4000 g", empty=""))
    can.refresh_from_db()
    assert can.tare_g is None


def test_a_picture_of_a_label_is_kept_small_and_shown_to_its_own_workshop(bench: Client, workshop, client) -> None:
    can = a_can(workshop, litres=5)
    out = io.BytesIO()
    Image.new("RGB", (3000, 2000), "tan").save(out, "PNG")
    picture = SimpleUploadedFile("label.png", out.getvalue(), "image/png")
    press(bench, "label_photo", can, picture=picture)
    (kept,) = can.label_photos.all()
    address = reverse("shelf:label_picture", args=[can.pk, kept.pk])
    assert address in bench.get(reverse("shelf:item", args=["stock", can.pk])).content.decode()
    answer = bench.get(address)
    assert answer["Content-Type"] == "image/jpeg"
    assert max(Image.open(io.BytesIO(answer.content)).size) <= 1280
    for wrong in (SimpleUploadedFile("x.png", b"no picture"), None):
        page = said(press(bench, "label_photo", can, **({"picture": wrong} if wrong else {})))
        assert "no picture" in page or "Choose a picture" in page
    assert can.label_photos.count() == 1
    client.logout()
    assert client.get(address).status_code == 302


def test_the_tables_say_what_an_empty_bottle_weighs_and_what_wants_a_wash(bench: Client, workshop) -> None:
    can = a_can(workshop, litres=5)
    can.tare_g, can.tare_guessed = 400.0, True
    can.save()
    Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=120, count=12, to_wash=5)
    for name, asked in (
        ("shelf", {"empty bottle, g": "400", "which was": "guessed"}),
        ("containers", {"to be washed": "5"}),
    ):
        text = bench.get(reverse("exchange:table", args=[name])).content.decode("utf-8-sig")
        (row,) = csv.DictReader(io.StringIO(text))
        assert {key: row[key] for key in asked} == asked
