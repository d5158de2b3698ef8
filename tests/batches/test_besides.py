"""What was put in besides the plan is a line of the batch, counted from then on."""

import uuid

import pytest
from django.test import Client
from django.urls import reverse

from firkin.batches.making import Making
from firkin.batches.models import Batch
from firkin.core.formula import house_formulas
from steps import begin, make_as_planned, press, said


@pytest.fixture
def rub(workshop, maker) -> Batch:
    return begin(house_formulas()["who-one"].formula, workshop, maker, "1 L")


def besides(bench: Client, batch: Batch, **data: object):
    answer = bench.post(reverse("batches:besides", args=[batch.pk]), {"key": uuid.uuid4(), **data}, follow=True)
    batch.refresh_from_db()
    return answer


def test_it_is_measured_counted_and_the_rest_goes_on(bench: Client, rub: Batch) -> None:
    """By hand: 100 mL of water more before topping up leaves the mark and the strength, and needs so much less water."""
    press(bench, rub, amount="833.3 mL")
    before = Making(rub).progress.result
    page = said(besides(bench, rub, material="water", amount="100 mL"))
    assert "100 mL" in page
    making = Making(rub)
    after = making.progress.result
    assert after.total.volume_mL == pytest.approx(before.total.volume_mL)
    assert after.main.lower == pytest.approx(before.main.lower, abs=0.01)
    assert making.progress.formula.lines[making.progress.task.line].material.id == "hydrogen-peroxide"
    make_as_planned(bench, rub)
    assert rub.state == "resting"
    record = said(bench.get(reverse("batches:record", args=[rub.pk])))
    assert "Put in beyond the plan: 100 mL of water." in record


def test_alcohol_put_in_besides_counts(bench: Client, rub: Batch) -> None:
    press(bench, rub, amount="833.3 mL")
    besides(bench, rub, material="ethanol", amount="50 mL", strength="96 %")
    # by hand: 883.3 mL of 96 % in a litre
    assert Making(rub).progress.result.main.true == pytest.approx(84.8, abs=0.05)


def test_what_must_not_meet_is_said_at_once(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["chlorine-surfaces"].formula, workshop, maker, "1 L")
    for _ in range(2):
        target = Making(batch).progress.target(Making(batch).progress.task)
        press(bench, batch, amount=f"{target.value:.6g} {target.unit}")
    page = said(besides(bench, batch, material="vinegar", amount="50 mL"))
    assert "chlorine gas" in page


@pytest.mark.parametrize(
    "change",
    [{"amount": "a lot"}, {"amount": "2 parts"}, {"material": ""}, {"strength": "200 %", "material": "ethanol"}],
)
def test_what_cannot_be_read_is_said_at_its_field_and_nothing_is_stored(bench: Client, rub: Batch, change) -> None:
    data = {"material": "glycerol", "amount": "5 mL"} | change
    page = besides(bench, rub, **data)
    assert "field-error" in page.content.decode()
    assert not rub.entries.filter(kind__in=["note", "pour"]).exists()
    for value in change.values():
        assert value in page.content.decode()


def test_pressed_twice_it_is_in_once(bench: Client, rub: Batch) -> None:
    key = uuid.uuid4()
    for _ in range(2):
        besides(bench, rub, material="glycerol", amount="5 mL", key=key)
    assert rub.lines.count() == 5


def test_more_than_a_batch_ever_holds_is_asked_about_once_and_taken_when_it_is_sure(bench: Client, rub: Batch) -> None:
    """Usual is 0.3 to 5 % of glycerol in a rub (common practice, no source): 100 mL are a slip of the pen, or not."""
    page = besides(bench, rub, material="glycerol", amount="100 mL").content.decode()
    assert "Check the amount, or tick that it is right." in page
    assert 'type="checkbox" name="sure"' in page
    assert 'value="100 mL"' in page
    assert rub.lines.count() == 4
    besides(bench, rub, material="glycerol", amount="100 mL", sure="on")
    assert rub.lines.count() == 5


def test_a_usual_amount_is_taken_at_once(bench: Client, rub: Batch) -> None:
    besides(bench, rub, material="glycerol", amount="25 mL")
    assert rub.lines.count() == 5
