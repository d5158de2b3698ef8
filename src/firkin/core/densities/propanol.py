"""Density of 2-propanol (isopropanol) and water, and its mass and volume fractions.

The 20 degC table is a handbook table recalled from memory, believed good to 0.002 g/mL
(data/propanol_density.csv). Away from 20 degC the water part follows OIML R 22 and the alcohol part
expands by 0.00116 per degC (VDI-PPDS liquid density of 2-propanol, mean slope from 10 to 30 degC).
"""

from functools import cache

from firkin.core import datafiles
from firkin.core.densities import ethanol
from firkin.core.densities.curves import PiecewiseCubic

DENSITY_UNCERTAINTY = 0.002  # g/mL
EXPANSION_PER_C = 0.00116


@cache
def _density_curve() -> PiecewiseCubic:
    table = datafiles.rows("densities/propanol_density.csv")
    return PiecewiseCubic([float(row["pct_ww"]) / 100 for row in table], [float(row["density"]) for row in table])


def density(mass_fraction: float, celsius: float = 20.0) -> float:
    """Density of a 2-propanol-water mixture in g/mL, uncertain by 0.002 g/mL.

    mass_fraction: 2-propanol, 0 to 1; celsius: -20 to 40.

    >>> round(density(0.60), 4), round(density(1.0), 4)
    (0.8858, 0.7855)
    """
    at_20 = _density_curve()(mass_fraction)
    if celsius == 20.0:
        return at_20
    water = ethanol.density(0.0, celsius) / ethanol.density(0.0)
    alcohol = 1.0 - EXPANSION_PER_C * (celsius - 20.0)
    return at_20 * (mass_fraction * alcohol + (1.0 - mass_fraction) * water)


def pure_density(celsius: float = 20.0) -> float:
    """Density of pure 2-propanol in g/mL.

    >>> round(pure_density(), 4)
    0.7855
    """
    return density(1.0, celsius)


def volume_fraction(mass_fraction: float) -> float:
    """Volume fraction of 2-propanol at 20 degC, 0 to 1, from its mass fraction.

    >>> round(volume_fraction(0.6), 3)
    0.677
    """
    return mass_fraction * density(mass_fraction) / pure_density()


@cache
def _mass_fraction_curve() -> PiecewiseCubic:
    mass = [i / 200 for i in range(201)]
    return PiecewiseCubic([volume_fraction(p) for p in mass], mass)


def mass_fraction(volume_fraction_20: float) -> float:
    """Mass fraction of 2-propanol, 0 to 1, from its volume fraction at 20 degC.

    >>> round(mass_fraction(0.70), 3)
    0.625
    """
    return _mass_fraction_curve()(volume_fraction_20)
