"""The caustic left over, spread: closed cases, the uncertainties library, and reckonings done one by one."""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from uncertainties import ufloat

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, formula_from_dict, house_formulas, reckon
from firkin.core.measures import Quantity, Strength
from firkin.core.questions import neutrality
from firkin.core.tolerance import Measure, how_neutral

#: g/mol: NaOH from the standard atomic weights (CIAAW), LABSA the mean that suppliers print (from memory).
_NAOH, _LABSA = 39.997, 320.0
_PERFECT = Measure()


def dish(spare_pct: float = 0.0, labsa: Strength | None = None) -> Formula:
    """A mole of LABSA's protons, and caustic for it with so many per cent of itself to spare."""
    acid = (labsa or Strength.of(96.0, "w/w")).value / 100.0
    base = 1.0 / (1.0 - spare_pct / 100.0)
    return Formula(
        "Dish",
        (
            Line(find("water"), Quantity(4000.0, "g")),
            Line(find("labsa"), Quantity(_LABSA / acid, "g"), labsa or Strength.of(96.0, "w/w")),
            Line(find("caustic-soda"), Quantity(_NAOH * base, "g"), Strength.of(100.0, "w/w")),
        ),
        "dish-liquid",
    )


def measured(acid: float = 0.0, base: float = 0.0) -> list[Measure]:
    return [_PERFECT, Measure(systematic=acid), Measure(systematic=base)]


# The acid's error alone, a rectangle of half-width 10 %: spare is a rectangle from -10 to 10 %, half of it within 5 (closed).
@pytest.mark.parametrize(
    ("spare", "near", "over"), [(0.0, 50.0, 25.0), (5.0, 50.0, 50.0), (15.0, 0.0, 100.0), (-15.0, 0.0, 0.0)]
)
def test_a_rectangle_around_neutral(spare: float, near: float, over: float) -> None:
    half = 0.10 / (1.0 - spare / 100.0)  # of the acid, so that spare moves by 10 points of the base
    found = how_neutral(dish(spare), measured(acid=half), draws=200_000, seed=3)
    assert found is not None
    assert found.nominal == pytest.approx(spare, abs=1e-6)
    assert found.share_near_pct == pytest.approx(near, abs=0.4)
    assert found.share_over_pct == pytest.approx(over, abs=0.4)
    assert found.share_near_pct + found.share_over_pct + found.share_acid_pct == pytest.approx(100.0)
    assert found.sd == pytest.approx(10.0 / math.sqrt(3.0), rel=0.01)
    assert found.sd_linear == pytest.approx(10.0 / math.sqrt(3.0), rel=1e-6)


@pytest.mark.parametrize(("spare", "over", "acid"), [(4.99, 0, 0), (5.01, 100, 0), (-4.99, 0, 0), (-5.01, 0, 100)])
def test_near_neutral_ends_at_a_twentieth_of_the_base(spare: float, over: float, acid: float) -> None:
    found = how_neutral(dish(spare), measured(), draws=10)
    assert found is not None
    assert (found.share_over_pct, found.share_acid_pct) == (over, acid)
    assert found.sd < 1e-9


def test_the_linear_part_as_the_uncertainties_library_has_it() -> None:
    found = how_neutral(dish(3.0), measured(0.02, 0.05), draws=100, seed=1)
    acid = ufloat(1.0, 0.02 / math.sqrt(3.0))
    base = ufloat(1.0 / 0.97, 0.05 / math.sqrt(3.0) / 0.97)
    spare = 100.0 * (base - acid) / base
    assert found is not None
    assert found.nominal == pytest.approx(spare.nominal_value)
    assert found.sd_linear == pytest.approx(spare.std_dev, rel=1e-4)
    assert [one.line for one in found.ranked][:2] == [2, 1]
    shares = {one.line: one.share_of_variance_pct for one in found.ranked}
    assert shares[2] == pytest.approx(100.0 * 25.0 / 29.0, rel=1e-3)


def test_a_label_between_two_strengths_spreads_it() -> None:
    found = how_neutral(dish(labsa=Strength(93.0, 90.0, 96.0, "w/w")), measured(), draws=100_000, seed=2)
    assert found is not None
    assert found.sd == pytest.approx(100.0 * 3.0 / 93.0 / math.sqrt(3.0), rel=0.01)
    assert found.lowest == pytest.approx(-100.0 * 3.0 / 93.0, abs=0.01)
    assert found.highest == pytest.approx(100.0 * 3.0 / 93.0, abs=0.01)


def test_one_tool_for_both_takes_its_own_error_back() -> None:
    same = [_PERFECT, Measure(systematic=0.1, group="cup"), Measure(systematic=0.1, group="cup")]
    found = how_neutral(dish(2.0), same, draws=1000, seed=2)
    assert found is not None
    assert found.sd < 1e-6
    assert found.sd_linear == 0.0


@settings(deadline=None, max_examples=25)
@given(
    seed=st.integers(0, 2**31),
    spare=st.floats(-20.0, 20.0),
    halves=st.tuples(st.floats(0.0, 0.1), st.floats(0.0, 0.1)),
)
def test_each_draw_is_what_the_formula_so_measured_comes_to(seed, spare, halves) -> None:
    found = how_neutral(dish(spare), measured(*halves), draws=1, seed=seed)
    draw = np.random.default_rng(seed)
    errors = [half * (2.0 * draw.random(1)[0] - 1.0) if half else 0.0 for half in halves]
    planned = dish(spare)
    really = replace(
        planned,
        lines=(
            planned.lines[0],
            *(
                replace(line, amount=line.amount.times(1.0 + off))
                for line, off in zip(planned.lines[1:], errors, strict=True)
            ),
        ),
    )
    ended = neutrality(reckon(really))
    assert ended is not None
    assert found is not None
    assert found.mean == pytest.approx(100.0 * (ended.base_mol_h - ended.acid_mol_h) / ended.base_mol_h, abs=1e-6)


def test_without_an_acid_or_without_a_base_there_is_nothing_to_meet() -> None:
    for without in ("labsa", "caustic-soda"):
        lines = tuple(line for line in dish().lines if line.material.id != without)
        assert how_neutral(replace(dish(), lines=lines), [_PERFECT] * 2, draws=10) is None


def test_a_tool_for_each_line() -> None:
    with pytest.raises(CannotReckon, match="one for each"):
        how_neutral(dish(), [_PERFECT], draws=10)


def test_house_formulas_with_both_have_a_spread() -> None:
    found = {}
    for key, house in house_formulas().items():
        sure = how_neutral(house.formula, [Measure(systematic=0.01)] * len(house.formula.lines), draws=2000, seed=1)
        if sure is not None:
            found[key] = sure
            ended = neutrality(reckon(house.formula))
            assert ended is not None
            assert sure.nominal == pytest.approx(100.0 * (1.0 - ended.acid_mol_h / ended.base_mol_h), abs=1e-6)
    assert "dish-gentle" in found


def test_a_formula_of_a_file_by_volume_counts_its_solutions_density() -> None:
    written = {
        "format": "firkin-formula/1",
        "name": "By cups",
        "lines": [
            {"material": "water", "amount": "4 L"},
            {"material": "labsa", "amount": "300 mL", "strength": "96 % w/w"},
            {"material": "caustic-soda", "amount": "50 mL", "strength": "50 % w/w"},
        ],
    }
    formula = formula_from_dict(written)
    found = how_neutral(formula, [_PERFECT, _PERFECT, Measure(systematic=0.05)], draws=50_000, seed=1)
    ended = neutrality(reckon(formula))
    assert found is not None
    assert ended is not None
    ratio = ended.acid_mol_h / ended.base_mol_h
    assert found.sd_linear == pytest.approx(100.0 * ratio * 0.05 / math.sqrt(3.0), rel=1e-4)
