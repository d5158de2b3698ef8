"""What a series of looks says, and what stands against bottling."""

from datetime import timedelta

import pytest

from firkin.core.bench import ASPECTS, EntryKind, drifting, series_of, worries
from firkin.core.catalogue import families
from firkin.core.formula import house_formulas
from firkin.core.mending import TROUBLES
from journals import BEGUN, Journal
from mixes import mix


@pytest.mark.parametrize("aspect", ASPECTS)
def test_what_stays_or_comes_back_does_not_drift(aspect: str) -> None:
    assert drifting(aspect, []) == drifting(aspect, [1]) == drifting(aspect, [0, 1, 0]) == ""


@pytest.mark.parametrize(
    ("aspect", "levels", "says", "worry"),
    [
        ("colour", [0, 1, 2], "turning yellow", True),
        ("thickness", [3, 2], "thinner", True),
        ("thickness", [2, 3], "thicker", False),  # gels do, overnight
        ("separation", [0, 2], "separating", True),
        ("smell", [0, 2], "spoilt", True),
        ("clumps", [0, 1], "clumping", True),
    ],
)
def test_a_drift_is_said_and_worries_where_it_should(aspect: str, levels: list[int], says: str, worry: bool) -> None:
    journal = Journal(mix(("castile-soap", "1 part"), ("water", "3 parts"), family="foaming-soap"))
    for level in levels:
        journal.write(EntryKind.OBSERVE, data={"seen": {aspect: level}})
    (series,) = series_of(journal.progress, BEGUN)
    assert says in series.says
    assert series.worries is worry
    assert "was not read" in worries(journal.progress, BEGUN)[0]
    journal.write(EntryKind.READING, data={"what": "ph", "value": 9.0})
    assert bool(worries(journal.progress, BEGUN)) is worry


def test_days_count_from_the_making_and_what_is_not_looked_at_is_not_there() -> None:
    journal = Journal(mix(("castile-soap", "1 part"), ("water", "3 parts"), family="foaming-soap"))
    journal.write(EntryKind.OBSERVE, data={"seen": {"foam": 2, "a thing of later": 1}})
    (series,) = series_of(journal.progress, BEGUN - timedelta(days=3))
    ((day, level),) = series.points
    assert (series.aspect, level) == ("foam", 2)
    assert day == pytest.approx(3.0, abs=0.001)  # the entry comes a minute after


def test_a_verdict_that_fails_stands_against_bottling() -> None:
    weak = mix(("ethanol", "500 mL", "96 %"), ("water", "500 mL"), family="liquid-rub", guidelines=("cdc-alcohol-60",))
    journal = Journal(weak)
    journal.finish()
    assert "short" in worries(journal.progress, BEGUN)[0]


def test_every_family_has_its_troubles_looks_and_preparation() -> None:
    for family in families().values():
        assert family.troubles
        assert family.prepare
        assert set(family.troubles) <= set(TROUBLES)
        assert family.looks
        assert set(family.looks) <= set(ASPECTS)
        assert all(words.endswith(".") for words in (*family.prepare, *family.label_words))


def test_a_ferment_that_darkens_is_no_worry_and_a_dish_liquid_that_does_is() -> None:
    for key, worry in (("citrus-ferment", False), ("dish-gentle", True)):
        journal = Journal(house_formulas()[key].formula)
        for level in (0, 1, 2):
            journal.write(EntryKind.OBSERVE, data={"seen": {"colour": level}})
        (series,) = series_of(journal.progress, BEGUN)
        assert series.worries is worry
