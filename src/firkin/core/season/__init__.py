"""The season's plan: needs, vessels, stocks and evenings in, and out the batches and purchases that meet the needs with
the least shortage, then the fewest evenings, then the least money. Imports measures and errors; the solver (HiGHS) is
imported only while a plan is made. The text commands and the site's season import it.
"""

from firkin.core.season.ahead import USUAL_SPREAD, Ahead, play_ahead
from firkin.core.season.levels import Level, levels
from firkin.core.season.plan import PLAN_FORMAT, Planned, Purchase, SeasonPlan, Short, plan_from_dict, plan_to_dict
from firkin.core.season.planning import plan_season
from firkin.core.season.reasons import unmet_by_product
from firkin.core.season.season import (
    SEASON_FORMAT,
    WEEKDAYS,
    Evening,
    Limit,
    Need,
    Pack,
    Pinned,
    Product,
    Season,
    Stock,
    Vessel,
    season_from_dict,
)

__all__ = [
    "PLAN_FORMAT",
    "SEASON_FORMAT",
    "USUAL_SPREAD",
    "WEEKDAYS",
    "Ahead",
    "Evening",
    "Level",
    "Limit",
    "Need",
    "Pack",
    "Pinned",
    "Planned",
    "Product",
    "Purchase",
    "Season",
    "SeasonPlan",
    "Short",
    "Stock",
    "Vessel",
    "levels",
    "plan_from_dict",
    "plan_season",
    "plan_to_dict",
    "play_ahead",
    "season_from_dict",
    "unmet_by_product",
]
