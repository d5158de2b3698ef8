"""At the bench: too much, additions, timers, stocks, readings, looks, photos, rescues, what comes due, the end."""

import io
import re
import uuid
from datetime import timedelta
from typing import Any

import pytest
import vobject
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from PIL import Image

from firkin.batches.bottles import bottles_for
from firkin.batches.calendar import events_of
from firkin.batches.labels import label_of
from firkin.batches.making import Making
from firkin.batches.models import Batch, CalendarFeed, Due, Entry, Filling, Photo, State, Wait
from firkin.core.bench import readings_of
from firkin.core.catalogue import find
from firkin.core.formula import Step, house_formulas, reckon
from firkin.core.kitchen import in_kitchen, kitchens
from firkin.core.measures import Quantity
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock, Vessel
from firkin.ui.photos import small_photo
from mixes import GEL, mix
from steps import a_can, begin, make_as_planned, press, said

RUB = mix(("ethanol", "800 mL", "96 %"), ("glycerol", "15 mL"), ("water", "q.s."), make="1 L", family="liquid-rub", guidelines=("cdc-alcohol-60",))  # fmt: skip
PARTS = mix(("isopropanol", "200 mL", "91 %"), ("aloe-gel", "100 mL"), ("glycerol", "3 mL"), family="aloe-rub", guidelines=("cdc-alcohol-60",))  # fmt: skip


def show(client: Client, batch: Batch, stage: str, **query: str) -> str:
    return said(client.get(reverse(f"batches:{stage}", args=[batch.pk]), query))


# too much, too little


def test_too_much_is_asked_about_before_anything_else(bench: Client, workshop, maker) -> None:
    batch = begin(PARTS, workshop, maker, "303 mL")
    press(bench, batch, amount=f"{Making(batch).lines[0].planned_mL * 1.1:.2f} mL")
    page = show(bench, batch, "make")
    assert "10 % too much" in page
    assert "Scale everything still to come" in page
    press(bench, batch, "scale")
    making = Making(batch)
    # by hand: 100 mL of gel for 200 mL of stock, so 110 for 220 (contraction moves both alike)
    assert making.progress.target(making.progress.task).mL == pytest.approx(making.lines[1].planned_mL * 1.1, rel=0.01)
    before, after = 91 * 2 / 3.03, making.progress.result.actives[0].label
    assert after == pytest.approx(before, abs=0.1)


def test_too_much_of_a_later_line_asks_for_more_of_what_is_in_already(bench: Client, workshop, maker) -> None:
    """By hand: 18 mL of glycerol for 15 is 1.2 times, so 160 mL more of the 800, and 1.2 L in all."""
    stock = a_can(workshop, litres=2)
    batch = begin(RUB, workshop, maker, "1 L")
    batch.lines.filter(position=0).update(stock=stock)
    press(bench, batch, amount="800 mL")
    press(bench, batch, amount="18 mL")
    assert "160 mL more ethanol: 76.8 % v/v" in show(bench, batch, "make")
    stale = {"task": 0, "key": uuid.uuid4(), "amount": "800 mL"}  # a second tab that was left open
    press(bench, batch, "scale")
    assert "more of this" in show(bench, batch, "make")
    bench.post(reverse("batches:make", args=[batch.pk]), stale)
    press(bench, batch, amount="160 mL")
    assert Making(batch).progress.measured[0].amount.mL == 960
    assert Stock.objects.get().left.mL == pytest.approx(1040)
    press(bench, batch, amount="1.2 L")
    result = Making(batch).progress.result
    assert (result.main.label, result.total.volume_mL) == (pytest.approx(76.8), pytest.approx(1200))


def test_too_little_of_a_later_line_is_left_or_entered_again(bench: Client, workshop, maker) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    press(bench, batch, amount="800 mL")
    press(bench, batch, amount="10 mL")
    page = show(bench, batch, "make")
    assert "Leave it" in page
    assert "Scale" not in page
    press(bench, batch, "scale")
    assert Making(batch).deviation is not None


def test_leaving_it_goes_on_as_planned_with_the_new_verdict(bench: Client, workshop, maker) -> None:
    batch = begin(PARTS, workshop, maker, "303 mL")
    planned = Making(batch).lines[1].planned_mL
    press(bench, batch, amount="150 mL")
    assert "too little" in show(bench, batch, "make")
    press(bench, batch, "accept")
    making = Making(batch)
    assert making.progress.target(making.progress.task).mL == pytest.approx(planned)
    assert making.progress.result.verdicts[0].verdict == "short"
    assert making.progress.standing[-1].kind == "decide"


def test_a_wrong_figure_is_entered_again_and_a_decision_is_taken_back_too(bench: Client, workshop, maker) -> None:
    batch = begin(PARTS, workshop, maker, "303 mL")
    press(bench, batch, amount="220 mL")
    bench.post(reverse("batches:undo", args=[batch.pk]), {"entry": Making(batch).progress.last.number})
    assert Making(batch).progress.position == 0
    press(bench, batch, amount="220 mL")
    press(bench, batch, "scale")
    bench.post(reverse("batches:undo", args=[batch.pk]), {"entry": Making(batch).progress.last.number})
    assert Making(batch).deviation is not None
    assert Making(batch).progress.factor == 1.0


def test_scaling_past_the_vessel_is_said_and_cannot_be_pressed(bench: Client, workshop, maker) -> None:
    batch = begin(PARTS, workshop, maker, "303 mL")
    batch.vessel = Vessel.objects.create(workshop=workshop, name="Cup", volume_mL=310)
    batch.save()
    press(bench, batch, amount="220 mL")
    page = show(bench, batch, "make")
    assert "more than Cup holds" in page
    assert 'value="scale" type="submit" disabled' in page


# additions and timers


def test_additions_are_counted_and_the_last_one_takes_the_amount(bench: Client, gel: Batch) -> None:
    for amount in ("20 mL", "8 g", ""):
        press(bench, gel, amount=amount)
    bench.post(reverse("batches:wait", args=[gel.pk]), {"reason": "cold kitchen"})
    gel.refresh_from_db()
    key = uuid.uuid4()
    for _ in range(2):
        press(bench, gel, "portion", key=key)  # a double press
    assert "Addition 2 of 10" in show(bench, gel, "make")
    for _ in range(20):
        press(bench, gel, "portion")
    assert Making(gel).progress.portions_in(Making(gel).progress.task) == 9
    assert "Addition 10 of 10" in show(bench, gel, "make")
    press(bench, gel, amount="670 mL")
    assert 2 in Making(gel).progress.measured


def test_what_is_asked_for_is_named_whatever_the_step_says(bench: Client, workshop, maker) -> None:
    from dataclasses import replace

    batch = begin(replace(PARTS, steps=(Step("pour", "Stir it in.", (0, 1, 2)),)), workshop, maker, "303 mL")
    for material in ("Isopropanol", "Aloe gel", "Glycerol"):
        page = show(bench, batch, "make")
        assert "Stir it in." in page
        assert f'class="task-what"> <b>{material}</b>' in page
        press(bench, batch, amount=str(Making(batch).progress.target(Making(batch).progress.task)))


def test_a_timer_goes_on_without_the_page(bench: Client, workshop, maker) -> None:
    from dataclasses import replace

    formula = GEL
    steps = (replace(formula.steps[0], timer_h=0.25), *formula.steps[1:])
    batch = begin(replace(formula, steps=steps), workshop, maker, "1 L")
    assert "Start the timer, 15 min" in show(bench, batch, "make")
    press(bench, batch, "timer")
    end = Making(batch).progress.timer_end(Making(batch).progress.task)
    assert timedelta(minutes=14) < end - timezone.now() <= timedelta(minutes=15)
    assert f'data-timer-end="{timezone.localtime(end, timezone.get_fixed_timezone(60)):%Y-%m-%dT%H:%M}' in show(
        bench, batch, "make"
    )
    Entry.objects.filter(kind="timer").update(at=timezone.now() - timedelta(hours=1))
    assert "Time is up" in show(bench, batch, "make")


# stocks


def test_what_is_measured_leaves_the_stock_and_what_is_taken_back_returns(bench: Client, workshop, maker) -> None:
    stock = a_can(workshop, litres=2)
    batch = begin(RUB, workshop, maker, "1 L")
    batch.lines.filter(position=0).update(stock=stock)
    press(bench, batch, amount="800 mL")
    assert Stock.objects.get().left.mL == pytest.approx(1200)
    bench.post(reverse("batches:undo", args=[batch.pk]), {"entry": Making(batch).progress.last.number})
    assert Stock.objects.get().left.mL == pytest.approx(2000)


def test_short_and_old_stocks_are_said_while_preparing(bench: Client, workshop, maker, landing_rub) -> None:
    from firkin.core.measures import read_quantity

    stock = Stock(workshop=workshop, material="glycerol", name="Last drops", amount_value=5, amount_unit="mL", bought_on=timezone.localdate() - timedelta(days=900))  # fmt: skip
    stock.save()
    version = landing_rub.current
    batch = Batch.objects.start(version, version.as_core().scaled_to(read_quantity("1 L")), maker)
    page = show(bench, batch, "prepare")
    assert "Last drops: only 5 mL left." in page
    assert "may have lost strength" in page


def test_the_measures_chosen_while_preparing_speak_while_making(bench: Client, workshop, landing_rub, maker) -> None:
    from firkin.core.measures import read_quantity

    version = landing_rub.current
    batch = Batch.objects.start(version, version.as_core().scaled_to(read_quantity("1 L")), maker)
    bench.post(reverse("batches:prepare", args=[batch.pk]), {"kitchen": "us"})
    assert "3 × cup + 1 × 1/2 cup" in show(bench, batch, "make")  # 828 mL of 833.3, within the cups' own 5 %


# readings, looks, photos


def read(client: Client, batch: Batch, what: str, value: str, celsius: str = ""):
    data = {"act": "read", "what": what, "value": value, "celsius": celsius, "key": uuid.uuid4()}
    return client.post(reverse("batches:check", args=[batch.pk]), data)


def test_an_alcoholmeter_reading_is_corrected_and_held_against_the_batch(bench: Client, workshop, maker) -> None:
    """OIML R 22: 78 at 27 degC is about 75.8 % v/v."""
    batch = begin(RUB, workshop, maker, "1 L")
    read(bench, batch, "alcoholmeter", "78", "27 °C")
    (reading,) = readings_of(batch.progress())
    assert reading.judged.text.startswith("75.8 % v/v at 20 °C; computed 76.8")
    assert reading.judged.verdict == "within"


def test_mass_in_and_out_gives_the_loss_and_ph_what_to_do(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["dish-gentle"].formula, workshop, maker, "5 kg")
    make_as_planned(bench, batch)
    read(bench, batch, "mass", "4750")
    read(bench, batch, "ph", "9.4")
    page = show(bench, batch, "check")
    assert "5000 g went in: 5 % lost." in page
    assert "Too alkaline, it yellows in days" in page


@pytest.mark.parametrize(
    ("what", "value", "celsius", "says"),
    [("ph", "15", "", "between 0 and 14"), ("ph", "sour", "", "not a number"), ("alcoholmeter", "78", "", "say how warm"), ("alcoholmeter", "178", "20 C", "between 0 and 100"), ("ph", "7", "999 C", "outside")],
)  # fmt: skip
def test_a_reading_that_cannot_be_is_refused_at_its_field(
    bench: Client, gel: Batch, what, value, celsius, says
) -> None:
    answer = read(bench, gel, what, value, celsius)
    assert says in answer.content.decode()
    assert not gel.entries.filter(kind="reading").exists()


def test_looks_over_days_become_series_and_say_what_drifts(bench: Client, gel: Batch) -> None:
    gel.made_at = timezone.now() - timedelta(days=4)
    gel.save()
    for days, colour in ((4, 0), (1, 2)):
        key = uuid.uuid4()
        bench.post(reverse("batches:check", args=[gel.pk]), {"act": "look", "colour": colour, "key": key})
        Entry.objects.filter(key=key).update(at=timezone.now() - timedelta(days=days))
    page = show(bench, gel, "check")
    assert "Colour: day 0 as made; day 3 yellow." in page
    assert "It is turning yellow" in page
    empty = bench.post(reverse("batches:check", args=[gel.pk]), {"act": "look", "key": uuid.uuid4()})
    assert "at least one of these" in empty.content.decode()


def picture(size=(2000, 1000), kind="JPEG", **more) -> io.BytesIO:
    out = io.BytesIO()
    Image.new("RGB", size, "teal").save(out, kind, **more)
    out.seek(0)
    return out


def test_a_photo_is_made_small_and_loses_where_it_was_taken(bench: Client, gel: Batch) -> None:
    place = Image.Exif()
    place[0x8825] = {1: "N", 2: (53.0, 33.0, 0.0)}
    place[0x010F] = "Camera of the lock-keeper"
    upload = SimpleUploadedFile("rub.jpg", picture(exif=place).getvalue(), "image/jpeg")
    bench.post(reverse("batches:check", args=[gel.pk]), {"act": "photo", "picture": upload, "caption": "day one"})
    kept = Image.open(io.BytesIO(bytes(Photo.objects.get().jpeg)))
    assert max(kept.size) == 1280
    assert not dict(kept.getexif())
    assert b"lock-keeper" not in bytes(Photo.objects.get().jpeg)
    shown = bench.get(reverse("batches:photo", args=[gel.pk, Photo.objects.get().pk]))
    assert shown["Content-Type"] == "image/jpeg"


@pytest.mark.parametrize(
    "content", [b"", b"not a picture", b"<svg xmlns='http://www.w3.org/2000/svg'/>", b"\xff\xd8\xff\xe0broken"]
)
def test_a_file_that_is_no_picture_is_refused(bench: Client, gel: Batch, content: bytes) -> None:
    upload = SimpleUploadedFile("x.jpg", content, "image/jpeg")
    answer = bench.post(reverse("batches:check", args=[gel.pk]), {"act": "photo", "picture": upload})
    assert answer.status_code == 200
    assert not Photo.objects.exists()


def test_a_picture_keeps_its_way_up() -> None:
    turned = Image.Exif()
    turned[0x0112] = 6
    upload = SimpleUploadedFile("x.jpg", picture((400, 200), exif=turned).getvalue())
    assert Image.open(io.BytesIO(small_photo(upload))).size == (200, 400)


# rescues


def test_a_rescue_becomes_steps_of_the_batch_and_stands_in_its_record(bench: Client, workshop, maker) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    press(bench, batch, amount="810 mL")  # 10 mL over, within the tolerance
    make_as_planned(bench, batch)
    assert batch.state == State.RESTING
    stock = a_can(workshop, litres=5)
    address = reverse("batches:rescue", args=[batch.pk])
    asked: dict[str, Any] = {"trouble": "weak", "now": "55 %", "stock": stock.pk}
    page = bench.get(address, asked).content.decode()
    # by hand: 1000 x (60.5 - 55) / (96 - 60.5) = 154.9 mL by label, to just inside the line
    assert "155 mL" in page
    key = uuid.uuid4()
    for _ in range(2):
        bench.post(address, {**asked, "key": key})
    batch.refresh_from_db()
    assert batch.state == State.MAKING
    assert batch.entries.filter(kind="rescue").count() == 1
    make_as_planned(bench, batch)
    making = Making(batch)
    assert batch.state == State.RESTING  # 72 hours again: something new went in
    # 1000 mL of 55 % and 155 mL of 96 %: 60.5 % by label, 60.68 % once shrunk (OIML R 22)
    assert making.progress.result.main.true == pytest.approx(60.68, abs=0.1)
    assert 60.5 <= making.progress.result.main.lower <= 61  # by label
    record = show(bench, batch, "record")
    assert "It came out too weak" in record
    assert all(words in record for words in ("96 % v/v", "800 mL", "810 mL"))  # as planned before, and as measured
    assert [wait.ended_at is None for wait in batch.waits.all()] == [False, True]


def test_advice_alone_goes_into_the_journal_and_changes_nothing(bench: Client, gel: Batch) -> None:
    press(bench, gel, amount="20 mL")
    frozen = gel.frozen
    bench.post(reverse("batches:rescue", args=[gel.pk]), {"trouble": "clumped", "key": uuid.uuid4()})
    gel.refresh_from_db()
    assert gel.frozen == frozen
    assert "sieve" in show(bench, gel, "record")


def test_a_rescue_after_the_batch_was_scaled_asks_for_its_own_amounts(bench: Client, workshop, maker) -> None:
    """What a rescue adds is worked out from what is in the vessel, so an earlier scaling must not scale it again."""
    batch = begin(RUB, workshop, maker, "1 L")
    press(bench, batch, amount="960 mL")
    press(bench, batch, "scale")
    make_as_planned(bench, batch)
    stock = a_can(workshop, litres=5)
    asked = {"trouble": "weak", "now": "55 %", "stock": stock.pk, "key": uuid.uuid4()}
    bench.post(reverse("batches:rescue", args=[batch.pk]), asked)
    batch.refresh_from_db()
    making = Making(batch)
    # by hand: 1200 x (60.5 - 55) / (96 - 60.5) = 185.9 mL by label
    assert making.progress.target(making.progress.task).mL == pytest.approx(186.0, abs=0.1)


@pytest.mark.parametrize(
    "query",
    [
        {"trouble": "haunted"},
        {"trouble": "weak"},
        {"trouble": "weak", "now": "lots"},
        {"trouble": "boiled-over", "mass": "2 L"},
        {"trouble": "strong"},
    ],
)
def test_a_rescue_that_cannot_be_worked_out_says_why(bench: Client, gel: Batch, query) -> None:
    answer = bench.get(reverse("batches:rescue", args=[gel.pk]), query)
    assert answer.status_code == 200
    assert "Do it" not in answer.content.decode()


# what comes due


@pytest.fixture
def ferment(bench: Client, workshop, maker) -> Batch:
    batch = begin(house_formulas()["citrus-ferment"].formula, workshop, maker, "2.33 kg")
    make_as_planned(bench, batch, up_to_the_wait=True)
    return batch


def test_a_ferment_is_vented_by_one_tap_and_late_ones_say_how_late(bench: Client, ferment: Batch) -> None:
    assert ferment.state == State.RESTING
    assert ferment.dues.filter(kind="vent").count() == 21
    Due.objects.update(at=timezone.now() - timedelta(days=200))
    third = timezone.now() - timedelta(hours=5)
    Due.objects.filter(pk__in=Due.objects.filter(kind="vent").values("pk")[3:]).update(
        at=timezone.now() + timedelta(days=2)
    )
    Due.objects.filter(pk=Due.objects.filter(kind="vent").order_by("at")[2].pk).update(at=third)
    page = bench.get("/").content.decode()
    assert page.count(">Vented<") == 1  # one row for the three of them
    assert "3 times by now" in page
    due = Due.objects.filter(kind="vent", at=third).get()
    for _ in range(2):
        bench.post(reverse("batches:settle", args=[due.pk]))
    entry = Entry.objects.get(kind="due")
    assert entry.text == "Vented, 5 h late."
    assert not Due.objects.now_due(ferment.workshop, timezone.now()).filter(kind="vent").exists()


def test_bleach_a_day_old_is_poured_away_by_one_tap(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["chlorine-surfaces"].formula, workshop, maker, "1 L")
    make_as_planned(bench, batch)
    due = batch.dues.get(kind="discard")
    assert due.at - batch.made_at == timedelta(hours=24)
    Due.objects.update(at=timezone.now() - timedelta(minutes=5))
    assert "Pour it away" in bench.get("/").content.decode()
    bench.post(reverse("batches:settle", args=[due.pk]))
    batch.refresh_from_db()
    assert batch.state == State.DISCARDED
    assert "Pour it away" not in bench.get("/").content.decode()


def test_what_comes_of_a_batch_is_written_when_it_is_made_and_stands_in_the_book(
    bench: Client, workshop, maker
) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    make_as_planned(bench, batch)
    assert (batch.verdict, batch.strength_pct) == ("meets", pytest.approx(76.8, abs=0.05))
    assert "last made" in bench.get(reverse("formulas:book")).content.decode()


def test_a_batch_used_up_is_due_nothing_more(bench: Client, ferment: Batch) -> None:
    bench.post(reverse("batches:end", args=[ferment.pk]), {"end": "used", "note": "bucket two lasted till May"})
    ferment.refresh_from_db()
    assert ferment.state == State.USED
    assert not events_of(ferment.workshop, None, None)
    assert "bucket two lasted till May" in show(bench, ferment, "record")
    assert not Wait.objects.filter(ended_at=None).exists()


# the calendar


def test_the_calendar_file_is_read_back_by_another_reader(bench: Client, ferment: Batch) -> None:
    """RFC 5545, read by vobject."""
    answer = bench.get(reverse("batches:ics", args=[ferment.pk]))
    events = vobject.readOne(answer.content.decode()).vevent_list
    assert len(events) == 1 + ferment.dues.count()
    first = ferment.dues.filter(kind="vent").first()
    starts = {event.uid.value: event.dtstart.value for event in events}
    assert starts[f"due-{first.pk}@firkin.invalid"] == first.at.replace(microsecond=0)
    assert {"Vent it: Citrus ferment (" + ferment.code + ")"} < {event.summary.value for event in events}


def test_a_feed_is_read_by_whoever_has_its_address_until_it_is_revoked(bench: Client, ferment: Batch) -> None:
    bench.post(reverse("batches:feeds"))
    feed = CalendarFeed.objects.get()
    stranger = Client()
    address = reverse("batches:feed", args=[feed.token])
    assert b"BEGIN:VEVENT" in stranger.get(address).content
    bench.post(reverse("batches:feeds"), {"revoke": feed.pk})
    assert stranger.get(address).status_code == 404
    assert stranger.get(reverse("batches:feed", args=["guess"])).status_code == 404


@pytest.mark.parametrize("month", ["", "2026-03", "2026-10", "9999-99", "x", "2026-1-1", "-1-1"])
def test_any_month_is_shown(bench: Client, ferment: Batch, month: str) -> None:
    assert bench.get(reverse("batches:calendar"), {"month": month}).status_code == 200
    assert bench.get(reverse("batches:calendar"), {"day": month}).status_code == 200


def test_a_day_of_the_calendar_opens_to_all_that_comes_due_then(
    bench: Client, ferment: Batch, in_the_zone_of_the_workshop
) -> None:
    """The month shows four of a day, and on a telephone their number: the fifth stands in the day's own list."""
    first = ferment.dues.order_by("at")[:5]
    noon = timezone.localtime(first[0].at).replace(hour=12)
    for at, due in enumerate(first):
        due.at = noon + timedelta(minutes=at)
        due.save()
    day = noon.date()
    page = bench.get(reverse("batches:calendar"), {"day": day.isoformat()}).content.decode()
    listed = re.findall(r"<time>(\d\d:\d\d)</time>", page)
    whole = [due.at for due in ferment.dues.all() if timezone.localtime(due.at).date() == day]
    assert listed == [timezone.localtime(at).strftime("%H:%M") for at in sorted(whole)] and len(listed) >= 5
    assert re.search(rf'href="[^"]*day={day}#day">and {len(listed) - 4}\s+more', page)
    empty = {"day": (day - timedelta(days=3)).isoformat()}
    assert "Nothing comes due that day." in bench.get(reverse("batches:calendar"), empty).content.decode()
    elsewhere = {"month": "2026-03", "day": day.isoformat()}  # that month does not hold it
    assert "of-the-day" not in bench.get(reverse("batches:calendar"), elsewhere).content.decode()


@pytest.mark.parametrize(
    ("kitchen", "words"), [("imperial", "1 × pint + 4 × fl oz"), ("metric", "700 mL in the litre jug")]
)
def test_a_batch_laid_out_with_kitchen_measures_is_planned_in_them_and_holds_its_line(
    bench: Client, workshop, maker, kitchen: str, words: str
) -> None:
    """To the nearest, this 2 : 1 of 91 % would fall below 60 %: the alcohol is rounded up, the gel down."""
    rub = mix(("isopropanol", "2 parts", "91 %"), ("aloe-gel", "1 part"), make="990 mL", family="aloe-rub", guidelines=("cdc-alcohol-60",))  # fmt: skip
    version = Formula.objects.keep(rub, workshop, maker).current
    bench.post(reverse("batches:start"), {"version": version.pk, "make": "990 mL", "kitchen": kitchen})
    batch = Batch.objects.get()
    assert f'value="{kitchen}" selected' in show(bench, batch, "prepare")
    bench.post(reverse("batches:prepare", args=[batch.pk]), {"kitchen": kitchen})
    assert words in show(bench, batch, "make")
    making = Making(batch)
    press(bench, batch, amount=str(making.progress.target(making.progress.task)))
    assert Making(batch).deviation is None
    make_as_planned(bench, batch)
    on_sheet = in_kitchen(reckon(rub), kitchens()[kitchen]).result.verdicts[0].verdict
    assert Making(batch).progress.result.verdicts[0].verdict == on_sheet == "on-the-line"  # measures err by 4 or 5 %
    assert "Amounts rounded to these measures" in show(bench, batch, "record")


def test_prepare_shows_the_findings_of_what_will_be_measured_out(bench: Client, workshop, maker) -> None:
    """2 : 1 of 91 % holds 60 % exactly measured; in cups that err by a twentieth the worst case does not."""
    rub = mix(("isopropanol", "2 parts", "91 %"), ("aloe-gel", "1 part"), make="990 mL", family="aloe-rub", guidelines=("cdc-alcohol-60",))  # fmt: skip
    version = Formula.objects.keep(rub, workshop, maker).current
    for kitchen, uncertain in (("", False), ("imperial", True)):
        bench.post(reverse("batches:start"), {"version": version.pk, "make": "990 mL", "kitchen": kitchen})
        page = bench.get(reverse("batches:prepare", args=[Batch.objects.latest("pk").pk]))
        assert ("line-uncertain" in [one.rule for one in page.context["findings"]]) == uncertain


# comparing, pouring, filling cut


def test_batches_side_by_side_say_what_differs(bench: Client, workshop, maker) -> None:
    first = begin(RUB, workshop, maker, "1 L")
    make_as_planned(bench, first)
    second = Batch.objects.start(first.version, first.version.as_core().scaled_to(first.formula().make), maker)
    second.move_to(State.MAKING, maker, "Begun.")
    press(bench, second, amount="700 mL")
    press(bench, second, "accept")
    make_as_planned(bench, second)
    answer = bench.get(reverse("batches:compare", args=[first.version.formula_id]))
    rows = {row.name: row for row in answer.context["rows"]}
    assert rows["Ethanol"].differs
    assert rows["Glycerol"].values == ("15 mL, 1.5 %", "15 mL, 1.5 %")
    assert not rows["Glycerol"].differs
    assert not rows["Made on"].differs
    assert rows["Strength"].values == ("76.8 % v/v meets", "67.2 % v/v meets")
    assert "67.2 %" in answer.content.decode()


def test_batches_of_two_sizes_and_versions_are_compared_by_share_and_material(bench: Client, workshop, maker) -> None:
    """By hand: twice everything is the same rub; 950 mL of 1 L in bottles is 95 %."""
    first = begin(RUB, workshop, maker, "1 L")
    formula = first.version.formula
    changed = mix(
        ("glycerol", "15 mL"), ("ethanol", "800 mL", "96 %"), ("water", "q.s."), make="1 L", family="liquid-rub"
    )
    version = formula.add_version(changed, maker)
    second = Batch.objects.start(version, changed.scaled_to(Quantity(2.0, "L")), maker)
    second.move_to(State.MAKING, maker, "Begun.")
    for batch, litres in ((first, 1), (second, 2)):
        make_as_planned(bench, batch)
        batch.release(maker, "a test")
        Filling.objects.create(batch=batch, by=maker, container="Flask", count=2 * litres, fill_mL=475)
        batch.refresh_from_db()
        batch.end(State.USED, maker, "Used up.")
        Batch.objects.filter(pk=batch.pk).update(made_at=timezone.now() - timedelta(days=20, hours=1))
    answer = bench.get(reverse("batches:compare", args=[formula.pk]))
    rows = {row.name: row for row in answer.context["rows"]}
    assert rows["Version"].differs
    assert not any(rows[name].differs for name in ("Ethanol", "Glycerol", "Water", "Lasted"))
    assert rows["Ethanol"].values == ("800 mL of 96 % v/v, 80 %", "1.6 L of 96 % v/v, 80 %")
    assert rows["Into bottles"].values == ("950 mL, 95 %", "1.9 L, 95 %")
    assert rows["Lasted"].values == ("20 days", "20 days")
    assert [name for name, _ in answer.context["series"]] == ["Strength", "Into bottles, of what was made", "Lasted"]


def test_the_scale_is_held_let_go_and_taken_from(bench: Client, workshop, maker) -> None:
    workshop.simulated_instruments = True
    workshop.save()
    batch = begin(RUB, workshop, maker, "1 L")
    assert "Hold to pour" in show(bench, batch, "pour")
    address = reverse("batches:scale", args=[batch.pk])
    for act in ("hold", "release", "tare", "nonsense"):
        assert bench.post(address, {"act": act}).status_code == 200
    assert "pour-target" in bench.get(address).content.decode()
    for page in ("instruments",):
        assert bench.post(reverse(f"batches:{page}"), {"buffer": "7"}).status_code == 302
        assert "days ago" in bench.get(reverse(f"batches:{page}")).content.decode()


def test_a_concentrate_is_cut_while_bottling(bench: Client, workshop, maker) -> None:
    from dataclasses import replace

    soap = replace(house_formulas()["laundry-concentrate"].formula, cut=1.0)
    batch = begin(soap, workshop, maker, "2 L")
    Vessel.objects.create(workshop=workshop, name="Jar", kind="bottle", volume_mL=1000, count=9)
    make_as_planned(bench, batch)
    batch.release(maker, "warm night")
    page = show(bench, batch, "fill")
    assert "3.999 L" in page
    assert "475.1 mL of the batch and 475.1 mL of water" in page


def test_fill_page_stage_page_and_label_say_the_same_volume_after_a_cut(bench: Client, workshop, maker) -> None:
    """OIML R 22: 1 L of the house rub and 200 mL of water shrink to 1186.8 mL, not 1200."""
    from dataclasses import replace

    rub = replace(house_formulas()["who-one"].formula, cut=0.2)
    batch = begin(rub, workshop, maker, "1 L")
    Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=1000, count=9)
    make_as_planned(bench, batch)
    batch.release(maker, "a test")
    left = "1.187 L"
    assert f'<p class="task-target">{left} <small>to fill' in show(bench, batch, "fill")
    label = label_of(batch, batch.progress(), None)
    assert label.contents == left
    assert f"{left} in bottles" in show(bench, batch, "record")
    bench.post(
        reverse("batches:fill", args=[batch.pk]),
        {
            "vessel": Vessel.objects.get(name="Flask").pk,
            "count": 1,
            "fill": "950 mL",
            "key": uuid.uuid4(),
            "anyway": "on",
        },
    )
    assert '<p class="task-target">236.8 mL <small>to fill' in show(bench, batch, "fill")


def test_bottles_that_are_full_or_do_not_suit_are_left_out_and_the_missing_ones_counted(
    bench: Client, workshop, maker
) -> None:
    """Common practice: nothing but foaming soap goes through a foaming pump."""
    flask = Vessel.objects.create(workshop=workshop, name="Flask", kind="bottle", volume_mL=500, top="cap", count=2)
    Vessel.objects.create(workshop=workshop, name="Froth", kind="bottle", volume_mL=250, top="foaming", count=9)
    first = begin(RUB, workshop, maker, "600 mL")
    second = Batch.objects.start(first.version, RUB.scaled_to(Quantity(2.0, "L")), maker)
    assert "Too few bottles: 1.05 L would find none; 3 more of flask" in show(bench, second, "prepare")
    make_as_planned(bench, first)
    first.release(maker, "a test")
    page = show(bench, first, "fill")
    assert "Left out: froth" in page
    fill = {"vessel": flask.pk, "count": 2, "fill": "300 mL", "key": uuid.uuid4()}
    assert bench.post(reverse("batches:fill", args=[first.pk]), fill).status_code == 302
    assert bottles_for(second, 500.0).packing is None
    bench.post(reverse("batches:end", args=[first.pk]), {"end": "used"})
    assert bottles_for(second, 500.0).packing is not None


def test_what_stands_against_bottling_is_said_before_it(bench: Client, workshop, maker) -> None:
    """Common practice: dish liquid for hands stands between pH 6 and 8.5."""
    batch = begin(house_formulas()["dish-gentle"].formula, workshop, maker, "1 kg")
    make_as_planned(bench, batch)
    batch.release(maker, "a test")
    assert "The pH was not read; it should be 6 to 8.5." in show(bench, batch, "fill")
    for value, warned in (("9.6", True), ("7.8", False)):
        read = {"act": "read", "what": "ph", "value": value, "key": uuid.uuid4()}
        bench.post(reverse("batches:check", args=[batch.pk]), read)
        page = show(bench, batch, "fill")
        assert ("is too high (6 to 8.5)" in page) is warned
        assert ("Before it is bottled" in page) is warned


def test_the_label_of_what_was_cut_says_the_strength_in_the_bottle(bench: Client, workshop, maker) -> None:
    """By hand: half of soap cut with as much water is a quarter."""
    from dataclasses import replace

    soap = replace(mix(("castile-soap", "500 mL"), ("water", "500 mL"), family="liquid-soap"), cut=1.0)
    batch = begin(soap, workshop, maker, "1 L")
    make_as_planned(bench, batch)
    label = label_of(batch, batch.progress(), None)
    assert label.strength == "Liquid castile soap 25 % v/v"
    assert label.ingredients == "Contents: liquid castile soap, water."


# reliability


@pytest.mark.long
def test_a_batch_of_sixty_steps_goes_through(bench: Client, workshop, maker) -> None:
    from firkin.core.formula import Step

    steps = (
        *(Step("stir", f"Stir, turn {n}.") for n in range(58)),
        Step("pour", "Pour.", (0,)),
        Step("pour", "Pour.", (1,)),
    )
    batch = begin(mix(("water", "100 mL"), ("salt", "1 g"), steps=steps), workshop, maker, "101 mL")
    assert "1 of 60" in show(bench, batch, "make")
    make_as_planned(bench, batch)
    assert batch.state == State.RELEASED
    assert batch.entries.filter(kind="step").count() == 58


def test_a_clock_set_back_loses_nothing_and_keeps_the_order(bench: Client, workshop, maker, monkeypatch) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    press(bench, batch, amount="800 mL")
    now = timezone.now()
    monkeypatch.setattr(timezone, "now", lambda: now - timedelta(days=1))
    press(bench, batch, amount="15 mL")
    making = Making(batch)
    assert [entry.amount.value for entry in making.progress.standing if entry.kind == "pour"] == [800, 15]
    assert making.progress.position == 2
    assert find("ethanol").id == making.lines[0].material


@pytest.mark.long
def test_the_bench_asks_as_much_of_ten_thousand_batches_as_of_a_hundred(
    bench: Client, workshop, maker, landing_rub, django_assert_num_queries
) -> None:
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    def grow(count: int) -> None:
        last = Batch.objects.count()
        Batch.objects.bulk_create(
            Batch(workshop=workshop, version=landing_rub.current, number=last + n + 1, name="Rub", family="liquid-rub", frozen={}, state=State.FILLED, made_at=timezone.now())
            for n in range(count)
        )  # fmt: skip

    def queries(path: str) -> int:
        with CaptureQueriesContext(
            connection,
        ) as caught:
            assert bench.get(path).status_code == 200
        return len(caught)

    pages = ("/", reverse("batches:list"), reverse("batches:calendar"), reverse("formulas:book"))
    grow(100)
    few = [queries(page) for page in pages]
    grow(2000)
    assert [queries(page) for page in pages] == few


def test_every_entry_says_who_pressed_and_what_and_is_stored_once(bench: Client, workshop, maker) -> None:
    """Portions, doses, ticks, pours and decisions alike: by whom, in words, under the key of its page."""
    for key in ("xanthan-gel", "crosspolymer-gel", "dish-classic"):
        batch = begin(house_formulas()[key].formula, workshop, maker, "1 kg" if "dish" in key else "1 L")
        make_as_planned(bench, batch)
        entries = list(batch.entries.all())
        assert {entry.by for entry in entries} == {maker}
        assert len({entry.key for entry in entries}) == len(entries)
        assert all(entry.text or entry.line_id for entry in entries), [e.kind for e in entries if not e.text]
        steps = [entry.step for entry in entries if entry.kind in ("portion", "step")]
        assert steps and all(step is not None for step in steps)
        record = said(bench.get(reverse("batches:record", args=[batch.pk])))
        assert all(entry.amount.words in record for entry in entries if entry.amount_value)


@pytest.mark.parametrize(
    ("formula", "says", "after"),
    [("who-one", "Alcohol leaves an open jug", False), ("dish-gentle", "throw it away", True)],
)
def test_a_batch_that_stood_half_made_for_a_week_says_so(
    bench: Client, maker, workshop, formula: str, says: str, after: bool
) -> None:
    """On the Bench and where it is made; a rub goes on after its next line, water that stood does not."""
    batch = begin(house_formulas()[formula].formula, workshop, maker, "1 L")
    press(bench, batch, amount=Making(batch).progress.target(Making(batch).progress.task).words)
    pages = [reverse("batches:make", args=[batch.pk]), "/"]
    for page in pages:
        assert "stood half made" not in said(bench.get(page))
    Entry.objects.filter(batch=batch).update(at=timezone.now() - timedelta(days=8))
    for page in pages:
        assert "It has stood half made for 8 days." in said(bench.get(page))
    assert says in said(bench.get(pages[0]))
    press(bench, batch, amount=Making(batch).progress.target(Making(batch).progress.task).words)
    assert ("stood half made for 8 days" in said(bench.get(pages[0]))) is after
