"""A batch from plan to bottle."""

import io
import uuid
from datetime import timedelta

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from pypdf import PdfReader

from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry, State, Wait
from firkin.core.catalogue import find
from firkin.core.formula import house_formulas
from firkin.core.measures import Quantity, read_quantity
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock, Vessel


@pytest.fixture
def batch(landing_rub, maker) -> Batch:
    """A planned batch of 1.5 L."""
    version = landing_rub.current
    return Batch.objects.start(version, version.as_core().scaled_to(read_quantity("1.5 L")), maker)


@pytest.fixture
def making(batch: Batch, maker) -> Batch:
    batch.move_to(State.MAKING, maker, "Begun.")
    return batch


def page(client: Client, batch: Batch, stage: str):
    return client.get(reverse(f"batches:{stage}", args=[batch.pk]))


def confirm(client: Client, batch: Batch, amount: str = "", task: int | None = None, key: uuid.UUID | None = None):
    position = Making(batch).progress.turn if task is None else task
    data = {"task": position, "key": key or uuid.uuid4(), "amount": amount}
    return client.post(reverse("batches:make", args=[batch.pk]), data)


def make_all(client: Client, batch: Batch) -> None:
    for amount in ("1250 mL", "62.5 mL", "21.8 mL", "1.5 L", "", ""):
        confirm(client, batch, amount)
    batch.refresh_from_db()


def test_planned_amounts_are_numbers_with_units(batch: Batch) -> None:
    first, *_, last = batch.lines.all()
    assert first.planned_mL == pytest.approx(1249.95)
    assert first.planned_g == pytest.approx(1009.2, abs=0.1)
    assert (first.strength_value, first.strength_basis) == (96.0, "v/v")
    assert last.amount_unit == "q.s."


def test_the_frozen_copy_does_not_follow_the_formula(batch: Batch, landing_rub, maker) -> None:
    version = landing_rub.current
    changed = version.as_core().scaled_to(Quantity(9, "L"))
    landing_rub.add_version(changed, maker)
    assert Batch.objects.get(pk=batch.pk).formula().make == Quantity(1.5, "L")


def test_a_batch_of_a_stock_of_another_strength_is_planned_again(bench: Client, batch: Batch, workshop) -> None:
    stock = Stock(workshop=workshop, material="ethanol", name="Grain", amount_value=2, amount_unit="L")
    stock.strength = find("ethanol").read_strength("190 proof")
    stock.save()
    bench.post(reverse("batches:prepare", args=[batch.pk]), {"stock_0": stock.pk})
    batch.refresh_from_db()
    assert batch.state == State.MAKING
    assert batch.lines.first().stock == stock
    assert Making(batch).progress.result.actives[0].label == pytest.approx(79.16, abs=0.01)


def test_a_vessel_that_is_too_small_is_said(bench: Client, batch: Batch, workshop) -> None:
    vessel = Vessel.objects.create(workshop=workshop, name="Cup", volume_mL=300)
    answer = bench.post(reverse("batches:prepare", args=[batch.pk]), {"vessel": vessel.pk})
    assert "holds 300 mL and the batch comes to 1.5 L" in answer.content.decode()
    batch.refresh_from_db()
    assert batch.state == State.PLANNED


def test_each_measured_amount_is_stored_at_once_and_counts(bench: Client, making: Batch) -> None:
    assert confirm(bench, making, "1,2 L").status_code == 302
    entry = making.entries.get(kind="pour")
    assert (entry.amount_value, entry.amount_unit, entry.line.material) == (1.2, "L", "ethanol")
    # 1200 mL of 96 % made up to 1.5 L: label arithmetic
    assert Making(making).progress.result.actives[0].label == pytest.approx(76.8)
    assert "76.8" in page(bench, making, "make").content.decode()


def test_topping_up_records_the_mark_reached(bench: Client, making: Batch) -> None:
    for amount in ("1250 mL", "62.5 mL", "21.8 mL", "1.6 L"):
        confirm(bench, making, amount)
    result = Making(making).progress.result
    assert result.total.volume_mL == pytest.approx(1600)
    assert result.actives[0].label == pytest.approx(75.0)


def test_a_double_press_is_stored_once(bench: Client, making: Batch) -> None:
    key = uuid.uuid4()
    confirm(bench, making, "1250 mL", task=0, key=key)
    confirm(bench, making, "1250 mL", task=0, key=key)
    assert making.entries.filter(kind="pour").count() == 1


def test_two_open_tabs_agree(bench: Client, making: Batch) -> None:
    """The second tab answers a task that is already done: nothing is stored, the page moves on."""
    confirm(bench, making, "1250 mL", task=0)
    confirm(bench, making, "999 mL", task=0)
    assert [entry.amount_value for entry in making.entries.filter(kind="pour")] == [1250]
    assert "2 of 6" in page(bench, making, "make").content.decode()


@pytest.mark.parametrize(
    ("amount", "says"),
    [("", "Enter what you really measured"), ("lots", "not an amount"), ("2 parts", "a volume or a weight"), ("-1 mL", "more than 0")],
)  # fmt: skip
def test_a_bad_amount_stores_nothing_and_says_why(bench: Client, making: Batch, amount: str, says: str) -> None:
    answer = confirm(bench, making, amount)
    assert says in answer.content.decode()
    assert not making.entries.filter(kind="pour").exists()


def test_taking_back_is_an_entry_and_not_an_erasure(bench: Client, making: Batch) -> None:
    confirm(bench, making, "1300 mL")
    wrong = making.entries.get(kind="pour")
    bench.post(reverse("batches:undo", args=[making.pk]), {"entry": wrong.pk})
    bench.post(reverse("batches:undo", args=[making.pk]), {"entry": wrong.pk})
    assert making.entries.filter(kind="undo").count() == 1
    assert Making(making).progress.position == 0
    confirm(bench, making, "1250 mL")
    assert making.entries.filter(kind="pour").count() == 2
    assert Making(making).progress.measured[0].amount.value == 1250
    with pytest.raises(TypeError, match="only added"):
        wrong.save()


def test_pouring_past_the_mark_is_said_and_keeps_the_page(bench: Client, making: Batch) -> None:
    confirm(bench, making, "1600 mL")
    text = page(bench, making, "make").content.decode()
    assert "no room to top up" in text


def test_the_last_task_begins_the_wait_and_tells_the_hour(bench: Client, making: Batch) -> None:
    make_all(bench, making)
    assert making.state == State.RESTING
    wait = making.current_wait()
    assert wait.kind == "quarantine"
    assert wait.free_at - wait.started_at == timedelta(hours=72)
    local = timezone.localtime(wait.free_at, timezone.get_fixed_timezone(60))
    text = page(bench, making, "wait").content.decode()
    assert f"{local:%H}" in text
    assert "Ready on" in text


def test_releasing_early_needs_a_reason_that_stays(bench: Client, making: Batch) -> None:
    make_all(bench, making)
    address = reverse("batches:wait", args=[making.pk])
    assert "say why" in bench.post(address, {"reason": " "}).content.decode()
    bench.post(address, {"reason": "Lock-keeper is out of rub"})
    making.refresh_from_db()
    assert making.state == State.RELEASED
    assert Wait.objects.get().early_reason == "Lock-keeper is out of rub"
    assert "Ready early: Lock-keeper is out of rub." in page(bench, making, "record").content.decode()


def released(client: Client, batch: Batch) -> Batch:
    make_all(client, batch)
    Wait.objects.update(free_at=timezone.now() - timedelta(minutes=1))
    client.post(reverse("batches:wait", args=[batch.pk]))
    batch.refresh_from_db()
    assert batch.state == State.RELEASED
    return batch


def test_filling_is_checked_against_brim_count_and_batch(bench: Client, making: Batch, workshop) -> None:
    flask = Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=500, count=9)
    batch = released(bench, making)
    assert "3 × Flask" in page(bench, batch, "fill").content.decode()
    address = reverse("batches:fill", args=[batch.pk])

    def fill(count: int, size: str):
        return bench.post(address, {"vessel": flask.pk, "count": count, "fill": size, "key": uuid.uuid4()})

    assert "holds 500 mL to the brim" in fill(1, "600 mL").content.decode()
    assert "There are 9 of them empty" in fill(10, "100 mL").content.decode()
    assert "are left" in fill(4, "475 mL").content.decode()
    assert fill(3, "475 mL").status_code == 302
    batch.refresh_from_db()
    assert batch.state == State.FILLED
    assert batch.fillings.get().total_mL == 1425
    assert "75 mL" in page(bench, batch, "fill").content.decode()


def test_bottles_filled_during_the_wait_stay_at_rest(bench: Client, making: Batch, workshop) -> None:
    """WHO, Guide to Local Production: the 72 hours are counted from filling."""
    flask = Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=500, count=9)
    make_all(bench, making)
    address = reverse("batches:fill", args=[making.pk])
    bench.post(address, {"vessel": flask.pk, "count": 3, "fill": "475 mL", "key": uuid.uuid4()})
    making.refresh_from_db()
    assert making.state == State.RESTING
    Wait.objects.update(free_at=timezone.now())
    bench.post(reverse("batches:wait", args=[making.pk]))
    making.refresh_from_db()
    assert making.state == State.FILLED


def test_the_label_says_strength_amount_dates_number_and_cautions(bench: Client, making: Batch) -> None:
    batch = released(bench, making)
    pdf = bench.get(reverse("batches:label_pdf", args=[batch.pk]) + "?size=100x70")
    text = " ".join(PdfReader(io.BytesIO(pdf.content)).pages[0].extract_text().split())
    made = timezone.localtime(batch.made_at, timezone.get_fixed_timezone(60))
    for words in (
        "Landing rub",
        "Ethanol 80 % v/v",
        "1.5 L",
        batch.code,
        f"{made:%-d %b %Y}",
        "Danger",
        "flammable",
    ):
        assert words in text
    svg = bench.get(reverse("batches:label_svg", args=[batch.pk]) + "?size=nonsense")
    assert svg["Content-Type"] == "image/svg+xml"
    assert b'width="90mm"' in svg.content


def test_a_note_can_be_written_at_any_time(bench: Client, batch: Batch) -> None:
    key = uuid.uuid4()
    for _ in range(2):
        bench.post(reverse("batches:record", args=[batch.pk]), {"text": "Bucket two lasted till May.", "key": key})
    assert batch.entries.filter(kind="note").count() == 1
    assert "Bucket two lasted till May." in page(bench, batch, "record").content.decode()


def test_a_stage_that_is_not_reached_leads_to_the_one_that_is(bench: Client, batch: Batch) -> None:
    for stage in ("make", "wait", "fill"):
        assert page(bench, batch, stage).url == reverse("batches:prepare", args=[batch.pk])


def test_a_batch_of_nothing_is_not_started(bench: Client, landing_rub) -> None:
    for make in ("", "0 L", "2 parts", "much"):
        bench.post(reverse("batches:start"), {"make": make, "version": landing_rub.current.pk})
    assert not Batch.objects.exists()


def test_the_journal_is_in_order(bench: Client, making: Batch) -> None:
    make_all(bench, making)
    kinds = list(Entry.objects.values_list("kind", flat=True))
    assert kinds == ["state", "state", "pour", "pour", "pour", "pour", "step", "step", "state"]


def test_a_formula_with_a_wait_in_the_middle_goes_on_after_it(bench: Client, landing_rub, workshop, maker) -> None:
    """A crosspolymer gel is wetted out, poured, neutralised, hydrated and kept: common practice, no source."""
    kept = Formula.objects.keep(house_formulas()["crosspolymer-gel"].formula, workshop, maker)
    batch = Batch.objects.start(kept.current, kept.current.as_core(), maker)
    batch.move_to(State.MAKING, maker, "Begun.")
    total = len(Making(batch).progress.tasks)
    for _ in range(total):
        confirm(bench, batch, "1 L" if Making(batch).progress.task.kind == "top-up" else "5 g")
        batch.refresh_from_db()
        if batch.state == State.RESTING:
            last = Making(batch).progress.task is None
            filling = page(bench, batch, "fill").status_code
            assert filling == (200 if last else 302)
            assert (batch.made_at is not None) is last
            Wait.objects.filter(ended_at=None).update(free_at=timezone.now())
            bench.post(reverse("batches:wait", args=[batch.pk]))
            batch.refresh_from_db()
            assert batch.state == (State.RELEASED if last else State.MAKING)
    assert batch.state == State.RELEASED
    assert batch.waits.count() == 3


def test_water_that_goes_in_first_is_measured_and_not_topped_up(bench: Client, workshop, maker) -> None:
    """Caustic into water: the q.s. water of a dish liquid comes first, so it is measured as planned."""
    kept = Formula.objects.keep(house_formulas()["dish-gentle"].formula, workshop, maker)
    batch = Batch.objects.start(kept.current, kept.current.as_core(), maker)
    batch.move_to(State.MAKING, maker, "Begun.")
    making = Making(batch)
    assert making.progress.task.kind == "pour"
    assert making.progress.target(making.progress.task).mL == pytest.approx(3939, abs=2)
    confirm(bench, batch, "4 L")
    assert Making(batch).progress.result.lines[0].volume_mL == pytest.approx(4000)


@pytest.mark.parametrize(
    ("zone", "hour"), [("Europe/Berlin", "02:30"), ("UTC", "00:30"), ("America/New_York", "19:30")]
)
def test_the_hour_it_is_free_is_told_in_the_workshops_time(bench: Client, making: Batch, workshop, zone, hour) -> None:
    """The clock went back in Berlin on 25 October 2026 at 01:00 UTC: both hours named 02:30 differ by their date in UTC."""
    from datetime import UTC, datetime

    workshop.time_zone = zone
    workshop.save()
    make_all(bench, making)
    free = (
        datetime(2026, 10, 25, 0, 30, tzinfo=UTC)
        if zone == "Europe/Berlin"
        else datetime(2026, 11, 25, 0, 30, tzinfo=UTC)
    )
    Wait.objects.update(free_at=free)
    assert hour in page(bench, making, "wait").content.decode()


def test_a_wait_across_a_clock_change_is_72_hours_long(bench: Client, making: Batch) -> None:
    """72 hours are 72 hours, whatever the clock on the wall does in between."""
    make_all(bench, making)
    wait = Wait.objects.get()
    assert (wait.free_at - wait.started_at).total_seconds() == 72 * 3600
    assert not wait.is_over(wait.free_at - timedelta(seconds=1))
    assert wait.is_over(wait.free_at)
