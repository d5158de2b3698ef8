"""Neutralising and salting as a loop on the make page: each dose and reading logged, until it is there."""

import uuid

import pytest
from django.test import Client
from django.urls import reverse

from firkin.batches.making import Making
from firkin.batches.models import Batch
from firkin.core.bench import readings_of
from firkin.core.formula import house_formulas
from steps import begin, make_as_planned, press, said


def up_to(bench: Client, batch: Batch, material: str) -> None:
    """Everything as planned, up to the line of a material."""
    for _ in range(60):
        progress = Making(batch).progress
        task = progress.task
        if batch.state == "resting":
            bench.post(reverse("batches:wait", args=[batch.pk]), {"reason": "for the test"})
            batch.refresh_from_db()
            continue
        if task.line is not None and progress.formula.lines[task.line].material.id == material:
            return
        target = progress.target(task) if task.line is not None else None
        press(bench, batch, amount=f"{target.value:.6g} {target.unit}" if target else "")


def dose(bench: Client, batch: Batch, amount: str, **read: str):
    turn = Making(batch).progress.turn
    data = {"act": "dose", "amount": amount, "task": turn, "key": uuid.uuid4(), **read}
    return bench.post(reverse("batches:make", args=[batch.pk]), data, follow=True)


@pytest.fixture
def gel(bench, workshop, maker) -> Batch:
    batch = begin(house_formulas()["crosspolymer-gel"].formula, workshop, maker, "1 L")
    up_to(bench, batch, "triethanolamine")
    return batch


def test_doses_and_readings_are_logged_until_it_is_within(bench: Client, gel: Batch) -> None:
    page = said(dose(bench, gel, "1.5", reading="5.2"))
    assert "pH 5.2 so far; 6 to 7.5 is aimed at." in page
    assert "1.5 mL in, about 2.2 mL of 3.7 mL left" in page
    page = said(dose(bench, gel, "1 mL", reading="6.8"))
    assert "pH 6.8 is within 6 to 7.5: that is enough." in page
    assert "That is enough: all in" in page
    progress = Making(gel).progress
    assert [reading.value for reading in readings_of(progress)] == [5.2, 6.8]
    press(bench, gel, amount="2.5 mL")
    making = Making(gel)
    assert making.deviation is None  # a third less than planned, and right by its reading
    assert making.progress.measured[5].amount.mL == 2.5


def test_too_much_is_said_with_what_takes_it_back(bench: Client, gel: Batch) -> None:
    dose(bench, gel, "3", reading="7")
    page = said(dose(bench, gel, "1", reading="8"))
    assert "was planned. Read it first, or tick that you mean it." in page
    assert gel.entries.filter(kind="portion").count() == 1
    page = said(dose(bench, gel, "1", reading="8", past="on"))
    assert "about 0.5 mL of triethanolamine too much" in page  # 7.5 was crossed half way
    rescue = said(bench.get(reverse("batches:rescue", args=[gel.pk]), {"trouble": "alkaline"}))
    assert "still to go in" in rescue
    press(bench, gel, amount="4 mL")
    rescue = said(bench.get(reverse("batches:rescue", args=[gel.pk]), {"trouble": "alkaline"}))
    assert "0.24 g of citric acid takes up the extra base" in rescue


def test_a_second_dose_asks_for_the_reading_of_the_first(bench: Client, gel: Batch) -> None:
    dose(bench, gel, "0.5")  # the first: nothing to go by yet
    page = said(dose(bench, gel, "0.5"))
    assert "Not read since the last dose. Stir, read the pH, and enter it." in page
    assert gel.entries.filter(kind="portion").count() == 1
    dose(bench, gel, "0.5", unread="on")
    dose(bench, gel, "0.5", reading="5.5")
    dose(bench, gel, "0.1")  # the last one was read: this one may be looked at after it
    assert gel.entries.filter(kind="portion").count() == 4


@pytest.mark.parametrize(("share", "stored"), [(1.019, True), (1.021, False)])
def test_doses_stop_at_the_plan_unless_it_is_meant(bench: Client, gel: Batch, share: float, stored: bool) -> None:
    planned = Making(gel).progress.target(Making(gel).progress.task).mL
    page = said(dose(bench, gel, f"{planned * share:.6g}", reading="6"))
    assert gel.entries.filter(kind="portion").exists() is stored
    assert ("tick that you mean it" in page) is not stored
    dose(bench, gel, f"{planned * 1.5:.6g}", reading="6", past="on")
    assert gel.entries.filter(kind="portion").count() == 1 + stored


def test_what_went_in_until_a_reading_is_no_size_to_scale_to(bench: Client, gel: Batch) -> None:
    """Twice the neutraliser, poured at once and not read: the whole batch is not doubled for it."""
    planned = Making(gel).progress.target(Making(gel).progress.task).mL
    press(bench, gel, amount=f"{planned * 1.9:.6g} mL")
    deviation = Making(gel).deviation
    assert [choice.key for choice in Making(gel).choices(deviation)] == ["accept"]


def test_a_dose_that_cannot_be_read_keeps_what_was_typed(bench: Client, gel: Batch) -> None:
    page = dose(bench, gel, "two drops more", reading="19")
    assert "two drops more" in page.content.decode()
    assert "pH is between 0 and 14." in said(page)
    assert not gel.entries.filter(kind="portion").exists()
    assert "It is counted in mL here." in said(dose(bench, gel, "1 g"))


def test_a_double_press_is_one_dose(bench: Client, gel: Batch) -> None:
    data = {"act": "dose", "amount": "1", "reading": "5", "task": Making(gel).progress.turn, "key": uuid.uuid4()}
    for _ in range(3):
        bench.post(reverse("batches:make", args=[gel.pk]), data)
    assert gel.entries.filter(kind="portion").count() == 1
    assert gel.entries.filter(kind="reading").count() == 1


def test_salt_is_stopped_at_its_peak(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["dish-gentle"].formula, workshop, maker, "1 kg")
    up_to(bench, batch, "salt")
    for amount, level in (("3", "1"), ("3", "3")):
        page = said(dose(bench, batch, amount, level=level))
    assert "thick enough: stop here" in page
    assert "peak is past" in said(dose(bench, batch, "3", level="2"))
    assert batch.entries.filter(kind="observe").count() == 3


def test_a_reading_is_asked_for_inside_the_step_that_speaks_of_it(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["dish-gentle"].formula, workshop, maker, "1 kg")
    up_to(bench, batch, "salt")
    press(bench, batch, amount="15 g")
    page = bench.get(reverse("batches:make", args=[batch.pk]))
    assert [one["name"] for one in page.context["to_read"]] == ["pH"]
    data = {"act": "read", "what": "ph", "value": "9.5", "key": uuid.uuid4(), "back": "make"}
    back = bench.post(reverse("batches:check", args=[batch.pk]), data, follow=True)
    assert back.redirect_chain[-1][0] == reverse("batches:make", args=[batch.pk])
    assert "pH 9.5 is too high (6 to 8.5)." in said(back)


def test_a_loop_is_gone_through_at_once_too(bench: Client, gel: Batch) -> None:
    make_as_planned(bench, gel)
    assert gel.state == "resting"
