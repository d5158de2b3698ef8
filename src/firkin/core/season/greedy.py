"""A first plan by hand's rules: each need in the order of its latest start, on the latest evening that has room.

It is no proof of anything. A large season's search begins from it: what a maker would pencil in is there at once.
"""

from collections import defaultdict
from dataclasses import dataclass, field

from firkin.core.season.season import Product, Season

#: A batch pencilled in: product, day, vessel, which alternative of its stocks, and mL.
Pencilled = tuple[str, int, str, int, float]


@dataclass(slots=True)
class _Bench:
    """What is still free: minutes of each evening, vessels of each day, and what stocks there will be."""

    season: Season
    minutes: dict[int, float] = field(default_factory=dict)
    taken: dict[tuple[str, int], int] = field(default_factory=lambda: defaultdict(int))
    stock: dict[str, float] = field(default_factory=dict)
    used: set[int] = field(default_factory=set)

    def __post_init__(self) -> None:
        season = self.season
        self.minutes = dict.fromkeys(season.evening.days, season.evening.minutes)
        self.stock = {one.id: one.left + sum(much for _, much in one.arrives) for one in season.stocks}
        for one in season.fixed:
            product = season.product(one.product)
            if not one.running:
                self._spend(one.start, product.minutes)
                self.used.add(one.start)
            for after, minutes in product.later:
                self._spend(one.start + after, minutes)
            since = min(one.start, 0) if one.running else one.start
            for day in range(since, max(one.free, since + 1)):
                self.taken[one.vessel, day] += 1

    def _spend(self, day: int, minutes: float) -> None:
        if day in self.minutes:
            self.minutes[day] -= minutes

    def has_time(self, product: Product, day: int) -> bool:
        """True where an evening has the minutes of a start, and later ones those of what follows."""
        if self.minutes[day] < product.minutes:
            return False
        return all(self.minutes.get(day + after, minutes) >= minutes for after, minutes in product.later if minutes)

    def vessel_for(self, product: Product, day: int) -> str | None:
        """The largest vessel that is free for its whole wait."""
        free = []
        for key in product.vessels:
            vessel = self.season.vessel(key)
            days = range(day, day + max(1, product.wait_days))
            if min(product.most, vessel.mL) >= product.least and all(self.taken[key, at] < vessel.count for at in days):
                free.append((min(product.most, vessel.mL), key))
        return max(free)[1] if free else None

    def takes_for(self, product: Product, day: int, mL: float) -> tuple[int, float]:
        """Which alternative there is most of by a day, and for how many mL at the most."""
        best, most = 0, 0.0
        for at, takes in enumerate(product.takes):
            reach = mL
            for key, rate in takes:
                stock = next(one for one in self.season.stocks if one.id == key)
                bought = any(pack.days <= day for pack in stock.packs)
                old = stock.good_until is not None and day > stock.good_until
                there = 0.0 if old else max(0.0, self.stock[key])
                reach = reach if bought else min(reach, there / rate)
            if reach > most:
                best, most = at, reach
        return best, most

    def pencil(self, product: Product, day: int, vessel: str, takes: int, mL: float) -> Pencilled:
        """Write a batch in."""
        self._spend(day, product.minutes)
        for after, minutes in product.later:
            self._spend(day + after, minutes)
        for at in range(day, day + max(1, product.wait_days)):
            self.taken[vessel, at] += 1
        for key, rate in product.takes[takes]:
            self.stock[key] -= rate * mL
        self.used.add(day)
        return product.id, day, vessel, takes, mL


def first_plan(season: Season) -> list[Pencilled]:
    """Batches pencilled in, need by need."""
    bench = _Bench(season)
    found: list[Pencilled] = []
    products = {one.id: one for one in season.products}
    needs = sorted(season.needs, key=lambda need: (need.day - products[need.product].wait_days, need.day))
    covered: dict[str, float] = {one.id: float(one.on_hand) for one in season.products}
    for one in season.fixed:
        covered[one.product] += one.mL
    wanted: dict[str, float] = defaultdict(float)
    for need in needs:
        product = products[need.product]
        wanted[need.product] += need.mL
        while covered[need.product] < wanted[need.product]:
            batch = _one_more(bench, season, product, need.day, wanted[need.product] - covered[need.product])
            if batch is None:
                wanted[need.product] = covered[need.product]  # it goes short, and the next need begins anew
                break
            found.append(batch)
            covered[need.product] += batch[4]
    return found


def _one_more(bench: _Bench, season: Season, product: Product, day: int, lacking: float) -> Pencilled | None:
    """One more batch that is free by a day: on an evening at the bench anyhow where there is one, else the latest."""
    latest = day - product.wait_days
    days = [at for at in bench.minutes if day - product.keeps_days <= at <= latest]
    for at in sorted(days, key=lambda at: (at not in bench.used, -at)):
        vessel = bench.vessel_for(product, at) if bench.has_time(product, at) else None
        if vessel is None:
            continue
        ahead = sum(
            need.mL for need in season.needs if need.product == product.id and day < need.day <= at + product.keeps_days
        )
        most = min(product.most, season.vessel(vessel).mL)
        takes, reach = bench.takes_for(product, at, float(most))
        mL = min(most, reach, max(product.least, lacking + ahead))
        if mL >= max(1, product.least):
            return bench.pencil(product, at, vessel, takes, mL)
    return None
