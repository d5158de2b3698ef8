"""Measuring with what a kitchen has: cups, spoons, jugs and scales, a formula rounded to them, and which vessel holds
it. Knows of no batch. Imports rooms below it; bench and mending import it.
"""

from firkin.core.kitchen.kitchen import MOST_FILLINGS, Kitchen, Measure, kitchens, measure_out
from firkin.core.kitchen.rounding import TOLERANCE, in_kitchen, placed
from firkin.core.kitchen.vessels import Against, against_vessel, mixed_in_its_bottle

__all__ = [
    "MOST_FILLINGS",
    "TOLERANCE",
    "Against",
    "Kitchen",
    "Measure",
    "against_vessel",
    "in_kitchen",
    "kitchens",
    "measure_out",
    "mixed_in_its_bottle",
    "placed",
]
