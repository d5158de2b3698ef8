"""Problems drawn at random, by skill and seed; and what comes next, by a schedule of repetition (FSRS)."""

from dataclasses import replace
from datetime import datetime
from random import Random
from typing import Any

from firkin.core.errors import CannotRead
from firkin.core.practice.choices_asked import CHOICES
from firkin.core.practice.figures_asked import FIGURES
from firkin.core.practice.problem import Problem, WrongWay

#: A wrong way that comes as near as this to the right answer is not told apart from rounding.
_APART = 0.05
#: Every skill, in the order a newcomer meets them.
_ORDER = (
    *("proof", "never-meet", "parts", "takes-gel", "room", "dilute", "loads", "chlorine", "by-weight", "lift"),
    *("ferment", "hardness", "neutralise", "spot"),
)
_ALL = {**FIGURES, **CHOICES}
SKILLS: dict[str, str] = {key: _ALL[key][0] for key in _ORDER}


def draw(skill: str, seed: int) -> Problem:
    """A problem of a skill; the same seed gives the same one.

    Args:
        skill: one of SKILLS.
        seed: starts the generator of random numbers; the same seed gives the same answer.

    Raises:
        CannotRead: for a skill that is none.

    >>> draw("proof", 3) == draw("proof", 3)
    True
    """
    if skill not in _ALL:
        raise CannotRead(f"{skill[:40]} is no skill; expected one of {', '.join(SKILLS)}")
    problem = _ALL[skill][1](Random(f"{skill} {seed}"), seed)  # noqa: S311 - drawn to be practised
    if problem.choices:
        return problem
    told_apart: list[WrongWay] = []
    for way in problem.wrong:
        near = [problem.answer, *(one.value for one in told_apart)]
        if all(abs(way.value / value - 1.0) > _APART for value in near):
            told_apart.append(way)
    return replace(problem, wrong=tuple(told_apart))


def reviewed(card: dict[str, Any] | None, *, right: bool, at: datetime) -> dict[str, Any]:
    """A skill's card after an answer, as plain data: FSRS says when it is due again.

    Args:
        card: the card as it was last kept; None for the first time.
        right: whether it was answered right.
        at: when, with its time zone.

    >>> from datetime import UTC
    >>> now = datetime(2026, 5, 1, tzinfo=UTC)
    >>> due_at(reviewed(None, right=True, at=now)) > now
    True
    """
    from fsrs import Card, Rating, Scheduler  # only where somebody practises

    scheduler = Scheduler(enable_fuzzing=False)
    there = Card.from_dict(card) if card else Card(due=at)  # type: ignore[arg-type]
    after, _ = scheduler.review_card(there, Rating.Good if right else Rating.Again, at)
    found: dict[str, Any] = dict(after.to_dict())
    return found


def due_at(card: dict[str, Any]) -> datetime:
    """When a skill is due again.

    Args:
        card: a card as it is kept.

    >>> due_at({"due": "2026-05-04T08:00:00+00:00"}).day
    4
    """
    return datetime.fromisoformat(card["due"])
