"""How a product stands: its bottles, how fast they are used, and when what there is runs out."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db.models import Case, Count, F, FloatField, QuerySet, Sum, Value, When
from django.utils import timezone

from firkin.accounts.models import Workshop
from firkin.batches.models import Bottle, Filling, Holder, State
from firkin.core.measures import amount_words, figures, rounded
from firkin.core.use import BottleIs, Rate, Spell, days_left, rate_words, use_rate
from firkin.formulas.models import Formula

#: So far back use is looked at, days: what was used in another year says little of now (common practice, no source).
LOOKED_BACK_D = 365
#: So much of an open bottle is taken to be left (common practice, no source).
OPEN_LEFT = 0.5
#: States of batches that are there, told one by one: SQLite finds them by an index, and not "all but these".
_THERE = (State.PLANNED, State.MAKING, State.RESTING, State.RELEASED, State.FILLED)
_GONE = (State.USED, State.DISCARDED)
#: How fast a product is used is worked out from so many bottles at the most, the newest.
MOST_BOTTLES = 300
_COLUMNS = (
    *("filling__batch__version__formula", "holder", "given_at", "opened_at", "ended_at", "used"),
    "filling__fill_mL",
)


@dataclass(frozen=True, slots=True)
class Standing:
    """A product of the workshop: what is in the store and out, mL and bottles, and how fast it is used."""

    formula: Formula
    store: int
    out: int
    left_mL: float
    rate: Rate | None
    places: tuple[tuple[Holder, Rate], ...] = ()

    @property
    def days(self) -> tuple[float, float, float] | None:
        """In how many days what there is runs out: soonest, most likely, latest."""
        return None if self.rate is None or not self.left_mL else days_left(self.rate, self.left_mL)

    @property
    def words(self) -> str:
        """How fast it is used, and when it runs out: "0.9 to 1.3 L a week. At this rate it runs out in 9 days."."""
        if self.rate is None:
            return "No bottle finished yet, so Firkin can't say how long it lasts."
        said = f"Uses {rate_words(self.rate)}, from {self.rate.bottles} {_bottles(self.rate.bottles)} in {self.time}."
        if self.days is None:
            return f"{said} None left."
        soonest, likely, _ = self.days
        left = amount_words(rounded(self.left_mL, 2))
        return f"{said} {left} left: about {_days(likely)}, {_days(soonest)} at the soonest."

    @property
    def time(self) -> str:
        """In what time its bottles were used up."""
        assert self.rate is not None
        return _days(self.rate.days)

    @property
    def runs_out(self) -> datetime | None:
        """When it most likely runs out."""
        return None if self.days is None else timezone.now() + timedelta(days=self.days[1])


def _bottles(count: int) -> str:
    return "bottle" if count == 1 else "bottles"


def _days(days: float) -> str:
    if days < 1.0:
        return "a day"
    if days < 21.0:
        return f"{figures(round(days), 3)} days" if round(days) != 1 else "a day"
    return f"{figures(round(days / 7.0), 3)} weeks" if days < 120.0 else f"{figures(round(days / 30.4), 3)} months"


@dataclass(frozen=True, slots=True)
class _Row:
    """What of a bottle counts for how fast it is used."""

    formula: int
    holder: int | None
    given: datetime | None
    opened: datetime | None
    ended: datetime | None
    used: bool
    mL: float

    @property
    def spell(self) -> Spell | None:
        """The time it was in use; None before it was given or opened."""
        begun = self.opened or self.given
        return None if begun is None else Spell(begun, self.ended, self.mL, self.used)


@dataclass(slots=True)
class _Stand:
    """What is there of a product: bottles in the store and out, and mL in them."""

    store: int = 0
    out: int = 0
    left_mL: float = 0.0


def standings(workshop: Workshop) -> list[Standing]:
    """Every product that is in bottles, or was in the last year; what runs out first stands first."""
    now = timezone.now()
    told = Bottle.objects.filter(workshop=workshop, filling__taken_back_at=None)
    bottles: dict[int, list[_Row]] = {}
    # a bottle of a finished batch that nobody wrote the end of ended some day: it says nothing of how fast
    timed = told.exclude(ended_at__lt=now - timedelta(days=LOOKED_BACK_D))
    timed = timed.exclude(ended_at=None, filling__batch__state__in=_GONE)
    for values in timed.order_by("-pk").values_list(*_COLUMNS)[:MOST_BOTTLES]:
        row = _Row(*values)
        bottles.setdefault(row.formula, []).append(row)
    there = _there(workshop, told)
    formulas = Formula.objects.filter(workshop=workshop, pk__in=bottles.keys() | there.keys())
    holders = {one.pk: one for one in Holder.objects.filter(workshop=workshop)}
    found = [_standing(one, there.get(one.pk, _Stand()), bottles.get(one.pk, []), holders, now) for one in formulas]
    return sorted(found, key=lambda one: (one.days is None, one.days[1] if one.days else 0.0, one.formula.name))


def _there(workshop: Workshop, told: "QuerySet[Bottle]") -> dict[int, _Stand]:
    """What is there of each product, by its formula: all that was filled, without what is not in the store any more."""
    found: dict[int, _Stand] = {}
    fillings = Filling.objects.filter(batch__workshop=workshop, batch__state__in=_THERE)
    filled = fillings.values_list("batch__version__formula").annotate(
        n=Sum("count"), mL=Sum(F("count") * F("fill_mL"), output_field=FloatField())
    )
    for formula, count, mL in filled.order_by():
        found[formula] = _Stand(count, 0, mL)
    rows = told.filter(filling__batch__state__in=_THERE).values_list("filling__batch__version__formula", "place")
    opened = Case(When(opened_at=None, then=Value(0)), default=Value(1))
    for formula, place, is_open, count, mL in rows.annotate(
        is_open=opened, n=Count("pk"), mL=Sum("filling__fill_mL")
    ).order_by():
        stand = found.setdefault(formula, _Stand())
        if place != BottleIs.STORE:
            stand.store -= count
            stand.left_mL -= mL
        if place == BottleIs.OUT:
            stand.out += count
            stand.left_mL += mL
        if is_open and place in (BottleIs.STORE, BottleIs.OUT):
            stand.left_mL -= mL * OPEN_LEFT
    return found


def _standing(
    formula: Formula, there: _Stand, bottles: list[_Row], holders: Mapping[int, Holder], now: datetime
) -> Standing:
    rate = use_rate(_spells(bottles), now)
    by_holder: dict[int, list[_Row]] = {}
    for row in bottles:
        if row.holder is not None:
            by_holder.setdefault(row.holder, []).append(row)
    rates = [(holders[key], use_rate(_spells(rows), now)) for key, rows in by_holder.items() if key in holders]
    places = tuple((holder, one) for holder, one in rates if one is not None and one.bottles > 1)
    left_mL = max(0.0, there.left_mL)
    return Standing(formula, there.store, there.out, left_mL, rate, places if len(by_holder) > 1 else ())


def _spells(rows: Iterable[_Row]) -> list[Spell]:
    return [spell for row in rows if (spell := row.spell) is not None]


def names_to_forget(workshop: Workshop, now: datetime) -> list[Holder]:
    """People whose last bottle ended longer ago than the workshop keeps their names."""
    days = workshop.forget_names_days
    if not days:
        return []
    since = now - timedelta(days=days)
    people = Holder.objects.filter(workshop=workshop, place=False, created_at__lt=since).exclude(name="")
    with_some = Bottle.objects.filter(holder__in=people).exclude(ended_at__lt=since)
    return list(people.exclude(pk__in=with_some.values("holder")))
