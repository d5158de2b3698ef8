"""Where a rescue goes in, and what is judged before it is offered: every trouble, at every point of the making."""

from dataclasses import replace
from functools import partial
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.audit import Severity, audit
from firkin.core.bench import EntryKind, TaskKind, plan_of, readings_of
from firkin.core.catalogue import Verdict, families, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Step, house_formulas, reckon
from firkin.core.measures import QUARANTINE_H
from firkin.core.mending import TROUBLES, Seen, as_read, offer, rescue
from journals import Journal
from kept import same_as_kept
from mixes import mix, vv

HOUSE = {key: house.formula for key, house in house_formulas().items()}
SEEN = Seen(stock=(find("ethanol"), vv(96.0)), mass_g=150.0)


def begun(formula: Formula, done: int) -> Journal:
    """A batch with its first tasks done as planned, an addition and a timer at the next."""
    journal = Journal(formula)
    for _ in range(done):
        if journal.progress.unfinished:
            journal.do()
    task = journal.progress.task
    if task is not None:
        place = journal.progress.tasks.index(task)
        if task.portions > 1:
            journal.write(EntryKind.PORTION, data={"task": place})
        journal.write(EntryKind.TIMER, data={"task": place, "hours": 1.0})
    return journal


def amended(journal: Journal, found) -> None:
    journal.write(EntryKind.RESCUE, data=found.data)
    journal.formula, journal.plan = found.formula, plan_of(found.formula)


def done_of(progress) -> list[tuple]:
    """What is done: a step that pours several may be done in part."""
    return [(task.line, task.do, task.text) for task in progress.tasks if progress.is_done(task)]


EVERY = st.tuples(st.sampled_from(sorted(HOUSE)), st.sampled_from(sorted(TROUBLES)), st.integers(0, 14))


def offered(case):
    """A batch as far as a case says, and what it is offered that goes into it; None where nothing does."""
    key, trouble, done = case
    journal = begun(HOUSE[key], done)
    try:
        found = offer(trouble, journal.progress, SEEN)
    except CannotReckon:
        return journal, None
    assert (found.formula is None) is not bool(found.help.additions)
    return journal, found if found.formula is not None else None


@given(EVERY)
def test_it_goes_in_now_and_what_was_done_stays_done(case) -> None:
    key = case[0]
    journal, found = offered(case)
    if found is None:
        return
    before = journal.progress
    amended(journal, found)
    after = journal.progress
    added = [len(HOUSE[key].lines) + i for i in range(len(found.help.additions))]
    assert [after.task.line, after.task.kind] == [added[0], TaskKind.POUR]
    assert not after.portions_in(after.task)
    assert after.timer_end(after.task) is None
    at = after.position
    assert [task.line for task in after.tasks[at : at + len(added)]] == added
    assert after.tasks[at + len(added)].text == found.help.mix
    assert done_of(after) == done_of(before)
    assert not any(after.is_done(task) for task in after.tasks[at : at + len(added) + 1])
    if before.task is not None and not before.task.wait_h:  # what was half done is half done still
        same = next(
            t
            for t in after.tasks[at:]
            if (t.line, t.text, t.do) == (before.task.line, before.task.text, before.task.do)
        )
        assert after.portions_in(same) == before.portions_in(before.task)
        assert after.timer_end(same) == before.timer_end(before.task)


@given(EVERY)
def test_a_rub_rests_its_72_hours_once_after_what_went_in(case) -> None:
    """WHO, Guide to Local Production: 72 h of quarantine."""
    key = case[0]
    journal, found = offered(case)
    if found is None:
        return
    amended(journal, found)
    tasks = journal.progress.tasks
    last_in = max(place for place, task in enumerate(tasks) if task.line is not None)
    waits = [task.wait_h for task in tasks[last_in + 1 :] if task.wait_h]
    if families()[HOUSE[key].family].rub:
        assert sum(waits) == QUARANTINE_H or key in ("easy-gel", "straight-wipes")  # these rest some hours besides
        assert QUARANTINE_H <= sum(waits) < QUARANTINE_H + 4
    assert sum(wait >= QUARANTINE_H for wait in waits) <= 1


@given(EVERY)
def test_no_offer_sets_off_a_stop_and_what_else_it_sets_off_is_said(case) -> None:
    """Acid into bleach gives off chlorine (CDC, Cleaning and Disinfecting with Bleach), water spoils a powder."""
    journal, found = offered(case)
    if found is None:
        return
    before = {one.rule for one in audit(reckon(as_read(journal.progress, None)))}
    new = [one for one in audit(found.result) if one.rule not in before]
    assert not [one.text for one in new if one.severity is Severity.STOP]
    assert [one.rule for one in found.sets_off] == [one.rule for one in new]


@pytest.mark.parametrize("key", [key for key, formula in HOUSE.items() if formula.lines_with("chlorine")])
@pytest.mark.parametrize("trouble", TROUBLES)
def test_nothing_goes_into_bleach(key: str, trouble: str) -> None:
    """CDC, Cleaning and Disinfecting with Bleach: never mix it with other cleaners; made fresh daily."""
    assert offered((key, trouble, 14))[1] is None
    assert not rescue(trouble, reckon(HOUSE[key]), SEEN).additions


@pytest.mark.parametrize("key", [key for key, formula in HOUSE.items() if formula.dry])
@pytest.mark.parametrize("trouble", TROUBLES)
def test_no_water_goes_into_a_powder(key: str, trouble: str) -> None:
    assert not rescue(trouble, reckon(HOUSE[key]), SEEN).additions


@pytest.mark.parametrize("key", [key for key, formula in HOUSE.items() if families()[formula.family].rub])
def test_what_boiled_off_an_alcohol_is_not_made_up_with_water(key: str) -> None:
    """Ethanol boils at 78.3 °C (NIST Chemistry WebBook), before water: what is left is weaker already."""
    found = rescue("boiled-over", reckon(HOUSE[key]), SEEN)
    assert not found.additions
    assert "heat" in " ".join(found.advice)


@given(EVERY)
def test_no_offer_makes_it_worse_or_sets_off_a_finding(case) -> None:
    journal, found = offered(case)
    if found is None:
        return
    before, after = journal.progress.result, reckon(found.formula)
    order = list(Verdict)
    for was, now in zip(before.verdicts, after.verdicts, strict=True):
        assert order.index(now.verdict) >= order.index(was.verdict)
    mute = tuple(replace(step, text="") for step in found.formula.steps)
    silent = reckon(replace(found.formula, steps=mute))
    assert {finding.rule for finding in audit(after)} == {finding.rule for finding in audit(silent)} | by_text(before)


def by_text(result) -> set[str]:
    """What the words of a formula's steps set off."""
    mute = replace(result.formula, steps=tuple(replace(step, text="") for step in result.formula.steps))
    return {one.rule for one in audit(result)} - {one.rule for one in audit(reckon(mute))}


THIN_ROOM = mix(
    ("ethanol", "640 mL", "96 %"), ("xanthan-gum", "8 g"), ("water", "q.s."),
    make="1 L", family="gel", guidelines=("cdc-alcohol-60",),
)  # fmt: skip


def test_too_thick_takes_no_gel_below_its_line() -> None:
    """CDC: 60 % at least. 61.44 % of a litre has room for 24 mL of water and its contraction (OIML R 22), not for 50."""
    journal = Journal(THIN_ROOM)
    journal.finish()
    found = offer("thick", journal.progress, SEEN)
    assert 20 < found.help.additions[0].amount.mL < 26
    assert reckon(found.formula).verdicts[0].verdict is Verdict.MEETS


def test_a_gel_below_its_line_is_not_thinned_further() -> None:
    weak = mix(
        ("ethanol", "560 mL", "96 %"), ("xanthan-gum", "8 g"), ("water", "q.s."),
        make="1 L", family="gel", guidelines=("cdc-alcohol-60",),
    )  # fmt: skip
    journal = Journal(weak)
    journal.finish()
    with pytest.raises(CannotReckon, match="below its line"):
        offer("thick", journal.progress, SEEN)


def test_strength_is_not_mended_while_something_is_still_to_go_in() -> None:
    journal = Journal(HOUSE["who-one"])
    journal.do()
    with pytest.raises(CannotReckon, match="still to go in"):
        offer("weak", journal.progress, SEEN)


def test_the_missing_neutraliser_goes_in_before_the_gel_hydrates() -> None:
    """A gel made without its neutraliser: it goes in now, not after 24 hours of hydration."""
    gel = mix(
        ("water", "260 mL"), ("crosspolymer", "3 g"), ("ethanol", "700 mL", "96 %"), family="gel",
        steps=(Step("pour", "Water.", (0,)), Step("wet", "Sprinkle.", (1,)), Step("pour", "Alcohol.", (2,)),
               Step("hydrate", "Let it hydrate.", wait_h=24.0), Step("quarantine", "Closed.", wait_h=48.0)),
    )  # fmt: skip
    journal = begun(gel, 3)
    found = offer("acid", journal.progress, SEEN)
    amended(journal, found)
    progress = journal.progress
    assert [task.do for task in progress.tasks[progress.position :]] == ["rescue", "mix", "hydrate", "quarantine"]


def test_a_running_rest_is_begun_again_after_what_went_in() -> None:
    journal = Journal(HOUSE["who-one"])
    journal.finish()
    found = offer("weak", journal.progress, Seen(now=vv(70.0), stock=(find("ethanol"), vv(96.0))), left_h=40.0)
    amended(journal, found)
    progress = journal.progress
    assert [(t.do, t.wait_h) for t in progress.tasks[progress.position :]] == [
        ("rescue", None),
        ("mix", None),
        ("quarantine", 72.0),
    ]


def test_a_ferment_goes_on_where_it_was() -> None:
    journal = Journal(HOUSE["citrus-ferment"])
    journal.finish()
    found = offer("alkaline", journal.progress, SEEN, left_h=1000.0)
    if found.formula is not None:
        amended(journal, found)
        assert journal.progress.tasks[-1].wait_h == 1000.0


def test_soap_rests_overnight_after_more_soap() -> None:
    journal = Journal(HOUSE["bar-soap-liquid"])
    journal.finish()
    found = offer("watery", journal.progress, Seen(soap_g_per_L=90.0))
    assert (found.formula.steps[-1].do, found.formula.steps[-1].wait_h) == ("set", 12.0)


def test_boiled_over_counts_what_is_in_not_what_is_planned() -> None:
    """By hand: 150 g of soap in 1.5 kg of water are in; 1600 g are left of 1650 or so, whatever is still to come."""
    journal = Journal(HOUSE["bar-soap-liquid"])
    journal.do()
    journal.do()
    there = journal.progress.in_vessel.total.mass_g
    assert there == pytest.approx(150 + 1500 * 0.998, rel=0.001)
    found = offer("boiled-over", journal.progress, Seen(mass_g=there - 50.0))
    assert found.help.additions[0].amount.mL == pytest.approx(50.1, abs=0.2)


@pytest.mark.parametrize(("pct", "grams"), [(99.0, 17.2), (32.0, 53.2), (50.0, 34.05)])
def test_caustic_missing_is_counted_in_the_strength_of_its_own_bottle(pct: float, grams: float) -> None:
    """By mole: 17.2 g of 99 % caustic hold what 53.2 g of 32 % lye do; each is written with its own strength."""
    acid = mix(
        ("water", "1 L"), ("caustic-soda", f"{20 * 99 / pct:.4f} g", f"{pct} %"), ("labsa", "300.57 g", "98 %"),
        family="dish-liquid",
    )  # fmt: skip
    journal = Journal(acid)
    journal.finish()
    found = offer("acid", journal.progress, SEEN)
    [added] = found.help.additions
    assert (added.amount.g, added.strength.value) == (pytest.approx(grams, rel=0.02), pytest.approx(pct))


def test_caustic_added_in_a_rescue_counts_in_the_next() -> None:
    acid = mix(
        ("water", "1 L"), ("caustic-soda", "20 g", "99 %"), ("labsa", "300.57 g", "98 %"),
        ("caustic-soda", "10 g", "99 %"), family="dish-liquid",
    )  # fmt: skip
    journal = Journal(acid)
    journal.finish()
    assert offer("acid", journal.progress, SEEN).help.additions[0].amount.g == pytest.approx(7.2, abs=0.2)


def test_laundry_soap_is_not_made_a_hand_soap() -> None:
    """It asked for 1375 g more soap in 5 gallons, by the targets of a hand soap (60 to 100 g a litre)."""
    journal = Journal(HOUSE["laundry-concentrate"])
    journal.finish()
    assert not offer("watery", journal.progress, SEEN).help.additions
    asked = offer("watery", journal.progress, Seen(soap_g_per_L=20.0))
    assert asked.help.additions[0].amount.g == pytest.approx((20 - 140 / 9) * 9, rel=0.02)


def test_a_ferment_that_is_not_sour_yet_gets_no_acid() -> None:
    journal = Journal(HOUSE["citrus-ferment"])
    journal.finish()
    assert not offer("alkaline", journal.progress, SEEN).help.additions


def led_to(key: str, trouble: str, done: int, left_h: float | None) -> str:
    """What a batch is to do after a rescue, or why there is none."""
    journal = begun(HOUSE[key], done)
    seen = replace(SEEN, now=vv(55.0)) if trouble == "weak" else SEEN
    if journal.progress.result.main is not None and journal.progress.result.main.is_alcohol:
        seen = replace(seen, stock=(find(journal.progress.result.main.active), vv(96.0)))
    try:
        found = offer(trouble, journal.progress, seen, left_h)
    except CannotReckon as error:
        return str(error)
    if found.formula is None:
        return "advice"
    main = found.result.main
    steps = [f"{step.text} [{step.wait_h or 0:g} h]" for step in found.then]
    parts = [
        ", ".join(f"{one.amount.words} {one.material.id} in {one.portions}" for one in found.help.additions),
        f"{found.result.total.volume_mL:.6g} mL, {f'{main.lower:.5g} %' if main else 'no strength'}",
        ", ".join(f"{name} {place}" for name, place in found.moves.items()),
        f"sets off {', '.join(one.rule for one in found.sets_off) or 'nothing'}",
        f"made up {found.formula.made_up}",
    ]
    return "\n  ".join([*parts, *(f"then {step}" for step in steps)])


def led_anywhere(key: str, trouble: str, tasks: int) -> str:
    """Where a rescue leads at three moments; nothing where it is advice each time."""
    at = {"half done": (tasks // 2, None), "at its last wait": (tasks - 1, 10.0), "done": (tasks, None)}
    said = {words: led_to(key, trouble, *where) for words, where in at.items()}
    advice = set(said.values()) == {"advice"}
    return "" if advice else "\n".join(f"{words}: {one}" for words, one in said.items())


def test_what_a_rescue_leads_to_is_as_kept() -> None:
    """Of a formula of each family: half done, at its last wait with ten hours left, and all done."""
    sections = {}
    for key, formula in HOUSE.items():
        if formula.dry or formula.lines_with("chlorine"):
            continue
        tasks = len(Journal(formula).progress.tasks)
        for trouble in families()[formula.family].troubles:
            sections[f"{key}, {trouble}"] = partial(led_anywhere, key, trouble, tasks)
    same_as_kept(Path(__file__).parent / "mended.txt", sections)


@pytest.mark.parametrize("left", [0.5, 0.68, 0.9])
@pytest.mark.parametrize("done", [2, 99])
def test_what_boiled_over_is_gone_and_water_takes_its_place(left: float, done: int) -> None:
    """By hand: 1000 g of which a tenth is soap, a share gone and made up with water: 1000 g again, with so much less soap."""
    soap = mix(("water", "900 g"), ("bar-soap", "100 g"), family="liquid-soap")
    journal = begun(soap, done)
    there = journal.progress.result.total.mass_g
    journal.write(EntryKind.READING, data={"what": "mass", "value": there})
    found = offer("boiled-over", journal.progress, Seen(mass_g=there * left))
    amended(journal, found)
    journal.finish()
    after = journal.progress
    assert after.result.total.mass_g == pytest.approx(1000.0, rel=2e-3)
    assert after.masses_g[1] == pytest.approx(100.0 * left)
    assert after.result.total.mass_g == pytest.approx(found.result.total.mass_g, rel=1e-6)
    assert after.to_fill_mL == pytest.approx(after.result.total.volume_mL)
    before = readings_of(after)[0].judged
    assert (before.verdict, "0 %" in before.text) == ("within", True)  # the weight that was read before it boiled over


def test_an_offer_that_would_set_off_a_stop_is_refused_in_its_words() -> None:
    """Citric acid and carbonate fizz away (common practice, no source): a pH too high is not brought down with it."""
    wash = mix(("water", "1 L"), ("washing-soda", "50 g"), ("sles", "100 g", "70 %"), family="dish-liquid")
    assert rescue("alkaline", reckon(wash)).additions[0].material.id == "citric-acid"
    with pytest.raises(CannotReckon, match="fizz away in water"):
        offer("alkaline", begun(wash, 99).progress)


@pytest.mark.parametrize(("now", "much"), [(70.0, False), (10.0, True)])
def test_a_fix_larger_than_the_batch_says_that_the_amounts_look_wrong(now: float, much: bool) -> None:
    journal = Journal(HOUSE["who-one"])
    journal.finish()
    offered = offer("weak", journal.progress, Seen(now=vv(now), stock=(find("ethanol"), vv(96.0))))
    assert ("more than the batch itself" in " ".join(offered.help.advice)) is much
