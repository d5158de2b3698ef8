"""Stock in: a line off a label, a bar code seen before, and the remarks about what stands on the shelf."""

import io
import subprocess
import uuid
from datetime import timedelta
from decimal import Decimal
from pathlib import Path

import pytest
import segno
import zxingcpp
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from PIL import Image, ImageDraw, ImageFont

from firkin import drawings
from firkin.core.catalogue import aged, find, too_old
from firkin.core.measures import Strength
from firkin.shelf import printed
from firkin.shelf.models import Movement, Stock
from firkin.shelf.notices import notices
from steps import said

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("in_the_zone_of_the_workshop")]


def picture_of(image: Image.Image) -> SimpleUploadedFile:
    out = io.BytesIO()
    image.save(out, "JPEG")
    return SimpleUploadedFile("label.jpg", out.getvalue())


def read(client: Client, line: str):
    return client.get(reverse("shelf:buy"), {"line": line})


def put(client: Client, form, **changed: object):
    """Confirm what was read, with what the maker changed."""
    fields = {name: value for name in form.fields if (value := form[name].value()) not in (None, "")}
    data = {"put": "1", "press": uuid.uuid4(), **fields, **changed}
    return client.post(reverse("shelf:buy"), data, follow=True)


def test_a_line_becomes_bottles_on_the_shelf(bench: Client) -> None:
    page = read(bench, "2 x 1 kg soda crystals 3.40 lot A7")
    put(bench, page.context["form"])
    first, second = Stock.objects.order_by("pk")
    assert (first.name, second.name) == ("Soda crystals, 1 of 2", "Soda crystals, 2 of 2")
    assert first.purchase == second.purchase is not None
    assert (first.price, first.lot, first.material) == (Decimal("1.70"), "A7", "soda-crystals")
    assert first.left.words == "1 kg"
    assert first.wording == "2 x 1 kg soda crystals 3.40 lot A7"
    assert first.bought_on == timezone.localdate()


def test_a_second_press_puts_nothing_more_there(bench: Client) -> None:
    form, key = read(bench, "glycerol 500 mL 4.20").context["form"], uuid.uuid4()
    put(bench, form, press=key)
    put(bench, form, press=key)
    assert Stock.objects.count() == 1


def test_what_was_not_read_is_said_and_what_is_missing_is_asked(bench: Client) -> None:
    page = read(bench, "ethanol 5 L 24.50 red cap 77")
    assert "Not understood" in said(page)
    answer = put(bench, page.context["form"])
    assert "How strong is it?" in said(answer)
    assert not Stock.objects.exists()
    put(bench, page.context["form"], strength="96 %", price="24.50")
    stock = Stock.objects.get()
    assert (str(stock.strength), stock.price) == ("96 % v/v", Decimal("24.50"))
    assert "How much is in one?" in said(put(bench, read(bench, "borax").context["form"]))


def code(text: str) -> bytes:
    out = io.BytesIO()
    segno.make(text, micro=False).save(out, kind="png", scale=8)
    picture = Image.open(io.BytesIO(out.getvalue())).convert("RGB")
    jpeg = io.BytesIO()
    picture.save(jpeg, "JPEG")
    return jpeg.getvalue()


def test_a_bar_code_seen_before_brings_back_the_last_purchase(bench: Client) -> None:
    def shown(content: bytes):
        return bench.post(reverse("shelf:buy"), {"picture": SimpleUploadedFile("code.jpg", content)})

    assert zxingcpp.read_barcodes(Image.open(io.BytesIO(code("4012345678901"))))
    new = shown(code("4012345678901"))
    assert "A new bar code" in said(new)
    put(bench, new.context["form"], material="glycerol", size="500 mL", price="4.20", lot="A1", shop="the chemist")
    again = shown(code("4012345678901"))
    assert "Bought before" in said(again)
    form = again.context["form"]
    wanted = {"material": "Glycerol", "size": "500 mL", "shop": "the chemist", "price": Decimal("4.20")}
    assert {name: form[name].value() for name in wanted} == wanted
    assert not form["lot"].value()
    blank = io.BytesIO()
    Image.new("RGB", (200, 200), "white").save(blank, "JPEG")
    assert "No bar code found" in said(shown(blank.getvalue()))
    assert "no picture Firkin can read" in said(shown(b"not a picture"))


# what is worth a remark


def stock(workshop, material: str = "glycerol", size: float = 1.0, unit: str = "L", **more: object) -> Stock:
    strength = more.pop("strength", "")
    one = Stock(
        workshop=workshop, material=material, name=f"{material} {size}", amount_value=size, amount_unit=unit, **more
    )
    if strength:
        one.strength = find(material).read_strength(str(strength))
    one.save()
    return one


def keys(workshop) -> list[str]:
    return [one.key.partition(":")[0] for one in notices(workshop)]


@pytest.mark.parametrize(("left", "low"), [(0.101, False), (0.099, True)])
def test_a_tenth_is_low_unless_there_is_another(workshop, left: float, low: bool) -> None:
    one = stock(workshop)
    one.move(Movement.Kind.POURED, -(1 - left) * one.grams_of(one.amount))
    assert (keys(workshop) == ["low"]) is low
    stock(workshop)
    assert keys(workshop) == []


@pytest.mark.parametrize(("days", "said"), [(-1, "past"), (0, "soon"), (14, "soon"), (15, "")])
def test_best_before_is_said_two_weeks_ahead(workshop, days: int, said: str) -> None:
    stock(workshop, best_before=timezone.localdate() + timedelta(days=days))
    assert keys(workshop) == ([said] if said else [])


@pytest.mark.parametrize(("days", "old"), [(365, False), (367, True)])
def test_bleach_open_for_more_than_a_year_is_old(workshop, days: int, old: bool) -> None:
    """Twelve months (common practice, no source), of 30.44 days."""
    stock(workshop, "sodium-hypochlorite", strength="5 %", opened_on=timezone.localdate() - timedelta(days=days))
    assert (keys(workshop) == ["old"]) is old


@pytest.mark.parametrize(("price", "cheap"), [("20.10", False), ("20.00", True), ("5.00", True)])
def test_a_fifth_of_the_price_of_a_pure_litre_is_suspect(workshop, price: str, cheap: bool) -> None:
    """By hand: 10 L of 100 % for 100 are 10 a pure litre; 10 L for 20 are 2, a fifth."""
    stock(workshop, "ethanol", 10.0, strength="100 %", price=Decimal("100.00"))
    assert keys(workshop) == []
    stock(workshop, "ethanol", 10.0, strength="100 %", price=Decimal(price))
    assert ("cheap" in keys(workshop)) is cheap


def test_a_remark_is_said_once(bench: Client, workshop) -> None:
    one = stock(workshop, best_before=timezone.localdate() - timedelta(days=3))
    assert "Best before" in said(bench.get(reverse("bench")))
    bench.post(reverse("shelf:seen", args=[one.pk]), {"key": "past", "back": "/"})
    bench.post(reverse("shelf:seen", args=[one.pk]), {"key": "past", "back": "/"})
    assert keys(workshop) == []
    one.refresh_from_db()
    assert one.seen == "past"


# what fades


@pytest.mark.parametrize(
    ("material", "label", "months", "low"),
    [
        ("bleach", 5.0, 6.0, 4.0),
        ("bleach", 5.0, 12.0, 3.2),
        ("hydrogen-peroxide", 3.0, 12.0, 2.43),
        ("ethanol", 96.0, 99.0, 96.0),
    ],
)
def test_what_fades_is_a_range_down_to_what_is_usually_left(
    material: str, label: float, months: float, low: float
) -> None:
    """Bleach keeps 80 % in six months, opened peroxide 90 % (from memory), compounded; alcohol keeps."""
    there = find(material)
    now = aged(there, Strength.of(label, there.basis), months)
    assert now.low == pytest.approx(low)
    assert now.high == label


def test_of_an_unknown_age_a_bottle_is_as_its_label_says() -> None:
    bleach = find("bleach")
    assert aged(bleach, bleach.usual_strength, None) == bleach.usual_strength
    assert not too_old(bleach, None)


def test_a_batch_is_planned_with_what_is_left_of_an_old_bottle(bench: Client, workshop, maker) -> None:
    """Chlorine from bleach opened a year ago: planned as if 3.2 to 5 % were in it, not 5."""
    from firkin.batches.models import Batch
    from firkin.core.formula import house_formulas
    from firkin.formulas.models import Formula

    old = stock(workshop, "sodium-hypochlorite", strength="5 %", opened_on=timezone.localdate() - timedelta(days=365))
    version = Formula.objects.keep(house_formulas()["chlorine-surfaces"].formula, workshop, maker).current
    batch = Batch.objects.start(version, version.as_core(), maker)
    at = batch.lines.get(material="sodium-hypochlorite").position
    bench.post(reverse("batches:prepare", args=[batch.pk]), {f"stock_{at}": old.pk, "anyway": "on"})
    row = batch.lines.get(position=at)
    assert row.stock == old
    assert row.strength_low == pytest.approx(3.2, abs=0.01)
    assert row.strength_high == 5.0


def test_what_it_cost_each_time_is_told_by_the_litre(bench: Client, workshop) -> None:
    """By hand: 2 bottles of 500 mL for 8.00 are 8.00 a litre, 5 L for 20.00 are 4.00."""
    put(bench, read(bench, "2 x 500 mL glycerol 8.00").context["form"])
    first = Stock.objects.first()
    assert "What it cost each time" not in said(bench.get(reverse("shelf:item", args=["stock", first.pk])))
    put(bench, read(bench, "glycerol 5 L 20.00").context["form"])
    page = said(bench.get(reverse("shelf:item", args=["stock", first.pk])))
    told = page.split("What it cost each time")[1]
    assert "2 × 500 mL" in told
    assert "8.00 EUR / L" in told
    assert "4.00 EUR / L" in told


def test_a_vessels_size_by_the_water_it_holds_and_where_its_pieces_are(bench: Client, workshop) -> None:
    """By hand: 749.1 - 250 g of water at 0.998 g/mL are 500 mL."""
    from firkin.shelf.models import Vessel

    data = {
        "add-vessel": "1",
        "vessel-kind": "bottle",
        "vessel-count": "3",
        "vessel-empty": "250",
        "press": uuid.uuid4(),
    }
    page = said(bench.post(reverse("shelf:shelf"), data | {"vessel-water": "200"}))
    assert "no more than it weighs empty" in page
    assert "Weigh it empty too" in said(
        bench.post(reverse("shelf:shelf"), data | {"vessel-empty": "", "vessel-water": "700"})
    )
    bench.post(reverse("shelf:shelf"), data | {"vessel-water": "749.1"})
    vessel = Vessel.objects.get()
    assert vessel.volume_mL == pytest.approx(500.0, abs=0.5)
    page = said(bench.get(reverse("shelf:item", args=["vessel", vessel.pk])))
    assert "here, empty" in page.split("Where they are")[1]


def test_what_is_printed_on_a_label_is_read_and_shown_and_nothing_is_stored(
    bench: Client, workshop, monkeypatch
) -> None:
    monkeypatch.setattr(printed, "can_read", lambda: True)
    monkeypatch.setattr(printed, "text_of", lambda jpeg: "Isopropyl alcohol 91 % v/v 946 mL 6.99")
    answer = bench.post(reverse("shelf:buy"), {"picture": picture_of(Image.new("RGB", (300, 200), "white"))})
    form = answer.context["form"]
    assert [form[name].value() for name in ("material", "strength", "size")] == ["Isopropanol", "91 % v/v", "946 mL"]
    assert "Check every field against the label." in said(answer)
    assert not Stock.objects.filter(workshop=workshop).exists()
    monkeypatch.setattr(printed, "text_of", lambda jpeg: "")
    page = said(bench.post(reverse("shelf:buy"), {"picture": picture_of(Image.new("RGB", (300, 200), "white"))}))
    assert "Nothing could be read off that picture." in page


def test_without_the_extra_a_picture_without_a_bar_code_says_what_to_do(bench: Client, monkeypatch) -> None:
    monkeypatch.setattr(printed, "can_read", lambda: False)
    page = said(bench.post(reverse("shelf:buy"), {"picture": picture_of(Image.new("RGB", (300, 200), "white"))}))
    assert "No bar code found." in page
    assert "type what the label says" in page


def test_a_reader_that_fails_or_takes_too_long_reads_nothing(monkeypatch) -> None:
    class Ended:
        returncode, stdout = 1, b"no json"

    monkeypatch.setattr(subprocess, "run", lambda *_, **__: Ended())
    assert printed.text_of(b"jpeg") == ""

    def late(*_: object, **__: object) -> None:
        raise subprocess.TimeoutExpired("read", 30)

    monkeypatch.setattr(subprocess, "run", late)
    assert printed.text_of(b"jpeg") == ""


@pytest.mark.skipif(not printed.can_read(), reason="the extra “camera” is not installed")
def test_a_drawn_label_is_read_by_the_extra() -> None:
    label = Image.new("RGB", (900, 500), "white")
    font = ImageFont.truetype(str(Path(drawings.__file__).parent / "fonts" / "source-sans-3-400.ttf"), 48)
    for row, words in enumerate(("Isopropyl alcohol", "91 % v/v", "946 mL", "6.99")):
        ImageDraw.Draw(label).text((60, 40 + 110 * row), words, fill="black", font=font)
    out = io.BytesIO()
    label.save(out, "JPEG")
    assert printed.text_of(out.getvalue()) == "Isopropyl alcohol 91 % v/v 946 mL 6.99"
