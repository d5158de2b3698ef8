"""Ways to begin a batch in a test and to press the buttons of its pages."""

import uuid

from django.test import Client
from django.urls import reverse

from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.catalogue import find
from firkin.core.measures import read_quantity
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock


def said(answer) -> str:
    """What a page says, its white space as a browser shows it."""
    return " ".join(answer.content.decode().split())


def begin(formula, workshop, maker, size: str) -> Batch:
    """A batch of a formula, ready to be made."""
    version = Formula.objects.keep(formula, workshop, maker).current
    batch = Batch.objects.start(version, version.as_core().scaled_to(read_quantity(size)), maker)
    batch.move_to(State.MAKING, maker, "Begun.")
    return batch


def press(
    client: Client, batch: Batch, act: str = "", amount: str = "", key: uuid.UUID | None = None, turn: int | None = None
):
    """Press a button of the make page for the task at hand, whose ``turn`` may be known."""
    data = {"task": Making(batch).progress.turn if turn is None else turn, "key": key or uuid.uuid4(), "amount": amount}
    answer = client.post(reverse("batches:make", args=[batch.pk]), data | ({"act": act} if act else {}))
    batch.refresh_from_db()
    return answer


def make_as_planned(client: Client, batch: Batch, *, up_to_the_wait: bool = False) -> None:
    """Everything as planned, waits gone through early, or up to the first of them."""
    for _ in range(300):
        making = Making(batch)
        task = making.progress.task
        if batch.state == State.RESTING and up_to_the_wait:
            break
        if batch.state == State.RESTING and making.progress.unfinished:
            client.post(reverse("batches:wait", args=[batch.pk]), {"reason": "for the test"})
        elif batch.state != State.MAKING or task is None:
            break
        else:
            target = making.progress.target(task) if task.line is not None else None
            amount = f"{target.value:.6g} {target.unit}" if target else ""
            press(client, batch, amount=amount, turn=making.progress.turn)
            continue
        batch.refresh_from_db()


def make_at_once(batch: Batch, maker) -> None:
    """Everything as planned, and released."""
    while (task := Making(batch).progress.task) is not None:
        making = Making(batch)
        if task.line is not None:
            making.measure(task, making.progress.target(task), maker, uuid.uuid4())
        elif task.wait_h is not None:
            making.begin_wait(task, maker)
        else:
            making.tick(task, maker, uuid.uuid4())
    if batch.state == State.RESTING:
        batch.release(maker, "for the test")


def a_can(workshop, litres: float) -> Stock:
    """A can of 96 % ethanol on the shelf."""
    stock = Stock(workshop=workshop, material="ethanol", name="Can", amount_value=litres, amount_unit="L")
    stock.strength = find("ethanol").read_strength("96 %")
    stock.save()
    return stock
