"""The density of 2-propanol and water against its handbook table and an independent correlation."""

import pytest
from chemicals.volume import volume_VDI_PPDS

from checks.published import PROPANOL_AT_20
from firkin.core.densities import ethanol, propanol


@pytest.mark.parametrize(("percent", "density"), PROPANOL_AT_20)
def test_propanol_density_runs_through_the_handbook_points(percent: float, density: float) -> None:
    assert propanol.density(percent / 100) == pytest.approx(density, abs=1e-9)


@pytest.mark.parametrize("celsius", [10, 20, 30])
def test_pure_propanol_agrees_with_the_vdi_ppds_correlation(celsius: int) -> None:
    """VDI Heat Atlas, PPDS coefficients of 2-propanol, as the chemicals library carries them."""
    critical = {"Tc": 508.25, "rhoc": 273.0, "a": 865.9165, "b": -744.0943, "c": 975.9052, "d": -381.1278}
    molar = volume_VDI_PPDS(273.15 + celsius, MW=60.1, **critical)
    assert propanol.pure_density(celsius) == pytest.approx(60.1e-6 / molar, abs=0.002)


@pytest.mark.parametrize("celsius", [-10.0, 0.0, 19.0, 20.5, 28.0, 40.0])
def test_away_from_20_degrees_water_follows_its_own_table_and_the_alcohol_its_slope(celsius: float) -> None:
    """Water: OIML R 22 through the ethanol table at no ethanol. 2-propanol: 0.00116 per degC, VDI-PPDS, mean slope."""
    water = ethanol.density(0.0, celsius) / ethanol.density(0.0)
    alcohol = 1.0 - 0.00116 * (celsius - 20.0)
    assert propanol.density(0.0, celsius) == pytest.approx(propanol.density(0.0) * water, abs=1e-12)
    assert propanol.density(1.0, celsius) == pytest.approx(propanol.density(1.0) * alcohol, abs=1e-12)
    for share in (0.25, 0.7):
        mixed = share * alcohol + (1.0 - share) * water
        assert propanol.density(share, celsius) == pytest.approx(propanol.density(share) * mixed, abs=1e-12)
