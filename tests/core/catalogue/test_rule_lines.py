"""Verdicts against rule lines."""

import pytest

from firkin.core.formula import reckon
from mixes import mix

VERDICTS = [
    ("2 parts", "91 %", "cdc-alcohol-60", "meets"),
    ("2 parts", "90 %", "cdc-alcohol-60", "meets"),  # exactly 60 holds
    ("2 parts", "89-92 %", "cdc-alcohol-60", "on-the-line"),
    ("3 parts", "70 %", "cdc-alcohol-60", "short"),
    ("99 parts", "99.8 %", "hicpac-60-95", "too-strong"),
    ("19 parts", "99.8 %", "hicpac-60-95", "too-strong"),  # 94.8 by label, above 95 true: judged by the higher
    ("3 parts", "91 %", "hospital-70", "short"),
    ("4 parts", "91 %", "hospital-70", "meets"),
]


@pytest.mark.parametrize(("parts", "strength", "rule", "verdict"), VERDICTS)
def test_verdicts_are_on_the_cautious_side(parts, strength, rule, verdict) -> None:
    result = reckon(mix(("ethanol", parts, strength), ("aloe-gel", "1 part"), guidelines=(rule,)))
    assert [judged.verdict for judged in result.verdicts] == [verdict]
