"""Too much or too little: asked about beyond the tolerance, and every way out comes to what it says."""

from collections.abc import Iterator
from functools import partial
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import EntryKind, TaskKind, Vessel, choices, decided, deviation_of, in_measures
from firkin.core.formula import Formula, house_formulas, reckon, with_steps
from firkin.core.kitchen import kitchens
from journals import RUB, Journal
from kept import same_as_kept
from mixes import GEL


@given(st.floats(0.5, 2.0))
def test_two_per_cent_is_let_pass_and_more_is_asked_about(factor: float) -> None:
    journal = Journal(RUB)
    journal.do(factor)
    deviation = deviation_of(journal.progress)
    if abs(factor - 1) < 0.0199:
        assert deviation is None
    if abs(factor - 1) > 0.0201:
        assert deviation.over is (factor > 1)
        assert deviation.off_pct == pytest.approx(100 * abs(factor - 1))
        assert deviation.planned.mL == pytest.approx(800)
        journal.write(EntryKind.DECIDE, data={"factor": 1.0, "whole": False})
        assert deviation_of(journal.progress) is None


@given(st.floats(1.03, 2.0), st.integers(0, 2))
def test_what_scaling_promises_is_what_it_comes_to(factor: float, at: int) -> None:
    journal = Journal(GEL)
    for _ in range(at):
        journal.do()
    journal.do(factor)
    deviation = deviation_of(journal.progress)
    if deviation is None:
        return
    scaled = next(choice for choice in choices(journal.progress, deviation) if choice.key == "scale")
    journal.scale(deviation.factor)
    journal.finish()
    result = journal.progress.result
    assert result.total.mass_g == pytest.approx(scaled.result.total.mass_g, rel=1e-4)
    assert result.main.lower == pytest.approx(scaled.result.main.lower, abs=0.01)
    assert bool(scaled.adds) is (at > 0)


def test_a_batch_that_would_overflow_its_vessel_is_not_scaled() -> None:
    journal = Journal(RUB)
    journal.do(1.5)
    deviation = deviation_of(journal.progress)
    small, large = (choices(journal.progress, deviation, Vessel("the jug", size)) for size in (1400.0, 1600.0))
    assert "1500 mL, more than the jug holds" in small[1].trouble
    assert not large[1].trouble


def poured_up_to(journal: Journal, factor: float) -> Journal:
    """A rub with everything in, topped up to ``factor`` of its mark."""
    while journal.progress.task.kind is not TaskKind.TOP_UP:
        journal.do()
    journal.do(factor)
    return journal


@given(st.floats(0.3, 0.97), st.integers(0, 1))
def test_what_is_lacking_is_asked_for_and_makes_it_what_was_planned(factor: float, at: int) -> None:
    journal = Journal(RUB)
    for _ in range(at):
        journal.do()
    short = journal.do(factor)
    deviation = deviation_of(journal.progress)
    add = choices(journal.progress, deviation)[0]
    assert add.key == "add"
    whole = reckon(RUB)
    assert add.result.main.lower == pytest.approx(whole.main.lower)
    journal.write(EntryKind.DECIDE, data=decided("add", deviation))
    progress = journal.progress
    assert (progress.lacking, progress.task.line) == (True, short.line)
    assert progress.target(progress.task).mL == pytest.approx((1 - factor) * (800, 15)[at])
    journal.finish()
    assert journal.progress.result.main.lower == pytest.approx(whole.main.lower)
    assert journal.progress.result.total.volume_mL == pytest.approx(1000)


@given(st.floats(0.9, 1.2))
def test_a_top_up_off_its_mark_is_asked_about_like_any_line(factor: float) -> None:
    """It was not: 3 % too much water passed in silence."""
    progress = poured_up_to(Journal(RUB), factor).progress
    deviation = deviation_of(progress)
    if abs(factor - 1) < 0.0199:
        assert deviation is None
    if abs(factor - 1) > 0.0201:
        assert deviation.off_pct == pytest.approx(100 * abs(factor - 1))
        assert deviation.planned.mL == pytest.approx(1000)
        keys = [choice.key for choice in choices(progress, deviation)]
        assert keys == (["accept", "scale"] if factor > 1 else ["add", "accept"])


@given(st.floats(1.03, 1.3))
def test_scaled_to_a_top_up_the_water_in_it_is_enough_for_the_whole(factor: float) -> None:
    """Scaling to the mark would leave it too weak: the batch grows as the water did."""
    journal = poured_up_to(Journal(RUB), factor)
    deviation = deviation_of(journal.progress)
    water = journal.progress.masses_g[2]
    scaled = choices(journal.progress, deviation)[1].result
    journal.write(EntryKind.DECIDE, data=decided("scale", deviation))
    journal.finish()
    result = journal.progress.result
    assert result.lines[2].mass_g == pytest.approx(water, rel=1e-6)
    assert result.total.mass_g == pytest.approx(scaled.total.mass_g, rel=1e-6)
    assert result.main.lower == pytest.approx(reckon(RUB).main.lower)


def test_topped_up_short_of_the_mark_the_mark_is_asked_for_again() -> None:
    journal = poured_up_to(Journal(RUB), 0.95)
    journal.write(EntryKind.DECIDE, data=decided("add", deviation_of(journal.progress)))
    progress = journal.progress
    assert (progress.task.kind, progress.target(progress.task).mL) == (TaskKind.TOP_UP, 1000)
    assert progress.result.total.volume_mL == pytest.approx(1000)


def short(progress) -> str:
    result = progress.result
    verdicts = [f"{one.verdict} {one.words}" for one in result.verdicts]
    strength = f"{result.main.lower:.5g} %" if result.main is not None else "no strength"
    return ", ".join([f"{result.total.volume_mL:.6g} mL", strength, *verdicts])


def went_wrong(formula, at: int, factor: float) -> Iterator[str]:
    """A batch with one line of another amount: what is asked, and where each answer leads."""
    journal = Journal(formula)
    for _ in range(at):
        journal.do()
    journal.do(factor)
    deviation = deviation_of(journal.progress)
    if deviation is None:
        yield "nothing asked"
        return
    name = formula.lines[deviation.line].material.id
    yield f"{name}: {deviation.off_pct:.4g} % {'over' if deviation.over else 'under'} {deviation.planned.words}"
    jug = Vessel("the jug", 1.2 * reckon(formula).total.volume_mL)
    for choice in choices(journal.progress, deviation, jug):
        yield f"  {choice.key}: {choice.words}. {choice.adds} {choice.trouble}".rstrip()
        gone_on = Journal(formula)
        gone_on.entries = list(journal.entries)
        gone_on.write(EntryKind.DECIDE, data=decided(choice.key, deviation))
        yield f"    promised {choice.result.total.volume_mL:.6g} mL, at hand {short(gone_on.progress)}"
        asked = []
        for _ in range(60):
            task = gone_on.progress.task
            if task is None:
                break
            if task.line is not None and not asked:
                ways = [in_measures(gone_on.progress, task, kitchen) or "-" for kitchen in kitchens().values()]
                yield f"    in measures {' | '.join(ways)}"
            if task.line is not None:
                asked.append(f"{formula.lines[task.line].material.id} {gone_on.progress.target(task).words}")
            gone_on.do()
        yield f"    then {'; '.join(asked) or 'nothing to measure'}"
        yield f"    made {short(gone_on.progress)}; fills {gone_on.progress.to_fill_mL:.6g} mL"


def test_what_is_asked_and_where_it_leads_is_as_kept() -> None:
    """A tenth too much, a tenth too little and half as much again of each line of the house's formulas."""
    sections = {key: partial(wherever_it_leads, house.formula) for key, house in house_formulas().items()}
    same_as_kept(Path(__file__).parent / "choices.txt", sections)


def wherever_it_leads(house: Formula) -> str:
    formula, said = with_steps(house), []
    journal = Journal(formula)
    for at in range(60):
        task = journal.progress.task
        if task is None:
            break
        if task.line is not None:
            said += [words for factor in (1.1, 0.9, 1.5) for words in went_wrong(formula, at, factor)]
        journal.do()
    return "\n".join(said)
