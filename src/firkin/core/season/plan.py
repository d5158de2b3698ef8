"""A plan as it came out: batches, purchases, what goes short; and firkin-plan/1."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any

from firkin.core.season.season import Season

PLAN_FORMAT = "firkin-plan/1"
#: How far a plan can be proven, in the order that is sought.
PROVEN = ("nothing", "unmet", "evenings", "cost", "left")


@dataclass(frozen=True, slots=True)
class Planned:
    """One batch: its product and vessel, the days it starts and is free, and its mL; ``takes`` which alternative."""

    product: str
    vessel: str
    start: int
    free: int
    mL: int
    takes: int = 0


@dataclass(frozen=True, slots=True)
class Purchase:
    """So many packs of a stock, ordered on a day and there on another."""

    stock: str
    packs: int
    order: int
    arrives: int
    size: float


@dataclass(frozen=True, slots=True)
class Short:
    """What a need goes short of on a day, mL; what binds (``why``), and a sentence with what would do."""

    product: str
    day: int
    mL: int
    why: tuple[str, ...] = ()
    would_do: str = ""


@dataclass(frozen=True, slots=True)
class SeasonPlan:
    """A plan. ``proven_to`` is one of PROVEN; ``bound`` holds the best unmet mL, evenings and cost still possible."""

    season: Season
    batches: tuple[Planned, ...]
    buy: tuple[Purchase, ...]
    short: tuple[Short, ...]
    evenings: int
    cost: float
    left_mL: int
    proven_to: str = "left"
    bound: tuple[float, float, float] | None = None

    @property
    def unmet_mL(self) -> int:
        """mL of all needs that are not met."""
        return sum(one.mL for one in self.short)

    @property
    def proven(self) -> bool:
        """True where nothing better is possible in what is counted: unmet, evenings and cost."""
        return self.proven_to in ("cost", "left")


def plan_to_dict(plan: SeasonPlan) -> dict[str, Any]:
    """The plan as firkin-plan/1.

    Args:
        plan: a plan as plan_season gives it.

    >>> from firkin.core.season.season import season_from_dict
    >>> season = season_from_dict({"format": "firkin-season/1", "from": "2026-12-01", "days": 3,
    ...     "evening": {"minutes": 60, "days": []}, "vessels": [], "stocks": [], "needs": [], "products": []})
    >>> plan_to_dict(SeasonPlan(season, (), (), (), 0, 0.0, 0))["evenings"]
    0
    """
    day = plan.season.date_of
    data: dict[str, Any] = {
        "format": PLAN_FORMAT,
        "proven": plan.proven,
        "proven_to": plan.proven_to,
        "unmet_mL": plan.unmet_mL,
        "evenings": plan.evenings,
        "cost": round(plan.cost, 2),
        "left_mL": plan.left_mL,
        "batches": [_batch(plan, one) for one in plan.batches],
        "buy": [_purchase(plan, one) for one in plan.buy],
        "short": [
            {"product": one.product, "on": day(one.day), "mL": one.mL, "why": list(one.why), "would_do": one.would_do}
            for one in plan.short
        ],
    }
    if plan.bound is not None:
        unmet, evenings, cost = plan.bound
        data["bound"] = {"unmet_mL": round(unmet), "evenings": round(evenings), "cost": round(cost, 2)}
    return data


def plan_from_dict(season: Season, data: Mapping[str, Any]) -> SeasonPlan:
    """A plan read back, of the season it was made for.

    Args:
        season: the season it was made for.
        data: a document firkin-plan/1.

    >>> from firkin.core.season.season import season_from_dict
    >>> season = season_from_dict({"from": "2026-12-01", "days": 3, "evening": {"minutes": 60, "days": []},
    ...     "vessels": [], "stocks": [], "needs": [], "products": []})
    >>> plan_from_dict(season, plan_to_dict(SeasonPlan(season, (), (), (), 0, 0.0, 0))).proven
    True
    """

    def day(text: str) -> int:
        return (date.fromisoformat(text) - season.begins).days

    def takes(row: Mapping[str, Any]) -> int:
        alternatives = [dict(one) for one in season.product(row["product"]).takes]
        return alternatives.index(row["takes"]) if row.get("takes") in alternatives else 0

    packs = {one.id: one.packs for one in season.stocks}
    bound = data.get("bound")
    return SeasonPlan(
        season,
        tuple(
            Planned(row["product"], row["vessel"], day(row["start"]), day(row["free"]), row["mL"], takes(row))
            for row in data["batches"]
        ),
        tuple(
            Purchase(
                row["stock"],
                row["packs"],
                day(row["order"]),
                day(row["arrives"]),
                float(row.get("size", packs[row["stock"]][0].size)),
            )
            for row in data["buy"]
        ),
        tuple(
            Short(row["product"], day(row["on"]), row["mL"], tuple(row["why"]), row["would_do"])
            for row in data["short"]
        ),
        data["evenings"],
        data["cost"],
        data["left_mL"],
        data["proven_to"],
        None if bound is None else (bound["unmet_mL"], bound["evenings"], bound["cost"]),
    )


def _batch(plan: SeasonPlan, one: Planned) -> dict[str, Any]:
    day = plan.season.date_of
    row: dict[str, Any] = {
        "product": one.product,
        "vessel": one.vessel,
        "start": day(one.start),
        "free": day(one.free),
        "mL": one.mL,
    }
    alternatives = plan.season.product(one.product).takes
    if len(alternatives) > 1:
        row["takes"] = dict(alternatives[one.takes])
    return row


def _purchase(plan: SeasonPlan, one: Purchase) -> dict[str, Any]:
    day = plan.season.date_of
    row: dict[str, Any] = {
        "stock": one.stock, "packs": one.packs, "order": day(one.order), "arrives": day(one.arrives),
    }  # fmt: skip
    sizes = {pack.size for stock in plan.season.stocks if stock.id == one.stock for pack in stock.packs}
    if len(sizes) > 1:
        row["size"] = one.size
    return row
