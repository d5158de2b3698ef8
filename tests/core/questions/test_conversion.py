"""The same strength said otherwise comes back as it was; a measure of a powder weighs what its loose density says."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from checks.published import OIML_AT_20
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength, read_quantity
from firkin.core.questions.conversion import convert, weigh
from mixes import vv


@given(
    st.sampled_from([("ethanol", "v/v"), ("isopropanol", "v/v"), ("hydrogen-peroxide", "w/v")]),
    st.sampled_from(["% w/w", "% w/v", "% v/v"]),
    st.floats(min_value=0.1, max_value=35),
)
def test_there_and_back(what: tuple[str, str], way: str, pct: float) -> None:
    material, basis = find(what[0]), what[1]
    if way == "% v/v" and material.alcohol is None:
        return
    there, _ = convert(material, Strength.of(pct, basis), way)
    back, _ = convert(material, Strength.of(there, way[2:]), f"% {basis}")
    assert back == pytest.approx(pct, abs=1e-3)


def test_ethanol_goes_by_the_published_table() -> None:
    """OIML R 22: per cent by weight of a strength by volume, by the density of the mixture."""
    for by_volume, density in OIML_AT_20:
        by_weight = by_volume * 789.24 / density
        assert convert(find("ethanol"), vv(by_volume), "% w/w")[0] == pytest.approx(by_weight, abs=0.01)


def test_a_measure_of_a_powder_by_its_loose_density() -> None:
    """NIST HB 44 for the cup; the loose densities stand in the catalogue."""
    for key in ("salt", "washing-soda", "citric-acid"):
        volume, mass = weigh(find(key), read_quantity("1 cup"))
        assert volume == pytest.approx(236.588, abs=0.001)
        assert mass == pytest.approx(236.588 * find(key).bulk, rel=1e-5)


def test_proof_is_for_alcohol() -> None:
    with pytest.raises(CannotReckon):
        convert(find("hydrogen-peroxide"), Strength.of(3.0, "w/v"), "proof")


def test_ten_percent_lye_by_weight_is_11_by_volume() -> None:
    """1.109 g/mL: CRC handbook, from memory."""
    assert convert(find("caustic-soda"), Strength.of(10.0, "w/w"), "% w/v")[0] == pytest.approx(11.1, abs=0.02)
