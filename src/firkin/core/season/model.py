"""A season as a mixed-integer program: which batches start when and where, how large, and which packs are bought.

Batches of one product that start the same day in the same kind of vessel are alike: a column counts them, another has
their mL together. A product's batches become free, and spoil, in the order they were started, so the oldest is served
first. It is then enough to say that what was served by a day is no more than what was free by then, and that what had
to be served before it spoiled was (inventory with a fixed shelf life; general operations research, from memory).
"""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from math import floor

from firkin.core.season.program import Program, Terms
from firkin.core.season.season import Pinned, Product, Season, Stock


@dataclass(frozen=True, slots=True)
class Slot:
    """Where batches may start: a product, a day, a kind of vessel, an alternative of stocks; its two columns."""

    product: Product
    day: int
    vessel: str
    takes: int
    count: int
    mL: int


@dataclass(frozen=True, slots=True)
class PackSlot:
    """Packs of a stock that arrive on a day: which size, and the column that counts them."""

    stock: str
    pack: int
    arrives: int
    count: int


@dataclass(slots=True)
class Model:
    """The program, and which of its columns mean what."""

    season: Season
    program: Program = field(default_factory=Program)
    slots: list[Slot] = field(default_factory=list)
    packs: list[PackSlot] = field(default_factory=list)
    unmet: dict[int, int] = field(default_factory=dict)
    evenings: dict[int, int] = field(default_factory=dict)
    left: dict[int, float] = field(default_factory=dict)
    left_fixed: float = 0.0
    safety: list[int] = field(default_factory=list)
    #: What needs are given out of batches and out of what is on hand.
    given: set[int] = field(default_factory=set)

    def in_parts(self) -> None:
        """Let mL be parts of a mL: only batches, packs and evenings are whole."""
        counted = {slot.count for slot in self.slots} | {one.count for one in self.packs} | set(self.evenings.values())
        self.program.whole = [column in counted for column in range(len(self.program.whole))]

    def stand(self, values: list[float], *, packs: bool = False) -> None:
        """Let batches and evenings stand as they came out, with ``packs`` also those."""
        columns = {slot.count for slot in self.slots} | set(self.evenings.values())
        columns |= {one.count for one in self.packs} if packs else set()
        for column in columns:
            self.program.lower[column] = self.program.upper[column] = float(round(values[column]))

    def whole_again(self) -> None:
        """Let mL be whole again, once batches, packs and evenings stand."""
        program = self.program
        volumes = {slot.mL for slot in self.slots} | set(self.unmet.values()) | self.given
        program.whole = [column in volumes for column in range(len(program.whole))]

    def goals(self) -> tuple[tuple[str, Terms], ...]:
        """What is sought, in its order: shortage, evenings, money, what is left over; and that the later need lacks."""
        season = self.season
        cost = {
            one.count: price
            for one in self.packs
            if (price := next(s for s in season.stocks if s.id == one.stock).packs[one.pack].price)
        }
        later = {column: float(season.days - season.needs[at].day) for at, column in self.unmet.items()}
        return (
            ("unmet", dict.fromkeys(self.unmet.values(), 1.0)),
            ("safety", dict.fromkeys(self.safety, 1.0)),
            ("evenings", dict.fromkeys(self.evenings.values(), 1.0)),
            ("cost", cost),
            ("left", self.left),
            ("later", later),
        )


def model_of(season: Season) -> Model:
    """The program of a season."""
    model = Model(season)
    _slots(model)
    _evenings(model)
    _vessels(model)
    for product in season.products:
        _serving(model, product)
    _stocks(model)
    _limits(model)
    return model


def _slots(model: Model) -> None:
    season, program = model.season, model.program
    for product in season.products:
        for day in sorted(season.evening.days):
            if product.minutes > season.evening.minutes or day + product.wait_days >= season.days:
                continue
            for key in product.vessels:
                vessel = season.vessel(key)
                most = min(product.most, vessel.mL)
                if most < product.least or vessel.count < 1:
                    continue
                for takes in range(len(product.takes)):
                    count = program.column(float(vessel.count), whole=True)
                    mL = program.column(float(most * vessel.count), whole=True)
                    program.at_most({mL: 1.0, count: -float(most)}, 0.0)
                    program.at_least({mL: 1.0, count: -float(max(1, product.least))}, 0.0)
                    model.slots.append(Slot(product, day, key, takes, count, mL))


def _evenings(model: Model) -> None:
    """Minutes of each evening: of what starts on it, and of what is to be done later for what started before."""
    season, program = model.season, model.program
    fixed: dict[int, float] = {}
    for one in season.fixed:
        product = season.product(one.product)
        for day, minutes in ((one.start, 0.0 if one.running else product.minutes), *_later(product, one.start)):
            fixed[day] = fixed.get(day, 0.0) + minutes
    pinned = {one.start for one in season.fixed if not one.running}
    for day in sorted(season.evening.days):
        terms: dict[int, float] = {}
        starts = [slot for slot in model.slots if slot.day == day]
        for slot in starts:
            terms[slot.count] = slot.product.minutes
        for slot in model.slots:
            for at, minutes in _later(slot.product, slot.day):
                if at == day and minutes:
                    terms[slot.count] = terms.get(slot.count, 0.0) + minutes
        program.at_most(terms, max(0.0, season.evening.minutes - fixed.get(day, 0.0)))
        if starts and day not in pinned:
            used = program.column(1.0, whole=True)
            model.evenings[day] = used
            for slot in starts:
                program.at_most({slot.count: 1.0, used: -float(season.vessel(slot.vessel).count)}, 0.0)


def _later(product: Product, start: int) -> Iterable[tuple[int, float]]:
    return ((start + after, minutes) for after, minutes in product.later)


def _holds(start: int, free: int, day: int) -> bool:
    """True for a day on which a batch holds its vessel: from its start through the day before it is free."""
    return start <= day < max(free, start + 1)


def _since(one: Pinned) -> int:
    """From which day a batch that stands holds its vessel: what runs does so now, whenever it was started."""
    return min(one.start, 0) if one.running else one.start


def _vessels(model: Model) -> None:
    season, program = model.season, model.program
    for vessel in season.vessels:
        mine = [slot for slot in model.slots if slot.vessel == vessel.id]
        for day in range(season.days):
            terms = {s.count: 1.0 for s in mine if _holds(s.day, s.day + s.product.wait_days, day)}
            taken = sum(_holds(_since(one), one.free, day) for one in season.fixed if one.vessel == vessel.id)
            if terms:
                program.at_most(terms, max(0.0, float(vessel.count - taken)))


@dataclass(slots=True)
class _Lot:
    """What of a product starts on a day: its columns of mL, mL that are fixed, when it is free, how long it keeps."""

    columns: list[int]
    fixed_mL: float
    free: int
    last: int


def _lots(model: Model, product: Product) -> dict[int, _Lot]:
    """The lots of a product by the day they start, the oldest first."""
    lots: dict[int, _Lot] = {}
    for slot in model.slots:
        if slot.product is product:
            usual = _Lot([], 0.0, slot.day + product.wait_days, slot.day + product.keeps_days)
            lots.setdefault(slot.day, usual).columns.append(slot.mL)
    for one in model.season.fixed:
        if one.product == product.id:
            lot = lots.setdefault(one.start, _Lot([], 0.0, one.free, one.start + product.keeps_days))
            lot.fixed_mL += one.mL
    return dict(sorted(lots.items()))


def _serving(model: Model, product: Product) -> None:
    """What each need gets, out of batches in the order they spoil and of what is on hand, which does not."""
    season, program = model.season, model.program
    from_batches: dict[int, list[int]] = {}
    on_hand: list[int] = []
    for at, need in enumerate(season.needs):
        if need.product == product.id:
            batch, hand, unmet = (program.column(float(need.mL), whole=True) for _ in range(3))
            program.exactly({batch: 1.0, hand: 1.0, unmet: 1.0}, float(need.mL))
            from_batches.setdefault(need.day, []).append(batch)
            on_hand.append(hand)
            model.given |= {batch, hand}
            model.unmet[at] = unmet
    program.at_most(dict.fromkeys(on_hand, 1.0), float(product.on_hand))
    lots = _lots(model, product)
    wasted: dict[int, int] = {}
    for start, lot in lots.items():
        if lot.last < season.days - 1:
            wasted[start] = program.column(sum(program.upper[column] for column in lot.columns) + lot.fixed_mL)
            program.at_most({wasted[start]: 1.0, **dict.fromkeys(lot.columns, -1.0)}, lot.fixed_mL)
    served: list[int] = []
    for day in sorted(from_batches):
        served += from_batches[day]
        there, fixed = _there(lots, wasted, [start for start, lot in lots.items() if lot.free <= day])
        program.at_most({**dict.fromkeys(served, 1.0), **{column: -value for column, value in there.items()}}, fixed)
    for start in wasted:
        there, fixed = _there(lots, wasted, [other for other in lots if other <= start])
        by_then = {column: -1.0 for day in from_batches if day <= lots[start].last for column in from_batches[day]}
        program.at_most({**by_then, **there}, -fixed)
    _left_over(model, product, lots, wasted, [*served, *on_hand])


def _there(lots: dict[int, _Lot], wasted: dict[int, int], starts: list[int]) -> tuple[dict[int, float], float]:
    """What some lots come to without what is wasted of them: its terms, and the mL that are fixed."""
    terms: dict[int, float] = {}
    for start in starts:
        terms |= dict.fromkeys(lots[start].columns, 1.0)
        if start in wasted:
            terms[wasted[start]] = -1.0
    return terms, sum(lots[start].fixed_mL for start in starts)


def _left_over(
    model: Model, product: Product, lots: dict[int, _Lot], wasted: dict[int, int], served: list[int]
) -> None:
    """What is still good on the last day, free or not; and by how much it is less than the safety stock."""
    terms, fixed = _there(lots, wasted, list(lots))
    terms |= dict.fromkeys(served, -1.0)
    there = product.on_hand + fixed
    model.left_fixed += there
    model.left |= terms
    if product.least_left:
        missing = model.program.column(float(product.least_left))
        model.program.at_least({missing: 1.0, **terms}, float(product.least_left) - there)
        model.safety.append(missing)


def _uses(model: Model, stock: str) -> tuple[dict[int, dict[int, float]], dict[int, float]]:
    """What of a stock is taken by the day: the terms of what may start, and what pinned batches take."""
    uses: dict[int, dict[int, float]] = {}
    for slot in model.slots:
        much = dict(slot.product.takes[slot.takes]).get(stock, 0.0)
        if much:
            uses.setdefault(slot.day, {})[slot.mL] = much
    pinned: dict[int, float] = {}
    for one in model.season.fixed:
        much = 0.0 if one.running else dict(model.season.product(one.product).takes[0]).get(stock, 0.0)
        if much:
            pinned[one.start] = pinned.get(one.start, 0.0) + much * one.mL
    return uses, pinned


def _stocks(model: Model) -> None:
    """No stock below nothing, out of what is left, what is on its way and what is bought."""
    for stock in model.season.stocks:
        uses, pinned = _uses(model, stock.id)
        days = sorted(uses.keys() | pinned.keys())
        columns = _packs(model, stock, days)
        old = _old(model, stock, uses, pinned)
        for day in days:
            terms: dict[int, float] = {one.count: -stock.packs[one.pack].size for one in columns if one.arrives <= day}
            known = sum(much for arrives, much in stock.arrives if arrives <= day)
            for used in days:
                if used <= day:
                    terms |= uses.get(used, {})
                    known -= pinned.get(used, 0.0)
            if old is not None and stock.good_until is not None and day > stock.good_until:
                terms[old] = -1.0
            else:
                known += stock.left
            model.program.at_most(terms, known)


def _packs(model: Model, stock: Stock, days: list[int]) -> list[PackSlot]:
    """Packs that may arrive on the days the stock is taken on."""
    found = []
    for day in days:
        for at, pack in enumerate(stock.packs):
            if pack.days <= day:
                most = max(1.0, float(-(-_most_used(model.season, stock.id) // max(pack.size, 1e-9))))
                found.append(PackSlot(stock.id, at, day, model.program.column(most, whole=True)))
    model.packs += found
    return found


def _old(model: Model, stock: Stock, uses: dict[int, dict[int, float]], pinned: dict[int, float]) -> int | None:
    """The column of what is used of what is left now, where that does not keep until the end; None where it does."""
    until = stock.good_until
    if until is None or until >= model.season.days - 1:
        return None
    old = model.program.column(stock.left)
    terms: dict[int, float] = {old: 1.0}
    for day, columns in uses.items():
        if day <= until:
            terms |= {column: -much for column, much in columns.items()}
    model.program.at_most(terms, sum(much for day, much in pinned.items() if day <= until))
    return old


def _most_used(season: Season, stock: str) -> float:
    """What of a stock all needs together could take, at the most: more packs than that are never bought."""
    most = 0.0
    for product in season.products:
        wanted = sum(need.mL for need in season.needs if need.product == product.id)
        most += max(dict(one).get(stock, 0.0) for one in product.takes) * max(wanted + product.least_left, product.most)
    return most


def _limits(model: Model) -> None:
    """Never more than so much in the place: on hand, at rest and in stocks, as each day begins to be served."""
    for limit in model.season.limits:
        for day in range(model.season.days):
            terms: dict[int, float] = {}
            known = sum(_of_stock(model, key, day, terms) for key in limit.stocks)
            known += sum(_of_product(model, key, day, terms) for key in limit.products)
            if terms:
                model.program.at_most(terms, limit.mL - known)


def _of_stock(model: Model, key: str, day: int, terms: dict[int, float]) -> float:
    """What there is of a stock on a day: what is known; what is not is put into the terms."""
    stock = next(one for one in model.season.stocks if one.id == key)
    known = stock.left if stock.good_until is None or day <= stock.good_until else 0.0
    known += sum(much for arrives, much in stock.arrives if arrives <= day)
    for one in model.packs:
        if one.stock == key and one.arrives <= day:
            terms[one.count] = terms.get(one.count, 0.0) + stock.packs[one.pack].size
    uses, pinned = _uses(model, key)
    for used, columns in uses.items():
        if used <= day:
            for column, much in columns.items():
                terms[column] = terms.get(column, 0.0) - much
    return known - sum(much for used, much in pinned.items() if used <= day)


def _of_product(model: Model, key: str, day: int, terms: dict[int, float]) -> float:
    """What there is of a product on a day before it is served: what is known; what is not is put into the terms."""
    season = model.season
    product = season.product(key)
    known = float(product.on_hand)
    for start, lot in _lots(model, product).items():
        if start <= day <= lot.last:
            known += lot.fixed_mL
            for column in lot.columns:
                terms[column] = terms.get(column, 0.0) + 1.0
    for at, need in enumerate(season.needs):
        if need.product == key and need.day < day:
            known -= need.mL
            terms[model.unmet[at]] = terms.get(model.unmet[at], 0.0) + 1.0
    return known


def split(mL: int, count: int, least: int, most: int) -> list[int]:
    """So many mL in so many batches, each within its bounds and as even as whole mL go.

    >>> split(1001, 2, 100, 600)
    [501, 500]
    """
    even, rest = divmod(mL, count)
    sizes = [even + (1 if place < rest else 0) for place in range(count)]
    if not all(least <= size <= most for size in sizes):
        raise ValueError(f"{mL} mL do not go into {count} batches of {least} to {most} mL")
    return sizes


def widened(season: Season, what: str) -> Season:
    """The season with one thing no longer in the way: wait, vessel, evening, stock, keeps or size."""
    products = season.products
    if what == "wait":
        products = tuple(replace(one, wait_days=0) for one in products)
    elif what == "keeps":
        products = tuple(replace(one, keeps_days=season.days) for one in products)
    elif what == "size":
        largest = max((one.mL for one in season.vessels), default=0)
        products = tuple(replace(one, least=1, most=max(one.most, largest)) for one in products)
    vessels, evening, stocks = season.vessels, season.evening, season.stocks
    if what == "vessel":
        vessels = tuple(replace(one, count=one.count + 1) for one in vessels)
    elif what == "evening":
        evening = replace(evening, minutes=1e6, days=frozenset(range(season.days)))
    elif what == "stock":
        stocks = tuple(replace(one, left=1e9, good_until=None) for one in stocks)
    return replace(season, products=products, vessels=vessels, evening=evening, stocks=stocks)


def whole(value: float) -> int:
    """A whole number out of a solver's float, never more than it says."""
    return floor(value + 1e-5)
