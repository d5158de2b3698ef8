"""Practice: problems of the trade's arithmetic drawn at random, marked with the worked answer and the usual wrong way,
and repeated by FSRS. Every answer comes from questions, catalogue and audit below it; the site's practice imports it.
"""

from firkin.core.practice.drawing import SKILLS, draw, due_at, reviewed
from firkin.core.practice.problem import Marked, Problem, WrongWay, mark

__all__ = ["SKILLS", "Marked", "Problem", "WrongWay", "draw", "due_at", "mark", "reviewed"]
