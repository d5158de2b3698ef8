"""How a product stands: its bottles, how fast they are used, and when what there is runs out."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db.models import Q
from django.utils import timezone

from firkin.accounts.models import Workshop
from firkin.batches.models import Bottle, Filling, Holder
from firkin.core.measures import amount_words, figures
from firkin.core.use import BottleIs, Rate, Spell, days_left, rate_words, use_rate
from firkin.formulas.models import Formula

#: So far back use is looked at, days: what was used in another year says little of now (common practice, no source).
LOOKED_BACK_D = 365
_GONE = ("used", "discarded")


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
            return "No bottle used up yet, so Firkin can't say how long it lasts."
        said = f"Uses {rate_words(self.rate)}, from {self.rate.bottles} {_bottles(self.rate.bottles)} in {self.time}."
        if self.days is None:
            return f"{said} None left."
        soonest, likely, _ = self.days
        return f"{said} {amount_words(self.left_mL)} left: about {_days(likely)}, {_days(soonest)} at the soonest."

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


def standings(workshop: Workshop) -> list[Standing]:
    """Every product that is in bottles, or was in the last year; what runs out first stands first."""
    since = timezone.now() - timedelta(days=LOOKED_BACK_D)
    rows = Bottle.objects.of_workshop(workshop).exclude(given_at__lt=since, ended_at__lt=since)
    bottles: dict[int, list[Bottle]] = {}
    for bottle in rows:
        bottles.setdefault(bottle.filling.batch.version.formula_id, []).append(bottle)
    fillings: dict[int, list[Filling]] = {}
    in_use = Filling.objects.filter(batch__workshop=workshop).exclude(batch__state__in=_GONE)
    for filling in in_use.select_related("batch__version__formula"):
        fillings.setdefault(filling.batch.version.formula_id, []).append(filling)
    formulas = Formula.objects.filter(workshop=workshop).filter(Q(pk__in=bottles) | Q(pk__in=fillings))
    found = [_standing(one, fillings.get(one.pk, []), bottles.get(one.pk, [])) for one in formulas]
    return sorted(found, key=lambda one: (one.days is None, one.days[1] if one.days else 0.0, one.formula.name))


def _standing(formula: Formula, fillings: list[Filling], bottles: list[Bottle]) -> Standing:
    now = timezone.now()
    told: dict[int, list[Bottle]] = {}
    for bottle in bottles:
        told.setdefault(bottle.filling_id, []).append(bottle)
    store, out, left_mL = 0, 0, 0.0
    for filling in fillings:
        rows = told.get(filling.pk, [])
        away = sum(row.place == BottleIs.OUT for row in rows)
        here = filling.count - sum(row.place != BottleIs.STORE for row in rows)
        store, out = store + here, out + away
        left_mL += here * filling.fill_mL + sum(
            filling.fill_mL * (0.5 if row.opened_at else 1.0) for row in rows if row.place == BottleIs.OUT
        )
    rate = use_rate(spells_of(bottles), now)
    holders = {row.holder_id: row.holder for row in bottles if row.holder is not None}
    by_place = [
        (holder, use_rate(spells_of(b for b in bottles if b.holder_id == pk), now)) for pk, holder in holders.items()
    ]
    places = tuple((holder, one) for holder, one in by_place if one is not None and one.bottles > 1)
    return Standing(formula, store, out, left_mL, rate, places if len(holders) > 1 else ())


def spells_of(bottles: Iterable[Bottle]) -> list[Spell]:
    """The times bottles were in use, for how fast they are used."""
    return [
        Spell(begun, bottle.ended_at, bottle.filling.fill_mL, bottle.used)
        for bottle in bottles
        if (begun := bottle.opened_at or bottle.given_at) is not None
    ]


def names_to_forget(workshop: Workshop, now: datetime) -> list[Holder]:
    """People whose last bottle ended longer ago than the workshop keeps their names."""
    days = workshop.forget_names_days
    if not days:
        return []
    since = now - timedelta(days=days)
    people = Holder.objects.filter(workshop=workshop, place=False, created_at__lt=since).exclude(name="")
    with_some = Bottle.objects.filter(holder__in=people).exclude(ended_at__lt=since)
    return list(people.exclude(pk__in=with_some.values("holder")))
