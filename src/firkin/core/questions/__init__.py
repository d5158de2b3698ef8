"""What makers ask: how to thin, blend, lift, convert, read a stem, neutralise, pack, and what a load costs. Imports
formula and what lies below it; audit and every room above it may import it.
"""

from firkin.core.questions.alcoholmeter import expected_reading, true_strength
from firkin.core.questions.blending import WATER, blend, blend_with_water, strengthen, weaken
from firkin.core.questions.dilution import dilute, max_additive, required_stock
from firkin.core.questions.hardness import MG_PER_L, convert
from firkin.core.questions.loads import USUAL_DOSE_ML
from firkin.core.questions.neutralisation import neutralise
from firkin.core.questions.packing import Container, Packing, pack
from firkin.core.questions.temperature import at_20, at_bench

__all__ = [
    "MG_PER_L",
    "USUAL_DOSE_ML",
    "WATER",
    "Container",
    "Packing",
    "at_20",
    "at_bench",
    "blend",
    "blend_with_water",
    "convert",
    "dilute",
    "expected_reading",
    "max_additive",
    "neutralise",
    "pack",
    "required_stock",
    "strengthen",
    "true_strength",
    "weaken",
]
