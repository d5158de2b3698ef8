"""What per cents add up to, while a formula is being typed."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.audit import audit
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import (
    Formula,
    Line,
    percent_words,
    reckon,
    work_reckoning,
)
from firkin.core.measures import Quantity, Strength
from mixes import mix


@pytest.mark.parametrize(
    ("lines", "says", "right"),
    [
        ([("water", "90 %"), ("sles", "8 %")], "2 % is missing", False),
        ([("water", "90 %"), ("sles", "12.5 %")], "2.5 % too much", False),
        ([("water", "90 %"), ("sles", "10 %")], "adds up", True),
        ([("water", "q.s."), ("sles", "10 %")], "water makes up the other 90 %", True),
        ([("water", "q.s."), ("sles", "100 %")], "the other 0 %", False),
        ([("water", "1 L"), ("sles", "10 %")], "make up the rest", True),
    ],
)
def test_per_cents_are_watched(lines, says: str, right: bool) -> None:
    words, fine = percent_words(mix(*lines, family="dish-liquid", basis="weight"))
    assert says in words
    assert fine is right


def test_without_per_cents_nothing_is_said() -> None:
    assert percent_words(mix(("water", "1 L"))) is None


@given(st.lists(st.floats(0.1, 60.0), min_size=2, max_size=6))
def test_the_editor_and_the_finding_agree(shares: list[float]) -> None:
    names = ["water", "sles", "urea", "salt", "fragrance", "glycerol"]
    formula = mix(
        *((name, f"{share} %") for name, share in zip(names, shares, strict=False)),
        family="dish-liquid", basis="weight", make="1 kg",
    )  # fmt: skip
    said = percent_words(formula)
    try:
        rules = {one.rule for one in audit(reckon(formula))}
    except CannotReckon:
        return
    assert said is not None
    assert said[1] == ("percent-sum" not in rules)


@pytest.mark.parametrize(("low", "high", "told"), [(90.0, 96.0, True), (95.99, 96.01, True), (96.0, 96.0, False)])
def test_the_worst_cases_are_worked_out_where_there_are_any(low: float, high: float, told: bool) -> None:
    stock = Strength((low + high) / 2.0, low, high, "v/v")
    lines = (Line(find("ethanol"), Quantity(800.0, "mL"), stock), Line(find("water"), Quantity(200.0, "mL")))
    result = reckon(Formula("Rub", lines, "liquid-rub"))
    worked = {line.what: line for line in work_reckoning(result)}
    (active,) = result.actives
    ends = {"Ethanol, lowest worst case": active.low, "Ethanol, highest worst case": active.high}
    assert {name: worked[name].result for name in ends if name in worked} == (ends if told else {})
    assert all(line.unit == "% v/v" for name, line in worked.items() if "worst case" in name)
