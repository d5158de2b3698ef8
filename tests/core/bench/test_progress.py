"""A batch's progress from its journal alone, without a database: targets, rescues, what goes into bottles."""

from dataclasses import replace
from datetime import timedelta

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.bench import EntryKind, Progress, plan_of
from firkin.core.formula import Formula, Reckoning, Step, house_formulas, reckon
from firkin.core.measures import Quantity
from firkin.core.mending import Seen, rescue, rescued
from formulas_at_random import can_be_reckoned, formulas
from journals import BEGUN, RUB, Journal
from mixes import GEL, mix, vv

HOUSE = {key: house.formula for key, house in house_formulas().items()}


@pytest.mark.parametrize("key", HOUSE)
def test_everything_as_planned_comes_to_what_was_planned(key: str) -> None:
    journal = Journal(HOUSE[key])
    journal.finish()
    progress, planned = journal.progress, reckon(HOUSE[key])
    assert progress.result.total.mass_g == pytest.approx(planned.total.mass_g)
    assert [a.pct_ww for a in progress.result.actives] == pytest.approx([a.pct_ww for a in planned.actives])


@pytest.mark.parametrize("formula", [RUB, GEL, HOUSE["foam-plain"]])
@pytest.mark.parametrize("factor", [0.9, 1.1, 1.5])
def test_scaled_to_the_first_line_the_strength_is_what_was_planned(formula: Formula, factor: float) -> None:
    journal = Journal(formula)
    journal.do(factor)
    journal.scale(factor)
    journal.finish()
    before, after = reckon(formula), journal.progress.result
    assert after.total.mass_g == pytest.approx(factor * before.total.mass_g, rel=1e-6)
    assert after.main.lower == pytest.approx(before.main.lower, abs=1e-6)


@pytest.mark.parametrize("formula", [RUB, GEL, HOUSE["foam-plain"]])
@pytest.mark.parametrize("done", [1, 2, 3])
def test_whenever_it_is_scaled_what_is_in_and_the_rest_as_planned_come_to_the_scaled_batch(
    formula: Formula, done: int
) -> None:
    """Also after the top-up: the mark that was topped up to is then a mark on the way."""
    journal = Journal(formula)
    for _ in range(done):
        journal.do()
    journal.scale(1.5)
    before, after = reckon(formula), journal.progress.result
    assert after.total.mass_g == pytest.approx(1.5 * before.total.mass_g, rel=1e-6)
    assert [a.pct_ww for a in after.actives] == pytest.approx([a.pct_ww for a in before.actives])


def test_a_line_in_already_is_asked_for_again_after_the_batch_was_scaled() -> None:
    """By hand: 800 mL are in; 1.5 times the glycerol makes it a batch of 1.2 L of ethanol: 400 more."""
    journal = Journal(RUB)
    journal.do()
    journal.do(1.5)
    journal.scale(1.5)
    progress = journal.progress
    assert progress.more
    assert progress.target(progress.task).mL == pytest.approx(400)
    journal.finish()
    assert journal.progress.result.total.volume_mL == pytest.approx(1500)


def test_an_undo_takes_its_entry_out_and_stays_itself() -> None:
    journal = Journal(RUB)
    poured = journal.do()
    journal.write(EntryKind.UNDO, undoes=poured.number)
    progress = journal.progress
    assert progress.position == 0
    assert progress.last is None
    assert [entry.kind for entry in progress.standing] == [EntryKind.UNDO]


def test_a_timer_runs_from_its_own_minute_and_additions_are_counted() -> None:
    gel = replace(GEL, steps=tuple(replace(step, timer_h=0.5) for step in GEL.steps))
    journal = Journal(gel)
    task = journal.progress.tasks[2]
    assert journal.progress.timer_end(task) is None
    journal.write(EntryKind.TIMER, data={"task": 2, "hours": 0.5})
    assert journal.progress.timer_end(task) == BEGUN + timedelta(minutes=31)
    journal.write(EntryKind.PORTION, data={"task": 2})
    assert (journal.progress.portions_in(task), journal.progress.portions_in(journal.progress.tasks[0])) == (1, 0)


def test_a_rescue_plans_anew_from_what_is_in() -> None:
    journal = Journal(RUB)
    journal.do(1.2)
    journal.scale(1.2)
    journal.finish()
    help_ = rescue("weak", journal.progress.result, Seen(now=vv(55.0), stock=(RUB.lines[0].material, vv(96.0))))
    formula = rescued(journal.progress, help_, vv(55.0))
    before = journal.progress.result
    journal.write(EntryKind.RESCUE, data={"adds": True})
    journal.formula, journal.plan = formula, plan_of(formula)
    progress = journal.progress
    assert progress.factor == 1.0
    assert progress.target(progress.task).mL == pytest.approx(help_.additions[0].amount.mL)
    assert reckon(formula).total.mass_g > before.total.mass_g
    counted = reckon(replace(formula, lines=formula.lines[:-1])).main.true
    assert counted == pytest.approx(55.0, abs=0.02)  # the reading, not the record


@given(st.sampled_from(sorted(HOUSE)), st.floats(min_value=0, max_value=20))
def test_what_is_poured_for_bottles_comes_to_what_is_in_them(key: str, cut: float) -> None:
    progress = Progress(formula := replace(HOUSE[key], cut=cut), plan_of(formula), ())
    batch, water = progress.poured_for(progress.to_fill_mL)
    assert batch == pytest.approx(progress.result.total.volume_mL)
    assert water == pytest.approx(batch * cut)
    assert progress.to_fill_mL <= batch + water + 1e-6 * (batch + water) or not progress.result.main
    assert progress.in_bottles.total.mass_g == pytest.approx(progress.result.total.mass_g + water * 0.9982, rel=1e-4)


def _as_planned(formula: Formula) -> list[Progress]:
    """A batch with nothing poured, and with everything poured as it was asked for."""
    journal = Journal(formula)
    begun = journal.progress
    journal.finish()
    return [begun, journal.progress]


def _said(result: Reckoning) -> list[tuple[object, ...]]:
    """Strengths, to the last digit a page shows, and verdicts."""
    strengths = [
        (one.active, *(f"{value:.5g}" for value in (one.label, one.true, one.low, one.high))) for one in result.actives
    ]
    return [*strengths, *((one.guideline, one.active, one.verdict) for one in result.verdicts)]


def test_a_gel_by_weight_whose_water_goes_in_first_says_one_strength() -> None:
    """62.6 % w/w ethanol is 70.2 % v/v (OIML R 22), on the sheet and on the bench."""
    gel = mix(
        ("water", "q.s."), ("xanthan-gum", "0.5 %"), ("ethanol", "66.72 %", "96 %"), make="1 kg", family="gel", basis="weight",
        guidelines=("hospital-70",), steps=(Step("water", "", (0,)), Step("gum", "", (1,)), Step("alcohol", "", (2,))),
    )  # fmt: skip
    sheet = reckon(gel)
    assert sheet.main.lower == pytest.approx(70.2, abs=0.1)
    for progress in _as_planned(gel):
        assert _said(progress.result) == _said(sheet)


@pytest.mark.parametrize("key", house_formulas())
def test_every_house_formula_says_one_strength_on_its_sheet_and_at_the_bench(key: str) -> None:
    formula = house_formulas()[key].formula
    for progress in _as_planned(formula):
        assert _said(progress.result) == _said(reckon(formula))


@given(formulas())
def test_any_formula_says_one_strength_on_its_sheet_and_at_the_bench(formula: Formula) -> None:
    assume(can_be_reckoned(formula))
    for progress in _as_planned(formula):
        assert _said(progress.result) == _said(reckon(formula))


def test_a_weight_is_a_weight_whatever_the_line_is() -> None:
    assert Journal(RUB).progress.grams(0, Quantity(0.5, "kg")) == 500.0


def test_the_scale_is_foretold_for_what_is_still_lacking() -> None:
    """By hand: 600 of 800 mL of 96 % (0.80742 g/mL, OIML R 22) are in; with the rest the scale shows all 800 mL."""
    journal = Journal(RUB)
    journal.do(0.75)
    journal.write(EntryKind.DECIDE, data={"factor": 1.0, "whole": False, "add": 0})
    progress = journal.progress
    assert progress.more and progress.lacking
    assert progress.weighs_after_g(progress.task) == pytest.approx(800 * 0.80742, rel=1e-4)


def test_the_first_line_asked_for_again_is_another_turn() -> None:
    """A page left open at the first line does not answer the second time it is asked for."""
    journal = Journal(RUB)
    before = journal.progress.turn
    journal.do(0.75)
    journal.write(EntryKind.DECIDE, data={"factor": 1.0, "whole": False, "add": 0})
    assert journal.progress.task.line == 0
    assert journal.progress.turn != before
