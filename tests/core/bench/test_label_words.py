"""What a label usually says besides strength and dates."""

import pytest

from firkin.core.bench import below_its_line, usual_label_words
from firkin.core.formula import reckon
from mixes import mix

SHAKEN = [
    ("surface", [("water", "1 L"), ("olive-oil", "5 mL")], True),
    ("surface", [("water", "1 L"), ("lavender-oil", "1 mL")], True),
    ("surface", [("water", "1 L"), ("lavender-oil", "1 mL"), ("ethanol", "700 mL", "96 %")], False),
    ("surface", [("water", "1 L"), ("lavender-oil", "1 mL"), ("sles", "50 g", "70 %")], False),
    ("surface", [("water", "1 L"), ("white-vinegar", "100 mL")], False),
    ("dishwasher-powder", [("washing-soda", "500 g"), ("lavender-oil", "1 mL")], True),
]


@pytest.mark.parametrize(("family", "lines", "shaken"), SHAKEN, ids=range(len(SHAKEN)))
def test_what_floats_is_shaken_and_what_holds_the_oil_is_not(family: str, lines, shaken: bool) -> None:
    """Oil floats on water (common practice, no source); alcohol and surfactants hold it."""
    words = usual_label_words(mix(*lines, family=family))
    assert any("hake" in said for said in words) is shaken
    assert len(words) == len(set(words))


@pytest.mark.parametrize(
    ("strength", "says"), [("96 %", ""), ("70 %", "Does not meet “At least 60 % alcohol”: it holds 56 % v/v.")]
)
def test_what_falls_short_says_its_strength(strength: str, says: str) -> None:
    """By hand: 800 mL of 70 % in a litre."""
    rub = mix(
        ("ethanol", "800 mL", strength),
        ("water", "q.s."),
        make="1 L",
        family="liquid-rub",
        guidelines=("cdc-alcohol-60",),
    )
    assert below_its_line(reckon(rub)) == says
