"""The usual steps, what to wear, and the cautions of what is in the mix."""

from dataclasses import replace
from datetime import UTC, datetime

import pytest

from firkin.core.bench import (
    Entry,
    EntryKind,
    Progress,
    cautions_for,
    cautions_now,
    cautions_of,
    gear_for,
    plan_of,
    taken_up,
)
from firkin.core.bench.tasks import TaskKind
from firkin.core.catalogue import materials
from firkin.core.formula import house_formulas, quarantined, steps_of
from firkin.core.measures import Quantity
from journals import RUB, Journal
from mixes import line, mix


def test_an_alcohol_rub_rests_72_hours() -> None:
    """WHO, Guide to Local Production: quarantine until any spores are destroyed."""
    assert quarantined(RUB)
    assert [step.wait_h for step in steps_of(RUB) if step.wait_h] == [72.0]
    assert not quarantined(mix(("castile-soap", "1 part"), ("water", "3 parts"), family="foaming-soap"))


@pytest.mark.parametrize("key", materials())
def test_a_material_brings_its_cautions_and_what_to_wear(key: str) -> None:
    formula = mix((key, "10 g"), ("water", "1 L"))
    assert set(materials()[key].cautions) <= {caution.id for caution in cautions_for(formula)}
    worn = " ".join(gear_for(formula)).lower()
    assert materials()[key].gear.lower() in worn


def test_signal_words_come_first() -> None:
    for house in house_formulas().values():
        signals = [bool(caution.signal) for caution in cautions_for(house.formula)]
        assert signals == sorted(signals, reverse=True)


def test_what_burned_going_in_stands_until_the_batch_was_read_neutral() -> None:
    """Never calm beside what is not known: without a reading gloves, and outside the window, it burns."""
    journal = Journal(house_formulas()["dish-gentle"].formula)
    journal.finish()
    assert "ph-unread" in {one.id for one in cautions_of(journal.progress)}
    for value, burns in ((None, False), (9.8, True), (7.2, False), (10.0, True)):
        if value is not None:
            journal.write(EntryKind.READING, data={"what": "ph", "value": value})
        found = {one.id for one in cautions_of(journal.progress)}
        assert ("caustic" in found) is burns
        assert ("ph-unread" in found) is (value is None)


def test_a_ferment_that_was_strained_needs_no_venting_and_all_else_stands() -> None:
    ferment = house_formulas()["citrus-ferment"].formula
    journal = Journal(replace(ferment, lines=(*ferment.lines, line("lavender-oil", "1 mL"))))
    before = [one.id for one in cautions_of(journal.progress)]
    journal.finish()
    after = [one.id for one in cautions_of(journal.progress)]
    assert "pressure" in before
    assert after == ["pressure-after" if one == "pressure" else one for one in before]
    assert len(after) > 1


@pytest.mark.parametrize(("wet", "said"), [(True, True), (False, False)])
def test_oxygen_bleach_is_never_closed_where_it_is_wet(wet: bool, said: bool) -> None:
    """It gives off oxygen in water; dry it keeps (common practice)."""
    more = (("water", "500 mL"),) if wet else (("citric-acid", "5 g"),)
    mixed = mix(
        ("oxygen-bleach", "50 g"),
        ("washing-soda", "50 g"),
        *more,
        family="laundry-soap" if wet else "dishwasher-powder",
    )
    assert ("oxygen-bleach-closed" in {one.id for one in cautions_for(mixed)}) is said


@pytest.mark.parametrize(("share", "taken"), [(0.049, True), (0.051, False)])
def test_caustic_is_taken_up_when_less_than_a_twentieth_is_left(share: float, taken: bool) -> None:
    """NaOH 39.997 g/mol sold at 99 %, LABSA a mean of 320 g/mol (from memory)."""
    caustic_g = 98.0 / 320.0 * 39.997 / 0.99 / (1.0 - share)
    dish = mix(
        ("water", "800 g"), ("caustic-soda", f"{caustic_g:.9f} g"), ("labsa", "100 g", "98 %"), family="dish-liquid"
    )  # fmt: skip
    journal = Journal(dish)
    journal.finish()
    assert bool(taken_up(journal.progress)) is taken


def test_cautions_fold_once_something_was_done_but_for_what_bites() -> None:
    dish = house_formulas()["dish-gentle"].formula
    plan = plan_of(dish)
    start = Progress(dish, plan, ())
    assert cautions_now(start) == (cautions_for(dish), ())
    day = datetime(2026, 5, 1, tzinfo=UTC)
    first = start.tasks[0].line
    assert first is not None
    poured = Entry(
        1, EntryKind.POUR, day, line=first, amount=Quantity(plan[first].g, "g"), data={"planned": plan[first].g}
    )
    progress = Progress(dish, plan, (poured,))
    now, read = cautions_now(progress)
    assert {*now, *read} == set(cautions_for(dish))
    assert not {*now} & {*read}
    assert all(one in now for one in cautions_for(dish) if one.signal)  # every danger stays
    here = progress.task.line if progress.task else None
    assert here is not None
    assert all(one not in read for one in cautions_for(dish) if one.id in dish.lines[here].material.cautions)


def test_a_ferment_at_rest_keeps_its_pressure_in_sight() -> None:
    ferment = house_formulas()["citrus-ferment"].formula
    plan = plan_of(ferment)
    day = datetime(2026, 5, 1, tzinfo=UTC)
    entries = tuple(
        Entry(at + 1, EntryKind.POUR, day, line=at, amount=Quantity(one.g, "g"), data={"planned": one.g})
        for at, one in enumerate(plan)
    )
    progress = Progress(ferment, plan, entries)
    now, _ = cautions_now(progress)
    assert (progress.task is None or progress.task.kind is TaskKind.WAIT) <= ("pressure" in {one.id for one in now})
