"""Verdicts against rule lines."""

import pytest

from firkin.core.catalogue.rule_lines import Limit, Verdict, judge, rule_line, rule_lines
from firkin.core.errors import CannotRead
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


#: Half of the last of four figures of 60, 95 and 0.5 %, a hair less and a hair more: what is off by less is on it.
BOUNDS = [
    (60.0, None, 60.0, 60.0, 60.0, 60.0, "meets", 0.0),
    (60.0, None, 59.9951, 60.0, 59.9951, 60.0, "meets", -0.0049),
    (60.0, None, 59.994, 60.0, 59.994, 60.0, "short", -0.006),
    (60.0, None, 61.0, 62.0, 59.994, 63.0, "on-the-line", 1.0),
    (60.0, None, 61.0, 62.0, 59.996, 63.0, "meets", 1.0),
    (60.0, 95.0, 94.0, 95.0, 93.0, 95.0, "meets", 0.0),
    (60.0, 95.0, 94.0, 95.006, 93.0, 95.006, "too-strong", -0.006),
    (60.0, 95.0, 94.0, 94.5, 93.0, 95.006, "on-the-line", 0.5),
    (60.0, 95.0, 94.0, 94.5, 93.0, 95.004, "meets", 0.5),
    (60.0, 95.0, 70.0, 96.0, 59.0, 96.0, "too-strong", -1.0),
    (60.0, 95.0, 59.0, 96.0, 58.0, 97.0, "short", -1.0),
    (60.0, 95.0, 64.0, 65.0, 63.0, 66.0, "meets", 4.0),
    (0.0, None, 0.0, 0.0, 0.0, 0.0, "meets", 0.0),
    (0.0, None, -0.1, 0.0, -0.1, 0.0, "short", -0.1),
    (None, 0.5, 0.1, 0.50004, 0.1, 0.50004, "meets", -0.00004),
    (None, 0.5, 0.1, 0.50006, 0.1, 0.50006, "too-strong", -0.00006),
]  # fmt: skip


@pytest.mark.parametrize(("minimum", "maximum", "lower", "higher", "low", "high", "verdict", "margin"), BOUNDS)
def test_a_strength_on_either_side_of_a_limit(minimum, maximum, lower, higher, low, high, verdict, margin) -> None:
    """A minimum is judged by the lower, a maximum by the higher; the worst case decides between meets and on the line."""
    stands = judge("a-line", Limit("ethanol", minimum, maximum), lower, higher, low, high)
    assert (stands.verdict, stands.margin_points) == (verdict, pytest.approx(margin, abs=1e-9))
    assert (stands.guideline, stands.active, stands.minimum, stands.maximum) == ("a-line", "ethanol", minimum, maximum)


def test_a_line_has_one_window_for_an_active_and_none_for_what_it_does_not_speak_of() -> None:
    for line in rule_lines().values():
        assert [line.limit_for(limit.active) for limit in line.limits] == list(line.limits)
        assert line.limit_for("pond water") is None
    with pytest.raises(CannotRead, match=f"“{'x' * 39}…” is not a rule line. Known: cdc-alcohol-60, hicpac-60-95, "):
        rule_line("x" * 50)


def test_the_worst_verdict_is_the_first_of_their_order_and_none_of_none() -> None:
    assert Verdict.worst(reversed(Verdict)) is Verdict.SHORT
    assert Verdict.worst([]) is None


@pytest.mark.parametrize(
    ("high", "higher", "verdict"),
    [
        (80.0, 80.0, Verdict.MEETS),
        (80.0049, 80.0, Verdict.MEETS),
        (80.0051, 80.0, Verdict.ON_THE_LINE),
        (80.2, 80.0049, Verdict.ON_THE_LINE),
        (80.2, 80.0051, Verdict.TOO_STRONG),
    ],
)
def test_what_is_shown_as_the_maximum_is_on_it(high: float, higher: float, verdict: Verdict) -> None:
    limit = Limit("ethanol", 60.0, 80.0)
    assert judge("a-line", limit, 70.0, higher, 69.0, high).verdict is verdict
