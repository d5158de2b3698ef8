"""What a maker changes in a plan: a batch moved or let go, a plan undone, a batch begun, something bought."""

from datetime import date, timedelta
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from firkin.accounts.models import User
from firkin.batches.models import Batch
from firkin.core.bench import EntryKind
from firkin.core.errors import CannotReckon
from firkin.core.formula import with_bottles
from firkin.core.measures import Quantity, rounded_up
from firkin.formulas.models import Formula
from firkin.season.asking import Material, name_of, season_of
from firkin.season.models import Bagged, Habits, Plan, Product, Started
from firkin.season.working import begin
from firkin.shelf.models import Stock, Vessel


def batches_of(plan: Plan) -> list[dict[str, Any]]:
    """The batches of a plan, as firkin-plan/1 has them."""
    rows: list[dict[str, Any]] = (plan.planned or {}).get("batches", [])
    return rows


#: So many of what was begun or bought before are looked at, the newest.
_LOOKED_BACK = 200


def started_of(plan: Plan) -> dict[int, int]:
    """Which of a plan's batches were begun, by their places: under this plan, or as the same batch of one before."""
    begun: dict[tuple[str, str], int] = {}
    rows = Started.objects.filter(plan__workshop=plan.workshop).select_related("plan").order_by("-pk")
    for row in rows[:_LOOKED_BACK]:
        there = batches_of(row.plan)
        if row.place < len(there):
            begun.setdefault((there[row.place]["product"], there[row.place]["start"]), row.batch_id)
    keys = [(one["product"], one["start"]) for one in batches_of(plan)]
    return {place: begun[key] for place, key in enumerate(keys) if key in begun and key not in keys[:place]}


def bagged_of(plan: Plan) -> set[int]:
    """Which lines of a plan's shopping were bought: under this plan, or as the same line of one before."""
    bought = set()
    rows = Bagged.objects.filter(plan__workshop=plan.workshop).select_related("plan").order_by("-pk")
    for row in rows[:_LOOKED_BACK]:
        lines = (row.plan.planned or {}).get("buy", [])
        if row.place < len(lines):
            bought.add(_line_of(lines[row.place]))
    return {place for place, row in enumerate((plan.planned or {}).get("buy", [])) if _line_of(row) in bought}


def _line_of(row: dict[str, Any]) -> tuple[str, str, float]:
    return row["stock"], row["order"], float(row.get("size", 0.0))


def open_day(habits: Habits, day: date, steps: int, first: date, last: date) -> date | None:
    """The ``steps``-th open day after (or before) a day, within the plan; None where there is none."""
    step = 1 if steps > 0 else -1
    left = abs(steps)
    while left:
        day += timedelta(days=step)
        if not first <= day <= last:
            return None
        if habits.is_open(day):
            left -= 1
    return day


def move(plan: Plan, place: int, to: date, user: User) -> Plan:
    """Put a batch on another day, and plan the rest around it. Raises CannotReckon where that day has no evening."""
    row = batches_of(plan)[place]
    habits = Habits.objects.get(workshop=plan.workshop)
    if not plan.begins <= to <= plan.ends:
        raise CannotReckon(f"{to:%-d %B} is outside this plan.")
    if not habits.is_open(to):
        raise CannotReckon(f"{to:%A %-d %B} has no evening at the bench. Open it under Evenings, or take another day.")
    by = to - date.fromisoformat(row["start"])
    moved = {**row, "start": to.isoformat(), "free": (date.fromisoformat(row["free"]) + by).isoformat()}
    pinned = [one for one in plan.pinned if one != row] + [moved]
    return begin(plan.workshop, user, f"{row['product']} moved to {to:%-d %B}.", pinned, keep=True, gone=row)


def pin(plan: Plan, place: int, user: User) -> Plan:
    """Keep a batch where it is, or let it go again where it was kept."""
    row = batches_of(plan)[place]
    kept = row in plan.pinned
    pinned = [one for one in plan.pinned if one != row] + ([] if kept else [row])
    words = "may move again" if kept else "stays where it is"
    return begin(plan.workshop, user, f"{row['product']} {words}.", pinned, keep=not kept)


def undo(plan: Plan) -> Plan | None:
    """Take a plan back: the one before it stands again. None where there is none before it."""
    done = Plan.objects.filter(workshop=plan.workshop, state=Plan.State.DONE, undone=False, pk__lt=plan.pk)
    before = done.order_by("-pk").first()
    if before is None:
        return None
    plan.undone = True
    plan.save(update_fields=["undone"])
    return before


def start(plan: Plan, place: int, user: User) -> Batch:
    """Make a real batch of a planned one, filled in: its size, its vessel, the bottles it was planned from."""
    row = batches_of(plan)[place]
    begun = started_of(plan).get(place)
    if begun is not None:
        return Batch.objects.get(pk=begun)
    product = product_of(plan, row["product"])
    version = product.formula.current
    formula = version.as_core()
    takes = row.get("takes") or {}
    strengths = {}
    for i, line in enumerate(formula.lines):
        wanted = _strength_in(takes, line.material.name, plan)
        if line.material.alcohol is not None and wanted is not None:
            strengths[i] = wanted
    if strengths:
        formula, _ = with_bottles(formula, strengths)
    formula = formula.scaled_to(Quantity(made_mL(plan, row), "mL"))
    with transaction.atomic():
        batch = Batch.objects.start(version, formula, user)
        batch.vessel = Vessel.objects.filter(workshop=plan.workshop, name=row["vessel"]).first()
        batch.save(update_fields=["vessel"])
        batch.write(
            EntryKind.NOTE, user, text=f"Planned in the season for {date.fromisoformat(row['start']):%-d %B %Y}."
        )
        Started.objects.create(plan=plan, place=place, batch=batch)
    return batch


def made_mL(plan: Plan, row: dict[str, Any]) -> float:
    """How much is really made of a planned batch: rounded up to two figures where its vessel and bounds bear it."""
    even = rounded_up(float(row["mL"]), 2)
    product = next(one for one in plan.asked["products"] if one["id"] == row["product"])
    vessel = next(one for one in plan.asked["vessels"] if one["id"] == row["vessel"])
    return even if even <= min(product["batch_mL"][1], vessel["mL"]) else float(row["mL"])


def _strength_in(takes: dict[str, Any], material: str, plan: Plan) -> Any:
    """The strength of a material's stock that an alternative takes; None where it says nothing of it."""
    if not takes:
        return None
    for name, one in season_of(plan.workshop).materials.items():
        if name in takes and name.startswith(material):
            return one.strength
    return None


def product_of(plan: Plan, name: str) -> Product:
    """The product of a name of a plan. Raises CannotReckon where it is not made any more."""
    for product in Product.objects.filter(formula__workshop=plan.workshop).select_related("formula"):
        if name_of(product) == name:
            return product
    raise CannotReckon(f"{name} is no longer among your products.")


def formula_of(plan: Plan, name: str) -> Formula | None:
    """The formula of a product of a plan, if it is still made."""
    try:
        return product_of(plan, name).formula
    except CannotReckon:
        return None


def bag(plan: Plan, place: int, price: Decimal | None) -> list[Stock]:
    """A line of the shopping was bought: its packs stand on the shelf, at what they cost together.

    Bought already, nothing more happens. Raises CannotReckon where nothing is known of it any more.
    """
    if place in bagged_of(plan):
        return []
    row = (plan.planned or {})["buy"][place]
    material = season_of(plan.workshop).materials.get(row["stock"])
    if material is None or not material.packs:
        raise CannotReckon(f"{row['stock']} is in no formula any more. Put it on the shelf yourself.")
    with transaction.atomic():
        _, new = Bagged.objects.get_or_create(plan=plan, place=place, defaults={"price": price})
        if not new:
            return []
        return [_on_the_shelf(plan, material, row, price) for _ in range(row["packs"])]


def _on_the_shelf(plan: Plan, material: Material, row: dict[str, Any], price: Decimal | None) -> Stock:
    size = size_of(row, material)
    usual = Decimal(str(material.packs.get(size, 0.0)))
    each = (price / row["packs"]).quantize(Decimal("0.01")) if price is not None else usual
    stock = Stock(workshop=plan.workshop, material=material.material, name=material.name, price=each)
    stock.bought_on = timezone.localdate()
    stock.amount, stock.strength = Quantity(size, material.unit), material.strength
    stock.save()
    return stock


def size_of(row: dict[str, Any], material: Material) -> float:
    """The size of the packs of a line of shopping, in the material's unit."""
    return float(row.get("size", next(iter(material.packs))))
