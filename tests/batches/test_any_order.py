"""Whatever a maker presses, in whatever order: the journal only grows, and everything follows from it."""

import uuid

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry, State
from firkin.core.measures import Quantity
from firkin.shelf.models import Movement
from mixes import mix
from often import tries
from steps import a_can, begin

RUB = mix(("ethanol", "800 mL", "96 %"), ("glycerol", "15 mL"), ("water", "q.s."), make="1 L", family="liquid-rub", guidelines=("cdc-alcohol-60",))  # fmt: skip
PRESSES = st.lists(
    st.tuples(
        st.sampled_from(["measure", "measure", "measure", "back", "accept", "scale", "portion"]), st.floats(0.8, 1.25)
    ),
    max_size=14,
)


def do(making: Making, press: str, factor: float, maker) -> None:
    """One press on the make page, as its view carries it out."""
    task, key = making.progress.task, uuid.uuid4()
    if press == "back" and making.progress.last is not None:
        making.take_back(making.progress.last, maker)
    elif press in ("accept", "scale"):
        making.decide(press, maker, key)
    elif making.deviation is not None or task is None:
        return
    elif press == "portion":
        making.portion(task, maker, key)
    elif task.line is None:
        making.tick(task, maker, key) if task.wait_h is None else making.begin_wait(task, maker, key)
    else:
        target = making.progress.target(task)
        factor = max(factor, 1.0) if task.kind == "top-up" else factor
        making.measure(task, Quantity(target.value * factor, target.unit), maker, key)


@tries(12)
@given(presses=PRESSES)
def test_the_journal_only_grows_and_all_else_follows_from_it(workshop, maker, presses) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    stock = a_can(workshop, litres=50)
    batch.lines.filter(position=0).update(stock=stock)
    seen: list[int] = []
    for press, factor in presses:
        batch.refresh_from_db()
        if batch.state != State.MAKING:
            break
        do(Making(batch), press, factor, maker)
        entries = list(batch.entries.values_list("pk", flat=True))
        assert entries[: len(seen)] == seen
        seen = entries
        making = Making(Batch.objects.get(pk=batch.pk))
        undone = {entry.undoes_id for entry in batch.entries.all() if entry.undoes_id}
        assert {entry.number for entry in making.progress.standing} == set(seen) - undone
        assert making.progress.result.total.volume_mL > 0
        poured = making.progress.measured.get(0)
        out = -sum(one.mass_g for one in Movement.objects.filter(stock=stock).exclude(kind="bought"))
        grams = poured.amount.mL * 0.80742 if poured else 0.0  # g/mL of 96 % v/v: OIML R 22
        assert out == pytest.approx(grams, rel=1e-3, abs=1e-6)
        assert stock.left_g == pytest.approx(stock.grams_of(stock.amount) - out)


@tries(6)
@given(factor=st.floats(1.03, 1.6))
def test_scaling_after_too_much_of_the_first_line_keeps_the_strength(workshop, maker, factor: float) -> None:
    batch = begin(RUB, workshop, maker, "1 L")
    before = Making(batch).progress.result.main.label
    do(Making(batch), "measure", factor, maker)
    do(Making(batch), "scale", 1.0, maker)
    after = Making(batch)
    assert after.progress.result.main.label == pytest.approx(before, rel=1e-3)
    assert after.progress.result.total.volume_mL == pytest.approx(1000 * factor, rel=1e-3)
    assert Entry.objects.filter(batch=batch, kind="decide").count() == 1
