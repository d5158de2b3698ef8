"""How much of each product there is on each day of a plan: the oldest good batch is given out first, then the store."""

from dataclasses import dataclass

from firkin.core.season.plan import SeasonPlan
from firkin.core.season.season import Pinned


@dataclass(frozen=True, slots=True)
class Level:
    """A day of a product: mL as the day begins to be served, mL after it, and what it went short of."""

    day: int
    before: float
    after: float
    short: float


@dataclass(slots=True)
class Lot:
    """What is left of one batch: mL, from which day it serves, and the last day it is good."""

    mL: float
    free: int
    last: int


def lots_of(plan: SeasonPlan, product: str) -> list[Lot]:
    """The batches of a product, those running now among them, in the order they spoil."""
    season = plan.season
    keeps = season.product(product).keeps_days
    running: list[Pinned] = [one for one in season.fixed if one.running and one.product == product]
    found = [Lot(float(one.mL), one.free, one.start + keeps) for one in running]
    found += [Lot(float(one.mL), one.free, one.start + keeps) for one in plan.batches if one.product == product]
    return sorted(found, key=lambda lot: (lot.last, lot.free))


def levels(plan: SeasonPlan, product: str) -> list[Level]:
    """The level of a product on every day of its season, as planned.

    Args:
        plan: a plan as plan_season gives it.
        product: id of one of its products.

    >>> from firkin.core.season.season import season_from_dict
    >>> season = season_from_dict({"from": "2026-12-01", "days": 3, "evening": {"minutes": 60, "days": []},
    ...     "vessels": [], "stocks": [], "needs": [{"product": "rub", "mL": 100, "on": "2026-12-02"}],
    ...     "products": [{"id": "rub", "on_hand_mL": 250, "batch_mL": [1, 1], "minutes": 0, "wait_h": 0,
    ...                   "keeps_days": 9, "vessels": [], "takes": {}}]})
    >>> [(one.before, one.after) for one in levels(SeasonPlan(season, (), (), (), 0, 0.0, 0), "rub")]
    [(250.0, 250.0), (250.0, 150.0), (150.0, 150.0)]
    """
    season = plan.season
    wanted = [0.0] * season.days
    for need in season.needs:
        if need.product == product:
            wanted[need.day] += need.mL
    for one in plan.short:
        if one.product == product:
            wanted[one.day] -= one.mL
    lacking = [0.0] * season.days
    for one in plan.short:
        if one.product == product:
            lacking[one.day] += one.mL
    store, lots = float(season.product(product).on_hand), lots_of(plan, product)
    found = []
    for day in range(season.days):
        good = [lot for lot in lots if lot.free <= day <= lot.last]
        before = store + sum(lot.mL for lot in good)
        store -= give(good, wanted[day], store)
        found.append(Level(day, before, store + sum(lot.mL for lot in good), lacking[day]))
    return found


def give(good: list[Lot], mL: float, store: float) -> float:
    """Give so much out of the lots, the first first; what is left to give comes from the store: mL of that."""
    for lot in good:
        given = min(lot.mL, mL)
        lot.mL -= given
        mL -= given
    return min(mL, store)
