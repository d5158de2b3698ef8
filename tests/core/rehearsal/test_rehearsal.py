"""Whole batches of every family, played: no fault, every amount in its event, every verdict told once more from those."""

import math
from collections import Counter
from typing import Any

import pytest

from firkin.core.bench import tasks_of
from firkin.core.catalogue import Verdict, find, rule_line
from firkin.core.densities import ALCOHOLS
from firkin.core.errors import CannotRead
from firkin.core.formula import Formula, house_formulas, reckon, steps_of, tops_last
from firkin.core.measures import read_strength
from firkin.core.questions import neutrality
from firkin.core.rehearsal import REHEARSED, Rehearsal, cares, rehearse
from firkin.core.rehearsal.care import SLIPS
from firkin.core.tolerance import how_neutral, how_sure, measures_said

HOUSE = {key: one.formula for key, one in house_formulas().items()}


def amounts(played: Rehearsal) -> dict[int, float]:
    """Grams of each line, added up from the events alone."""
    there: dict[int, float] = {}
    for event in played.events:
        if event.do in ("pour", "top"):
            line = event.more["line"]
            there[line] = there.get(line, 0.0) + event.more["amount_g"]
        elif "left" in event.more:
            there = {line: grams * event.more["left"] for line, grams in there.items()}
    return there


def told_again(played: Rehearsal) -> dict[str, float]:
    """The true strength of each alcohol in % v/v, by masses: the events' grams, their bottles, the batch's volume."""
    strengths: dict[int, Any] = {}
    for event in played.events:
        if event.do in ("pour", "top") and "strength" in event.more:
            strengths[event.more["line"]] = read_strength(event.more["strength"])
    pure: dict[str, float] = {}
    for line, grams in amounts(played).items():
        one = played.really.formula.lines[line]
        if one.material.alcohol is not None:
            alcohol = ALCOHOLS[one.material.id]
            fraction = alcohol.mass_fraction(strengths.get(line) or one.counted_strength)
            pure[one.material.id] = pure.get(one.material.id, 0.0) + grams * fraction / alcohol.pure_density
    return {key: 100.0 * mL / played.really.total.volume_mL for key, mL in pure.items()}


def checked(formula: Formula, seed: int, care: str) -> Rehearsal:
    """A rehearsal with everything that must hold of any."""
    played = rehearse(formula, seed, care)
    there = amounts(played)
    for line, worked in enumerate(played.really.lines):
        assert worked.mass_g == pytest.approx(there.get(line, 0.0), rel=1e-9, abs=1e-9)
    assert sum(there.values()) == pytest.approx(played.really.total.mass_g, rel=1e-9)
    trues = told_again(played)
    for active, true in trues.items():
        assert played.really.active(active).true == pytest.approx(true, rel=1e-6)
    for standing in played.really.verdicts:
        limit = rule_line(standing.guideline).limit_for(standing.active)
        true = trues.get(standing.active)
        if true is not None and limit.minimum is not None and true < limit.minimum - 0.01:
            assert standing.verdict in (Verdict.SHORT, Verdict.TOO_STRONG)
    times = [event.at_min for event in played.events]
    assert times == sorted(times)
    rests = sum(event.more["minutes"] for event in played.events if event.do == "rest")
    planned = sum(step.wait_h or 0.0 for step in steps_of(played.record.formula)) * 60.0
    assert rests == pytest.approx(planned)
    assert played.minutes >= rests
    assert not played.record.unfinished
    assert played.label.words[0] == REHEARSED
    assert [event.do for event in played.events[-2:]] == ["fill", "label"]
    for slip in played.slips:
        assert slip.more["what"] in SLIPS
    return played


@pytest.mark.parametrize("key", sorted(HOUSE))
def test_every_family_is_played_twenty_times_without_a_fault(key: str) -> None:
    for seed in range(20):
        checked(HOUSE[key], seed, list(cares())[seed % 3])


@pytest.mark.long
@pytest.mark.parametrize("key", sorted(HOUSE))
def test_every_family_is_played_a_thousand_times_without_a_fault(key: str) -> None:
    for seed in range(1000):
        checked(HOUSE[key], 10_000 + seed, list(cares())[seed % 3])


#: House formulas, and the tools they are measured with.
_MEASURED = (
    ("who-one", ["cup"]),
    ("who-two", ["jug", "scale-1g"]),
    ("aloe-sixty", ["cup"]),
    ("xanthan-gel", ["cylinder", "scale"]),
    ("dish-gentle", ["cup", "scale-1g"]),
    ("chlorine-spills", ["spoon"]),
)


def _spread_as_tolerance_says(key: str, tools: list[str], count: int) -> None:
    """JCGM 101:2008: the same distribution, drawn by two programs that share no line of it."""
    formula = HOUSE[key]
    scale = next((tool for tool in tools if tool.startswith("scale")), tools[0])
    weighed = [formula.weighed(i) for i in range(len(formula.lines))]
    by_line = [scale if one else tools[0] for one in weighed]
    if formula.topped_up is not None and tops_last(formula):
        by_line[formula.topped_up] = scale if formula.make.kind == "mass" else tools[0]
    portions = {task.line: task.portions for task in tasks_of(formula)}
    measures = measures_said(formula, [{"tool": tool, "fillings": portions[i]} for i, tool in enumerate(by_line)])
    sure, spare = how_sure(formula, measures, draws=50_000, seed=1), how_neutral(formula, measures, 50_000, 1)
    played = [rehearse(formula, seed, "usual", tools, slips=False) for seed in range(count)]
    assert not any(one.slips for one in played)
    _alike([one.really.active(sure.active).lower for one in played], sure.mean, sure.sd)
    if spare is not None:
        ended = [neutrality(one.really) for one in played]
        _alike([100.0 * (1.0 - one.acid_mol_h / one.base_mol_h) for one in ended if one], spare.mean, spare.sd)


def _alike(drawn: list[float], mean: float, sd: float) -> None:
    """A mean within four of its standard errors; a spread within what so many draws allow, six of its own."""
    found = sum(drawn) / len(drawn)
    spread = math.sqrt(sum((value - found) ** 2 for value in drawn) / len(drawn))
    assert found == pytest.approx(mean, abs=4.5 * sd / math.sqrt(len(drawn)) + 1e-6)
    assert spread == pytest.approx(sd, rel=6.0 / math.sqrt(2.0 * len(drawn)), abs=1e-6)


@pytest.mark.parametrize(
    ("key", "tools"),
    [
        (key, tools) if key == "aloe-sixty" else pytest.param(key, tools, marks=pytest.mark.long)
        for key, tools in _MEASURED
    ],
)
def test_rehearsals_without_slips_spread_as_tolerance_says(key: str, tools: list[str]) -> None:
    _spread_as_tolerance_says(key, tools, 300)


@pytest.mark.long
@pytest.mark.parametrize(("key", "tools"), _MEASURED)
def test_ten_thousand_rehearsals_spread_as_tolerance_says(key: str, tools: list[str]) -> None:
    _spread_as_tolerance_says(key, tools, 10_000)


def test_the_same_seed_plays_the_same_and_another_another() -> None:
    one, again, other = (rehearse(HOUSE["who-one"], seed, "hasty") for seed in (3, 3, 4))
    assert one.events == again.events
    assert one.label == again.label
    assert one.events != other.events


@pytest.mark.long
def test_slips_come_as_often_as_the_care_says_and_are_seen_as_often() -> None:
    """Lines of a plain mix, three to a batch; four standard deviations of a binomial either way."""
    for care in cares().values():
        counted: Counter[str] = Counter()
        seen = 0
        for seed in range(700):
            played = rehearse(HOUSE["who-two"], seed, care.id)
            of_three = [slip for slip in played.slips if slip.more["line"] < 3]
            counted.update(slip.more["what"] for slip in of_three)
            seen += sum(slip.more["noticed"] for slip in of_three)
        for kind in ("left-out", "over", "short", "twice"):
            chance, tries = care.slips[kind], 2100
            assert abs(counted[kind] - chance * tries) <= 4.0 * math.sqrt(chance * tries) + 1.0
        total = sum(counted.values())
        assert abs(seen - care.notices * total) <= 4.0 * math.sqrt(total * care.notices * (1.0 - care.notices)) + 1.0


#: Seeds that had a slip alone when this was written; others are tried where they have it no more.
SEEDS = {
    ("left-out", False): (86,),
    ("left-out", True): (130,),
    ("wrong-bottle", False): (80,),
    ("wrong-bottle", True): (109,),
}


def played_with(slip: str, noticed: bool, line: int | None = None, key: str = "who-one") -> Rehearsal:
    """A rehearsal with this slip alone."""
    for seed in (*SEEDS.get((slip, noticed), ()), *range(3000)):
        played = rehearse(HOUSE[key], seed, "hasty")
        told = [(one.more["what"], one.more["noticed"]) for one in played.slips]
        if told == [(slip, noticed)] and line in (None, played.slips[0].more["line"]):
            return played
    raise AssertionError("no such slip")


def test_what_was_left_out_unseen_is_missing_and_in_the_record() -> None:
    played = played_with("left-out", noticed=False, line=2)
    assert played.really.lines[2].mass_g == 0.0
    assert 2 in played.record.measured


@pytest.mark.long
def test_what_was_left_out_and_seen_goes_in_late() -> None:
    played = played_with("left-out", noticed=True, line=2)
    done = [(event.do, event.more.get("line")) for event in played.events]
    assert done.index(("fix", 2)) < done.index(("pour", 2))
    assert played.really.lines[2].mass_g > 0.0
    assert not played.record.left_out


def test_twice_unseen_is_twice_as_much() -> None:
    played = played_with("twice", noticed=False, line=1)
    as_planned = reckon(HOUSE["who-one"]).lines[1].mass_g
    assert played.really.lines[1].mass_g == pytest.approx(2.0 * as_planned, rel=0.06)
    assert played.record.masses_g[1] == pytest.approx(as_planned)


def test_short_and_seen_is_put_right() -> None:
    played = played_with("short", noticed=True, line=0)
    assert [event.more["what"] for event in played.events if event.do == "fix"] == ["add"]
    assert played.record.result.main.lower == pytest.approx(80.0, abs=0.1)


def test_the_wrong_bottle_is_weaker_and_once_seen_it_is_written_down_and_lifted() -> None:
    unseen = played_with("wrong-bottle", noticed=False)
    assert unseen.really.main.lower < 65.0
    assert unseen.record.result.main.lower == pytest.approx(80.0, abs=0.1)
    assert unseen.label.words[1].startswith("Does not meet")
    seen = played_with("wrong-bottle", noticed=True)
    assert [event.more["what"] for event in seen.events if event.do == "fix"] == ["bottle", "weak"]
    lifted = seen.really.formula.lines[-1]
    assert (lifted.material.id, len(seen.really.lines)) == ("ethanol", 5)
    assert seen.record.result.main.lower >= 75.0


def test_without_slips_nothing_is_mended_either() -> None:
    """A formula that is short by itself stays so: a rehearsal shows the plan as it is."""
    formula = HOUSE["aloe-sixty"]
    weak = formula.lines[0].__class__(find("ethanol"), formula.lines[0].amount, read_strength("50 %"))
    short = Formula("Short", (weak, *formula.lines[1:]), "aloe-rub", guidelines=("cdc-alcohol-60",))
    played = rehearse(short, 1, "usual", slips=False)
    assert [event.do for event in played.events if event.do in ("fix", "slip")] == []
    assert played.really.verdicts[0].verdict is Verdict.SHORT


@pytest.mark.parametrize(("care", "tools"), [("sloppy", ()), ("usual", ("spade",)), ("usual", ("cup", ""))])
def test_what_is_no_care_and_no_tool_is_refused(care: str, tools: tuple[str, ...]) -> None:
    with pytest.raises(CannotRead):
        rehearse(HOUSE["who-one"], 1, care, tools)
