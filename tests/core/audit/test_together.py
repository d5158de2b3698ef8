"""Two materials together: what must never meet is said in either order, and nothing is said of one alone."""

from itertools import combinations

import pytest

from firkin.core.audit import Severity, together
from firkin.core.catalogue import find, materials, must_not_meet

#: WHO and CDC name bleach; the rest is common knowledge of the trade, no source.
KNOWN = [
    ("bleach", "vinegar", "stop", "chlorine gas"),
    ("bleach", "ammonia", "stop", "chloramine"),
    ("bleach", "isopropanol", "stop", "chloroform"),
    ("bleach", "hydrogen peroxide", "stop", "heat"),
    ("bleach", "castile soap", "stop", "Bleach goes into plain water"),
    ("hydrogen peroxide", "vinegar", "stop", "peracetic"),
    ("caustic soda", "aluminium", "stop", "hydrogen"),
    ("citric acid", "washing soda", "stop", "fizz"),
    ("castile soap", "vinegar", "warn", "curdles"),
    ("castile soap", "salt", "warn", "soap out of solution"),
    ("carbomer", "salt", "warn", "collapse"),
    ("ethanol", "coconut oil", "warn", "float"),
]
NOTHING = [
    ("salt", "glycerol"),
    ("water", "ethanol"),
    ("water", "bleach"),
    ("borax", "washing soda"),
    ("ethanol", "ethanol"),
    ("caustic soda", "sulfonic acid"),  # too much of one is of amounts
    ("ethanol", "isopropanol"),
    ("salt", "SLES"),  # the order is of the recipe
]


@pytest.mark.parametrize(("one", "other", "severity", "words"), KNOWN, ids=[f"{a}-{b}" for a, b, *_ in KNOWN])
def test_what_two_bring_about(one: str, other: str, severity: str, words: str) -> None:
    found = together(find(one), find(other))
    assert str(found[0].severity) == severity
    assert words in found[0].text
    assert [each.rule for each in together(find(other), find(one))] == [each.rule for each in found]


@pytest.mark.parametrize(("one", "other"), NOTHING)
def test_nothing_is_known_of_these(one: str, other: str) -> None:
    assert together(find(one), find(other)) == ()


def test_whatever_must_never_meet_is_a_stop() -> None:
    for one, other in combinations(materials().values(), 2):
        stops = [found for found in together(one, other) if found.severity is Severity.STOP]
        assert bool(stops) or not must_not_meet(one, other), (one.id, other.id)
