"""The demo: Lantern Quay, a mooring of ten narrowboats with a shared wash-house. All invented."""

import uuid
from dataclasses import replace
from datetime import timedelta
from decimal import Decimal

from django.db import transaction
from django.utils import timezone

from firkin.accounts.models import Membership, User, Workshop
from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry, Filling, State
from firkin.core.bench import EntryKind, seen_words
from firkin.core.catalogue import find
from firkin.core.formula import formula_from_dict, house_formulas
from firkin.core.measures import Quantity, read_quantity, read_volume_or_mass
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock, Tool, Vessel
from firkin.site import demo_season, demo_use

_STOCKS = (
    ("Tall blue can, ethanol 96 %", "ethanol", "96 %", "10 L", "77.00"),
    ("Grain alcohol, 190 proof", "ethanol", "190 proof", "750 mL", "24.00"),
    ("Wash-house isopropanol", "isopropanol", "99.8 %", "5 L", "31.00"),
    ("Chandlery rubbing alcohol", "isopropanol", "90-91 %", "946 mL", "7.90"),
    ("First-aid box bottle", "isopropanol", "70 %", "500 mL", "4.20"),
    ("Peroxide 3 %", "hydrogen-peroxide", "3 %", "500 mL", "2.60"),
    ("Glycerol", "glycerol", "", "1 L", "8.40"),
    ("Aloe gel tub", "aloe-gel", "", "1 kg", "11.00"),
    ("Boiled and cooled water", "water", "", "60 L", ""),
    ("Castile soap, unscented", "castile-soap", "", "3 L", "27.00"),
    ("Olive bars from the chandlery", "bar-soap", "", "1.5 kg", "9.00"),
    ("Phenoxyethanol, small bottle", "phenoxyethanol", "", "100 mL", "6.50"),
    ("Washing soda, blue box", "washing-soda", "", "2 kg", "3.80"),
    ("Borax tin", "borax", "", "1 kg", "5.20"),
    ("Lavender oil, brown bottle", "lavender-oil", "", "10 mL", "4.80"),
)

_VESSELS = (
    ("Galley jug", "mixing", 2500, 140, "", 1, "glass"),
    ("Wash-house bucket", "mixing", 12000, 260, "", 2, "plastic"),
    ("Preserving pot", "mixing", 9000, 240, "", 1, "steel"),
    ("Two-litre can", "bottle", 2000, 110, "cap", 4, "plastic"),
    ("Half-litre flask", "bottle", 500, 68, "cap", 16, ""),
    ("Pocket spray", "bottle", 100, 34, "spray", 20, ""),
    ("Foaming pump", "bottle", 250, 58, "foaming", 10, ""),
)

_TOOLS = (
    ("Galley cup", "250 mL", None, 5.0),
    ("Tablespoon", "15 mL", None, 6.0),
    ("Teaspoon", "5 mL", None, 6.0),
    ("Long cylinder", "100 mL", 1.0, 1.0),
    ("Small syringe", "10 mL", 0.5, 4.0),
    ("Wash-house scale", "5 kg", 1.0, 1.0),
)

#: House formulas the quay copied into its book.
_COPIED = ("laundry-concentrate", "citrus-ferment", "dish-gentle", "bar-soap-liquid")

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
            {"material": "phenoxyethanol", "amount": "16 mL"},
            {"material": "lavender-oil", "amount": "40 drop"},
        ],
    },
)


def load() -> None:
    """Fill an empty database with the quay's shelf, book and batches at different stages."""
    with transaction.atomic():
        workshop = Workshop.objects.create(name="Lantern Quay", time_zone="Europe/Berlin", simulated_instruments=True)
        maker = User.objects.create_user("lantern-quay")
        Membership.objects.create(user=maker, workshop=workshop)
        fill(workshop, maker)


def fill(workshop: Workshop, maker: User) -> None:
    """Put the quay's things into an empty workshop, written by one of its members; all of it or nothing."""
    with transaction.atomic():
        _fill_shelf(workshop)
        book = {}
        for data in _FORMULAS:
            formula = formula_from_dict({"format": "firkin-formula/1", **data})
            book[formula.name] = Formula.objects.keep(formula, workshop, maker)
        for key in _COPIED:
            house = house_formulas()[key]
            book[key] = Formula.objects.keep(house.formula, workshop, maker, house.tags)
        _make_batches(book, maker)


def _fill_shelf(workshop: Workshop) -> None:
    for name, material, strength, size, price in _STOCKS:
        stock = Stock(workshop=workshop, name=name, material=material)
        stock.strength = find(material).read_strength(strength) if strength else None
        stock.amount = read_volume_or_mass(size)
        stock.price = Decimal(price) if price else None
        stock.save()
    for name, holds, step, error_pct in _TOOLS:
        tool = Tool(workshop=workshop, name=name, step=step, error_pct=error_pct)
        tool.amount = read_volume_or_mass(holds)
        tool.save()
    for name, kind, volume_mL, diameter_mm, top, count, made_of in _VESSELS:
        Vessel.objects.create(
            workshop=workshop,
            name=name,
            kind=kind,
            volume_mL=volume_mL,
            inner_diameter_mm=diameter_mm,
            top=top,
            count=count,
            made_of=made_of,
        )


def _make_batches(book: dict[str, Formula], maker: User) -> None:
    """One filled, one free to fill, one whose wait is over, two at rest, one half made."""
    filled = _make(book["Landing rub"], "5 L", maker, days_ago=24)
    filled.release(maker)
    flask = Vessel.objects.get(workshop=filled.workshop, name="Half-litre flask")
    Filling.objects.create(batch=filled, by=maker, vessel=flask, container=flask.name, count=10, fill_mL=475)
    filled.move_to(State.FILLED, maker, "Filled 10 × Half-litre flask, 475 mL each.")
    filled.fillings.update(at=timezone.now() - timedelta(days=20.8))
    _date_back(filled, timedelta(days=20.8))
    filled.write(EntryKind.NOTE, maker, text="The lock-keeper’s bottle lasted three weeks.")
    released = _make(book["Winter aloe rub"], "1 L", maker, days_ago=6)
    released.release(maker)
    _date_back(released, timedelta(days=2.7))
    _make(book["Lock-side rub"], "2 L", maker, days_ago=3.2)
    _make(book["Tiller aloe rub"], "750 mL", maker, days_ago=1.6)
    _make(book["Landing rub"], "1.5 L", maker, days_ago=0.3)
    _make(book["Landing rub"], "2 L", maker, days_ago=0.01, only=2)
    ferment = _make(book["citrus-ferment"], "2.33 kg", maker, days_ago=10.2, only=4)
    for day, gas, mould, ph in ((8.1, 2, 0, 5.1), (5.2, 2, 1, 4.6), (3.1, 1, 0, 4.3)):
        seen = {"gas": gas, "smell": 0, "mould": mould}
        ferment.write(EntryKind.OBSERVE, maker, text=seen_words(seen), data={"seen": seen})
        ferment.write(EntryKind.READING, maker, text=f"pH {ph:g}", data={"what": "ph", "value": ph})
        _date_back(ferment, timedelta(days=day))
    vented = ferment.dues.filter(at__lt=timezone.now() - timedelta(days=1)).last()
    if vented is not None:
        vented.settle(maker)
        _date_back(ferment, timedelta(days=3.1))
    _dish_liquid(book["dish-gentle"], maker)
    _hand_soap(book["bar-soap-liquid"], maker)
    foams = _foam(book["Wash-house foam"], maker)
    demo_use.tell(filled.workshop, maker, filled, foams)
    _finish(foams[0], maker, 58.0)
    demo_season.tell(filled.workshop, maker)


def _foam(formula: Formula, maker: User) -> list[Batch]:
    """Two batches for the wash-house, in its pumps."""
    pump, made = Vessel.objects.get(workshop=formula.workshop, name="Foaming pump"), []
    for days in (160.0, 75.0):
        batch = _make(formula, "1.8 L", maker, days_ago=days)
        Filling.objects.create(batch=batch, by=maker, vessel=pump, container=pump.name, count=8, fill_mL=225)
        batch.move_to(State.FILLED, maker, "Filled 8 × Foaming pump, 225 mL each.")
        batch.fillings.update(at=timezone.now() - timedelta(days=days - 1))
        _date_back(batch, timedelta(days=days - 1))
        made.append(batch)
    return made


def _finish(batch: Batch, maker: User, days_ago: float) -> None:
    """Every bottle of it is used up."""
    batch.end(State.USED, maker, "Used up.")
    _date_back(batch, timedelta(days=days_ago))


def _dish_liquid(formula: Formula, maker: User) -> None:
    """A batch that was looked at over days: it yellowed, and its pH says why."""
    batch = _make(formula, "5 kg", maker, days_ago=5.4)
    batch.release(maker)
    _date_back(batch, timedelta(days=4.8))
    for day, colour, thickness, ph in ((4.6, 0, 3, 8.2), (3.5, 1, 3, 8.9), (0.6, 2, 2, 9.3)):
        seen = {"colour": colour, "thickness": thickness, "clarity": 0}
        batch.write(EntryKind.OBSERVE, maker, text=seen_words(seen), data={"seen": seen})
        batch.write(EntryKind.READING, maker, text=f"pH {ph:g}", data={"what": "ph", "value": ph})
        _date_back(batch, timedelta(days=day))


def _hand_soap(kept: Formula, maker: User) -> None:
    """Two batches of the same bars, used up since: one came out thin, one as a gel."""
    for grams, level, days in ((130.0, 1, 60.0), (200.0, 4, 31.0)):
        formula = kept.current.as_core()
        soap = replace(formula.lines[0], amount=Quantity(grams, "g"))
        kept.add_version(replace(formula, lines=(soap, *formula.lines[1:])), maker, f"{grams:g} g of soap")
        batch = _make(kept, "2 L", maker, days_ago=days)
        seen = {"thickness": level}
        batch.write(EntryKind.OBSERVE, maker, text=seen_words(seen), data={"seen": seen})
        _date_back(batch, timedelta(days=days - 1))
        batch.end(State.USED, maker, "Used up.")
        _date_back(batch, timedelta(days=days - 25))


def _make(formula: Formula, size: str, maker: User, days_ago: float, only: int | None = None) -> Batch:
    """Make a batch as planned, ``days_ago``; ``only`` the first few tasks."""
    version = formula.current
    batch = Batch.objects.start(version, version.as_core().scaled_to(read_quantity(size)), maker)
    _from_the_shelf(batch)
    batch.move_to(State.MAKING, maker, "Laid out and sanitised; making begins.")
    making = Making(batch)
    chosen = making.progress.tasks[:only]
    for task in chosen:
        making = Making(batch)
        if task.line is not None:
            target = making.progress.target(task)
            measured = Quantity(round(target.value, 1), target.unit)
            making.measure(task, measured, maker, uuid.uuid4())
        elif task.wait_h is not None:
            making.begin_wait(task, maker)
            if task != chosen[-1]:
                batch.release(maker, "The quay was in a hurry.", unfinished=True)
        else:
            making.tick(task, maker, uuid.uuid4())
    back = timedelta(days=days_ago)
    _move_back(batch, back)
    batch.refresh_from_db()
    return batch


def _from_the_shelf(batch: Batch) -> None:
    """Every line from the bottle on the shelf that is what it asks for."""
    for row in batch.lines.all():
        stocks = Stock.objects.filter(workshop=batch.workshop, material=row.material)
        row.stock = next((stock for stock in stocks if stock.strength in (row.strength, None)), None)
        row.save()


def _move_back(batch: Batch, back: timedelta) -> None:
    """Let everything of a batch have happened earlier, as the demo's story needs."""
    Batch.objects.filter(pk=batch.pk).update(
        created_at=batch.created_at - back,
        made_at=batch.made_at - back if batch.made_at else None,
        rests_until=batch.rests_until - back if batch.rests_until else None,
    )
    formula = batch.version.formula
    if batch.made_at and formula.last_made_at == batch.made_at:
        formula.last_made_at = batch.made_at - back
        formula.save()
    _date_back(batch, back)
    for wait in batch.waits.all():
        wait.started_at -= back
        wait.free_at -= back
        wait.save()
    for due in batch.dues.all():
        due.at -= back
        due.save()


def _date_back(batch: Batch, back: timedelta) -> None:
    """Let the entries written just now have been written earlier."""
    for entry in batch.entries.filter(at__gt=timezone.now() - timedelta(minutes=1)):
        Entry.objects.filter(pk=entry.pk).update(at=entry.at - back)
