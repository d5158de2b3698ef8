"""The demo: Lantern Quay, a mooring of ten narrowboats with a shared wash-house. All invented."""

from datetime import timedelta
from decimal import Decimal

from django.db import transaction
from django.utils import timezone

from firkin.accounts.models import Membership, User, Workshop
from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry, Filling, State
from firkin.core.catalogue import find
from firkin.core.formula_format import formula_from_dict
from firkin.core.quantities import read_quantity, read_volume_or_mass
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock, Vessel

_STOCKS = (
    ("Tall blue can, ethanol 96 %", "ethanol", "96 %", "5 L", "38.50"),
    ("Grain alcohol, 190 proof", "ethanol", "190 proof", "750 mL", "24.00"),
    ("Wash-house isopropanol", "isopropanol", "99.8 %", "5 L", "31.00"),
    ("Chandlery rubbing alcohol", "isopropanol", "90-91 %", "946 mL", "7.90"),
    ("First-aid box bottle", "isopropanol", "70 %", "500 mL", "4.20"),
    ("Peroxide 3 %", "hydrogen-peroxide", "3 %", "500 mL", "2.60"),
    ("Glycerol", "glycerol", "", "1 L", "8.40"),
    ("Aloe gel tub", "aloe-gel", "", "1 kg", "11.00"),
    ("Boiled and cooled water", "water", "", "10 L", ""),
    ("Castile soap, unscented", "castile-soap", "", "3 L", "27.00"),
)

_VESSELS = (
    ("Galley jug", "mixing", 2500, 140, 1),
    ("Wash-house bucket", "mixing", 12000, 260, 2),
    ("Half-litre flask", "bottle", 500, 68, 6),
    ("Pocket spray", "bottle", 100, 34, 20),
    ("Foaming pump", "bottle", 250, 58, 10),
)

_FORMULAS = (
    {
        "name": "Landing rub",
        "family": "liquid-rub",
        "make": "1 L",
        "guideline": "who-ethanol",
        "lines": [
            {"material": "ethanol", "strength": "96 % v/v", "amount": "833.3 mL"},
            {"material": "hydrogen-peroxide", "strength": "3 %", "amount": "41.7 mL"},
            {"material": "glycerol", "amount": "14.5 mL"},
            {"material": "water", "amount": "q.s."},
        ],
    },
    {
        "name": "Lock-side rub",
        "family": "liquid-rub",
        "make": "2 L",
        "guideline": ["who-isopropanol", "hicpac-60-95"],
        "lines": [
            {"material": "isopropanol", "strength": "99.8 % v/v", "amount": "1503 mL"},
            {"material": "hydrogen-peroxide", "strength": "3 %", "amount": "83.4 mL"},
            {"material": "glycerol", "amount": "29 mL"},
            {"material": "water", "amount": "q.s."},
        ],
    },
    {
        "name": "Tiller aloe rub",
        "family": "aloe-rub",
        "guideline": "cdc-alcohol-60",
        "lines": [
            {"material": "isopropanol", "strength": "90-91 % v/v", "amount": "2 part"},
            {"material": "aloe-gel", "amount": "1 part"},
        ],
    },
    {
        "name": "Winter aloe rub",
        "family": "aloe-rub",
        "guideline": "hospital-70",
        "lines": [
            {"material": "isopropanol", "strength": "91 % v/v", "amount": "4 part"},
            {"material": "aloe-gel", "amount": "1 part"},
        ],
    },
    {
        "name": "Wash-house foam",
        "family": "foaming-soap",
        "make": "2 L",
        "lines": [
            {"material": "castile-soap", "amount": "1 part"},
            {"material": "water", "amount": "3 part"},
            {"material": "lavender-oil", "amount": "40 drop"},
        ],
    },
)


def load() -> None:
    """Fill an empty database with the quay's shelf, book and batches at different stages."""
    with transaction.atomic():
        workshop = Workshop.objects.create(name="Lantern Quay", time_zone="Europe/Berlin")
        maker = User.objects.create_user("lantern-quay")
        Membership.objects.create(user=maker, workshop=workshop)
        _fill_shelf(workshop)
        book = {}
        for data in _FORMULAS:
            formula = formula_from_dict({"format": "firkin-formula/1", **data})
            book[formula.name] = Formula.objects.keep(formula, workshop, maker)
        _make_batches(book, maker)


def _fill_shelf(workshop: Workshop) -> None:
    for name, material, strength, size, price in _STOCKS:
        stock = Stock(workshop=workshop, name=name, material=material)
        stock.strength = find(material).read_strength(strength) if strength else None
        stock.amount = read_volume_or_mass(size)
        stock.price = Decimal(price) if price else None
        stock.save()
    for name, kind, volume_mL, diameter_mm, count in _VESSELS:
        Vessel.objects.create(
            workshop=workshop,
            name=name,
            kind=kind,
            volume_mL=volume_mL,
            inner_diameter_mm=diameter_mm,
            count=count,
        )


def _make_batches(book: dict[str, Formula], maker: User) -> None:
    """One filled, one free to fill, one whose wait is over, two at rest, one half made."""
    filled = _make(book["Landing rub"], "5 L", maker, days_ago=24)
    filled.release(maker)
    flask = Vessel.objects.get(name="Half-litre flask")
    Filling.objects.create(batch=filled, by=maker, vessel=flask, container=flask.name, count=10, fill_mL=475)
    filled.move_to(State.FILLED, maker, "Filled 10 × Half-litre flask, 475 mL each.")
    _date_back(filled, timedelta(days=20.8))
    filled.write(Entry.Kind.NOTE, maker, text="The lock-keeper’s bottle lasted three weeks.")
    released = _make(book["Winter aloe rub"], "1 L", maker, days_ago=6)
    released.release(maker)
    _date_back(released, timedelta(days=2.7))
    _make(book["Lock-side rub"], "2 L", maker, days_ago=3.2)
    _make(book["Tiller aloe rub"], "750 mL", maker, days_ago=1.6)
    _make(book["Landing rub"], "1.5 L", maker, days_ago=0.3)
    _make(book["Landing rub"], "2 L", maker, days_ago=0.01, only=2)


def _make(formula: Formula, size: str, maker: User, days_ago: float, only: int | None = None) -> Batch:
    """Make a batch as planned, ``days_ago``; ``only`` the first few tasks."""
    version = formula.current
    batch = Batch.objects.start(version, version.as_core().scaled_to(read_quantity(size)), maker)
    batch.move_to(State.MAKING, maker, "Laid out and sanitised; making begins.")
    making = Making(batch)
    for task in making.tasks[:only]:
        if task.line is not None:
            target = making.target(task)
            batch.write(
                Entry.Kind.POUR,
                maker,
                line=making.lines[task.line],
                step=max(task.step, 0),
                amount_value=round(target.value, 1),
                amount_unit=target.unit,
                text=making.formula.lines[task.line].material.name,
            )
        elif task.wait_h is not None:
            making.begin_wait(task, maker)
        else:
            batch.write(Entry.Kind.STEP, maker, step=task.step, text=task.text)
    back = timedelta(days=days_ago)
    _move_back(batch, back)
    batch.refresh_from_db()
    return batch


def _move_back(batch: Batch, back: timedelta) -> None:
    """Let everything of a batch have happened earlier, as the demo's story needs."""
    Batch.objects.filter(pk=batch.pk).update(
        created_at=batch.created_at - back,
        made_at=batch.made_at - back if batch.made_at else None,
        rests_until=batch.rests_until - back if batch.rests_until else None,
    )
    _date_back(batch, back)
    for wait in batch.waits.all():
        wait.started_at -= back
        wait.free_at -= back
        wait.save()


def _date_back(batch: Batch, back: timedelta) -> None:
    """Let the entries written just now have been written earlier."""
    for entry in batch.entries.filter(at__gt=timezone.now() - timedelta(minutes=1)):
        Entry.objects.filter(pk=entry.pk).update(at=entry.at - back)
