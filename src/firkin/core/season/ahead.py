"""A plan played ahead: use that is not as even as planned, batches that are lost, evenings that fall out. Seeded."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from random import Random

from firkin.core.season.levels import give, lots_of
from firkin.core.season.plan import SeasonPlan

#: So often a plan is played where nothing else is said.
TIMES = 100
#: A batch that is lost, and an evening on which nothing is made, one in so many (common practice, no source).
_LOST, _FELL_OUT = 1.0 / 50.0, 1.0 / 20.0
#: Use of which nothing is known spreads by this share of it (common practice, no source).
USUAL_SPREAD = 0.3


@dataclass(frozen=True, slots=True)
class Ahead:
    """One product played ahead: in how many of ``times`` it ran dry, and on each day the 5th, 50th and 95th of 100
    levels in mL, after the day was served."""

    product: str
    times: int
    ran_dry: int
    low: tuple[float, ...]
    middle: tuple[float, ...]
    high: tuple[float, ...]
    first_dry: Mapping[int, int] = field(default_factory=dict)


def play_ahead(
    plan: SeasonPlan, spread: Mapping[str, float] | None = None, times: int = TIMES, seed: int = 0
) -> list[Ahead]:
    """Play a plan ``times`` times. ``spread`` is the standard deviation of a product's use as a share of it.

    Use in one play is a factor for the whole season (nobody knows the rate) times one for each need (nobody washes
    alike every week), both log-normal with a mean of 1. A batch that falls out is made on the next open day.

    Args:
        plan: a plan as plan_season gives it.
        spread: standard deviation of the use by product, as a fraction of it.
        times: how many times it is played.
        seed: starts the generator of random numbers; the same seed gives the same answer.

    >>> from firkin.core.season.season import season_from_dict
    >>> season = season_from_dict({"from": "2026-12-01", "days": 3, "evening": {"minutes": 60, "days": []},
    ...     "vessels": [], "stocks": [], "needs": [{"product": "rub", "mL": 100, "on": "2026-12-02"}],
    ...     "products": [{"id": "rub", "on_hand_mL": 99, "batch_mL": [1, 1], "minutes": 0, "wait_h": 0,
    ...                   "keeps_days": 9, "vessels": [], "takes": {}}]})
    >>> plan = SeasonPlan(season, (), (), (), 0, 0.0, 0)
    >>> [one.ran_dry for one in play_ahead(plan, {"rub": 0.0}, 10)], play_ahead(plan, {"rub": 0.0}, 10)[0].middle
    ([10], (99.0, 0.0, 0.0))
    """
    random = Random(seed)  # noqa: S311 - drawn to be played, and the same each time
    found = []
    for product in plan.season.products:
        spreads = (spread or {}).get(product.id, USUAL_SPREAD)
        runs = [_played(plan, product.id, spreads, random) for _ in range(times)]
        days = range(plan.season.days)
        ordered = [sorted(levels[day] for levels, _ in runs) for day in days]
        first: dict[int, int] = {}
        for _, dry in runs:
            if dry is not None:
                first[dry] = first.get(dry, 0) + 1
        low, middle, high = (tuple(one[_place(share, times)] for one in ordered) for share in (0.05, 0.5, 0.95))
        found.append(Ahead(product.id, times, sum(first.values()), low, middle, high, first))
    return found


def _place(share: float, times: int) -> int:
    return min(times - 1, int(share * times))


def _played(plan: SeasonPlan, product: str, spread: float, random: Random) -> tuple[list[float], int | None]:
    """One play: the level on every day after it was served, and the day it first ran dry."""
    season = plan.season
    whole = _factor(spread, random)
    wanted = [0.0] * season.days
    for need in season.needs:
        if need.product == product:
            wanted[need.day] += need.mL * whole * _factor(spread, random)
    lots = lots_of(plan, product)
    running = {id(lot) for lot in lots if lot.free <= 0}
    for lot in lots:
        if id(lot) in running:
            continue
        if random.random() < _LOST:
            lot.mL = 0.0
        while random.random() < _FELL_OUT:
            later = min((day for day in season.evening.days if day > lot.free), default=season.days)
            lot.last += later - lot.free
            lot.free = later
    store, found, dry = float(season.product(product).on_hand), [], None
    for day in range(season.days):
        good = [lot for lot in lots if lot.free <= day <= lot.last]
        there = store + sum(lot.mL for lot in good)
        if wanted[day] > there + 1e-9 and dry is None:
            dry = day
        store -= give(good, wanted[day], store)
        found.append(store + sum(lot.mL for lot in good))
    return found, dry


def _factor(spread: float, random: Random) -> float:
    """A log-normal factor with a mean of 1 and about this standard deviation."""
    return random.lognormvariate(-spread * spread / 2.0, spread) if spread > 0.0 else 1.0
