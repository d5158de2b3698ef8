"""Powders as dense as they lie: volumes are kept, weights follow the scoop."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.formula import house_formulas, reckon, with_bulk
from mixes import mix

POWDER = house_formulas()["powder-soft"].formula


@given(st.floats(0.2, 2.0))
def test_a_dry_mix_keeps_its_parts_by_volume_and_the_size_it_is_made_in(bulk: float) -> None:
    changed, said = with_bulk(POWDER, {1: bulk})
    usual = 1.0  # g/mL, washing soda: common practice, no source
    assert bool(said) == (abs(bulk / usual - 1) > 0.02) or abs(abs(bulk - 1) - 0.02) < 1e-6
    result = reckon(changed)
    assert result.total.mass_g == pytest.approx(1000.0, rel=1e-3)
    densities = [0.85, bulk if said else usual, 1.25, 0.88]
    volumes = [line.mass_g / density for line, density in zip(result.lines, densities, strict=True)]
    assert [volume / volumes[3] for volume in volumes] == pytest.approx([2, 2, 1, 1], rel=2e-3)


def test_a_cup_in_a_wet_mix_gets_its_weight_and_nothing_else_changes() -> None:
    soap = mix(("bar-soap", "140 g"), ("washing-soda", "1 cup"), ("water", "q.s."), make="9 L", family="laundry-soap")
    changed, said = with_bulk(soap, {1: 0.55})
    assert changed.lines[1].amount.g == pytest.approx(236.588 * 0.55, abs=0.1)  # US cup: NIST HB 44
    assert (changed.lines[0], changed.lines[2], changed.make) == (soap.lines[0], soap.lines[2], soap.make)
    assert len(said) == 1


@pytest.mark.parametrize(
    ("lines", "bulks"),
    [
        ([("washing-soda", "100 g"), ("salt", "50 g")], {0: 0.55}),  # weighed already
        ([("washing-soda", "1 cup"), ("salt", "50 g")], {0: 1.01}),  # as usual
        ([("glycerol", "1 cup"), ("salt", "50 g")], {0: 0.55}),  # no powder
    ],
)
def test_what_is_weighed_as_usual_or_no_powder_stays(lines, bulks) -> None:
    formula = mix(*lines)
    assert with_bulk(formula, bulks) == (formula, ())
