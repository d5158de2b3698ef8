"""How dense a mixture is: smooth curves through tables, ethanol and 2-propanol in water, both behind one face that says
how sure its table is, and solutions of solids and other liquids. Mass and volume fractions in, g/mL out. Imports
measures; catalogue and every room above it may import it.
"""

from firkin.core.densities.alcohols import ALCOHOLS, Alcohol
from firkin.core.densities.curves import PiecewiseCubic
from firkin.core.densities.ethanol import density as ethanol_water_density
from firkin.core.densities.solubility import freezes_at, holds_g, saturation
from firkin.core.densities.solutions import Solution, solutions

__all__ = [
    "ALCOHOLS",
    "Alcohol",
    "PiecewiseCubic",
    "Solution",
    "ethanol_water_density",
    "freezes_at",
    "holds_g",
    "saturation",
    "solutions",
]
