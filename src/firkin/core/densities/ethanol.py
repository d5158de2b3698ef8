"""Density of ethanol and water, and conversion between mass and volume fractions of ethanol.

Source: OIML R 22 (1975), International Alcoholometric Tables, general formula, -20 to 40 degC.
"""

from functools import cache, lru_cache

from firkin.core import datafiles
from firkin.core.densities.curves import PiecewiseCubic

REFERENCE_C = 20.0
_NODES = 400


@lru_cache(maxsize=256)
def _polynomial(celsius: float) -> tuple[float, ...]:
    """Coefficients of the density in powers of the mass fraction at one temperature, highest first."""
    table = datafiles.toml("densities/oiml_r22.toml")
    d = celsius - 20.0
    powers = list(table["A"])
    powers[0] += sum(b * d ** (k + 1) for k, b in enumerate(table["B"]))
    for i in range(1, 6):
        for k, c in enumerate(table[f"C{i}"], start=1):
            powers[k] += c * d**i
    return tuple(reversed(powers))


def density(mass_fraction: float, celsius: float = REFERENCE_C) -> float:
    """Density of an ethanol-water mixture in g/mL.

    mass_fraction: ethanol, 0 to 1; celsius: -20 to 40 (not checked here, see alcohols).
    Source: OIML R 22 (1975).

    >>> [round(density(p) * 1000, 2) for p in (0.0, 1.0)]
    [998.2, 789.24]
    """
    a, b, c, d, e, f, g, h, i, j, k, m = _polynomial(celsius)
    p = mass_fraction
    total = (((((((((a * p + b) * p + c) * p + d) * p + e) * p + f) * p + g) * p + h) * p + i) * p + j) * p + k
    return (total * p + m) / 1000.0


@cache
def pure_density(celsius: float = REFERENCE_C) -> float:
    """Density of pure ethanol in g/mL.

    >>> round(pure_density(), 5)
    0.78924
    """
    return density(1.0, celsius)


def volume_fraction(mass_fraction: float) -> float:
    """Volume fraction of ethanol at 20 degC, 0 to 1, from its mass fraction.

    The volume of pure ethanol at 20 degC over the volume of the mixture at 20 degC (OIML R 22).

    >>> round(volume_fraction(0.60), 4)
    0.6774
    """
    return mass_fraction * density(mass_fraction) / pure_density()


@cache
def _mass_fraction_curve() -> PiecewiseCubic:
    """Mass fraction against volume fraction; exact at its nodes, with exact slopes."""
    mass = [i / _NODES for i in range(_NODES + 1)]
    step = 1e-6
    slopes = []
    for p in mass:
        low, high = max(0.0, p - step), min(1.0, p + step)
        slopes.append((high - low) / (volume_fraction(high) - volume_fraction(low)))
    return PiecewiseCubic([volume_fraction(p) for p in mass], mass, slopes)


def mass_fraction(volume_fraction_20: float) -> float:
    """Mass fraction of ethanol, 0 to 1, from its volume fraction at 20 degC.

    The inverse of volume_fraction to better than 1e-7, read off a curve through 401 exact points.

    >>> round(mass_fraction(0.96), 4)
    0.9384
    """
    return _mass_fraction_curve()(volume_fraction_20)
