"""Densities and strengths against published tables and independent libraries."""

import pytest
from chemicals.volume import volume_VDI_PPDS
from CoolProp.CoolProp import PropsSI

from firkin.core import ethanol, propanol
from firkin.core.alcohols import ALCOHOLS
from firkin.core.catalogue import find
from firkin.core.dilution import dilute
from firkin.core.strengths import Strength

# OIML R 22 (1975), International Alcoholometric Tables, table IIIb: % v/v at 20 degC -> kg/m3.
OIML_AT_20 = [
    (0, 998.20),
    (40, 948.05),
    (50, 930.14),
    (60, 909.1),
    (70, 885.56),
    (80, 859.27),
    (96, 807.42),
    (100, 789.24),
]


@pytest.mark.parametrize(("percent", "density"), OIML_AT_20)
def test_ethanol_density_is_that_of_the_oiml_tables(percent: float, density: float) -> None:
    slack = 0.05 if percent == 60 else 0.02  # the table value at 60 is given to one decimal
    mass = ALCOHOLS["ethanol"].mass_fraction(Strength.of(percent, "v/v"))
    assert ethanol.density(mass) * 1000 == pytest.approx(density, abs=slack)


@pytest.mark.parametrize("celsius", [0, 10, 20, 30])
@pytest.mark.parametrize("percent_by_weight", [10, 20, 30, 40, 50, 60])
def test_ethanol_density_agrees_with_coolprop(percent_by_weight: int, celsius: int) -> None:
    """CoolProp's INCOMP::MEA (Melinder 2010), which is stated for 0 to 60 % by weight."""
    other = PropsSI("D", "T", 273.15 + celsius, "P", 101325, f"INCOMP::MEA[{percent_by_weight / 100}]")
    assert ethanol.density(percent_by_weight / 100, celsius) * 1000 == pytest.approx(other, abs=0.4)


@pytest.mark.parametrize("celsius", [5, 20, 35])
def test_pure_water_and_pure_ethanol_agree_with_their_equations_of_state(celsius: int) -> None:
    """CoolProp: IAPWS-95 for water; Schroeder, Penoncello and Schroeder (2014) for ethanol."""
    water = PropsSI("D", "T", 273.15 + celsius, "P", 101325, "Water")
    pure = PropsSI("D", "T", 273.15 + celsius, "P", 101325, "Ethanol")
    assert ethanol.density(0.0, celsius) * 1000 == pytest.approx(water, abs=0.05)
    assert ethanol.density(1.0, celsius) * 1000 == pytest.approx(pure, abs=0.4)


# A handbook table of 2-propanol and water at 20 degC, recalled from memory: % w/w -> g/mL, +-0.002.
PROPANOL_AT_20 = [(0, 0.9982), (10, 0.9827), (30, 0.9540), (50, 0.9090), (70, 0.8621), (90, 0.8129)]


@pytest.mark.parametrize(("percent", "density"), PROPANOL_AT_20)
def test_propanol_density_runs_through_the_handbook_points(percent: float, density: float) -> None:
    assert propanol.density(percent / 100) == pytest.approx(density, abs=1e-9)


@pytest.mark.parametrize("celsius", [10, 20, 30])
def test_pure_propanol_agrees_with_the_vdi_ppds_correlation(celsius: int) -> None:
    """VDI Heat Atlas, PPDS coefficients of 2-propanol, as the chemicals library carries them."""
    critical = {"Tc": 508.25, "rhoc": 273.0, "a": 865.9165, "b": -744.0943, "c": 975.9052, "d": -381.1278}
    molar = volume_VDI_PPDS(273.15 + celsius, MW=60.1, **critical)
    assert propanol.pure_density(celsius) == pytest.approx(60.1e-6 / molar, abs=0.002)


def test_sixty_percent_by_weight_is_67_7_by_volume() -> None:
    """OIML R 22; the confusion behind it is common practice, no source."""
    by_volume = ALCOHOLS["ethanol"].as_volume(Strength.of(60.0, "w/w"))
    assert by_volume.value == pytest.approx(67.74, abs=0.01)


# The Gay-Lussac dilution table, recalled from memory: water to 100 volumes of 90 % v/v -> % v/v.
GAY_LUSSAC_90 = [
    (85, 6.56),
    (80, 13.79),
    (75, 21.89),
    (70, 31.05),
    (65, 41.53),
    (60, 53.65),
    (55, 67.87),
    (50, 84.71),
    (45, 105.3),
    (40, 130.8),
    (35, 163.3),
    (30, 206.2),
]


@pytest.mark.parametrize(("target", "water"), GAY_LUSSAC_90)
def test_thinning_90_percent_agrees_with_the_gay_lussac_table(target: float, water: float) -> None:
    thin = dilute(find("ethanol"), Strength.of(90.0, "v/v"), Strength.of(target, "v/v"), 1000.0)
    printed = 0.005 if water < 100 else 0.05  # half of the last digit printed
    assert 100.0 * thin.water_mL / thin.stock_mL == pytest.approx(water, abs=0.2 + printed)
