"""Why a need goes short, and the smallest change that would do: each is tried by the solver before it is said."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import timedelta
from math import ceil
from time import monotonic

from firkin.core.measures import amount_words, figures
from firkin.core.season.model import model_of, widened
from firkin.core.season.plan import SeasonPlan, Short
from firkin.core.season.program import Solver
from firkin.core.season.season import Season

#: What may bind, in the order it is looked for.
BINDS = ("wait", "vessel", "evening", "stock", "keeps", "size")
#: So long each of them is tried, and so long each change, seconds.
_TRIED_S = 2.0
#: So many evenings are tried one by one, those that would be used.
_MOST_EVENINGS = 4
#: A change leaves a shortage of less than this, mL, where it does.
_NONE_ML = 0.5
#: So many changes are told beside asking for less.
_MOST_TOLD = 2
_MORE_THAN_ONE = "More than one thing is in the way"


def reasons(season: Season, plan: SeasonPlan, ends: float) -> tuple[Short, ...]:
    """Each shortage of a plan with what binds, and the smallest change that would do, as far as the time goes.

    What binds is what would make the shortage of the product less, were it not in the way.
    """
    short_of: dict[str, int] = {}
    for one in plan.short:
        short_of[one.product] = short_of.get(one.product, 0) + one.mL
    told: dict[str, dict[str, float]] = {}
    tried_all = True
    for what in BINDS:
        unmet = unmet_by_product(widened(season, what), min(_TRIED_S, ends - monotonic()))
        tried_all = tried_all and unmet is not None
        if unmet is not None and sum(unmet.values()) <= plan.unmet_mL - _NONE_ML:
            told[what] = unmet
    would_do = {}
    for product, mL in short_of.items():
        why = tuple(what for what, left in told.items() if left.get(product, 0.0) < mL - _NONE_ML)
        several = tried_all and len(why) != 1
        would_do[product] = (why, smallest_change(season, plan, product, why, ends, several=several))
    return tuple(replace(one, why=would_do[one.product][0], would_do=would_do[one.product][1]) for one in plan.short)


def unmet_by_product(season: Season, seconds: float) -> dict[str, float] | None:
    """The least shortage of a season in mL, by product; None where it was not found in the time.

    Args:
        season: what is needed, by when, and with what.
        seconds: time to search, s.

    >>> from firkin.core.season.season import season_from_dict
    >>> season = season_from_dict({"format": "firkin-season/1", "from": "2026-12-01", "days": 3,
    ...     "evening": {"minutes": 60, "days": []}, "vessels": [], "stocks": [], "needs": [], "products": []})
    >>> unmet_by_product(season, 5.0) is None
    True
    """
    if seconds < _LEAST_S:
        return None
    model = model_of(season)
    goal = model.goals()[0][1]
    solved = Solver(model.program).least(goal, seconds) if goal else None
    if solved is None:
        return None
    found: dict[str, float] = {}
    for at, column in model.unmet.items():
        key = season.needs[at].product
        found[key] = found.get(key, 0.0) + solved.values[column]
    return found


#: Less time than this is none, seconds.
_LEAST_S = 0.1


def smallest_change(
    season: Season, plan: SeasonPlan, product: str, why: tuple[str, ...], ends: float, *, several: bool
) -> str:
    """The smallest change with which a product no longer goes short and no other more, in words.

    Changes of one thing alone are tried, the smallest first; where none does, or the time is over, it is asked for
    less: that always does. ``several`` says that more than one thing is known to be in the way.
    """
    less = _less(season, plan, product)
    others = {one.product: 0.0 for one in plan.short}
    for one in plan.short:
        others[one.product] += one.mL
    found: list[str] = []
    kinds: list[str] = []
    for kind, words, changed in _changes(season, plan, product, why):
        if kind in kinds:
            continue
        unmet = unmet_by_product(changed, min(_TRIED_S, ends - monotonic()))
        if unmet is None:
            continue
        rest = [key for key, mL in unmet.items() if key != product and mL > others.get(key, 0.0) + _NONE_ML]
        if unmet.get(product, 0.0) <= _NONE_ML and not rest:
            found.append(words if not found else f"{words[0].lower()}{words[1:]}")
            kinds.append(kind)
            if len(found) == _MOST_TOLD:
                break
    if found:
        return f"{' or '.join(found)} would do. Or {less}."
    head = f"{_MORE_THAN_ONE}. " if several else ""
    return f"{head}{less[0].upper()}{less[1:]}."


def _less(season: Season, plan: SeasonPlan, product: str) -> str:
    rows = [(one.day, one.mL) for one in plan.short if one.product == product]
    said = [f"{amount_words(mL)} less on {_on(season, day)}" for day, mL in rows[:2]]
    if len(rows) > len(said):
        rest = sum(mL for _, mL in rows[len(said) :])
        said.append(f"{amount_words(rest)} less later")
    return f"ask for {' and '.join(said)}"


def _changes(season: Season, plan: SeasonPlan, product: str, why: tuple[str, ...]) -> Iterator[tuple[str, str, Season]]:
    """Changes of one thing, the smallest first: its kind, its words, and the season with it."""
    made = season.product(product)
    mL = sum(one.mL for one in plan.short if one.product == product)
    first = min(one.day for one in plan.short if one.product == product)
    if "stock" in why:
        for key, rate in made.takes[0]:
            yield "stock", *_more_stock(season, key, rate * mL, max(0, first - made.wait_days))
    if "evening" in why or "vessel" in why:
        for words, changed in _more_evenings(season, first - made.wait_days):
            yield "evening", words, changed
    if "vessel" in why:
        for vessel in season.vessels:
            if vessel.id in made.vessels:
                vessels = tuple(replace(one, count=one.count + (one is vessel)) for one in season.vessels)
                yield "vessel", f"One more {vessel.id}", replace(season, vessels=vessels)
    if "size" in why:
        for words, changed in _other_size(season, product):
            yield "size", words, changed


def _more_stock(season: Season, key: str, much: float, day: int) -> tuple[str, Season]:
    """As much more of a stock as the shortage takes, from the first day on; it is told for the last start."""
    stocks = tuple(
        replace(one, arrives=(*one.arrives, (0, float(ceil(much))))) if one.id == key else one for one in season.stocks
    )
    by = f"by {_on(season, day)}" if day > 0 else "today"
    return f"{figures(ceil(much), 3)} more of {key} {by}", replace(season, stocks=stocks)


def _more_evenings(season: Season, latest: int) -> Iterator[tuple[str, Season]]:
    """One evening more, the last ones that come in time first; then evenings twice as long."""
    closed = [day for day in range(latest, -1, -1) if day not in season.evening.days and day < season.days]
    for day in closed[:_MOST_EVENINGS]:
        open_too = replace(season.evening, days=season.evening.days | {day})
        yield f"An evening on {_on(season, day)}", replace(season, evening=open_too)
    longer = replace(season.evening, minutes=2.0 * season.evening.minutes)
    yield f"Evenings of {figures(longer.minutes)} minutes", replace(season, evening=longer)


def _other_size(season: Season, product: str) -> Iterator[tuple[str, Season]]:
    made = season.product(product)
    largest = max((one.mL for one in season.vessels if one.id in made.vessels), default=made.most)
    for words, changed in (
        (f"Batches of up to {amount_words(largest)}", replace(made, most=max(largest, made.most))),
        ("A smaller batch", replace(made, least=1)),
    ):
        products = tuple(changed if one is made else one for one in season.products)
        yield words, replace(season, products=products)


def _on(season: Season, day: int) -> str:
    date = season.begins + timedelta(days=day)
    return f"{date:%A} {date.day} {date:%B}"
