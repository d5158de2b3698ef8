"""A batch planned anew after something was put in besides."""

import pytest

from firkin.core.bench import EntryKind
from firkin.core.formula import house_formulas, reckon
from firkin.core.mending import with_extra
from journals import RUB, Journal
from mixes import line


@pytest.mark.parametrize("done", range(5))
def test_what_was_put_in_besides_is_a_line_more_and_the_rest_is_as_it_was(done: int) -> None:
    """By hand: 20 mL of glycerol, 1.261 g/mL; topped up to a litre still where the mark is not reached yet."""
    journal = Journal(RUB)
    for _ in range(done):
        journal.do()
    progress, extra = journal.progress, line("glycerol", "20 mL")
    formula, moves = with_extra(progress, extra)
    assert formula.lines[-1] == extra
    assert [one.material for one in formula.lines[:-1]] == [one.material for one in RUB.lines]
    assert moves["added"] == 1
    assert formula.steps[moves["step"]].lines == (len(RUB.lines),)
    assert formula.steps[moves["step"]].text
    before, after = progress.result.total, reckon(formula).total
    if done < 3:
        assert after.volume_mL == pytest.approx(1000.0)
    else:
        assert after.mass_g == pytest.approx(before.mass_g + 25.2, abs=0.1)


def test_a_preservative_follows_what_really_went_in() -> None:
    """Half as much again of the water went in and was left so: the weight is held against that."""
    soap = house_formulas()["bar-soap-liquid"].formula
    journal = Journal(soap)
    first = True
    while "preservative" not in (
        soap.lines[journal.progress.task.line].material.roles if journal.progress.task.line is not None else ()
    ):
        more = first and journal.progress.task.line is not None
        journal.do(1.5 if more else 1.0)
        if more:
            journal.write(EntryKind.DECIDE, data={"factor": 1.0, "whole": False})
            first = False
    progress = journal.progress
    went_in = sum(progress.masses_g[i] for i in progress.measured)
    journal.write(EntryKind.READING, data={"what": "mass", "value": went_in * 0.9})
    assert journal.progress.by_weighing(progress.task.line) == pytest.approx(0.9)
