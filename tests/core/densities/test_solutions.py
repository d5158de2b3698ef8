"""Densities of solutions against handbooks, a general reference library, and their own promises."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from thermo.electrochem import Laliberte_density

from core.densities import coolprop
from firkin.core.densities import solutions

#: CRC Handbook of Chemistry and Physics, concentrative properties of aqueous solutions, 20 degC, from memory; the last
#: three: Perry's Chemical Engineers' Handbook, from memory. % w/w -> g/mL, and none is a point of our own table.
HANDBOOK = [
    ("caustic-soda", 12, 1.1309),
    ("caustic-soda", 32, 1.3488),
    ("citric-acid", 10, 1.039),
    ("citric-acid", 50, 1.22),
    ("washing-soda", 5, 1.0502),
    ("salt", 5, 1.0340),
    ("salt", 20, 1.1478),
    ("raw-sugar", 15, 1.0591),
    ("raw-sugar", 45, 1.2025),
    ("hydrogen-peroxide", 10, 1.0351),
    ("glycerol", 85, 1.2218),
    ("urea", 15, 1.0393),
    ("white-vinegar", 8, 1.0097),
    ("white-vinegar", 25, 1.0326),
    ("caustic-soda", 46, 1.4873),
]

#: The electrolyte density model of Laliberte (J. Chem. Eng. Data, 2009) by CAS number: up to % w/w, and how near it is
#: to the handbooks, g/mL (its fit is looser for strong lye).
ELECTROLYTES = [
    ("caustic-soda", "1310-73-2", 50, 0.010),
    ("salt", "7647-14-5", 26, 0.001),
    ("washing-soda", "497-19-8", 18, 0.002),
    ("baking-soda", "144-55-8", 8, 0.003),
    ("hydrogen-peroxide", "7722-84-1", 50, 0.003),
    ("raw-sugar", "57-50-1", 65, 0.0015),
]


@pytest.mark.parametrize(("key", "pct", "density"), HANDBOOK)
def test_a_density_is_that_of_the_handbook(key: str, pct: float, density: float) -> None:
    solution = solutions()[key]
    assert solution.density(pct / 100) == pytest.approx(density, abs=max(solution.doubt, 0.001))


@pytest.mark.parametrize(("key", "cas", "most", "within"), ELECTROLYTES)
def test_a_density_agrees_with_the_electrolyte_model(key: str, cas: str, most: int, within: float) -> None:
    for pct in range(1, most + 1):
        modelled = Laliberte_density(293.15, [pct / 100], [cas]) / 1000
        assert solutions()[key].density(pct / 100) == pytest.approx(modelled, abs=within), pct


@pytest.mark.parametrize(("key", "fluid", "most"), [("glycerol", "MGL", 60), ("salt", "MNA", 23)])
def test_a_density_agrees_with_the_brines_of_coolprop(key: str, fluid: str, most: int) -> None:
    for pct in range(1, most + 1):
        modelled = coolprop.density(f"INCOMP::{fluid}[{pct / 100}]", 20) / 1000
        assert solutions()[key].density(pct / 100) == pytest.approx(modelled, abs=0.0006), pct


@pytest.mark.parametrize("key", solutions())
def test_a_solution_begins_as_water_and_its_source_is_named(key: str) -> None:
    solution = solutions()[key]
    assert solution.density(0.0) == pytest.approx(0.9982, abs=1e-4)
    assert solution.source and solution.doubt > 0


@given(st.sampled_from(sorted(solutions())), st.floats(0.0, 0.999), st.floats(0.1, 1000.0))
def test_what_dissolves_and_its_water_make_the_solution_of_the_table(key: str, part: float, water_g: float) -> None:
    solution = solutions()[key]
    share = part * min(solution.reach, 0.95)
    solute = water_g * share / (1 - share)
    volume = water_g / 0.9982 + solution.added_volume(solute, water_g, 2.0)
    assert (solute + water_g) / volume == pytest.approx(solution.density(share), rel=1e-6)


@given(st.sampled_from(["salt", "borax", "washing-soda"]), st.floats(1.0, 500.0))
def test_what_water_cannot_hold_lies_there_with_its_own_volume(key: str, more_g: float) -> None:
    solution = solutions()[key]
    full = 1000.0 * solution.reach / (1 - solution.reach)
    grown = solution.added_volume(full + more_g, 1000.0, 2.0) - solution.added_volume(full, 1000.0, 2.0)
    assert grown == pytest.approx(more_g / 2.0, rel=1e-6)
