"""A large season is begun from a plan pencilled in, and its evenings are made few before they are proven so."""

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from math import ceil
from time import monotonic

from firkin.core.season.greedy import first_plan
from firkin.core.season.model import Model
from firkin.core.season.program import Solver, Terms

#: So long a program with most of it fixed is solved, seconds.
_SHORT_S = 1.0
#: Nearer to a whole number than this is whole; a shortage is the same within half a mL.
_SAME_ML = 0.5


def worth(goal: Terms, values: list[float]) -> float:
    """What a goal comes to."""
    return float(sum(value * values[column] for column, value in goal.items()))


@contextmanager
def _held(model: Model, columns: Iterable[tuple[int, float, float]]) -> Iterator[None]:
    """Within it, columns lie between two bounds."""
    program = model.program
    bounds = list(program.lower), list(program.upper)
    for column, low, high in columns:
        program.lower[column], program.upper[column] = low, high
    try:
        yield
    finally:
        program.lower[:], program.upper[:] = bounds


def pencilled(model: Model, ends: float) -> list[float] | None:
    """What a plan pencilled in comes to in the program, to begin from; None where it holds in no way."""
    counts: dict[tuple[str, int, str, int], int] = {}
    for product, day, vessel, takes, _ in first_plan(model.season):
        counts[product, day, vessel, takes] = counts.get((product, day, vessel, takes), 0) + 1
    fixed = [
        (slot.count, float(there), float(there))
        for slot in model.slots
        for there in [counts.get((slot.product.id, slot.day, slot.vessel, slot.takes), 0)]
    ]
    with _held(model, fixed):
        solved = Solver(model.program).least(model.goals()[0][1], min(2.0 * _SHORT_S, 0.3 * (ends - monotonic())))
    return None if solved is None else solved.values


def fewer_evenings(model: Model, values: list[float], first: list[float] | None, ends: float) -> list[float]:
    """As little shortage as ``values``, on fewer evenings as far as the time goes.

    First on the evenings of the plan that was pencilled in, and those of ``values`` the busiest first; then week after
    week: what starts within eight weeks is free, the rest stays, and the fewest evenings are sought for these.
    """
    goals = dict(model.goals())
    reached = worth(goals["unmet"], values)
    best = _on_few(model, goals, values, first, reached, monotonic() + 0.4 * (ends - monotonic()))
    return _swept(model, goals, best, reached, ends)


def _on_few(
    model: Model, goals: dict[str, Terms], values: list[float], first: list[float] | None, reached: float, ends: float
) -> list[float]:
    """The same shortage on the evenings that were pencilled in, and as few more as do."""
    busy: dict[int, float] = dict.fromkeys(model.evenings, 0.0)
    for slot in model.slots:
        busy[slot.day] = busy.get(slot.day, 0.0) + values[slot.mL]
    there = _evenings(model, first) if first is not None else set()
    more = sorted(_evenings(model, values) - there, key=lambda day: -busy[day])
    joined = 0
    while monotonic() < ends and joined < len(more):
        open_ = there | set(more[:joined])
        closed = [(column, 0.0, 0.0) for day, column in model.evenings.items() if day not in open_]
        with _held(model, closed):
            solved = Solver(model.program).least(goals["unmet"], min(_SHORT_S, ends - monotonic()))
        if solved is not None and worth(goals["unmet"], solved.values) <= reached + _SAME_ML:
            return solved.values
        joined = max(1, 2 * joined)
    return values


#: So many days are free at a time, and by so many the next begin later.
_FREE_D, _STEP_D = 56, 28


def _swept(model: Model, goals: dict[str, Terms], values: list[float], reached: float, ends: float) -> list[float]:
    """Fewer evenings, some weeks at a time, until a whole sweep finds none fewer."""
    unmet, evenings = goals["unmet"], goals["evenings"]
    days = model.season.days
    while monotonic() < ends:
        before = worth(evenings, values)
        for begins in range(0, max(1, days - _STEP_D), _STEP_D):
            if monotonic() > ends:
                return values
            free = range(begins, begins + _FREE_D)
            held = [(one.count, values[one.count], values[one.count]) for one in model.slots if one.day not in free]
            held += [
                (column, values[column], values[column]) for day, column in model.evenings.items() if day not in free
            ]
            with _held(model, [(column, float(round(low)), float(round(high))) for column, low, high in held]):
                solver = Solver(model.program)
                solver.keep(unmet, ceil(reached) + _SAME_ML)
                solved = solver.least(evenings, min(2.0 * _SHORT_S, max(0.1, ends - monotonic())), values)
            if solved is not None and worth(evenings, solved.values) < worth(evenings, values) - _SAME_ML:
                values = solved.values
        if worth(evenings, values) >= before:
            return values
    return values


def _evenings(model: Model, values: list[float]) -> set[int]:
    return {day for day, column in model.evenings.items() if values[column] > 0.5}
