"""What makers ask, each question declared once: its words, its fields, what it gives, the function that answers it and
what a drawing of the answer is to show. The page, the text command, the schemas and their documentation come from the
declaration. Imports formula and what lies below it; audit and every room above it may import it.
"""

from firkin.core.questions.additives import MAX_ADDITIVE, REQUIRED_STOCK
from firkin.core.questions.adjustment import STRENGTHEN, strengthen, weaken
from firkin.core.questions.alcoholmeter import ALCOHOLMETER, EXPECTED_READING, expected_reading, true_strength
from firkin.core.questions.blending import BLEND, WATER
from firkin.core.questions.chlorine import CHLORINE
from firkin.core.questions.conversion import CONVERT
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.dilution import DILUTE
from firkin.core.questions.doses import Dose, a_or_an, dose_of, whole_mL
from firkin.core.questions.ferment import FERMENT
from firkin.core.questions.foam import FOAM, drops_for, foaming_soap
from firkin.core.questions.foam import like as foams_like
from firkin.core.questions.hardness import HARDNESS, HARDNESS_DOSE
from firkin.core.questions.loads import LOADS, USUAL_DOSE_ML
from firkin.core.questions.neutralisation import (
    CARBONATE,
    NEUTRALISE,
    SURE_BY_MOLES,
    Moles,
    Neutrality,
    counted_as,
    moles,
    neutralise,
    neutrality,
)
from firkin.core.questions.packing import PACK, Container, Packing, pack
from firkin.core.questions.pictures import (
    Additives,
    Bar,
    Bars,
    Block,
    Bottle,
    Bottles,
    Filled,
    Layer,
    Levelled,
    Mark,
    Picture,
    Rail,
    Scale,
    Stem,
    StockLine,
    Window,
    look_of,
)
from firkin.core.questions.powder import POWDER, USUAL_SCOOP_ML, balance, heap_of
from firkin.core.questions.preserving import PRESERVE, stands_against
from firkin.core.questions.soap import SOAP_G_PER_L, SOAP_PER_LITRE, soap_thickness
from firkin.core.questions.soap import THICKNESS as SOAP_THICKNESS
from firkin.core.questions.temperature import TEMPERATURE
from firkin.core.questions.use_up import USE_UP

#: Every question by its name, in the order of the work.
QUESTIONS: dict[str, Question] = {
    question.ask: question
    for question in (
        MAX_ADDITIVE,
        REQUIRED_STOCK,
        DILUTE,
        BLEND,
        USE_UP,
        STRENGTHEN,
        CHLORINE,
        ALCOHOLMETER,
        EXPECTED_READING,
        TEMPERATURE,
        CONVERT,
        HARDNESS,
        NEUTRALISE,
        CARBONATE,
        SOAP_PER_LITRE,
        FOAM,
        POWDER,
        PRESERVE,
        HARDNESS_DOSE,
        FERMENT,
        LOADS,
        PACK,
    )
}

__all__ = [
    "QUESTIONS",
    "SOAP_G_PER_L",
    "SOAP_THICKNESS",
    "SURE_BY_MOLES",
    "USUAL_DOSE_ML",
    "USUAL_SCOOP_ML",
    "WATER",
    "Additives",
    "Answer",
    "Asked",
    "Bar",
    "Bars",
    "Block",
    "Bottle",
    "Bottles",
    "Container",
    "Dose",
    "Field",
    "Filled",
    "Given",
    "Kind",
    "Layer",
    "Levelled",
    "Mark",
    "Moles",
    "Neutrality",
    "Packing",
    "Picture",
    "Question",
    "Rail",
    "Scale",
    "Stem",
    "StockLine",
    "Window",
    "a_or_an",
    "balance",
    "counted_as",
    "dose_of",
    "drops_for",
    "expected_reading",
    "foaming_soap",
    "foams_like",
    "heap_of",
    "look_of",
    "moles",
    "neutralise",
    "neutrality",
    "pack",
    "soap_thickness",
    "stands_against",
    "strengthen",
    "true_strength",
    "weaken",
    "whole_mL",
]
