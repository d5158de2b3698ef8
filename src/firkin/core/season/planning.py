"""Making a plan: one goal after the other, each kept when the next is sought, within a time."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import ceil
from time import monotonic

from firkin.core.errors import CannotReckon
from firkin.core.season.model import Model, model_of, split, whole
from firkin.core.season.pencilling import fewer_evenings, pencilled, worth
from firkin.core.season.plan import PROVEN, Planned, Purchase, SeasonPlan, Short
from firkin.core.season.program import Solver
from firkin.core.season.reasons import reasons
from firkin.core.season.season import Season

#: Told how far it is while it is sought, in a maker's words.
Telling = Callable[[str], None]
_TELLS = {
    "unmet": "Looking for the least shortage",
    "safety": "Keeping a little in store",
    "evenings": "Looking for the fewest evenings",
    "cost": "Looking for the least money",
    "left": "Leaving the least over",
    "later": "Serving the earlier needs first",
}


def _untold(_: str) -> None:
    """Nobody is told."""


def plan_season(season: Season, seconds: float = 30.0, tell: Telling = _untold) -> SeasonPlan:
    """The plan of a season: the least unmet mL, then the fewest evenings, the least cost, the least left over.

    ``tell`` hears what is looked for while it is.

    Args:
        season: what is needed, by when, and with what.
        seconds: time to search, s.
        tell: called with a sentence while it searches.

    Raises:
        CannotReckon: where what is pinned cannot stand together, or no plan came within the time.

    >>> from firkin.core.season.season import season_from_dict
    >>> season = season_from_dict({"format": "firkin-season/1", "from": "2026-12-01", "days": 7,
    ...     "evening": {"minutes": 60, "days": ["thu"]}, "vessels": [{"id": "jug", "mL": 1000, "count": 1}],
    ...     "products": [{"id": "rub", "on_hand_mL": 0, "batch_mL": [500, 1000], "minutes": 40, "wait_h": 72,
    ...                   "keeps_days": 730, "vessels": ["jug"], "takes": {}}],
    ...     "needs": [{"product": "rub", "mL": 100, "every_days": 2, "first": "2026-12-03"}], "stocks": []})
    >>> plan = plan_season(season, seconds=5.0)
    >>> plan.unmet_mL, len(plan.batches)
    (200, 1)
    """
    ends = monotonic() + seconds
    model = model_of(season)
    large = sum(model.program.whole) > _LARGE
    sought = _in_parts(model, ends, max(_FINISH_S, _FINISH * seconds), tell) if large else _seek(model, ends, tell)
    plan = _read(model, sought.values, sought.proven)
    if not plan.proven:
        pinned = len({one.start for one in season.fixed if not one.running})
        bounds = [max(0.0, sought.bounds.get(name, 0.0)) for name in ("unmet", "evenings", "cost")]
        plan = replace(plan, bound=(bounds[0], bounds[1] + pinned, bounds[2]))
    if not plan.short:
        return plan
    tell("Looking for the smallest change that would do")
    return replace(plan, short=reasons(season, plan, ends))


#: Pencilling evenings gets this share of what is left, and as many seconds at the least.
_PENCIL, _PENCIL_S = 0.5, 1.0
#: With less time than this a large program is not begun: the solver looks at the clock only between its steps, seconds.
_FREE_S = 5.0
#: Where the time is over before there is any plan, a slow machine gets so much more, seconds: a late plan beats none.
_RATHER_LATE_S = 15.0
#: With more whole columns than this, mL are taken as parts first, and made whole in the end.
_LARGE = 1500
#: Of the time that is left, so much for each goal.
_SHARES = {"unmet": 0.8, "safety": 0.3, "evenings": 0.6, "cost": 0.6, "left": 0.7, "later": 1.0}


@dataclass(slots=True)
class _Sought:
    """What came of the goals so far: values, how far proven, and the bound of each."""

    values: list[float]
    proven: str
    bounds: dict[str, float]


def _seek(
    model: Model,
    ends: float,
    tell: Telling,
    fixed: frozenset[str] = frozenset(),
    values: list[float] | None = None,
    *,
    large: bool = False,
) -> _Sought:
    """One goal after the other, each kept when the next is sought; without those that are ``fixed`` already.

    Of a ``large`` season ``values`` are what was pencilled in, and evenings are made few before they are sought.
    """
    first = values
    solver = Solver(model.program)
    bounds: dict[str, float] = {}
    proven, still = "nothing", True
    for name, goal in model.goals():
        if not goal or name in fixed:
            bounds[name] = 0.0
            proven = name if still and name in PROVEN else proven
            continue
        spare = ends - monotonic()
        if values is not None and spare < _LEAST_S:
            break
        tell(_TELLS[name])
        if large and name == "evenings" and values is not None:
            values = fewer_evenings(model, values, first, monotonic() + _pencil_time(spare))
            spare = ends - monotonic()
            if spare < _FREE_S:
                bounds[name], still = 0.0, False
                continue
        solved = solver.least(goal, spare * _SHARES[name], values)
        if solved is None and values is None:
            solved = solver.least(goal, _RATHER_LATE_S)
        if solved is None:
            if values is None:
                raise CannotReckon("No plan found: what is pinned or running does not fit together, or time ran out.")
            break
        values = solved.values
        bounds[name] = solved.bound
        still = still and solved.proven
        if still and name in PROVEN:
            proven = name
        solver.keep(goal, _kept(name, worth(goal, values)))
    assert values is not None
    return _Sought(values, proven, bounds)


def _pencil_time(spare: float) -> float:
    """So long evenings are made few by parts: all that is left where it is too short for more, else half of it."""
    return max(_PENCIL_S, spare if spare < 2.0 * _FREE_S else _PENCIL * spare)


def _in_parts(model: Model, ends: float, finish: float, tell: Telling) -> _Sought:
    """A large season: shortage and evenings in parts of a mL; then batches stand, and packs are sought; then whole mL.

    What comes of the packs and of what is left over is not proven then: other batches might cost less.
    """
    model.in_parts()
    first = pencilled(model, ends)
    parts = _seek(model, ends - finish, tell, frozenset({"cost", "left", "later"}), first, large=True)
    model.stand(parts.values)
    bought = _seek(
        model, max(ends - finish, monotonic() + _FINISH_S), tell, frozenset({"evenings", "later"}), parts.values
    )
    model.stand(bought.values, packs=True)
    model.whole_again()
    done = _seek(model, max(ends, monotonic() + _FINISH_S), tell, frozenset({"evenings", "cost"}))
    unmet = model.goals()[0][1]
    bound = max(0.0, parts.bounds.get("unmet", 0.0))  # before anything is proven it is minus infinity
    same = worth(unmet, done.values) <= ceil(bound - _WHOLE) + _WHOLE
    proven = parts.proven if parts.proven in ("nothing", "unmet") else "evenings"
    return _Sought(done.values, proven if same else "nothing", parts.bounds | {"cost": 0.0})


#: Less time than this is none, seconds; and nearer to a whole number than this is whole.
_LEAST_S, _WHOLE = 0.1, 1e-4
#: Seeking packs, and making mL whole, take a second or two each, and get it.
_FINISH_S = 0.5
#: Of a longer time they get this share.
_FINISH = 0.06


def _kept(name: str, reached: float) -> float:
    """What a goal may come to from now on: mL and evenings are whole in the end."""
    return ceil(reached - _WHOLE) + _WHOLE if name in ("unmet", "evenings") else reached + _WHOLE


def _read(model: Model, values: list[float], proven: str) -> SeasonPlan:
    """The plan that a solution says."""
    season = model.season
    batches = [Planned(one.product, one.vessel, one.start, one.free, one.mL) for one in season.fixed if not one.running]
    for slot in model.slots:
        count, mL = round(values[slot.count]), round(values[slot.mL])
        if count:
            most = min(slot.product.most, season.vessel(slot.vessel).mL)
            for size in split(mL, count, slot.product.least, most):
                free = slot.day + slot.product.wait_days
                batches.append(Planned(slot.product.id, slot.vessel, slot.day, free, size, slot.takes))
    buy, cost = [], 0.0
    for one in model.packs:
        count = round(values[one.count])
        if count:
            pack = next(stock for stock in season.stocks if stock.id == one.stock).packs[one.pack]
            buy.append(Purchase(one.stock, count, one.arrives - pack.days, one.arrives, pack.size))
            cost += count * pack.price
    short = [
        Short(season.needs[at].product, season.needs[at].day, mL)
        for at, column in model.unmet.items()
        if (mL := round(values[column]))
    ]
    evenings = len({batch.start for batch in batches})
    left = whole(model.left_fixed + sum(value * values[column] for column, value in model.left.items()) + 0.5)
    batches.sort(key=lambda one: (one.start, one.product, one.vessel, -one.mL))
    buy.sort(key=lambda one: (one.order, one.stock, one.arrives))
    short.sort(key=lambda one: (one.day, one.product))
    return SeasonPlan(season, tuple(batches), tuple(buy), tuple(short), evenings, cost, max(0, left), proven)
