"""What a batch comes to where something was left out, put in late, or is from another bottle."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import EntryKind, TaskKind, deviation_of, keeps_of, left_out, not_in_yet
from firkin.core.catalogue import find
from firkin.core.formula import Step, house_formulas, reckon, without
from firkin.core.measures import Quantity
from journals import RUB, Journal
from mixes import mix

HOUSE = {key: house.formula for key, house in house_formulas().items()}
#: Three lines measured as they are, and no mark.
POWDERLESS = mix(("water", "900 g"), ("glycerol", "90 g"), ("salt", "10 g"), family="liquid-soap")
#: A line of a house formula that is not its only one, by key and position.
LINES = [(key, at) for key, formula in HOUSE.items() if len(formula.lines) > 1 for at in range(len(formula.lines))]


def out(journal: Journal, at: int, **data: object) -> None:
    """Leave a line out, as the bench writes it."""
    progress = journal.progress
    asked = {} if at == progress.topping else {"planned": progress.plan[at].g * progress.factor}
    journal.write(EntryKind.LEFT_OUT, line=at, data={**asked, **data})


@pytest.mark.parametrize(("key", "at"), LINES)
def test_without_a_line_it_is_the_formula_without_it(key: str, at: int) -> None:
    """Nothing measured yet: the rest as planned, reckoned by itself. A mark stays a mark."""
    formula = HOUSE[key]
    journal = Journal(formula)
    topping = journal.progress.topping
    worked = reckon(formula).lines
    out(journal, at)
    result = journal.progress.result
    assert [line.material.id for line in result.formula.lines] == [
        line.material.id for i, line in enumerate(formula.lines) if i != at
    ]
    there = [one.mass_g for i, one in enumerate(worked) if i not in (at, topping)]
    left = [one.mass_g for i, one in enumerate(result.lines) if i + (i >= at) != topping]
    assert left == pytest.approx(there, rel=1e-6)
    if topping is not None and at != topping and formula.make is not None and formula.make.kind == "volume":
        assert result.total.volume_mL == pytest.approx(formula.make.mL, rel=1e-6)
    assert journal.progress.masses_g[at] == 0.0


@given(st.sampled_from(LINES), st.integers(0, 12))
def test_an_undone_left_out_is_as_if_it_never_was(place: tuple[str, int], done: int) -> None:
    key, at = place
    journal = Journal(HOUSE[key])
    for _ in range(done):
        if journal.progress.unfinished:
            journal.do()
    before = journal.progress
    out(journal, at)
    journal.write(EntryKind.UNDO, undoes=len(journal.entries))
    after = journal.progress
    assert after.masses_g == before.masses_g
    assert (after.position, after.turn, after.pending) == (before.position, before.turn, before.pending)


@given(st.floats(1.03, 1.9))
def test_what_was_left_out_is_asked_for_as_it_would_be_now(factor: float) -> None:
    """Left out, then the batch scaled: late, as much more of it as of everything else."""
    journal = Journal(RUB)
    out(journal, 1)
    journal.do(factor)
    journal.scale(factor)
    assert journal.progress.asked_now(1).mL == pytest.approx(15.0 * factor)
    other = Journal(RUB)
    other.do(factor)
    other.scale(factor)
    out(other, 1)
    assert other.progress.asked_now(1).mL == pytest.approx(15.0 * factor)


def test_the_second_time_left_out_counts_and_put_in_between_does_not() -> None:
    journal = Journal(RUB)
    journal.do()
    out(journal, 1)
    journal.write(EntryKind.POUR, line=1, amount=Quantity(15.0, "mL"), data={"planned": 18.915})
    assert 1 in journal.progress.measured
    out(journal, 1, void=True)
    progress = journal.progress
    assert set(progress.left_out) == {1}
    assert progress.taken_g(1) == 0.0
    assert progress.left_out[1].void


def test_of_two_waters_the_one_that_is_meant_is_left_out() -> None:
    """Crosspolymer gel has water to wet the polymer and water in the end."""
    formula = HOUSE["crosspolymer-gel"]
    first, second = formula.lines_of("water")
    for at in (first, second):
        journal = Journal(formula)
        out(journal, at)
        assert journal.progress.masses_g[at] == 0.0
        assert journal.progress.masses_g[first + second - at] > 0.0


@pytest.mark.parametrize(("strength", "lower"), [("70 %", 56.0), ("96 %", 76.8)])
def test_from_another_bottle_the_same_volume_counts_with_its_strength(strength: str, lower: float) -> None:
    """By hand: 800 mL of it in a litre, by label arithmetic."""
    journal = Journal(RUB)
    journal.finish()
    journal.write(EntryKind.BOTTLE, line=0, data={"strength": str(find("ethanol").read_strength(strength))})
    progress = journal.progress
    assert progress.result.main.label == pytest.approx(lower, abs=0.01)
    assert progress.result.total.volume_mL == pytest.approx(1000.0)
    assert not progress.unfinished


def test_a_bottle_corrected_before_it_was_planned_anew_changes_nothing_more() -> None:
    journal = Journal(RUB)
    journal.do()
    journal.write(EntryKind.BOTTLE, line=0, data={"strength": "70 % v/v"})
    assert journal.progress.plan[0].strength.value == 70.0
    journal.write(EntryKind.RESCUE, data={"adds": True})
    assert journal.progress.plan[0].strength.value == 96.0  # as it is planned since, which knew of it


def test_late_lines_come_on_top_of_the_mark_and_early_ones_within_it() -> None:
    """15 mL of glycerol over a mark of a litre, against 15 mL within it."""
    late, early = Journal(RUB), Journal(RUB)
    late.do()
    out(late, 1)
    late.do()  # topped up to the litre without it
    late.write(EntryKind.POUR, line=1, amount=Quantity(15.0, "mL"), data={"planned": 18.915})
    early.finish()
    assert early.progress.result.total.volume_mL == pytest.approx(1000.0)
    assert late.progress.result.total.volume_mL == pytest.approx(1015.0, abs=0.2)
    assert late.progress.masses_g[2] > early.progress.masses_g[2]


def test_nothing_is_left_when_everything_was_left_out() -> None:
    journal = Journal(RUB)
    for at in range(3):
        out(journal, at)
    with pytest.raises(Exception, match="there is nothing in it"):
        _ = journal.progress.result


def test_the_formula_itself_stays_whole() -> None:
    """What was left out stands in the formula, so that it can be put in."""
    journal = Journal(RUB)
    out(journal, 1)
    assert without(RUB, 1) is not None
    assert len(journal.progress.as_measured().lines) == 3
    assert journal.progress.task.line == 0
    assert [task.line for task in journal.progress.tasks if task.kind is TaskKind.TOP_UP] == [2]


@pytest.mark.parametrize(("void", "stands"), [(False, (3,)), (True, ())])
def test_what_never_was_of_the_batch_stands_against_no_step(void: bool, stands: tuple[int, ...]) -> None:
    """A powder whose last step speaks of the citric acid, left out or taken out of the record."""
    powder = HOUSE["powder-soft"]
    powder = replace(powder, steps=(*powder.steps, Step("mix", "See that the citric acid is even.")))
    journal = Journal(powder)
    out(journal, 3, void=void)
    last = journal.progress.tasks[-1]
    assert not_in_yet(journal.progress, last) == stands


@pytest.mark.parametrize(("gone", "days"), [(2, 300.0), (4, 28.0)])
def test_what_its_maker_says_of_its_keeping_holds_while_its_preservative_is_in(gone: int, days: float) -> None:
    """Soap from bars keeps 28 days without one (common practice, no source), whatever its maker wrote of it."""
    soap = replace(HOUSE["bar-soap-liquid"], keep_days=300.0)
    journal = Journal(soap)
    out(journal, gone)
    assert soap.lines[4].material.id == "phenoxyethanol"
    assert keeps_of(journal.progress) == days


def test_a_cup_of_either_bottle_is_as_much_as_was_asked_for() -> None:
    """800 mL were asked for and poured; told of a weaker bottle, which weighs more, nothing is over and nothing lacks."""
    journal = Journal(RUB)
    journal.do()
    asked = journal.entries[-1]
    journal.entries[-1] = replace(asked, data={**asked.data, "asked_mL": 800.0, "strength": "96 % v/v"})
    journal.write(EntryKind.BOTTLE, line=0, data={"strength": "50 % v/v"})
    progress = journal.progress
    heavier = progress.grams(0, Quantity(800.0, "mL"))
    assert heavier == pytest.approx(800 * 0.93017, rel=1e-3)  # g/mL of 50 % v/v: OIML R 22
    assert progress.grams_asked(0, progress.measured[0]) == pytest.approx(heavier)
    assert deviation_of(progress) is None
    journal.scale(1.5)
    assert journal.progress.missing_g(0) == pytest.approx(0.5 * heavier)


def test_not_made_up_to_its_mark_the_label_counts_what_went_in() -> None:
    """By hand: 768 mL of pure alcohol in 800 mL + 15 mL are 94.2 % by label arithmetic, in a litre 76.8 %."""
    journal = Journal(RUB)
    out(journal, 2)
    assert journal.progress.result.main.label == pytest.approx(100 * 768 / 815, abs=0.01)
    whole = Journal(RUB)
    out(whole, 1)
    assert whole.progress.result.main.label == pytest.approx(76.8, abs=0.01)


def test_nothing_is_left_out_for_want_of_room_but_a_top_up() -> None:
    """1.3 L of alcohol in a litre: the water has no room, and is left out; with room nothing is."""
    journal = Journal(RUB)
    assert journal.progress.with_its_room() is not None
    journal.do(1.3)
    journal.write(EntryKind.DECIDE, data={"factor": 1.0, "whole": False})
    progress = journal.progress
    assert progress.overfull
    there = progress.with_its_room()
    assert set(there.left_out) == {2}
    assert there.standing[-1].number == progress.standing[-1].number + 1
    assert there.result.total.volume_mL == pytest.approx(progress.result.total.volume_mL)
    assert there.with_its_room() is there


def test_a_mark_that_was_passed_before_what_went_in_late_has_no_room_either() -> None:
    """1.3 L of alcohol, "topped up" to a litre, and glycerol later: nothing of the water is in."""
    journal = Journal(RUB)
    journal.do(1.3)
    journal.write(EntryKind.DECIDE, data={"factor": 1.0, "whole": False})
    out(journal, 1)
    journal.write(EntryKind.POUR, line=2, amount=Quantity(1.0, "L"), data={"level": True})
    assert journal.progress.has_no_room
    journal.write(EntryKind.POUR, line=1, amount=Quantity(15.0, "mL"), data={"planned": 18.915})
    assert journal.progress.has_no_room
    assert 2 in journal.progress.with_its_room().left_out


# what boiled over, and what the record shows of each line


@given(st.floats(0.3, 0.99), st.integers(1, 3))
def test_what_boils_over_takes_its_share_of_all_that_was_in(left: float, done: int) -> None:
    """By hand: of each line that was in a share ``left`` stays; what comes after is whole; no bottle gets anything back."""
    journal = Journal(POWDERLESS)
    for _ in range(done):
        journal.do()
    before = journal.progress
    journal.write(EntryKind.DECIDE, data={"left": left})
    after = journal.progress
    for at in range(3):
        share = left if at < done else 1.0
        assert after.masses_g[at] == pytest.approx(share * before.masses_g[at], rel=1e-9)
        assert after.taken_g(at) == pytest.approx(before.taken_g(at), rel=1e-9)
    assert after.taken_g(0) == pytest.approx(before.masses_g[0], rel=1e-9)


@given(st.floats(0.55, 0.95))
def test_a_preservative_follows_the_weight_of_what_boiled_over(left: float) -> None:
    """By hand: what is left of 990 g, weighed as that, is all of what went in that is still there: as planned."""
    journal = Journal(mix(("water", "900 g"), ("glycerol", "90 g"), ("phenoxyethanol", "10 g"), family="liquid-soap"))
    while journal.progress.task.line != 2:
        journal.do()
    journal.write(EntryKind.DECIDE, data={"left": left})
    journal.write(EntryKind.READING, data={"what": "mass", "value": 990.0 * left})
    assert journal.progress.by_weighing(2) == pytest.approx(1.0, rel=1e-6)


@pytest.mark.parametrize("key", sorted({key for key, _ in LINES}))
def test_the_record_shows_each_line_once_with_its_entry_and_what_was_asked(key: str) -> None:
    journal = Journal(HOUSE[key])
    journal.do()
    out_at = next(at for at in reversed(range(len(HOUSE[key].lines))) if at not in journal.progress.measured)
    out(journal, out_at)
    rows = journal.progress.recorded()
    assert [row.line for row in rows] == list(HOUSE[key].lines)
    entries = {at: row.entry.kind for at, row in enumerate(rows) if row.entry is not None}
    assert entries[out_at] is EntryKind.LEFT_OUT
    assert sum(kind is EntryKind.POUR for kind in entries.values()) == len(journal.progress.measured)
    assert [row.planned.bulk for row in rows] == [planned.bulk for planned in journal.progress.plan]


def test_the_record_keeps_the_plan_a_line_was_measured_by() -> None:
    journal = Journal(RUB)
    asked = {"planned": 20.0, "asked_mL": 16.0}
    journal.do()
    journal.write(EntryKind.POUR, line=1, amount=Quantity(16.0, "mL"), data=asked)
    row = journal.progress.recorded()[1]
    assert (row.planned.g, row.planned.mL) == (20.0, 16.0)
    assert row.planned.weighed == journal.progress.plan[1].weighed


def test_of_a_weighed_line_that_was_scaled_what_is_missing_is_asked_in_grams() -> None:
    """By hand: 300 g in, the batch half as much again, 150 g to come."""
    journal = Journal(mix(("washing-soda", "300 g"), ("borax", "200 g"), family="dishwasher-powder"))
    journal.finish()
    journal.scale(1.5)
    task = journal.progress.task
    assert journal.progress.target(task).g == pytest.approx({0: 150.0, 1: 100.0}[task.line])


@pytest.mark.parametrize("more", ["portion", "left-out"])
def test_small_doses_are_taken_out_of_their_bottle_before_the_line_is_done(more: str) -> None:
    """By hand: two doses of 10 and 5 g are 15 g."""
    dish = mix(("water", "2 L"), ("caustic-soda", "100 g", "100 %"), ("labsa", "800 g", "98 %"), family="dish-liquid")
    journal = Journal(dish)
    while journal.progress.task.line != 2:
        journal.do()
    place = journal.progress.position
    for grams in (10.0, 5.0):
        journal.write(EntryKind.PORTION, data={"task": place, "amount": grams, "reading": None})
    assert journal.progress.taken_g(2) == pytest.approx(15.0)
    if more == "left-out":
        out(journal, 2)
        assert journal.progress.taken_g(2) == 0.0


def test_what_never_was_asked_again_by_scaling_before_it_is_measured() -> None:
    """Two decisions to scale: a line that is not in is asked for by both, and one that is in by what came after it."""
    journal = Journal(RUB)
    journal.do()
    journal.scale(1.2)
    journal.scale(1.5)
    assert journal.progress.asked_now(1).mL == pytest.approx(15.0 * 1.8)
    assert journal.progress.scaled_since[0] == pytest.approx(1.8)


# what is not done as told


def test_a_step_that_lists_a_line_is_not_done_while_it_is_left_out() -> None:
    """Listed by the step, at the first step as at the last; named in words of four letters or more."""
    steps = (Step("mix", "Stir it well.", (1,)), Step("pour", "", (0,)), Step("mix", "Shake the salt in.", ()))
    mixed = mix(("ethanol", "800 mL", "96 %"), ("glycerol", "15 mL"), ("salt", "5 g"), family="other")
    journal = Journal(replace(mixed, steps=steps))
    out(journal, 1)
    out(journal, 2)
    tasks = [task for task in journal.progress.tasks if task.kind is TaskKind.DO]
    assert 2 in not_in_yet(journal.progress, tasks[-1])
    stirred = replace(tasks[-1], step=0, text="Stir it well.")
    assert not_in_yet(journal.progress, stirred) == (1,)


def test_a_top_up_left_out_asks_for_what_it_was_planned_to_be() -> None:
    journal = Journal(RUB)
    out(journal, 2)
    (one,) = left_out(journal.progress)
    assert one.amount.mL == pytest.approx(journal.progress.plan[2].mL)
    assert one.amount.mL > 0
