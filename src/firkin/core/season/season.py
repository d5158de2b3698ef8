"""A season as it is asked for: firkin-season/1 read into days, mL and minutes.

Days are whole numbers counted from the first; dates are read at the edge. The shape is checked before by the published
JSON Schema; here the words are read, and what refers to nothing is refused with its path.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import ceil
from typing import Any

from firkin.core.errors import CannotRead
from firkin.core.texts import quoted

SEASON_FORMAT = "firkin-season/1"
#: Days of the week as a file names them, Monday first.
WEEKDAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
#: A season is no longer than this.
MOST_DAYS = 400
_DAY_H = 24.0


@dataclass(frozen=True, slots=True)
class Evening:
    """How many minutes an evening at the bench has, and on which days of the season there is one."""

    minutes: float
    days: frozenset[int]


@dataclass(frozen=True, slots=True)
class Product:
    """What is made: what is on hand, least and most of a batch, its minutes, its wait and how long it keeps, in days.

    ``takes`` are alternatives, each so much of a stock for a mL made, in that stock's unit; ``later`` evenings' work
    after its start: (days after, minutes). ``least_left`` is its safety stock in mL.
    """

    id: str
    on_hand: int
    least: int
    most: int
    minutes: float
    wait_days: int
    keeps_days: int
    vessels: tuple[str, ...]
    takes: tuple[tuple[tuple[str, float], ...], ...]
    later: tuple[tuple[int, float], ...] = ()
    least_left: int = 0


@dataclass(frozen=True, slots=True)
class Need:
    """So many mL of a product on a day; ``place`` is its place in the file."""

    product: str
    day: int
    mL: int
    place: int


@dataclass(frozen=True, slots=True)
class Vessel:
    """What batches stand in: its size in mL, and how many there are."""

    id: str
    mL: int
    count: int


@dataclass(frozen=True, slots=True)
class Pack:
    """A pack of a stock: its size in the stock's unit, its price, and how many days after the order it is there."""

    size: float
    price: float
    days: int


@dataclass(frozen=True, slots=True)
class Stock:
    """What is left of a stock, in its unit, until which day it is good, and the packs it is sold in."""

    id: str
    left: float
    packs: tuple[Pack, ...] = ()
    good_until: int | None = None
    arrives: tuple[tuple[int, float], ...] = ()


@dataclass(frozen=True, slots=True)
class Pinned:
    """A batch that stands: running now, or pinned by the maker. It takes no stock where ``running``."""

    product: str
    vessel: str
    start: int
    free: int
    mL: int
    running: bool


@dataclass(frozen=True, slots=True)
class Limit:
    """Never more than so many mL of some products and stocks together in the place."""

    products: tuple[str, ...]
    stocks: tuple[str, ...]
    mL: float


@dataclass(frozen=True, slots=True)
class Season:
    """Everything a plan is made from."""

    begins: date
    days: int
    evening: Evening
    products: tuple[Product, ...]
    needs: tuple[Need, ...]
    vessels: tuple[Vessel, ...]
    stocks: tuple[Stock, ...]
    fixed: tuple[Pinned, ...] = ()
    limits: tuple[Limit, ...] = ()

    def date_of(self, day: int) -> str:
        """A day as a file has it."""
        return (self.begins + timedelta(days=day)).isoformat()

    def product(self, key: str) -> Product:
        """A product by its id."""
        return next(one for one in self.products if one.id == key)

    def vessel(self, key: str) -> Vessel:
        """A vessel by its id."""
        return next(one for one in self.vessels if one.id == key)


class _Reader:
    """Reads the days and names of one file."""

    def __init__(self, data: Mapping[str, Any]) -> None:
        self.begins = _date(data["from"], "from")
        self.days = int(data["days"])
        self.names = {kind: self._named(data[kind], kind) for kind in ("products", "vessels", "stocks")}

    def _named(self, rows: Sequence[Mapping[str, Any]], kind: str) -> frozenset[str]:
        ids = [str(row["id"]) for row in rows]
        for place, key in enumerate(ids):
            if key in ids[:place]:
                raise CannotRead(f"“{key}” stands twice").at(kind, place, "id")
        return frozenset(ids)

    def known(self, kind: str, key: str, *path: str | int) -> str:
        """A name of a kind that is there."""
        if key not in self.names[kind]:
            there = ", ".join(sorted(self.names[kind])) or "none"
            raise CannotRead(f"“{key}” is none of the {kind}: {there}").at(*path)
        return key

    def day(self, text: str, *path: str | int) -> int:
        """A date as a day of the season; it may lie before or after it."""
        return (_date(text, *path) - self.begins).days


def _date(text: str, *path: str | int) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise CannotRead(f"{quoted(text)} is no date such as 2026-12-01").at(*path) from None


def season_from_dict(data: Mapping[str, Any]) -> Season:
    """Read a season.

    Args:
        data: a document firkin-season/1.

    Raises:
        CannotRead: whose ``path`` names the place.

    >>> season = season_from_dict({"format": SEASON_FORMAT, "from": "2026-12-01", "days": 7,
    ...     "evening": {"minutes": 60, "days": ["thu"]}, "vessels": [{"id": "jug", "mL": 1000, "count": 1}],
    ...     "products": [{"id": "rub", "on_hand_mL": 0, "batch_mL": [500, 1000], "minutes": 40, "wait_h": 72,
    ...                   "keeps_days": 730, "vessels": ["jug"], "takes": {}}],
    ...     "needs": [{"product": "rub", "mL": 100, "every_days": 2, "first": "2026-12-03"}], "stocks": []})
    >>> sorted(season.evening.days), [need.day for need in season.needs], season.products[0].wait_days
    ([2], [2, 4, 6], 3)
    """
    reader = _Reader(data)
    if not 1 <= reader.days <= MOST_DAYS:
        raise CannotRead(f"{reader.days}; expected 1 to {MOST_DAYS} days").at("days")
    stocks = tuple(_stock(reader, place, row, data.get("ordered", [])) for place, row in enumerate(data["stocks"]))
    for place, row in enumerate(data.get("ordered", [])):
        reader.known("stocks", row["stock"], "ordered", place, "stock")
    products = tuple(_product(reader, place, row) for place, row in enumerate(data["products"]))
    season = Season(
        reader.begins,
        reader.days,
        _evening(reader, data["evening"]),
        products,
        tuple(need for place, row in enumerate(data["needs"]) for need in _needs(reader, place, row)),
        tuple(Vessel(row["id"], int(row["mL"]), int(row["count"])) for row in data["vessels"]),
        stocks,
        limits=tuple(_limit(reader, place, row) for place, row in enumerate(data.get("limits", []))),
    )
    waits = {one.id: one.wait_days for one in products}
    fixed = [_fixed(reader, waits, "running", place, row) for place, row in enumerate(data.get("running", []))]
    fixed += [_fixed(reader, waits, "pinned", place, row) for place, row in enumerate(data.get("pinned", []))]
    return Season(
        season.begins, season.days, season.evening, products, season.needs, season.vessels, stocks, tuple(fixed),
        season.limits,
    )  # fmt: skip


def _evening(reader: _Reader, row: Mapping[str, Any]) -> Evening:
    closed = {reader.day(text, "evening", "closed", place) for place, text in enumerate(row.get("closed", []))}
    open_on = {WEEKDAYS.index(name) for name in row["days"]}
    first = reader.begins.weekday()
    days = frozenset(day for day in range(reader.days) if (first + day) % 7 in open_on and day not in closed)
    return Evening(float(row["minutes"]), days)


def _product(reader: _Reader, place: int, row: Mapping[str, Any]) -> Product:
    path = ("products", place)
    least, most = row["batch_mL"]
    if least > most:
        raise CannotRead(f"{least} to {most}: the least of a batch is more than the most").at(*path, "batch_mL")
    several = row["takes"] if isinstance(row["takes"], list) else [row["takes"]]
    takes = tuple(
        tuple((reader.known("stocks", key, *path, "takes", key), float(much)) for key, much in one.items() if much)
        for one in several
    )
    vessels = tuple(reader.known("vessels", key, *path, "vessels", i) for i, key in enumerate(row["vessels"]))
    return Product(
        row["id"],
        int(row["on_hand_mL"]),
        ceil(least),
        int(most),
        float(row["minutes"]),
        ceil(row["wait_h"] / _DAY_H - 1e-9),
        int(row["keeps_days"]),
        tuple(dict.fromkeys(vessels)),
        takes or ((),),
        tuple((int(one["after_days"]), float(one["minutes"])) for one in row.get("later", [])),
        int(row.get("least_left_mL", 0)),
    )


def _needs(reader: _Reader, place: int, row: Mapping[str, Any]) -> list[Need]:
    key = reader.known("products", row["product"], "needs", place, "product")
    mL = int(row["mL"])
    if "on" in row:
        days = [reader.day(row["on"], "needs", place, "on")]
    elif "every_days" in row:
        first = reader.day(row["first"], "needs", place, "first") if "first" in row else 0
        every = int(row["every_days"])
        days = list(range(first, reader.days, every))
    else:
        raise CannotRead("missing; expected a date, or every_days and first").at("needs", place, "on")
    return [Need(key, day, mL, place) for day in days if 0 <= day < reader.days and mL > 0]


def _stock(reader: _Reader, place: int, row: Mapping[str, Any], ordered: Sequence[Mapping[str, Any]]) -> Stock:
    buy = row.get("buy")
    rows = [] if buy is None else buy if isinstance(buy, list) else [buy]
    packs = tuple(Pack(float(one["size"]), float(one["price"]), int(one["days"])) for one in rows)
    coming = []
    for at, one in enumerate(ordered):
        if one["stock"] == row["id"]:
            if not packs and "size" not in one:
                raise CannotRead("how large its packs are is not said: it has no buy").at("ordered", at, "packs")
            size = float(one.get("size", packs[0].size if packs else 0.0))
            coming.append((max(0, reader.day(one["arrives"], "ordered", at, "arrives")), one["packs"] * size))
    until = reader.day(row["good_until"], "stocks", place, "good_until") if "good_until" in row else None
    return Stock(row["id"], float(row["left"]), packs, until, tuple(coming))


def _fixed(reader: _Reader, waits: Mapping[str, int], kind: str, place: int, row: Mapping[str, Any]) -> Pinned:
    key = reader.known("products", row["product"], kind, place, "product")
    vessel = reader.known("vessels", row["vessel"], kind, place, "vessel")
    free = reader.day(row["free"], kind, place, "free")
    running = kind == "running"
    start = free - waits[key] if running else reader.day(row["start"], kind, place, "start")
    return Pinned(key, vessel, start, free, int(row["mL"]), running)


def _limit(reader: _Reader, place: int, row: Mapping[str, Any]) -> Limit:
    path = ("limits", place)
    products = tuple(reader.known("products", key, *path, "products") for key in row.get("products", []))
    stocks = tuple(reader.known("stocks", key, *path, "stocks") for key in row.get("stocks", []))
    return Limit(products, stocks, float(row["mL"]))
