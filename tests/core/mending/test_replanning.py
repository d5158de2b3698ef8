"""A batch planned anew after something was put in besides."""

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from firkin.core.bench import EntryKind, plan_of
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, house_formulas, reckon, steps_of
from firkin.core.measures import read_strength
from firkin.core.mending import ANY_BATCH, TROUBLES, Seen, left_be, offer, put_in_late, rescue, with_extra
from journals import RUB, Journal
from kept import same_as_kept
from mixes import line, mix, vv


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


GEL: dict[str, Any] = {"family": "gel", "guidelines": ("cdc-alcohol-60",)}
OF_RUB: dict[str, Any] = {"family": "liquid-rub", "guidelines": ("cdc-alcohol-60",)}
MIXES = {
    "short rub": mix(("ethanol", "500 mL", "96 %"), ("water", "500 mL"), **OF_RUB),
    "strong rub": mix(("ethanol", "950 mL", "96 %"), ("water", "50 mL"), family="liquid-rub", guidelines=("who-ethanol",)),
    "isopropanol by weight": mix(("isopropanol", "300 g", "99.8 %"), ("aloe-gel", "300 g"), family="aloe-rub", guidelines=("cdc-alcohol-60",)),
    "strong isopropanol": mix(("isopropanol", "900 mL", "99.8 %"), ("water", "q.s."), make="1 L", family="liquid-rub", guidelines=("who-isopropanol",)),
    "rub without a line": mix(("ethanol", "500 mL", "96 %"), ("water", "300 mL"), family="other"),
    "dry hands": mix(("ethanol", "800 mL", "96 %"), ("glycerol", "90 mL"), ("water", "110 mL"), **OF_RUB),
    "no glycerol": mix(("ethanol", "800 mL", "96 %"), ("aloe-gel", "190 mL"), **OF_RUB),
    "scented rub": mix(("ethanol", "800 mL", "96 %"), ("water", "180 mL"), ("lavender-oil", "25 mL"), **OF_RUB),
    "faintly scented": mix(("ethanol", "800 mL", "96 %"), ("water", "195 mL"), ("lavender-oil", "2 mL"), **OF_RUB),
    "thin gel": mix(("xanthan-gum", "2 g"), ("ethanol", "650 mL", "96 %"), ("water", "330 mL"), **GEL),
    "full gel": mix(("xanthan-gum", "12 g"), ("ethanol", "650 mL", "96 %"), ("water", "330 mL"), **GEL),
    "carbomer unneutralised": mix(("carbomer", "4 g"), ("ethanol", "700 mL", "96 %"), ("water", "280 mL"), **GEL),
    "carbomer short of it": mix(("carbomer", "4 g"), ("ethanol", "700 mL", "96 %"), ("water", "280 mL"), ("triethanolamine", "2 mL"), **GEL),
    "carbomer neutralised": mix(("carbomer", "4 g"), ("ethanol", "700 mL", "96 %"), ("water", "280 mL"), ("triethanolamine", "9 mL"), **GEL),
    "watery carbomer": mix(("carbomer", "4 g"), ("water", "1 L"), ("triethanolamine", "6 mL"), family="gel"),
    "acid dish": mix(("water", "1 L"), ("caustic-soda", "8 g", "99 %"), ("labsa", "100 g", "98 %"), family="dish-liquid"),
    "alkaline dish": mix(("water", "1 L"), ("caustic-soda", "20 g", "99 %"), ("labsa", "100 g", "98 %"), family="dish-liquid"),
    "even dish": mix(("water", "1 L"), ("caustic-soda", "12.4 g", "99 %"), ("labsa", "100 g", "98 %"), family="dish-liquid"),
    "no acid": mix(("water", "1 L"), ("sles", "200 g", "28 %"), family="dish-liquid"),
    "soda wash": mix(("water", "1 L"), ("washing-soda", "50 g"), ("sles", "100 g", "70 %"), family="dish-liquid"),
    "salted dish": mix(("water", "800 g"), ("sles", "200 g", "28 %"), ("salt", "30 g"), family="dish-liquid"),
    "thin soap": mix(("bar-soap", "40 g"), ("water", "q.s."), make="2 L", family="liquid-soap"),
    "thick soap": mix(("bar-soap", "130 g"), ("water", "q.s."), make="1 L", family="liquid-soap"),
    "thin laundry": mix(("bar-soap", "15 g"), ("washing-soda", "30 g"), ("water", "q.s."), make="2 L", family="laundry-soap"),
    "thick laundry": mix(("bar-soap", "90 g"), ("washing-soda", "30 g"), ("water", "q.s."), make="2 L", family="laundry-soap"),
    "powder": mix(("washing-soda", "500 g"), ("salt", "100 g"), ("citric-acid", "100 g"), family="dishwasher-powder"),
    "chlorine": mix(("sodium-hypochlorite", "20 mL", "5 %"), ("water", "980 mL"), family="surface", guidelines=("surface-chlorine-01",)),
    "ferment": house_formulas()["citrus-ferment"].formula,
    "foam": house_formulas()["foam-plain"].formula,
}  # fmt: skip


def knows(trouble: str, formula: Formula) -> Iterator[tuple[str, Seen]]:
    yield "", Seen()
    ethanol, other = find("ethanol"), find("isopropanol")
    own = next((one.material for one in formula.lines if one.material.alcohol is not None), ethanol)
    if trouble == "weak":
        yield "96 %", Seen(stock=(own, vv(96.0)))
        yield "a range", Seen(stock=(own, read_strength("90-94 %")))
        yield "too weak", Seen(stock=(own, vv(55.0)))
        yield "by weight", Seen(stock=(own, read_strength("92.4 % w/w")))
        yield "read 51 %", Seen(now=vv(51.0), stock=(own, vv(96.0)))
        yield "aim 72 %", Seen(stock=(own, vv(96.0)), aim_pct=72.0)
        yield "another", Seen(stock=(other if own is ethanol else ethanol, vv(99.0)))
    if trouble == "strong":
        yield "read 93 %", Seen(now=vv(93.0))
        yield "aim 70 %", Seen(aim_pct=70.0)
        yield "aim 70 %, read 88 %", Seen(now=vv(88.0), aim_pct=70.0)
    if trouble in ("watery", "thick"):
        yield "20 g", Seen(soap_g_per_L=20.0)
        yield "75 g", Seen(soap_g_per_L=75.0)
    if trouble == "boiled-over":
        total = reckon(formula).total.mass_g
        yield "a tenth", Seen(mass_g=0.9 * total)
        yield "more", Seen(mass_g=1.1 * total)
    if trouble == "alkaline":
        yield "citric", Seen(citric_g=2.5)


def fix_told(found) -> str:
    added = "; ".join(
        f"+ {one.amount.value:.5g} {one.amount.unit} {one.material.id}"
        f"{f' {one.strength}' if one.strength else ''}{f' in {one.portions}' if one.portions > 1 else ''}"
        f"{f' ! {one.caution}' if one.caution else ''}"
        for one in found.additions
    )
    flags = f"{'thins ' * found.thins}{'keeps ' * found.keeps}"
    aim = "" if found.aim is None else f"aim {found.aim:.5g} "
    rest = "" if found.rest is None else f" | rest {found.rest.wait_h:g} h: {found.rest.text}"
    then = f" | {found.mix}{rest}" if found.additions else ""
    return f"{found.trouble} {aim}{flags}left {found.left:.4g}: {added} | {' '.join(found.advice)}{then}"


def test_every_fix_is_as_kept() -> None:
    """What has been told of another mix is not told again."""
    before: set[str] = set()
    sections = {}
    for name, formula in MIXES.items():
        rows = []
        for trouble in TROUBLES:
            for words, seen in knows(trouble, formula):
                try:
                    said = fix_told(rescue(trouble, reckon(formula), seen))
                except CannotReckon as error:
                    said = f"{'.'.join(str(one) for one in error.path)} {error}"
                if said not in before:
                    rows.append(f"{trouble}{', ' * bool(words)}{words}: {said}")
                before.add(said)
            let_be = " ".join(left_be(trouble, formula))
            if let_be and let_be not in before:
                rows.append(f"{trouble}, left be: {let_be}")
                before.add(let_be)
        if rows:
            sections[name] = "\n".join(rows)
    same_as_kept(Path(__file__).parent / "fixes.txt", sections)


def steps_told(formula: Formula, since: int) -> str:
    lines = [f"{one.amount.value:.5g} {one.amount.unit} {one.material.id}" for one in formula.lines]
    steps = [
        f"{one.do} {list(one.lines) or ''}{f' {one.wait_h:g} h' if one.wait_h else ''}: {one.text}"
        for one in formula.steps[max(0, since - 1) :]
    ]
    return f"{', '.join(lines)} made up {formula.made_up} | {' / '.join(steps)}"


def test_what_goes_in_besides_late_and_as_a_fix_is_as_kept() -> None:
    """At the first task, half done, at the last wait with 10 hours and with a quarter of an hour left, and all done."""
    sections = {}
    for key in ("who-one", "xanthan-gel", "dish-gentle", "bar-soap-liquid", "laundry-bottle", "citrus-ferment"):
        formula = house_formulas()[key].formula
        count = len(Journal(formula).progress.tasks)
        rows = []
        for words, done, left in (
            ("half", count // 2, None),
            ("at its wait", count - 1, 10.0),
            ("near its end", count - 1, 0.25),
            ("done", count, None),
            ("rests on", count, 7.5),
        ):
            journal = Journal(formula)
            for _ in range(done):
                journal.do()
            progress = journal.progress
            more, moves = with_extra(progress, line("glycerol", "12 mL"), left)
            rows.append(f"besides, {words}: {moves} {steps_told(more, moves['step'])}")
            if not progress.unfinished:
                late, moves = put_in_late(progress, left)
                rows.append(f"late, {words}: {moves} {steps_told(late, moves['step'])}")
            for trouble in ("weak", "strong", "watery", "boiled-over", "collapsed", "alkaline"):
                seen = Seen(
                    stock=(find("ethanol"), vv(96.0)), now=vv(66.0 if trouble == "weak" else 90.0), citric_g=2.0
                )
                if trouble == "boiled-over":
                    seen = Seen(mass_g=0.8 * progress.result.total.mass_g)
                try:
                    found = offer(trouble, progress, seen, left)
                except CannotReckon as error:
                    rows.append(f"{trouble}, {words}: {error}")
                    continue
                if found.formula is not None:
                    after = [f"{one.rule} {one.severity}" for one in found.sets_off]
                    comes = f"{found.result.total.volume_mL:.6g} mL {found.result.main.lower if found.result.main else 0:.5g}"
                    rows.append(
                        f"{trouble}, {words}: {dict(found.data)} {comes} {after} {steps_told(found.formula, found.moves['step'])}"
                        f" then {len(found.then)}"
                    )
        sections[key] = "\n".join(dict.fromkeys(rows))
    same_as_kept(Path(__file__).parent / "steps.txt", sections)


def test_a_batch_that_is_mended_twice_keeps_both() -> None:
    """The second fix is worked out of what the first made: by volume, what went in is all there."""
    formula = MIXES["short rub"]
    journal = Journal(formula)
    journal.finish()
    for aim in (62.0, 68.0):
        found = offer("weak", journal.progress, Seen(stock=(find("ethanol"), vv(96.0)), aim_pct=aim))
        journal.write(EntryKind.RESCUE, data=found.data)
        journal.formula, journal.plan = found.formula, plan_of(found.formula)
        journal.finish()
        assert journal.progress.result.main.lower >= aim
    assert len(journal.progress.masses_g) == 4
    assert all(mass > 0 for mass in journal.progress.masses_g)
    assert set(ANY_BATCH) <= set(TROUBLES)


@pytest.mark.parametrize(("left", "rests"), [(0.25, 1.0), (1.0, 1.0), (1.5, 1.5), (400.0, 400.0)])
def test_a_ferment_opened_goes_on_for_what_was_left_an_hour_at_the_least(left: float, rests: float) -> None:
    whole = house_formulas()["citrus-ferment"].formula
    steps = steps_of(whole)
    wait = next(place for place, step in enumerate(steps) if step.wait_h)
    journal = Journal(replace(whole, steps=steps[: wait + 1]))
    journal.finish()
    formula, _ = put_in_late(journal.progress, left)
    waits = [step for step in formula.steps if step.wait_h]
    assert (waits[-1].text, waits[-1].wait_h, waits[-1].do) == ("Close it again and let it go on.", rests, waits[0].do)


def test_a_rub_put_right_rests_72_hours_and_keeps_its_other_steps() -> None:
    """WHO, Guide to Local Production: the days of rest are counted from what went in last."""
    journal = Journal(house_formulas()["who-one"].formula)
    journal.finish()
    before = steps_of(journal.progress.formula)
    formula, _ = put_in_late(journal.progress, 10.0)
    assert formula.steps[: len(before)] == before
    assert [step.do for step in formula.steps[len(before) :]] == ["mix", "quarantine"]
    assert formula.steps[-1].wait_h == 72.0
    assert "again" in formula.steps[-1].text or "72" in formula.steps[-1].text


def test_an_offer_that_would_leave_its_line_says_how() -> None:
    gel = mix(
        ("xanthan-gum", "8 g"), ("ethanol", "626 mL", "96 %"), ("water", "q.s."), make="1 L", family="gel",
        guidelines=("cdc-alcohol-60",),
    )  # fmt: skip
    journal = Journal(gel)
    journal.finish()
    with pytest.raises(CannotReckon, match="batch would then be short"):
        offer("thick", journal.progress, Seen())
