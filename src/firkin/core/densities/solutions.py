"""Density of what is dissolved in water, or thinned with it, at 20 degC: solids and other liquids than alcohol."""

from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles
from firkin.core.densities.curves import PiecewiseCubic
from firkin.core.densities.solubility import saturation

_WATER = 0.9982  # g/mL at 20 degC, the first point of every table


@dataclass(frozen=True, eq=False)
class Solution:
    """A solution in water: density by mass fraction, how far water holds it, how sure it is (g/mL), and its source."""

    id: str
    curve: PiecewiseCubic
    reach: float
    doubt: float
    source: str

    def density(self, mass_fraction: float) -> float:
        """Density in g/mL at 20 degC; beyond the table its end is carried on.

        >>> caustic = solutions()["caustic-soda"]
        >>> [round(caustic.density(share), 3) for share in (0.10, 0.30, 0.50)]
        [1.109, 1.328, 1.525]
        """
        return self.curve(mass_fraction)

    def added_volume(self, solute_g: float, water_g: float, dry_density: float) -> float:
        """By how many mL so much water grows when so much of a solid joins it; both in g.

        What the water cannot hold at 20 degC lies undissolved, at ``dry_density`` in g/mL.

        >>> salt = solutions()["salt"]
        >>> round(salt.added_volume(10.0, 90.0, 2.16), 2), round(salt.added_volume(10.0, 0.0, 2.16), 2)
        (3.23, 4.63)
        """
        held = water_g * self.reach / (1.0 - self.reach) if self.reach < 1.0 else solute_g
        dissolved = min(solute_g, held)
        lying = (solute_g - dissolved) / dry_density
        if not dissolved:
            return lying
        whole = dissolved + water_g
        return lying + whole / self.density(dissolved / whole) - water_g / _WATER


@cache
def solutions() -> dict[str, Solution]:
    """Every solution whose density is known, by the id of its material.

    >>> solutions()["glycerol"].reach
    1.0
    """
    return {
        key: Solution(
            key,
            PiecewiseCubic([pct / 100.0 for pct, _ in row["points"]], [density for _, density in row["points"]]),
            saturation(key) or row["points"][-1][0] / 100.0,
            row["doubt"],
            row["source"],
        )
        for key, row in datafiles.toml("densities/solutions.toml").items()
    }
