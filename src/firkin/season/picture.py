"""A plan as it is shown: the drawing over weeks, the same as a list by week, and its sentences."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from functools import cached_property
from typing import Any

from django.urls import reverse
from django.utils import timezone

from firkin.accounts.models import Workshop
from firkin.batches.calendar import Event
from firkin.core.measures import amount_words, figures
from firkin.core.season import Ahead, SeasonPlan, levels, plan_from_dict, season_from_dict
from firkin.drawings.season import Block, ProductRow, SeasonPicture, VesselRow, season
from firkin.season.models import Habits, Need, Plan
from firkin.season.moves import bagged_of, batches_of, made_mL, started_of

#: Colours of products, in the order they stand.
_GROUNDS = ("liquor", "soap", "honey", "gel", "water", "mist")


@dataclass(slots=True)
class Item:
    """One thing to do in a week: which day, what, its minutes, and where it leads."""

    day: date
    kind: str
    words: str
    minutes: float = 0.0
    place: int | None = None
    done: bool = False
    late: bool = False


@dataclass(slots=True)
class Week:
    """A week of the plan."""

    begins: date
    name: str
    items: list[Item] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Row:
    """One batch of a plan as the page lists it."""

    place: int
    product: str
    mL: float
    vessel: str
    start: date
    free: date
    pinned: bool
    started: int | None
    late: bool


class Shown:
    """A plan that stands, read once for its page."""

    def __init__(self, plan: Plan, today: date | None = None) -> None:
        self.plan, self.today = plan, today or timezone.localdate()
        self.data: dict[str, Any] = plan.planned or {}
        self.core: SeasonPlan = plan_from_dict(season_from_dict(plan.asked), self.data)
        self.started = started_of(plan)
        self.bagged = bagged_of(plan)
        self.habits = Habits.objects.get_or_create(workshop=plan.workshop)[0]

    @property
    def rows(self) -> list[Row]:
        """Its batches, in the order they are started."""
        found = []
        for place, one in enumerate(batches_of(self.plan)):
            start = date.fromisoformat(one["start"])
            begun = self.started.get(place)
            found.append(
                Row(
                    place,
                    one["product"],
                    made_mL(self.plan, one),
                    one["vessel"],
                    start,
                    date.fromisoformat(one["free"]),
                    one in self.plan.pinned,
                    begun,
                    begun is None and start < self.today,
                )
            )
        return found

    @property
    def late(self) -> list[Row]:
        """Batches whose evening has passed and that were not begun."""
        return [row for row in self.rows if row.late]

    @property
    def summary(self) -> str:
        """How it comes out: "Until 24 January: 5 evenings at the bench, 74 EUR. One need cannot be met."."""
        evenings = f"{self.core.evenings} evening{'s' * (self.core.evenings != 1)} at the bench"
        currency = self.plan.workshop.currency
        cost = f", {figures(self.core.cost)} {currency} to spend" if self.core.cost else ", nothing to buy"
        short = len(self.core.short)
        met = "Every need is met." if not short else f"{_number(short)} need{'s' * (short != 1)} cannot be met."
        return f"Until {day_words(self.plan.ends)}: {evenings}{cost}. {met}"

    @property
    def proven(self) -> str:
        """How sure it is that there is no better plan."""
        if self.core.proven:
            return "No plan with less shortage, fewer evenings or less money exists."
        bound = self.core.bound
        if bound is None:
            return ""
        unmet, evenings, _ = bound
        said = f"at least {amount_words(unmet)} short" if unmet >= 1 else "nobody short"
        return f"There may be a better plan, but none with fewer than {figures(evenings)} evenings and {said}."

    @property
    def shortages(self) -> list[dict[str, Any]]:
        """What goes short, a row a product: how much, on which days, what binds, and what would do."""
        found: dict[str, dict[str, Any]] = {}
        for one in self.core.short:
            row = found.setdefault(one.product, {"product": one.product, "mL": 0, "days": [], "would_do": one.would_do})
            row["mL"] += one.mL
            row["days"].append(self.day(one.day))
        return list(found.values())

    def day(self, day: int) -> date:
        """A day of the plan."""
        return self.plan.begins + timedelta(days=day)

    # as a list

    @property
    def weeks(self) -> list[Week]:
        """What is to be done, week by week; what was done already stands as done."""
        items = sorted(self.items, key=lambda one: (one.day, one.kind))
        found: dict[date, Week] = {}
        for one in items:
            monday = max(one.day - timedelta(days=one.day.weekday()), self.plan.begins)
            week = found.setdefault(monday, Week(monday, self._week_name(monday)))
            week.items.append(one)
        return list(found.values())

    def _week_name(self, monday: date) -> str:
        this = self.today - timedelta(days=self.today.weekday())
        weeks = (monday - timedelta(days=monday.weekday()) - this).days // 7
        named = {0: "This week", 1: "Next week"}
        return named.get(weeks, f"Week of {day_words(monday)}")

    @cached_property
    def items(self) -> list[Item]:
        """Everything to do: making, filling, ordering, and what goes short."""
        found = []
        for row in self.rows:
            product = self.core.season.product(row.product)
            words = f"Make {amount_words(row.mL)} of {row.product} in the {row.vessel}"
            found.append(Item(row.start, "make", words, product.minutes, row.place, row.started is not None, row.late))
            for after, minutes in product.later:
                day = row.start + timedelta(days=after)
                if day <= self.plan.ends and (words := _later_words(row, day)):
                    found.append(Item(day, "fill", words, minutes))
        for place, one in enumerate(self.data.get("buy", [])):
            done = place in self.bagged
            found.append(Item(date.fromisoformat(one["order"]), "buy", f"Order {buy_words(one, self)}", done=done))
        for short in self.core.short:
            words = f"{short.product}: {amount_words(short.mL)} short"
            found.append(Item(self.day(short.day), "short", words))
        return found

    @property
    def soon(self) -> list[Item]:
        """What is to be done in the next seven days, at the most four of it."""
        ends = self.today + timedelta(days=7)
        items = [one for one in self.items if one.kind in ("make", "buy") and not one.done and one.day < ends]
        return sorted(items, key=lambda one: one.day)[:4]

    # as a drawing

    def drawn(self, chosen: int | None = None, ahead: Sequence[Ahead] = ()) -> str:
        """The season drawn; ``chosen`` is the batch whose row is open."""
        core, bands = self.core, {one.product: one for one in ahead}
        needs = self._needs_marked()
        products = [
            self._product(product.id, _GROUNDS[at % len(_GROUNDS)], chosen, needs, bands.get(product.id))
            for at, product in enumerate(core.season.products)
        ]
        used = {row.vessel for row in self.rows} | {one.vessel for one in core.season.fixed}
        vessels = [self._vessel(one.id) for one in core.season.vessels if one.id in used]
        minutes: dict[int, float] = {}
        for one in core.batches:
            product = core.season.product(one.product)
            minutes[one.start] = minutes.get(one.start, 0.0) + product.minutes
        bought = [
            ((date.fromisoformat(one["order"]) - self.plan.begins).days, buy_words(one, self))
            for one in self.data.get("buy", [])
        ]
        title = f"The season. {self.summary}"
        picture = SeasonPicture(
            core.season.days,
            self._weeks_marked(),
            products,
            vessels,
            sorted(minutes.items()),
            core.season.evening.minutes,
            bought,
            title,
        )
        return season(picture)

    def _weeks_marked(self) -> list[tuple[int, str]]:
        """Where each week begins; of a long season every second or fourth is named."""
        first = (7 - self.plan.begins.weekday()) % 7
        days = [0, *range(first or 7, self.core.season.days, 7)]
        every = 1 if len(days) <= 10 else 2 if len(days) <= 20 else 4
        named = [day for at, day in enumerate(days) if at % every == 0 and (day == 0 or day >= 3)]
        return [(day, f"{self.day(day):%-d %b}") for day in named]

    def _needs_marked(self) -> Mapping[str, list[tuple[int, str]]]:
        """The needs that come once, with who has them; those that come again are the slope."""
        found: dict[str, list[tuple[int, str]]] = {}
        for need in Need.objects.filter(
            product__formula__workshop=self.plan.workshop, kind=Need.Kind.ONCE
        ).select_related("product__formula"):
            if need.on is not None and self.plan.begins <= need.on <= self.plan.ends:
                words = f"{need.who or 'needed'}, {amount_words(need.all_mL)}"
                found.setdefault(need.product.formula.name, []).append(((need.on - self.plan.begins).days, words))
        return {key: sorted(marks) for key, marks in found.items()}

    def _product(
        self, key: str, ground: str, chosen: int | None, needs: Mapping[str, list[tuple[int, str]]], band: Ahead | None
    ) -> ProductRow:
        rows = levels(self.core, key)
        address = reverse("season:season")
        blocks = [
            Block(
                (row.start - self.plan.begins).days,
                (row.free - self.plan.begins).days,
                amount_words(row.mL),
                "" if row.started else f"{address}?batch={row.place}#chosen",
                row.pinned,
                row.started is not None,
                row.place == chosen,
                str(row.place),
            )
            for row in self.rows
            if row.product == key
        ]
        blocks += [
            Block(one.start, one.free, amount_words(_two(one.mL)), running=True)
            for one in self.core.season.fixed
            if one.running and one.product == key
        ]
        short = [
            (row.day, self._until(rows, row.day), f"{amount_words(row.short)} short on {self.day(row.day):%-d %b}")
            for row in rows
            if row.short
        ]
        return ProductRow(
            key,
            self._says(key),
            [row.before for row in rows],
            [row.after for row in rows],
            blocks,
            needs.get(key, []),
            _apart(short),
            (band.low, band.high) if band is not None else None,
            ground,
        )

    def _until(self, rows: Sequence[Any], day: int) -> int:
        """Until when it stays dry: the day there is some again."""
        return next((row.day for row in rows[day + 1 :] if row.before > row.after or row.before > 0), len(rows))

    def _says(self, key: str) -> str:
        """How much of it goes a week, and how much there is."""
        season_ = self.core.season
        wanted = sum(need.mL for need in season_.needs if need.product == key)
        week = 7.0 * wanted / season_.days
        there = season_.product(key).on_hand
        return f"{amount_words(_two(week))} a week · {amount_words(_two(there))} now"

    def _vessel(self, key: str) -> VesselRow:
        blocks = [
            Block((row.start - self.plan.begins).days, (row.free - self.plan.begins).days, row.product)
            for row in self.rows
            if row.vessel == key
        ]
        running = [
            Block(0, one.free, one.product, running=True)
            for one in self.core.season.fixed
            if one.running and one.vessel == key
        ]
        return VesselRow(key, [*running, *blocks])


def _apart(short: Sequence[tuple[int, int, str]]) -> list[tuple[int, int, str]]:
    """Shortages whose words would meet are told once: the first has the words."""
    found: list[tuple[int, int, str]] = []
    told = -99
    for day, until, words in short:
        found.append((day, until, words if day - told > 12 else ""))
        told = day if found[-1][2] else told
    return found


def _two(mL: float) -> float:
    """To two figures: nobody knows it better."""
    return float(f"{mL:.2g}")


def _number(count: int) -> str:
    words = ("No", "One", "Two", "Three", "Four", "Five", "Six")
    return words[count] if count < len(words) else str(count)


def day_words(day: date) -> str:
    """A day, with its year where that is not this year."""
    year = "" if day.year == timezone.localdate().year else f" {day.year}"
    return f"{day:%-d %B}{year}"


def buy_words(row: Mapping[str, Any], shown: Shown) -> str:
    """What is bought: "2 × 5 L Ethanol 96 %"."""
    packs = {one.id: one.packs for one in shown.core.season.stocks}[row["stock"]]
    size = float(row.get("size", packs[0].size))
    unit = unit_of(shown.plan, row["stock"])
    amount = (
        amount_words(size)
        if unit == "mL"
        else f"{figures(size / 1000.0)} kg"
        if size >= 1000.0
        else f"{figures(size)} g"
    )
    times = f"{row['packs']} × " if row["packs"] > 1 else ""
    return f"{times}{amount} {row['stock']}"


def unit_of(plan: Plan, stock: str) -> str:
    """The unit of a stock of a plan: g for solids, mL for liquids."""
    units: Mapping[str, str] = (plan.planned or {}).get("units", {})
    return units.get(stock, "mL")


def soon_of(workshop: Workshop) -> list[Item]:
    """What the plan that stands wants done in the next seven days; nothing where there is none."""
    plan = Plan.objects.newest_of(workshop)
    return Shown(plan).soon if plan is not None else []


def _later_words(row: Row, day: date) -> str:
    """What is to be done on a day after a batch was made; before it is ready only the first venting is told."""
    if day == row.free:
        return f"{row.product} is ready: fill it"
    if day > row.free:
        return f"Look at {row.product} again"
    return f"Vent {row.product}, and from then on as it asks" if day == row.start + timedelta(days=1) else ""


#: An evening at the bench begins at this hour in the calendar; an order is looked at in the morning.
_EVENING, _MORNING = time(18, 0), time(9, 0)
_CALLED = {"make": "Make", "buy": "Order"}


def planned_events(workshop: Workshop, begin: datetime | None, until: datetime | None) -> list[Event]:
    """What the plan that stands wants made and ordered, for the calendar; what was done or has passed is not in it."""
    plan = Plan.objects.newest_of(workshop)
    if plan is None:
        return []
    shown, page = Shown(plan), reverse("season:season")
    zone = timezone.get_current_timezone()
    found = []
    for place, item in enumerate(shown.items):
        if item.kind not in _CALLED or item.done or item.day < shown.today:
            continue
        at = datetime.combine(item.day, _EVENING if item.kind == "make" else _MORNING, zone)
        if (begin is None or at >= begin) and (until is None or at < until):
            uid = f"season-{plan.pk}-{place}"
            found.append(Event(at, "From the season", None, item.words, uid, planned=item.words, page=page))
    return found
