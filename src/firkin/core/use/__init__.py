"""After the bottle: what became of it, how fast a product is used and when it runs out, and how batches of a formula
compare. It knows days, mL and figures, and no database. Imports measures and errors; the site's rooms for batches and
their use import it.
"""

from firkin.core.use.control import LEAST_POINTS, Chart, chart_of
from firkin.core.use.rates import Rate, Spell, days_left, rate_words, use_rate
from firkin.core.use.whereabouts import (
    EVENT_WORDS,
    IS_WORDS,
    BottleEventKind,
    BottleIs,
    Happened,
    Whereabouts,
    can_happen,
    whereabouts_of,
)

__all__ = [
    "EVENT_WORDS",
    "IS_WORDS",
    "LEAST_POINTS",
    "BottleEventKind",
    "BottleIs",
    "Chart",
    "Happened",
    "Rate",
    "Spell",
    "Whereabouts",
    "can_happen",
    "chart_of",
    "days_left",
    "rate_words",
    "use_rate",
    "whereabouts_of",
]
