"""The season of a workshop as firkin-season/1: what its shelf, batches, bottles and needs say today.

Products, vessels and stocks go by their names, so that what the planner says of them can be read. A stock is a material
of a strength: liquids in mL, solids in g. Water from the tap is never short.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any

from django.db.models import F, FloatField, Sum
from django.utils import timezone

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch, Bottle, Filling, State
from firkin.core.bench import after_making, keeps_days, while_waiting
from firkin.core.catalogue import families, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, nature, reckon, steps_of, with_bottles
from firkin.core.measures import Strength, plain_figures, wait_kind
from firkin.core.season import SEASON_FORMAT
from firkin.core.use import BottleIs
from firkin.season.models import Habits, Need, Product
from firkin.season.own_times import own_minutes
from firkin.shelf.models import Stock, Vessel, own_materials
from firkin.use.standing import Standing, standings

#: Minutes at the bench where no batch has told any (common practice, no source).
USUAL_MINUTES = 45.0
#: Filling a batch that has rested takes so many minutes on a later evening (common practice, no source).
FILLING_MINUTES = 15.0
#: Venting a ferment, and looking at a batch again (common practice, no source).
VENTING_MINUTES, LOOKING_MINUTES = 2.0, 5.0
#: Never more alcohol in one place, mL (WHO, Guide to Local Production: 50 L).
ALCOHOL_MOST_ML = 50_000.0
#: A bottle stands for what a formula asks for where their strengths are so near, points.
_SAME_POINTS = 0.25
_MOST_ALTERNATIVES = 3
#: What floats lose of a whole mL.
_ROUNDING_ML = 0.01
#: What is in these states is in the vessel it is made in, or about to be.
_IN_VESSEL = (State.PLANNED, State.MAKING, State.RESTING)
#: A batch that was planned longer ago than this and never begun holds nothing, days.
_FORGOTTEN_D = 14
_GONE = (State.USED, State.DISCARDED)


@dataclass(slots=True)
class Material:
    """One stock of a season: what it is, its unit, and what is known of buying it."""

    name: str
    material: str
    strength: Strength | None
    unit: str
    left: float = 0.0
    good_until: date | None = None
    packs: dict[float, float] = field(default_factory=dict)

    @property
    def priced(self) -> bool:
        """True where it was bought before, so that size and price of a pack are known."""
        return bool(self.packs)


@dataclass(slots=True)
class Asking:
    """A season as it is asked for, and what could not be asked for."""

    document: dict[str, Any]
    materials: dict[str, Material]
    left_out: list[str] = field(default_factory=list)


def season_of(workshop: Workshop, pinned: Iterable[dict[str, Any]] = (), begins: date | None = None) -> Asking:
    """The season of a workshop from a day on, today where none is said.

    ``pinned`` are batches that stay where they are, as firkin-plan/1 has them; what no longer can stand is left out.
    """
    begins = begins or timezone.localdate()
    habits, _ = Habits.objects.get_or_create(workshop=workshop)
    shelf = _Shelf(workshop)
    used = {one.formula.pk: one for one in standings(workshop)}
    products: list[dict[str, Any]] = []
    needs: list[dict[str, Any]] = []
    left_out: list[str] = []
    running: list[dict[str, Any]] = []
    chosen = Product.objects.filter(formula__workshop=workshop, formula__put_away_at=None)
    for product in chosen.select_related("formula").prefetch_related("stands_in__vessel", "needs"):
        standing = used.get(product.formula_id)
        try:
            row = _product_row(product, shelf)
        except CannotReckon as error:
            left_out.append(f"{product.formula.name} is not planned: {error}")
            continue
        asked, safety, said = _needs_of(product, row["id"], standing, begins, habits)
        left_out += said
        needs += asked
        there = _store_mL(product)
        row["on_hand_mL"] = max(0, math.floor(there - safety + _ROUNDING_ML))
        if safety:
            row["least_left_mL"] = math.ceil(safety)
        products.append(row)
        running += _running(product, row, begins)
    _spoken_for(workshop, shelf)
    days = 7 * habits.weeks
    document: dict[str, Any] = {
        "format": SEASON_FORMAT,
        "from": begins.isoformat(),
        "days": days,
        "evening": {"minutes": habits.minutes, "days": list(habits.open_days), "closed": list(habits.closed)},
        "products": products,
        "needs": needs,
        "vessels": [
            {"id": name, "mL": math.floor(one.volume_mL), "count": one.count} for name, one in shelf.vessels.items()
        ],
        "stocks": [_stock_row(one, habits) for one in shelf.materials.values()],
    }
    if running:
        document["running"] = running
    limits = _alcohol_limit(products, shelf)
    if limits:
        document["limits"] = limits
    kept = [row for row in pinned if _can_stand(row, document)]
    if kept:
        document["pinned"] = kept
    return Asking(document, shelf.materials, left_out)


class _Shelf:
    """What the shelf has, by the names the season calls it."""

    def __init__(self, workshop: Workshop) -> None:
        self.workshop = workshop
        self.own = own_materials(workshop.pk)
        self.materials: dict[str, Material] = {}
        self.stocks = list(Stock.objects.filter(workshop=workshop).with_use())
        mixing = Vessel.objects.filter(workshop=workshop, kind="mixing", count__gt=0)
        self.vessels = dict(_named((one.name, one) for one in mixing))

    def material_of(self, line: Line, strength: Strength | None) -> Material:
        """The stock that a line is made from, looked up on the shelf when it is first asked for."""
        strength = strength if line.material.reports else None
        name = _called(line, strength)
        there = self.materials.get(name)
        if there is None:
            there = Material(name, line.material.written, strength, "g" if line.solid else "mL")
            self.materials[name] = there
            self._count(there, line)
        return there

    def known(self, line: Line, strength: Strength | None) -> Material | None:
        """The stock that a line is made from, where a product takes it."""
        return self.materials.get(_called(line, strength))

    def _count(self, there: Material, line: Line) -> None:
        """What is left of it, until when, and what its packs cost, oldest first so that the last price stands."""
        per_mL = 1.0
        if there.unit == "mL":
            counted = there.strength or line.counted_strength
            per_mL = nature(line.material, line.material.mass_fraction(counted)).measured
        until: list[date] = []
        for stock in sorted(self.stocks, key=lambda one: (one.bought_on or date.min, one.pk)):
            if stock.material != there.material or not _same(stock.strength, there.strength):
                continue
            if not stock.used_up and not _past(stock):
                there.left += stock.left_g / per_mL
                if stock.best_before is not None and stock.left_g > 0.0:
                    until.append(stock.best_before)
            full = stock.grams_of(stock.amount) / per_mL
            if stock.price is not None and full > 0.0:
                there.packs[round(full, 1)] = float(stock.price)
        there.good_until = min(until, default=None)

    def strengths_of(self, material: str) -> list[Strength]:
        """The strengths there are bottles of on the shelf, the fullest first."""
        left: dict[str, tuple[float, Strength]] = {}
        for stock in self.stocks:
            if stock.material == material and not stock.used_up and stock.strength is not None and stock.left_g > 0.0:
                before = left.get(str(stock.strength), (0.0, stock.strength))[0]
                left[str(stock.strength)] = (before + stock.left_g, stock.strength)
        return [strength for _, strength in sorted(left.values(), key=lambda one: -one[0])]


def _called(line: Line, strength: Strength | None) -> str:
    """What the season calls the stock of a line."""
    said = "" if strength is None or not line.material.reports else f" {plain_figures(round(strength.value, 1))} %"
    return f"{line.material.name}{said}"


def _past(stock: Stock) -> bool:
    return stock.best_before is not None and stock.best_before < timezone.localdate()


def _same(one: Strength | None, other: Strength | None) -> bool:
    if other is None:
        return True
    return one is not None and one.basis == other.basis and abs(one.value - other.value) <= _SAME_POINTS


def _named(rows: Iterable[tuple[str, Any]]) -> Iterable[tuple[str, Any]]:
    """Rows by names that are all different."""
    seen: set[str] = set()
    for name, row in rows:
        unique, number = name, 2
        while unique in seen:
            unique, number = f"{name} ({number})", number + 1
        seen.add(unique)
        yield unique, row


def name_of(product: Product) -> str:
    """What the season calls a product: two of one name in the book are told apart."""
    same = Product.objects.filter(
        formula__workshop=product.formula.workshop_id, formula__name=product.formula.name, pk__lt=product.pk
    )
    count = same.count()
    return product.formula.name if not count else f"{product.formula.name} ({count + 1})"


def _product_row(product: Product, shelf: _Shelf) -> dict[str, Any]:
    formula = product.formula.current.as_core()
    vessels = {one.pk for one in product.vessels}
    headroom = families()[formula.family].headroom
    fits = [
        name
        for name, one in shelf.vessels.items()
        if (not vessels or one.pk in vessels) and one.volume_mL / max(1.0, headroom) >= product.least_mL
    ]
    if not fits:
        raise CannotReckon("no vessel on the shelf holds its smallest batch.")
    wait_h = sum(step.wait_h or 0.0 for step in steps_of(formula))
    largest = max(shelf.vessels[name].volume_mL / max(1.0, headroom) for name in fits)
    row: dict[str, Any] = {
        "id": name_of(product),
        "on_hand_mL": 0,
        "batch_mL": [
            math.ceil(product.least_mL),
            max(math.ceil(product.least_mL), math.floor(min(product.most_mL, largest))),
        ],
        "minutes": product.minutes or own_minutes(product.formula) or USUAL_MINUTES,
        "wait_h": wait_h,
        "keeps_days": max(1, math.floor(keeps_days(formula))),
        "vessels": fits,
        "takes": _takes(formula, shelf),
    }
    later = _later(formula, wait_h)
    if later:
        row["later"] = later
    return row


def _later(formula: Formula, wait_h: float) -> list[dict[str, Any]]:
    """Evenings' work after its start: venting while it ferments, looking at it again, filling it once it is ready."""
    minutes: dict[int, float] = {}
    for step in steps_of(formula):
        if step.wait_h:
            for due in while_waiting(wait_kind(step.do, step.text)):
                day = math.ceil(due.after_h / 24.0)
                minutes[day] = minutes.get(day, 0.0) + VENTING_MINUTES
    ready = math.ceil(wait_h / 24.0 - 1e-9)
    if wait_h > 0.0:
        minutes[ready] = minutes.get(ready, 0.0) + FILLING_MINUTES
    for due in after_making(formula):
        if due.kind == "recheck":
            day = ready + math.ceil(due.after_h / 24.0)
            minutes[day] = minutes.get(day, 0.0) + LOOKING_MINUTES
    return [{"after_days": day, "minutes": much} for day, much in sorted(minutes.items())]


def _takes(formula: Formula, shelf: _Shelf) -> Any:
    """What a mL of it takes of each stock; a list where other bottles on the shelf would do for its alcohol."""
    formula = _from_the_shelf(formula, shelf)
    found = [_takes_of(formula, shelf)]
    for i, line in enumerate(formula.lines):
        if line.material.alcohol is None:
            continue
        for strength in shelf.strengths_of(line.material.id):
            if _same(strength, line.counted_strength) or len(found) >= _MOST_ALTERNATIVES:
                continue
            try:
                other, _ = with_bottles(formula, {i: strength})
                if any(one.verdict.fails for one in reckon(other).verdicts):
                    continue
                found.append(_takes_of(other, shelf))
            except CannotReckon:  # that bottle does not reach it
                continue
        break
    return found if len(found) > 1 else found[0]


def _from_the_shelf(formula: Formula, shelf: _Shelf) -> Formula:
    """The formula out of bottles of other strengths, where the shelf has none of what it is written for."""
    for i, line in enumerate(formula.lines):
        there = shelf.strengths_of(line.material.id)
        if line.material.alcohol is not None or not there:
            continue
        if any(_same(strength, line.counted_strength) for strength in there):
            continue
        try:
            formula, _ = with_bottles(formula, {i: there[0]})
        except CannotReckon:  # it stays as written, and is bought so
            continue
    return formula


def _takes_of(formula: Formula, shelf: _Shelf) -> dict[str, float]:
    result = reckon(formula)
    takes: dict[str, float] = {}
    for line, worked in zip(formula.lines, result.lines, strict=True):
        if line.material.id == "water":
            continue
        stock = shelf.material_of(line, line.counted_strength)
        much = worked.mass_g if stock.unit == "g" else worked.volume_mL
        takes[stock.name] = takes.get(stock.name, 0.0) + round(much / result.total.volume_mL, 6)
    return takes


def _needs_of(
    product: Product, name: str, standing: Standing | None, begins: date, habits: Habits
) -> tuple[list[dict[str, Any]], float, list[str]]:
    """What is needed of a product, the safety stock its use wants in mL, and what could not be asked for."""
    found: list[dict[str, Any]] = []
    safety, said = 0.0, []
    for need in product.needs.all():
        if need.kind == Need.Kind.ONCE and need.on is not None:
            if need.on >= begins:
                found.append({"product": name, "mL": math.ceil(need.all_mL), "on": need.on.isoformat()})
        elif need.kind == Need.Kind.EVERY and need.every_days:
            first = next_day(need, begins)
            row = {
                "product": name,
                "mL": math.ceil(need.all_mL),
                "every_days": need.every_days,
                "first": first.isoformat(),
            }
            found.append(row)
        elif need.kind == Need.Kind.USED:
            rate = standing.rate if standing is not None else None
            if rate is None:
                said.append(f"{name}: no bottle of it is finished yet, so Firkin can't say how fast it goes.")
                continue
            week = 7.0 * rate.mid
            first = begins + timedelta(days=7)
            found.append({"product": name, "mL": math.ceil(week), "every_days": 7, "first": first.isoformat()})
            safety = safety_mL(rate.low, rate.high, habits.service)
    return found, safety, said


def next_day(need: Need, begins: date) -> date:
    """The first day from ``begins`` on that a need that comes again falls on."""
    first, every = need.on or begins, need.every_days or 7
    if first >= begins:
        return first
    return first + timedelta(days=every * math.ceil((begins - first).days / every))


#: Between the 5th and the 95th of 100 lie so many standard deviations of a bell (NIST handbook, 1.3.6.7.1).
_BETWEEN = 3.29


def safety_mL(low: float, high: float, service: int) -> float:
    """What is kept in store against a week of more use: so that it runs dry in one week of ``service`` at most.

    ``low`` and ``high`` are the ends of the rate's range in mL a day (9 times in 10 it is between them).
    """
    from statistics import NormalDist

    spread = 7.0 * (high - low) / _BETWEEN
    return max(0.0, NormalDist().inv_cdf(1.0 - 1.0 / service) * spread)


def _store_mL(product: Product) -> float:
    """mL of it in the store: in bottles that nobody has, and ready in a vessel."""
    mine = {"batch__version__formula": product.formula_id, "batch__bad_since": None}
    filled = Filling.objects.filter(**mine, taken_back_at=None).exclude(batch__state__in=_GONE)
    total = filled.aggregate(mL=Sum(F("count") * F("fill_mL"), output_field=FloatField()))["mL"] or 0.0
    out = Bottle.objects.filter(
        filling__batch__version__formula=product.formula_id,
        filling__batch__bad_since=None,
        filling__taken_back_at=None,
    )
    out = out.exclude(filling__batch__state__in=_GONE).exclude(place=BottleIs.STORE)
    gone = out.aggregate(mL=Sum("filling__fill_mL"))["mL"] or 0.0
    ready = Batch.objects.of_formula(product.formula_id).filter(bad_since=None).to_fill()
    waiting = sum(max(0.0, float(getattr(one, "left_mL", 0.0) or 0.0)) for one in ready)
    return max(0.0, total - gone) + waiting


def _running(product: Product, row: dict[str, Any], begins: date) -> list[dict[str, Any]]:
    """Its batches that are made or rest now."""
    found = []
    rest = math.ceil(row["wait_h"] / 24.0 - 1e-9)
    now = Batch.objects.of_formula(product.formula_id).filter(state__in=_IN_VESSEL, bad_since=None)
    for batch in now.select_related("vessel"):
        if _forgotten(batch):
            continue
        free = timezone.localtime(batch.rests_until).date() if batch.rests_until else begins + timedelta(days=rest)
        vessel = batch.vessel.name if batch.vessel is not None else ""
        mL = batch.comes_to_mL or reckon(batch.formula()).total.volume_mL
        found.append(
            {
                "product": row["id"],
                "vessel": vessel if vessel in row["vessels"] else row["vessels"][0],
                "free": max(begins, free).isoformat(),
                "mL": math.floor(mL + _ROUNDING_ML),
            }
        )
    return found


def _forgotten(batch: Batch) -> bool:
    """True for a batch that was planned and never begun for too long."""
    long_ago = timezone.now() - timedelta(days=_FORGOTTEN_D)
    return batch.state == State.PLANNED and batch.created_at < long_ago


def _spoken_for(workshop: Workshop, shelf: _Shelf) -> None:
    """What batches that are planned and not begun will take is no longer there for others."""
    planned = Batch.objects.filter(workshop=workshop, state=State.PLANNED, bad_since=None).prefetch_related("lines")
    for batch in planned:
        if _forgotten(batch):
            continue
        for line, row in zip(batch.formula(shelf.own).lines, batch.lines.all(), strict=False):
            there = shelf.known(line, row.strength)
            if there is not None:
                there.left = max(0.0, there.left - (row.planned_g if there.unit == "g" else row.planned_mL))


def _stock_row(one: Material, habits: Habits) -> dict[str, Any]:
    row: dict[str, Any] = {"id": one.name, "left": round(one.left, 1)}
    if one.good_until is not None:
        row["good_until"] = one.good_until.isoformat()
    if one.packs:
        packs = [{"size": size, "price": price, "days": habits.delivery_days} for size, price in one.packs.items()]
        row["buy"] = packs[0] if len(packs) == 1 else packs
    return row


def _alcohol_limit(products: list[dict[str, Any]], shelf: _Shelf) -> list[dict[str, Any]]:
    alcohols = [one.name for one in shelf.materials.values() if find(one.material, shelf.own).alcohol is not None]
    takes = {
        row["id"]: [key for one in (row["takes"] if isinstance(row["takes"], list) else [row["takes"]]) for key in one]
        for row in products
    }
    of_alcohol = [key for key, stocks in takes.items() if set(stocks) & set(alcohols)]
    if not alcohols:
        return []
    there = sum(shelf.materials[name].left for name in alcohols)
    there += sum(row["on_hand_mL"] for row in products if row["id"] in of_alcohol)
    return [{"products": of_alcohol, "stocks": alcohols, "mL": max(ALCOHOL_MOST_ML, math.ceil(there))}]


def _can_stand(row: dict[str, Any], document: dict[str, Any]) -> bool:
    """True for a pinned batch of a product and in a vessel that are there still, on a day that is to come."""
    products = {one["id"]: one for one in document["products"]}
    there = products.get(row["product"])
    if there is None or row["vessel"] not in there["vessels"]:
        return False
    begins = date.fromisoformat(document["from"])
    day = (date.fromisoformat(row["start"]) - begins).days
    days: int = document["days"]
    return 0 <= day < days
