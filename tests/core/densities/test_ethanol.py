"""The density of ethanol and water against the OIML tables and independent libraries."""

import pytest

from checks.published import OIML_AT_20
from core.densities import coolprop
from firkin.core.densities import ALCOHOLS, ethanol
from firkin.core.measures import Strength


@pytest.mark.parametrize(("percent", "density"), OIML_AT_20)
def test_ethanol_density_is_that_of_the_oiml_tables(percent: float, density: float) -> None:
    slack = 0.05 if percent == 60 else 0.02  # the table value at 60 is given to one decimal
    mass = ALCOHOLS["ethanol"].mass_fraction(Strength.of(percent, "v/v"))
    assert ethanol.density(mass) * 1000 == pytest.approx(density, abs=slack)


@pytest.mark.parametrize("celsius", [0, 10, 20, 30])
@pytest.mark.parametrize("percent_by_weight", [10, 20, 30, 40, 50, 60])
def test_ethanol_density_agrees_with_coolprop(percent_by_weight: int, celsius: int) -> None:
    """CoolProp's INCOMP::MEA (Melinder 2010), which is stated for 0 to 60 % by weight."""
    other = coolprop.density(f"INCOMP::MEA[{percent_by_weight / 100}]", celsius)
    assert ethanol.density(percent_by_weight / 100, celsius) * 1000 == pytest.approx(other, abs=0.4)


@pytest.mark.parametrize("celsius", [5, 20, 35])
def test_pure_water_and_pure_ethanol_agree_with_their_equations_of_state(celsius: int) -> None:
    """CoolProp: IAPWS-95 for water; Schroeder, Penoncello and Schroeder (2014) for ethanol."""
    water = coolprop.density("Water", celsius)
    pure = coolprop.density("Ethanol", celsius)
    assert ethanol.density(0.0, celsius) * 1000 == pytest.approx(water, abs=0.05)
    assert ethanol.density(1.0, celsius) * 1000 == pytest.approx(pure, abs=0.4)
