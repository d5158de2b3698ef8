"""Fixes do bring a mix to its line."""

import re
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.audit import fixes
from firkin.core.catalogue import Stock
from firkin.core.formula import Line, reckon
from firkin.core.measures import Quantity
from mixes import line, mix, vv

SHELF = [
    Stock("Blue can", "ethanol", vv(96.0)),
    Stock("Other", "isopropanol", vv(99.0)),
    Stock("Weak", "ethanol", vv(40.0)),
]


@pytest.mark.parametrize(
    ("stock", "gel", "rule", "errors"),
    [
        ("70 %", "100 mL", "cdc-alcohol-60", 0.0),
        ("75-80 %", "120 mL", "cdc-alcohol-60", 0.05),
        ("91 %", "150 mL", "hospital-70", 0.02),
    ],
)
def test_every_fix_does_bring_the_mix_to_its_line(stock, gel, rule, errors) -> None:
    """Each sentence is read back and tried out."""
    formula = mix(("ethanol", "300 mL", stock), ("aloe-gel", gel), guidelines=(rule,))
    formula = replace(formula, lines=tuple(replace(one, error=errors) for one in formula.lines))
    result = reckon(formula)
    assert result.verdicts[0].verdict in ("short", "on-the-line")
    found = [str(fix) for fix in fixes(result, result.verdicts[0], SHELF)]
    tried = 0
    for sentence in found:
        if match := re.match(r"Keep everything else to ([\d.]+) mL", sentence):
            lines: tuple[Line, ...] = (
                formula.lines[0],
                replace(formula.lines[1], amount=Quantity(float(match[1]), "mL")),
            )
        elif match := re.match(r"Use a stock of at least ([\d.]+) %", sentence):
            lines = (replace(formula.lines[0], strength=vv(float(match[1]))), formula.lines[1])
        else:
            match = re.match(r"Add ([\d.]+) mL of Blue can", sentence)
            lines = (*formula.lines, line("ethanol", f"{match[1]} mL", "96 %"))
        tried += 1
        assert reckon(replace(formula, lines=lines)).actives[0].low >= result.verdicts[0].minimum - 1e-9, sentence
    assert tried == len(found) >= 2
    assert not any("Other" in sentence or "Weak" in sentence for sentence in found)


@given(
    st.floats(min_value=60.5, max_value=95),
    st.floats(min_value=1.05, max_value=3),
    st.floats(min_value=50, max_value=3000),
)
def test_the_additive_a_fix_allows_still_holds_the_line_as_it_is_written(stock, over, volume) -> None:
    """What is shown is rounded to four figures: an amount to keep to must be rounded down, a ratio up."""
    stock, volume = round(stock, 4), round(volume, 4)  # as the formula below is written
    room = volume * (stock / 60 - 1)
    formula = mix(
        ("ethanol", f"{volume:.4f} mL", f"{stock:.4f} %"),
        ("aloe-gel", f"{room * over:.4f} mL"),
        guidelines=("cdc-alcohol-60",),
    )
    result = reckon(formula)
    said = next(text for text in map(str, fixes(result, result.verdicts[0])) if text.startswith("Keep"))
    amount, unit, ratio = re.match(r"Keep everything else to ([\d.]+) (mL|L) .* 1 part to ([\d.]+)\.", said).groups()
    keep = float(amount) * (1000 if unit == "L" else 1)
    assert stock * volume / (volume + keep) >= 60 - 1e-3 / volume - 1e-6
    assert stock * float(ratio) / (float(ratio) + 1) >= 60 - 1e-6


def test_a_mix_that_is_too_strong_is_told_how_much_water() -> None:
    result = reckon(mix(("ethanol", "1 L", "97 %"), guidelines=("hicpac-60-95",)))
    (sentence,) = map(str, fixes(result, result.verdicts[0]))
    assert sentence.startswith("Add ")
    assert "of water" in sentence
