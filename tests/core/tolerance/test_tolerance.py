"""The distribution of a strength: closed cases, the uncertainties library, and reckonings done one by one."""

import math
from dataclasses import replace
from random import Random
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from uncertainties import ufloat

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import (
    Formula,
    Line,
    counted_actives,
    formula_from_dict,
    house_formulas,
    measured_out,
    reckon,
    work_out,
)
from firkin.core.measures import Strength, read_quantity
from firkin.core.tolerance import Measure, how_sure, measures_said, tolerance
from firkin.core.tolerance.draws import drawn_actives


def line(material: str, amount: str, low: float = 0.0, high: float | None = None) -> Line:
    strength = None if high is None else Strength((low + high) / 2.0, low, high, "v/v")
    return Line(find(material), read_quantity(amount), strength)


def mix(*lines: Line, make: str = "", guideline: str = "") -> Formula:
    size = read_quantity(make) if make else None
    return Formula("Mix", lines, "liquid-rub", make=size, guidelines=(guideline,) if guideline else ())


def rub(low: float = 96.0, high: float = 96.0) -> Formula:
    return mix(line("ethanol", "700 mL", low, high), line("water", "250 mL"), guideline="cdc-alcohol-60")


def sd(half: float) -> float:
    return half / math.sqrt(3.0)  # JCGM 100:2008, 4.3.7


PERFECT = Measure()


# Straight from the bottle nothing is measured: the strength is the label's, between its ends (closed form).
@pytest.mark.parametrize(
    ("low", "high", "guideline", "share"),
    [
        (50.0, 70.0, "cdc-alcohol-60", 50.0),
        (60.0, 70.0, "cdc-alcohol-60", 100.0),
        (59.0, 60.0, "cdc-alcohol-60", 0.0),
        (60.0, 60.0, "cdc-alcohol-60", 100.0),
        (59.99, 59.99, "cdc-alcohol-60", 0.0),
        (70.0, 90.0, "who-ethanol", 50.0),  # a window of 75 to 85 holds when both its ends do
        (80.0, 90.0, "who-ethanol", 50.0),
        (85.0, 85.0, "who-ethanol", 100.0),
        (85.1, 85.1, "who-ethanol", 0.0),
    ],
)
def test_straight_from_a_bottle(low: float, high: float, guideline: str, share: float) -> None:
    sure = how_sure(mix(line("ethanol", "1 L", low, high), guideline=guideline), [PERFECT], seed=4)
    assert sure.mean == pytest.approx((low + high) / 2.0, abs=0.05)
    assert sure.sd == pytest.approx(sd((high - low) / 2.0), rel=0.01)
    assert sure.sd_linear == pytest.approx(sd((high - low) / 2.0), rel=1e-6)
    assert sure.percentiles == pytest.approx([low + share * (high - low) for share in (0.05, 0.5, 0.95)], abs=0.1)
    assert sure.share_holding_pct == pytest.approx(share, abs=0.5)


@given(
    st.floats(50.0, 900.0),
    st.floats(50.0, 900.0),
    st.floats(10.0, 300.0),
    *(st.floats(0.1, 8.0) for _ in range(3)),
    st.floats(0.1, 4.0),
)
@settings(max_examples=40, deadline=None)
def test_propagation_is_that_of_uncertainties(
    first: float, second: float, third: float, a: float, b: float, c: float, half: float
) -> None:
    formula = mix(
        line("ethanol", f"{first} mL", 90.0 - half, 90.0 + half),
        line("water", f"{second} mL"),
        line("ethanol", f"{third} mL", 70.0, 70.0),
    )
    tools = [Measure(systematic=error / 100.0) for error in (a, b, c)]
    amounts = [ufloat(amount, sd(amount * error / 100.0)) for amount, error in ((first, a), (second, b), (third, c))]
    label = (amounts[0] * ufloat(90.0, sd(half)) + amounts[2] * 70.0) / sum(amounts)
    sure = how_sure(formula, tools, "label", draws=10)
    assert sure.nominal == pytest.approx(label.nominal_value, rel=1e-6)
    assert sure.sd_linear == pytest.approx(label.std_dev, rel=1e-4, abs=2e-5)
    shares = {one.line: one.share_of_variance_pct for one in sure.ranked}
    if label.std_dev > 1e-3:
        by_source = label.error_components()
        for position in range(3):
            expected = by_source.get(amounts[position], 0.0) ** 2
            if position == 0:
                expected += sum(part**2 for source, part in by_source.items() if source not in amounts)
            assert shares[position] == pytest.approx(100.0 * expected / label.std_dev**2, abs=0.1)
        assert sum(shares.values()) == pytest.approx(100.0)
    ranked = [one.share_of_variance_pct for one in sure.ranked]
    assert ranked == sorted(ranked, reverse=True)


@pytest.mark.parametrize(
    ("tools", "half"),
    [
        (["cup", "cup"], 0.0),  # one cup for both: its error is the same share of each, and cancels
        ([{"systematic_pct": 5}, {"systematic_pct": 5}], 1.0),
        ([{"systematic_pct": 5, "group": "a"}, {"systematic_pct": 5, "group": "b"}], 1.0),
        ([{"systematic_pct": 5, "group": "a"}, {"systematic_pct": 5, "group": "a"}], 0.0),
        ([{"random_pct": 5, "group": "a"}, {"random_pct": 5, "group": "a"}], 1.0),
        ([{"random_pct": 5, "fillings": 4}, {"random_pct": 5, "fillings": 4}], 0.5),
        ([{"random_pct": 5, "size": "125 mL"}, {"random_pct": 5, "size": "126 mL"}], 0.5),
        ([{"random_pct": 5, "fillings": 25}, {"random_pct": 5, "fillings": 25}], 0.2),
        ([{"error_mL": 25}, {"error_mL": 25}], 1.0),
        ([{"error_mL": 25, "group": "g"}, {"error_mL": 25, "group": "g"}], 0.0),
        ([{"error_mL": 12.5, "fillings": 4}, {"error_mL": 12.5, "fillings": 4}], 1.0),
        ([None, None], 0.0),
    ],
)
def test_parts_that_are_shared_and_parts_drawn_anew(tools: list[Any], half: float) -> None:
    """Half and half of 500 mL: by label, d = 48 % times the difference of the two relative errors over 2."""
    formula = mix(line("ethanol", "500 mL", 96.0, 96.0), line("water", "500 mL"))
    independent = sd(0.05) * math.sqrt(2.0) * 96.0 / 4.0
    sure = how_sure(formula, measures_said(formula, tools), "label", seed=2)
    assert sure.sd_linear == pytest.approx(independent * half, rel=1e-3, abs=1e-6)
    assert sure.sd == pytest.approx(independent * half, rel=0.02, abs=1e-6)


def test_one_stock_in_two_lines_is_one_draw_unless_they_are_two_bottles() -> None:
    formula = mix(line("ethanol", "500 mL", 90.0, 96.0), line("ethanol", "500 mL", 90.0, 96.0))
    one = how_sure(formula, [PERFECT, PERFECT], "label")
    two = how_sure(formula, measures_said(formula, [{"bottle": "a"}, {"bottle": "b"}]), "label")
    assert one.sd_linear == pytest.approx(sd(3.0), rel=1e-6)
    assert two.sd_linear == pytest.approx(sd(3.0) / math.sqrt(2.0), rel=1e-6)


def test_what_tops_up_is_off_by_its_share_of_the_whole() -> None:
    """A mark read 2 % high thins the batch by that: 70 % of 1 L in 1.02 L (closed form)."""
    formula = mix(line("ethanol", "700 mL", 100.0, 100.0), line("water", "q.s."), make="1 L")
    sure = how_sure(formula, measures_said(formula, [None, {"systematic_pct": 2}]), "label", seed=1)
    assert sure.nominal == pytest.approx(70.0)
    assert sure.sd_linear == pytest.approx(sd(70.0 * 0.02), rel=1e-3)
    true = how_sure(formula, measures_said(formula, [None, {"systematic_pct": 2}]), "true", seed=1)
    assert (true.percentiles[0], true.percentiles[2]) == pytest.approx((70.0 / 1.018, 70.0 / 0.982), abs=0.05)


def test_the_table_has_its_own_doubt() -> None:
    """2-propanol by weight: 0.002 g/mL of about 0.86 is one rectangle, and nothing else is off."""
    formula = mix(Line(find("isopropanol"), read_quantity("700 g")), line("water", "300 g"))
    sure = how_sure(formula, [PERFECT, PERFECT], "true")
    density = reckon(formula).total.density
    assert sure.sd_linear == pytest.approx(sd(sure.nominal * 0.002 / density), rel=1e-6)
    assert sure.sd == pytest.approx(sure.sd_linear, rel=0.01)
    assert sure.table_share_pct == pytest.approx(100.0)


HOUSE = [one.formula for one in house_formulas().values() if reckon(one.formula).actives]


@pytest.mark.parametrize("formula", HOUSE, ids=lambda formula: formula.name)
def test_draws_go_through_the_same_formula_as_everything_else(formula: Formula) -> None:
    """Twenty draws of each house formula, each reckoned once more by itself with plain numbers."""
    random = Random(formula.name)
    planned = work_out(formula)
    errors = [np.array([random.uniform(-0.08, 0.08) for _ in range(20)]) for _ in formula.lines]
    strengths = [
        np.array([random.uniform(0.9, 1.0) * one.counted_strength.value for _ in range(20)])
        if one.counted_strength is not None
        else None
        for one in formula.lines
    ]
    drawn = drawn_actives(formula, planned, errors, strengths)
    for at in range(20):
        lines = tuple(
            one if drawn_ is None else replace(one, strength=Strength.of(float(drawn_[at]), one.counted_strength.basis))
            for one, drawn_ in zip(formula.lines, strengths, strict=True)
        )
        alone = replace(formula, lines=lines)
        pot, _ = work_out(replace(alone, make=None, lines=tuple(_weighed(one) for one in lines)))
        masses = measured_out(formula, *planned, pot, [float(error[at]) for error in errors])
        for key, one in counted_actives(alone, pot, masses).items():
            assert float(np.broadcast_to(drawn[key].label, 20)[at]) == pytest.approx(one.label, rel=2e-6)
            assert float(np.broadcast_to(drawn[key].true, 20)[at]) == pytest.approx(one.true, rel=2e-6)


def _weighed(one: Line) -> Line:
    return replace(one, amount=read_quantity("1 g"))


@pytest.mark.parametrize("formula", HOUSE, ids=lambda formula: formula.name)
def test_the_nominal_strength_is_the_reckoned_one(formula: Formula) -> None:
    sure = how_sure(formula, [PERFECT] * len(formula.lines), draws=3)
    assert sure.nominal == pytest.approx(reckon(formula).active(sure.active).lower, rel=2e-6)


def test_the_same_seed_gives_the_same_and_another_another() -> None:
    first, again, other = (
        how_sure(rub(90.0, 96.0), measures_said(rub(), ["cup", "jug"]), seed=seed, draws=500) for seed in (5, 5, 6)
    )
    assert first == again
    assert first.mean != other.mean


def test_the_best_change_is_the_best_of_those_tried() -> None:
    formula = mix(line("ethanol", "500 mL", 96.0, 96.0), line("aloe-gel", "280 mL"), guideline="cdc-alcohol-60")
    given = tolerance(formula, {"tools": ["cup", "jug"], "seed": 1, "draws": 20_000})
    assert given["best_change"]["share_holding_pct"] > given["share_holding_pct"]
    for words, other in (
        ("weigh the ethanol", ["scale", "jug"]),
        ("weigh the aloe gel", ["cup", "scale"]),
    ):
        share = how_sure(formula, measures_said(formula, other), seed=1, draws=20_000).share_holding_pct
        assert any(words in row and f" {share:.4g} % hold" in row for row in given["working"])
        assert share <= given["best_change"]["share_holding_pct"] + 1e-9
    topped = mix(line("ethanol", "700 mL", 96.0, 96.0), line("water", "q.s."), make="1 L")
    assert "best_change" not in tolerance(topped, {"tools": [None, None]})


@pytest.mark.parametrize(
    ("asked", "place"),
    [
        ({"tools": ["cup"]}, ("tools",)),
        ({"tools": ["cup", "ladle"]}, ("tools", 1)),
        ({"tools": ["cup", {"size": "red"}]}, ("tools", 1)),
        ({"guideline": "no-such"}, ()),
        ({"guideline": "surface-chlorine-05"}, ("guideline",)),
        ({"active": "isopropanol"}, ("active",)),
        ({"tools": [{"error_mL": 900}, None]}, ("tools", 0)),
    ],
)
def test_what_cannot_be_answered_says_where(asked: dict[str, Any], place: tuple[str | int, ...]) -> None:
    with pytest.raises(CannotReckon) as raised:
        tolerance(rub(), asked)
    assert raised.value.path[: len(place)] == place


def test_a_dry_mix_without_any_strength_is_told_so() -> None:
    powder = formula_from_dict(
        {"format": "firkin-formula/1", "name": "P", "lines": [{"material": "washing-soda", "amount": "1 kg"}]}
    )
    with pytest.raises(CannotReckon, match="Nothing in it has a strength"):
        how_sure(powder, [PERFECT])


def test_without_tools_the_formula_says_how_well_its_lines_are_measured() -> None:
    lines = (replace(line("ethanol", "700 mL", 96.0, 96.0), error=0.05), line("water", "250 mL"))
    assert [one.systematic for one in measures_said(mix(*lines), None)] == [0.05, 0.0]


def test_a_tool_with_errors_of_its_own_beside_it_counts_with_those() -> None:
    bare, own = measures_said(rub(), [{"tool": "cup"}, {"tool": "cup", "systematic_pct": 1}])
    assert (bare.systematic, own.systematic) == (0.05, 0.01)
    assert bare.group == own.group == "cup"


def test_no_seed_is_the_seed_nothing() -> None:
    asked = {"tools": ["cup", "cup"], "draws": 400}
    assert tolerance(rub(), asked) == tolerance(rub(), {**asked, "seed": 0}) != tolerance(rub(), {**asked, "seed": 1})


def test_less_of_what_thins_is_tried_and_not_less_of_the_active() -> None:
    """690 mL of 96 % in 1100 are 60.2 % by C1 V1 = C2 V2: less water holds its rule more often, less alcohol never."""
    weak = mix(line("ethanol", "690 mL", 94.0, 96.0), line("water", "410 mL"), guideline="cdc-alcohol-60")
    found = tolerance(weak, {"tools": ["cup", "cup"], "draws": 1000, "seed": 3, "guideline": "cdc-alcohol-60"})
    assert "a tenth less water" in str(found["best_change"])
