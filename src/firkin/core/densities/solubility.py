"""How much of a solid water holds, by temperature, and where water with alcohol freezes."""

from functools import cache
from itertools import pairwise

from firkin.core import datafiles
from firkin.core.densities.curves import PiecewiseCubic


def holds_g(solid: str, celsius: float = 20.0) -> float | None:
    """Grams of a solid, by its material's id, that 100 g of water hold at a temperature; None where nobody knows here.

    Straight between the points of the table (solubility.toml, CRC Handbook, from memory); beyond it, its ends.

    Args:
        solid: id of a material, such as "borax".
        celsius: temperature of the liquid in degC.

    >>> holds_g("borax"), holds_g("borax", 25.0), holds_g("glycerol")
    (4.7, 6.15, None)
    """
    row = datafiles.toml("densities/solubility.toml").get(solid)
    if row is None:
        return None
    points = row["points"]
    if celsius <= points[0][0]:
        return float(points[0][1])
    for (below, less), (above, more) in pairwise(points):
        if celsius <= above:
            return float(less + (more - less) * (celsius - below) / (above - below))
    return float(points[-1][1])


def saturation(solid: str, celsius: float = 20.0) -> float | None:
    """The mass fraction of a solution that holds as much of a solid as water can.

    Args:
        solid: id of a material, such as "borax".
        celsius: temperature of the liquid in degC.

    >>> round(saturation("caustic-soda"), 3), round(saturation("salt"), 3)
    (0.522, 0.264)
    """
    grams = holds_g(solid, celsius)
    return None if grams is None else grams / (100.0 + grams)


#: Freezing points of mixtures with water, % w/w of alcohol and degC (CRC Handbook, from memory).
_FREEZES = {
    "ethanol": [
        *([0, 0.0], [10, -4.5], [20, -10.9], [30, -20.5], [40, -29.3]),
        *([50, -36.9], [60, -45.0], [70, -60.0], [100, -114.0]),
    ],
    "isopropanol": [
        *([0, 0.0], [10, -4.0], [20, -9.0], [30, -15.0], [40, -18.0]),
        *([50, -21.0], [60, -27.0], [70, -38.0], [100, -88.0]),
    ],
}


def freezes_at(alcohol: str, mass_fraction: float) -> float:
    """Where a mixture of an alcohol and water begins to freeze, degC; water alone, and any other mixture, at 0.

    Args:
        alcohol: id of the alcohol.
        mass_fraction: mass of pure alcohol over that of the mixture, 0 to 1.

    >>> freezes_at("ethanol", 0.0), round(freezes_at("ethanol", 0.2), 1), freezes_at("glycerol", 0.5)
    (0.0, -10.9, 0.0)
    """
    curve = _freezing_curves().get(alcohol)
    return 0.0 if curve is None else min(0.0, curve(100.0 * mass_fraction))


@cache
def _freezing_curves() -> dict[str, PiecewiseCubic]:
    return {key: PiecewiseCubic(*map(list, zip(*points, strict=True))) for key, points in _FREEZES.items()}
