"""The questions beside final strength, each a form that reads its address and answers."""

from firkin.reckoner.questions.base import Question
from firkin.reckoner.questions.conversions import Convert, Warmth
from firkin.reckoner.questions.gel import AdditiveRoom, RequiredStock
from firkin.reckoner.questions.meter import Alcoholmeter
from firkin.reckoner.questions.surfaces import SurfaceSolution
from firkin.reckoner.questions.thinning import Blend, Lift, Thin

QUESTIONS: dict[str, type[Question]] = {
    question.slug: question
    for question in (
        AdditiveRoom,
        RequiredStock,
        Thin,
        Blend,
        Lift,
        SurfaceSolution,
        Alcoholmeter,
        Convert,
        Warmth,
    )
}

__all__ = ["QUESTIONS", "Question"]
