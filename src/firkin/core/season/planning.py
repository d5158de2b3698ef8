"""Making a plan: one goal after the other, each kept when the next is sought, within a time."""

from dataclasses import replace
from time import monotonic

from firkin.core.errors import CannotReckon
from firkin.core.season.model import Model, model_of, split, whole, widened
from firkin.core.season.plan import Planned, Purchase, SeasonPlan, Short
from firkin.core.season.program import Solved, Solver, Terms
from firkin.core.season.season import Season

#: What may bind, in the order it is looked for.
BINDS = ("wait", "vessel", "evening", "stock", "keeps", "size")
#: So long each of them is tried, seconds.
_TRIED_S = 2.0
#: What would do, by what binds.
_WOULD_DO = {
    "wait": "Start it earlier: it is not free in time.",
    "vessel": "One more vessel would do.",
    "evening": "More evenings, or longer ones, would do.",
    "stock": "More of its stocks in time would do.",
    "keeps": "It does not keep that long: a later batch would do.",
    "size": "A smaller or larger batch would do.",
}


def plan_season(season: Season, seconds: float = 30.0) -> SeasonPlan:
    """The plan of a season: the least unmet mL, then the fewest evenings, the least cost, the least left over.

    Raises CannotReckon where what is pinned cannot stand together, or no plan came within the time.
    """
    ends = monotonic() + seconds
    model = model_of(season)
    solver = Solver(model.program)
    values: list[float] | None = None
    reached, bounds, proven = {}, {}, "nothing"
    still = True
    shares = {"unmet": 0.45, "safety": 0.3, "evenings": 0.6, "cost": 0.6, "left": 0.7, "later": 1.0}
    for name, goal in model.goals():
        if not goal:
            bounds[name] = reached[name] = 0.0
            proven = name if still and name in ("unmet", "evenings", "cost", "left") else proven
            continue
        spare = ends - monotonic()
        if values is not None and spare < 0.1:
            break
        solved = solver.least(goal, spare * shares[name], values)
        if solved is None:
            if values is None:
                raise CannotReckon(
                    "No plan was found: what is pinned or running does not fit together, or time ran out."
                )
            break
        values = solved.values
        reached[name] = _value(goal, values)
        bounds[name] = solved.bound
        still = still and solved.proven
        if still and name in ("unmet", "evenings", "cost", "left"):
            proven = name
        solver.keep(goal, _kept(name, reached[name]))
    assert values is not None
    plan = _read(model, values, proven)
    if not plan.proven:
        pinned = len({one.start for one in season.fixed if not one.running})
        evenings = bounds.get("evenings", 0.0) if reached.keys() >= {"evenings"} else 0.0
        bound = (max(0.0, bounds.get("unmet", 0.0)), evenings + pinned, max(0.0, bounds.get("cost", 0.0)))
        plan = replace(plan, bound=bound)
    return replace(plan, short=_reasons(season, plan, ends)) if plan.short else plan


def _value(goal: Terms, values: list[float]) -> float:
    return float(sum(value * values[column] for column, value in goal.items()))


def _kept(name: str, reached: float) -> float:
    """What a goal may come to from now on: whole things stay whole."""
    return round(reached) + 1e-4 if name in ("unmet", "evenings") else reached + 1e-4


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


def _reasons(season: Season, plan: SeasonPlan, ends: float) -> tuple[Short, ...]:
    """Each shortage with what binds: what, were it not in the way, would make it less."""
    unmet = plan.unmet_mL
    told: dict[str, dict[str, int]] = {}
    for what in BINDS:
        spare = min(_TRIED_S, ends - monotonic())
        if spare < 0.1:
            break
        model = model_of(widened(season, what))
        name, goal = model.goals()[0]
        solved: Solved | None = Solver(model.program).least(goal, spare)
        if solved is None or not goal or name != "unmet" or _value(goal, solved.values) > unmet - 0.5:
            continue
        by_product: dict[str, int] = {}
        for at, column in model.unmet.items():
            key = season.needs[at].product
            by_product[key] = by_product.get(key, 0) + round(solved.values[column])
        told[what] = by_product
    short_of: dict[str, int] = {}
    for one in plan.short:
        short_of[one.product] = short_of.get(one.product, 0) + one.mL
    found = []
    for one in plan.short:
        why = tuple(what for what, left in told.items() if left.get(one.product, 0) < short_of[one.product])
        would_do = _WOULD_DO[why[0]] if why else "More than one thing is in the way: ask for less, or plan for longer."
        found.append(Short(one.product, one.day, one.mL, why, would_do))
    return tuple(found)
