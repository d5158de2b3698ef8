"""The workshop's settings hold on every page, and never in what is stored."""

import json

import pytest
from django.test import Client
from django.urls import reverse

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch
from firkin.core.measures import decimal_mark, figures, read_number, read_quantity
from firkin.formulas.models import Formula

HERE = "/accounts/workshop/"
KEPT = {
    "name": "Quay",
    "time_zone": "Europe/Berlin",
    "currency": "gbp",
    "household": "imperial",
    "kitchen": "us",
    "decimal_mark": ",",
}


def test_settings_are_kept_and_hold_on_the_next_page(bench: Client, workshop, landing_rub: Formula) -> None:
    assert bench.post(HERE, KEPT).status_code == 302
    kept = Workshop.objects.get()
    assert {name: getattr(kept, name) for name in KEPT} == KEPT | {"currency": "GBP"}
    sheet = bench.get(reverse("formulas:sheet", args=[landing_rub.pk]))
    assert "833,3 mL" in sheet.content.decode()
    assert sheet.context["form"]["kitchen"].value() == "us"
    assert bench.get(reverse("formulas:check")).context["check"].whose == "imperial"


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"time_zone": "Mars"}, "not a time zone"),
        ({"currency": "euro"}, "3 characters"),
        ({"currency": "1$"}, "Three letters"),
        ({"name": ""}, "required"),
    ],
)
def test_a_bad_setting_is_said_at_its_field_and_nothing_changes(bench: Client, workshop, change, says: str) -> None:
    page = bench.post(HERE, KEPT | change).content.decode()
    assert says in page
    assert Workshop.objects.get().currency == workshop.currency


@pytest.mark.parametrize("mark", ["", ".", ","])
def test_what_is_shown_is_read_back_with_any_mark_and_files_keep_to_the_point(mark: str) -> None:
    with decimal_mark(mark):
        for value in (1.5, 1.234, 12.34, 0.125, 999.9, 1234.0):
            assert read_number(figures(value)) == value
            assert str(read_quantity(f"{figures(value)} mL")) == f"{value:g} mL"


def test_a_batch_of_a_comma_writer_is_stored_as_everybodys(bench: Client, landing_rub: Formula) -> None:
    bench.post(HERE, KEPT)
    bench.post(reverse("batches:start"), {"version": landing_rub.current.pk, "make": "1,234 L"})
    batch = Batch.objects.get()
    assert "," not in "".join(line["amount"] for line in batch.frozen["lines"])
    assert batch.frozen["make"] == "1.234 L"
    assert batch.progress().result.total.volume_mL == pytest.approx(1234)
    json.dumps(batch.frozen)


def test_whoever_said_nothing_is_asked_what_a_comma_means(bench: Client, landing_rub: Formula) -> None:
    bench.post(reverse("batches:start"), {"version": landing_rub.current.pk, "make": "1,500 mL"})
    assert not Batch.objects.exists()


def test_a_measure_of_one_s_own_is_said_once_and_read_in_every_amount(bench: Client, workshop) -> None:
    asked = {"material": ["castile soap", "water"], "amount": ["2 capfuls", "half a bucket"], "strength": ["", ""]}
    unsaid = bench.get("/reckon/strength/", asked).content.decode()
    assert "How much is a capful?" in unsaid
    wrong = bench.post(HERE, KEPT | {"own_capful": "15 g", "own_bucket": "10 L"})
    assert "A capful is a volume, such as" in wrong.content.decode()
    assert Workshop.objects.get().own_sizes == {}
    assert bench.post(HERE, KEPT | {"decimal_mark": "", "own_capful": "15", "own_bucket": "10 L"}).status_code == 302
    assert Workshop.objects.get().own_sizes == {"capful": 15.0, "bucket": 10_000.0}
    said = bench.get("/reckon/strength/", asked).context["result"]
    assert [round(line.volume_mL) for line in said.lines] == [30, 5000]
