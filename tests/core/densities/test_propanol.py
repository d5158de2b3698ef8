"""The density of 2-propanol and water against its handbook table and an independent correlation."""

import pytest
from chemicals.volume import volume_VDI_PPDS

from checks.published import PROPANOL_AT_20
from firkin.core.densities import propanol


@pytest.mark.parametrize(("percent", "density"), PROPANOL_AT_20)
def test_propanol_density_runs_through_the_handbook_points(percent: float, density: float) -> None:
    assert propanol.density(percent / 100) == pytest.approx(density, abs=1e-9)


@pytest.mark.parametrize("celsius", [10, 20, 30])
def test_pure_propanol_agrees_with_the_vdi_ppds_correlation(celsius: int) -> None:
    """VDI Heat Atlas, PPDS coefficients of 2-propanol, as the chemicals library carries them."""
    critical = {"Tc": 508.25, "rhoc": 273.0, "a": 865.9165, "b": -744.0943, "c": 975.9052, "d": -381.1278}
    molar = volume_VDI_PPDS(273.15 + celsius, MW=60.1, **critical)
    assert propanol.pure_density(celsius) == pytest.approx(60.1e-6 / molar, abs=0.002)
