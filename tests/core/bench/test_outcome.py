"""What a batch comes to where something was left out, put in late, or is from another bottle."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import EntryKind, TaskKind, deviation_of, keeps_of, not_in_yet
from firkin.core.catalogue import find
from firkin.core.formula import Step, house_formulas, reckon, without
from firkin.core.measures import Quantity
from journals import RUB, Journal

HOUSE = {key: house.formula for key, house in house_formulas().items()}
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
