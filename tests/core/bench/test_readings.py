"""What readings and looks mean."""

import pytest

from firkin.core.bench import (
    ASPECTS,
    drifting,
    judge_ph,
)


@pytest.mark.parametrize(
    ("family", "value", "verdict"),
    [
        ("dish-liquid", 8.0, "within"),
        ("dish-liquid", 9.5, "high"),
        ("dish-liquid", 5.5, "low"),
        ("gel", 7.0, "within"),
        ("ferment", 4.5, "high"),
    ],
)
def test_a_ph_is_judged_by_its_familys_window(family: str, value: float, verdict: str) -> None:
    """Common practice, no source: dish liquid for hands 6 to 8.5, a finished ferment below about 4."""
    judged = judge_ph(family, value)
    assert judged.verdict == verdict
    assert bool(judged.advice) == (verdict != "within")


def test_powders_have_no_ph_and_scales_have_words() -> None:
    assert judge_ph("dishwasher-powder", 7) is None
    assert all(len(words) == len(set(words)) >= 3 for _, words in ASPECTS.values())
    assert "yellows" in drifting("colour", [0, 2])
    assert drifting("colour", [2, 0]) == ""
    assert "spoilt" in drifting("smell", [0, 2])
