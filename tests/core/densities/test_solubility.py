"""What water holds of a solid, by temperature, and what freezes."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core import datafiles
from firkin.core.catalogue import find, materials
from firkin.core.densities import freezes_at, holds_g, saturation, solutions
from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength

#: g in 100 g of water at 20 degC: CRC Handbook of Chemistry and Physics, from memory.
AT_20 = {
    **{"borax": 4.7, "washing-soda": 21.5, "baking-soda": 9.6, "salt": 35.9, "caustic-soda": 109.0},
    **{"sodium-benzoate": 63.0, "potassium-sorbate": 58.0, "urea": 108.0, "raw-sugar": 204.0},
}
TABLE = datafiles.toml("densities/solubility.toml")


@pytest.mark.parametrize(("solid", "grams"), AT_20.items())
def test_what_water_holds_at_20_degrees(solid: str, grams: float) -> None:
    assert holds_g(solid) == grams
    assert saturation(solid) == pytest.approx(grams / (100.0 + grams))


def test_citric_acid_is_saturated_at_about_59_per_cent() -> None:
    """CRC Handbook of Chemistry and Physics, from memory."""
    assert 100.0 * (saturation("citric-acid") or 0.0) == pytest.approx(59.0, abs=0.2)


@pytest.mark.parametrize("solid", TABLE)
def test_the_table_is_of_solids_and_says_its_source(solid: str) -> None:
    points = TABLE[solid]["points"]
    assert materials()[solid].solid and TABLE[solid]["source"]
    assert [celsius for celsius, _ in points] == sorted({celsius for celsius, _ in points})
    assert holds_g(solid, points[0][0] - 5.0) == points[0][1] and holds_g(solid, points[-1][0] + 5.0) == points[-1][1]


@pytest.mark.parametrize("solid", sorted(set(TABLE) & set(solutions())))
def test_density_goes_on_smoothly_up_to_what_dissolves(solid: str) -> None:
    """No jump at the end of the table: each thousandth more weighs a little more."""
    material = find(solid)
    most = (saturation(solid) or 0.0) / material.holds
    at = [material.density_at(most * step / 1000.0) for step in range(1001)]
    steps = [after - before for before, after in pairwise(at)]
    assert all(0.0 <= step < 3.0 * max(steps[0], 1e-4) for step in steps), solid


@pytest.mark.parametrize(
    ("name", "just", "past"),
    [
        ("caustic soda", 52.1, 52.3),
        ("salt", 26.4, 26.5),
        ("citric acid", 59.0, 59.1),
        ("washing soda", 17.6, 17.8),
        ("borax", 4.4, 4.6),
        ("soda crystals", 47.7, 47.9),  # 37.04 % of it is soda free of water
    ],
)
def test_a_solution_just_within_what_dissolves_is_taken_and_one_past_it_refused(name, just, past) -> None:
    find(name).check_dissolves(Strength.of(just, "w/w"))
    find(name).check_dissolves(Strength.of(99.0, "w/w"))  # bought dry
    with pytest.raises(CannotReckon, match="will not dissolve"):
        find(name).check_dissolves(Strength.of(past, "w/w"))


@given(st.floats(0.0, 1.0))
def test_more_alcohol_freezes_later(share: float) -> None:
    for alcohol in ("ethanol", "isopropanol"):
        assert freezes_at(alcohol, min(1.0, share + 0.01)) <= freezes_at(alcohol, share) + 1e-9


def test_freezing_points_of_ethanol() -> None:
    """CRC Handbook of Chemistry and Physics, from memory: 10 % w/w -4.5, 40 % -29.3 degC."""
    assert freezes_at("ethanol", 0.10) == pytest.approx(-4.5, abs=0.3)
    assert freezes_at("ethanol", 0.40) == pytest.approx(-29.3, abs=0.5)
