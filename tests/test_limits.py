"""Every limit of the audit and the bench, a hair on either side of it. A table names the limit and says where it stands.

A limit that moves turns its row red: the figures are written here again, from their source, and not taken from the code.
"""

from collections.abc import Callable
from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest

from firkin.core.audit import audit
from firkin.core.bench import (
    Entry,
    EntryKind,
    Fermenting,
    Stands,
    began,
    can_be_filled,
    choices,
    deviation_of,
    fermenting,
    judge_mass,
    judge_ph,
    judge_stem,
    judge_yield,
    keeps_days,
    left_to_fill,
    next_day_level,
)
from firkin.core.formula import Claim, Claims, Formula, house_formulas, reckon
from firkin.core.kitchen import Kitchen, Measure, in_kitchen, measure_out
from firkin.core.measures import Quantity, Strength
from journals import BEGUN, Journal
from journals import RUB as LITRE
from mixes import mix

RUB: dict[str, Any] = {"family": "liquid-rub", "guidelines": ("cdc-alcohol-60",)}
ETHANOL = ("ethanol", "800 mL", "96 %")


def _claimed(pct: float) -> Formula:
    return replace(mix(("ethanol", "1 L", "70 %")), claim=Claim("ethanol", Strength.of(pct, "v/v")))


def _sized(mL: float) -> Formula:
    parts = (("glycerol", "500 mL"), ("propanediol", "500 mL"))
    return replace(mix(*parts), claims=Claims(size=Quantity(mL, "mL")))


def _soap(pct: float) -> Formula:
    return mix(("castile-soap", f"{10 * pct} mL"), ("water", f"{1000 - 10 * pct} mL"), family="foaming-soap")


def _kept(pct: float) -> Formula:
    parts = (("castile-soap", "250 g"), ("water", f"{750 - 10 * pct} g"), ("phenoxyethanol", f"{10 * pct} g"))
    return mix(*parts, family="liquid-soap")


def _ferment(peel: float = 1.0, water: float = 1.0) -> Formula:
    parts = (("raw-sugar", "100 g"), ("citrus-peel", f"{300 * peel} g"), ("water", f"{1000 * water} g"))
    return mix(*parts, family="ferment")


def _gel(tea_mL: float) -> Formula:
    return mix(("water", "1 L"), ("carbomer", "10 g"), ("triethanolamine", f"{10 * tea_mL} mL"), family="gel")


def _bleach(pct: float, family: str = "other") -> Formula:
    return mix(("bleach", f"{200 * pct} mL", "5 %"), ("water", f"{1000 - 200 * pct} mL"), family=family)


Made = Callable[[float], Formula]
#: what is tried, its rule, its limit, whether the rule speaks above it (else below), how it is made, where the limit is from
LIMITS: list[tuple[str, str, float, bool, Made, str]] = [
    ("litres of alcohol in one place", "too-much-alcohol", 50.0, True, lambda x: mix(("ethanol", f"{x * 0.8} L", "96 %"), ("water", "q.s."), make=f"{x} L"), "WHO, Guide to Local Production: 50 L"),
    ("peroxide, %", "peroxide-strong", 6.0, True, lambda x: mix(("peroxide", "100 mL", f"{x} %")), "WHO, Guide to Local Production: concentrates are corrosive"),
    ("chlorine, %", "chlorine-strong", 1.0, True, _bleach, "twice WHO's 0.5 % for large spills, May 2020"),
    ("chlorine on surfaces, %", "surface-weak", 0.1, False, lambda x: _bleach(x, "surface"), "WHO, May 2020: 0.1 %"),
    ("spirit, % v/v", "spirit-too-weak", 50.0, False, lambda x: mix(("ethanol", "1 L", f"{x} %"), **RUB), "common practice: drinking spirits are below"),
    ("alcohol for hands, % v/v", "line-short", 60.0, False, lambda x: mix(("ethanol", "1 L", f"{x:.4f} %"), guidelines=("cdc-alcohol-60",)), "CDC: at least 60 %"),
    ("alcohol for hands at most, % v/v", "line-too-strong", 95.0, True, lambda x: mix(("ethanol", "1 L", f"{x:.4f} %"), guidelines=("hicpac-60-95",)), "HICPAC: 60 to 95 %"),
    ("glycerol in a rub, % v/v", "glycerol-sticky", 5.0, True, lambda x: mix(ETHANOL, ("glycerol", f"{10 * x} mL"), ("water", "q.s."), make="1 L", **RUB), "common practice"),
    ("soap in a foaming pump at most, %", "foam-ratio", 28.0, True, _soap, "common practice: 1 part to 3, with slack"),
    ("soap in a foaming pump at least, %", "foam-ratio", 15.0, False, _soap, "common practice: 1 part to 5, with slack"),
    ("peel of a ferment, times 3 to 1", "ferment-ratio", 1.25, True, lambda x: _ferment(peel=x), "common practice: 1 to 3 to 10"),
    ("peel of a ferment at least", "ferment-ratio", 0.75, False, lambda x: _ferment(peel=x), "common practice"),
    ("water of a ferment at most", "ferment-ratio", 1.25, True, lambda x: _ferment(water=x), "common practice"),
    ("water of a ferment at least", "ferment-ratio", 0.75, False, lambda x: _ferment(water=x), "common practice"),
    ("phenoxyethanol at most, %", "preservative-window", 1.0, True, _kept, "Regulation (EC) 1223/2009: 1 %"),
    ("phenoxyethanol at least, %", "preservative-window", 0.5, False, _kept, "common practice"),
    ("xanthan, %", "thickener-much", 2.0, True, lambda x: mix(("water", f"{1000 - 10 * x} g"), ("xanthan-gum", f"{10 * x} g")), "common practice"),
    ("alcohol xanthan stands, % w/w", "thickener-limit", 60.0, True, lambda x: mix(("ethanol", f"{10 * x} g", "100 % w/w"), ("water", f"{995 - 10 * x} g"), ("xanthan-gum", "5 g")), "common practice"),
    ("triethanolamine at most, mL a gram", "neutraliser-off", 1.755, True, _gel, "common practice: 1.3, with a third of slack"),
    ("triethanolamine at least, mL a gram", "neutraliser-off", 0.78, False, _gel, "common practice: 1.2, with a third of slack"),
    ("a claim above what is made, points", "claim-differs", 70.5, True, _claimed, "finer than a kitchen measures"),
    ("a claim below what is made, points", "claim-differs", 69.5, False, _claimed, "finer than a kitchen measures"),
    ("a size above what the parts come to", "amounts-miss-size", 1000 / 0.97, True, _sized, "common practice: 3 %"),
    ("a size below what the parts come to", "amounts-miss-size", 1000 / 1.03, False, _sized, "common practice: 3 %"),
    ("per cents above 100", "percent-sum", 100.05, True, lambda x: mix(("glycerol", f"{x - 90} %"), ("water", "90 %")), "rounded to a tenth"),
    ("per cents below 100", "percent-sum", 99.95, False, lambda x: mix(("glycerol", f"{x - 90} %"), ("water", "90 %")), "rounded to a tenth"),
    ("borax in a kilogram of water, g", "will-not-dissolve", 47.0 * 1.05, True, lambda x: mix(("water", "1 kg"), ("borax", f"{x} g")), "CRC Handbook, from memory: 4.7 g in 100 g at 20 °C, rounded"),
    ("essential oil in a rub, %", "essential-oil-much", 2.0, True, lambda x: mix(("ethanol", "800 g", "96 %"), ("lavender-oil", f"{10 * x} g"), ("water", f"{200 - 10 * x} g"), **RUB), "common practice"),
]  # fmt: skip
_HAIR = 0.0008


def _soap_keeps(pct: float) -> float:
    return keeps_days(_kept(pct))


def _closed_ferment(day: float, reread: float = 90.0) -> Fermenting:
    """A ferment that never gave gas, read on day 80 and again, looked at on a day."""
    journal = Journal(house_formulas()["citrus-ferment"].formula)
    while began(journal.progress) is None:
        journal.do()
    start = began(journal.progress)
    assert start is not None
    readings = [(80.0, {"what": "ph", "value": 3.7}), (reread, {"what": "ph", "value": 3.6})]
    looks = [(80.0, {"seen": {"gas": 0, "smell": 0, "mould": 0}})]
    for kind, told in ((EntryKind.READING, readings), (EntryKind.OBSERVE, looks)):
        for at, data in told:
            journal.entries.append(Entry(len(journal.entries) + 1, kind, start + timedelta(days=at), data=data))
    found = fermenting(journal.progress, start + timedelta(days=day))
    assert found is not None
    return found


def _lacks(ferment: Fermenting, words: str) -> bool:
    return any(words in lack for lack in (*ferment.lacks, *ferment.alarms))


def _weighed(share: float) -> bool:
    """A soap weighed before its preservative at a share of what went in: whether the weight is believed."""
    journal = Journal(house_formulas()["bar-soap-liquid"].formula)
    keeper = journal.formula.lines_with("preservative")[0]
    while journal.progress.task.line != keeper:
        journal.do()
    went_in = sum(journal.progress.masses_g[i] for i in journal.progress.measured)
    journal.write(EntryKind.READING, data={"what": "mass", "value": share * went_in})
    return journal.progress.by_weighing(keeper) is not None


def _left(mL: float) -> bool:
    progress = Journal(house_formulas()["who-one"].formula).progress
    return left_to_fill(progress, progress.to_fill_mL - mL) > 0


def _night_after(days: float) -> bool:
    journal = Journal(house_formulas()["bar-soap-liquid"].formula)
    seen = journal.write(EntryKind.OBSERVE, data={"seen": {"thickness": 2}})
    journal.entries[-1] = replace(seen, at=BEGUN + timedelta(days=days))
    return next_day_level(journal.progress, BEGUN) is not None


def _hopeless(factor: float) -> bool:
    """A line asked for as so many times a cup, the only measure there is: whether weighing it is advised."""
    cup = Kitchen("one-cup", "One cup", (Measure("cup", 100.0, 1.0),))
    return in_kitchen(reckon(mix(("water", f"{100 * factor} mL"))), cup).lines[0].weigh


RUB_MADE = reckon(house_formulas()["who-one"].formula)  # ethanol and water: its label strength is what a stem shows
PEEL = reckon(house_formulas()["citrus-ferment"].formula)
PEEL_WATER_ML = sum(one.volume_mL for one in PEEL.lines if not one.material.solid)
STEM = RUB_MADE.actives[0].true


def _ph(family: str) -> Callable[[float], bool]:
    return lambda x: judge_ph(family, x).verdict is Stands.WITHIN


#: what is tried, its limit, whether what is asked holds above it (else below), what is asked, where the limit is from
def _scales(factor: float) -> bool:
    journal = Journal(LITRE)
    journal.do(factor)
    return any(choice.key == "scale" for choice in choices(journal.progress, deviation_of(journal.progress)))


OF_THE_BENCH: list[tuple[str, float, bool, Callable[[float], bool], str]] = [
    ("a stem above what was measured out, % v/v", STEM + 3.0, True, lambda x: judge_stem(RUB_MADE, x, 20.0).verdict is Stands.HIGH, "common practice: 3 points"),
    ("a stem below what was measured out, % v/v", STEM - 3.0, False, lambda x: judge_stem(RUB_MADE, x, 20.0).verdict is Stands.LOW, "common practice: 3 points"),
    ("a batch lighter than what went in, g of 1,000", 970.0, False, lambda x: judge_mass(1000.0, x).verdict is Stands.LOW, "common practice: 3 %"),
    ("a batch heavier than what went in, g of 1,000", 1030.0, True, lambda x: judge_mass(1000.0, x).verdict is Stands.HIGH, "common practice: 3 %"),
    ("liquid that came of peel, of the water", 0.75, False, lambda x: judge_yield(PEEL, x * PEEL_WATER_ML).verdict is Stands.LOW, "common practice: three quarters"),
    ("liquid that came of peel, of all", 1.0, True, lambda x: judge_yield(PEEL, x * PEEL.total.volume_mL).verdict is Stands.HIGH, "no more than went in"),
    ("the pH of a dish liquid at least", 6.0, True, _ph("dish-liquid"), "common practice"),
    ("the pH of a dish liquid at most", 8.5, False, _ph("dish-liquid"), "common practice"),
    ("the pH of a ferment at most", 4.0, False, _ph("ferment"), "common practice: about 4"),
    ("the day a ferment is ready", 90.0, True, lambda x: not _lacks(_closed_ferment(x), "about day 90"), "common practice: three months"),
    ("days its pH must hold", 87.0, True, lambda x: not _lacks(_closed_ferment(95.0, x), "pH stayed"), "common practice: a week apart, from day 80"),
    ("the day by which it gave gas", 14.0, True, lambda x: _lacks(_closed_ferment(x), "never gave gas"), "common practice: two weeks"),
    ("preservative that lets a soap keep, %", 0.5 * 0.95, True, lambda x: _soap_keeps(x) > 28.0, "least window 0.5 %, as near as a kitchen scale places it"),
    ("weight believed at least, of what went in", 0.5, True, _weighed, "half lost is a slip"),
    ("dregs, mL", 1.0, True, _left, "common practice: no bottle for 1 mL"),
    ("fillings beyond what is left, mL of 500", 511.0, False, lambda x: can_be_filled(x, 500.0), "2 % and the dregs"),
    ("a night before it is looked at, days", 0.4, True, _night_after, "ten hours: common practice"),
    ("a line that only weighing places, cups", 1 / 0.9, True, _hopeless, "10 % off: common practice"),
    ("times the plan that a batch is scaled to", 2.0, False, _scales, "more is a slip: common practice"),
    ("fillings that can be counted, cups", 24.5, False, lambda x: measure_out(x, (Measure("cup", 1.0, 1.0),)).fillings == round(x), "24: common practice"),
]  # fmt: skip


@pytest.mark.parametrize(("what", "rule", "limit", "above", "made", "source"), LIMITS, ids=[row[0] for row in LIMITS])
def test_a_hair_on_either_side(what: str, rule: str, limit: float, above: bool, made: Made, source: str) -> None:
    def speaks(value: float) -> bool:
        return rule in {finding.rule for finding in audit(reckon(made(value)))}

    assert (speaks(limit * (1 - _HAIR)), speaks(limit * (1 + _HAIR))) == (not above, above), what
    assert source


@pytest.mark.parametrize(
    ("what", "limit", "above", "holds", "source"), OF_THE_BENCH, ids=[row[0] for row in OF_THE_BENCH]
)
def test_the_bench_a_hair_on_either_side(what: str, limit: float, above: bool, holds: Any, source: str) -> None:
    assert (holds(limit * (1 - _HAIR)), holds(limit * (1 + _HAIR))) == (not above, above), what
    assert source


def test_no_limit_is_named_twice() -> None:
    named = [what for what, *_ in (*LIMITS, *OF_THE_BENCH)]
    assert len(set(named)) == len(named)
