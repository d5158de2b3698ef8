"""What a formula's batches cost, where the money goes, and what is saved against a product from a shop."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property

from django.utils import timezone

from firkin.batches.costs import cost_of_batch
from firkin.batches.making import Making
from firkin.batches.models import Batch, Bottle
from firkin.core.densities import ALCOHOLS
from firkin.core.measures import Quantity, weight_words
from firkin.core.questions import Dose, a_or_an, dose_of, whole_mL
from firkin.formulas.models import Bought, Formula
from firkin.shelf.costs import Cost
from firkin.shelf.models import Movement

#: A season, days (common practice, no source).
SEASON_D = 182
#: So many batches are worked out for a page, the newest.
MOST_BATCHES = 20


class Costed:
    """A batch with what it cost, by its record and its stocks' prices."""

    def __init__(self, batch: Batch) -> None:
        self.batch, self.making = batch, Making(batch)

    @cached_property
    def cost(self) -> Cost | None:
        """What its stocks cost; None when no price is known."""
        return cost_of_batch(self.making)

    @property
    def dose(self) -> Dose | None:
        """What one load or use of it takes."""
        progress = self.making.progress
        return dose_of(progress.formula, progress.result)

    @property
    def of_a_dose(self) -> tuple[float, str] | None:
        """What one load, wash or use costs, and its words."""
        dose, result = self.dose, self.making.progress.result
        if dose is None or self.cost is None:
            return None
        return self.cost.total * (dose.low + dose.high) / 2.0 / whole_mL(result), a_or_an(dose.of)

    @property
    def of_a_pure_litre(self) -> float | None:
        """What a litre of pure alcohol in it costs; None for what has none."""
        active, result = self.making.progress.result.main, self.making.progress.result
        if self.cost is None or active is None or active.active not in ALCOHOLS or not active.true:
            return None
        return self.cost.total / (result.total.volume_mL * active.true / 100.0) * 1000.0

    @property
    def by_line(self) -> list[tuple[str, float | None]]:
        """Each material with what it cost, the dearest first; None where it has no price."""
        progress = self.making.progress
        found: dict[str, float | None] = {}
        for position, line in enumerate(progress.formula.lines):
            if position in progress.left_out:
                continue
            stock = self.making.lines[position].stock
            price = None if stock is None else stock.price_of_a_gram
            grams = progress.taken_g(position) if position in progress.measured else progress.masses_g[position]
            name = line.material.name
            if price is None:
                found.setdefault(name, None)
            else:
                found[name] = (found.get(name) or 0.0) + grams * price
        return sorted(found.items(), key=lambda one: -(one[1] or 0.0))


@dataclass(frozen=True, slots=True)
class Lost:
    """What of a formula's materials went nowhere: spilled or thrown away beside any batch, at what it cost."""

    total: float
    what: tuple[str, ...]
    unpriced: tuple[str, ...]


def lost_beside(formula: Formula, now: datetime | None = None) -> Lost | None:
    """What was spilled or thrown away of its materials in a season, outside of its batches; None where nothing was."""
    since = (now or timezone.now()) - timedelta(days=SEASON_D)
    rows = Movement.objects.filter(
        stock__workshop=formula.workshop,
        stock__material__in={line.material.written for line in formula.current.as_core().lines},
        kind__in=(Movement.Kind.SPILLED, Movement.Kind.THROWN),
        at__gte=since,
    ).select_related("stock")
    known, what, unpriced = 0.0, [], []
    for row in rows:
        stock, price = row.stock, row.stock.price_of_a_gram
        full = stock.grams_of(stock.amount)
        size = Quantity(-row.mass_g * stock.amount.value / full, stock.amount.unit) if full else None
        how = f"{size.words if size else weight_words(-row.mass_g)} of {stock.name} {row.get_kind_display()}"
        if price is None:
            unpriced.append(how)
        else:
            known += -row.mass_g * price
            what.append(how)
    return Lost(known, tuple(what), tuple(unpriced)) if what or unpriced else None


@dataclass(frozen=True, slots=True)
class Against:
    """A bought product against the own one: a litre (or kg) of each, one load of each, and what a season saves.

    ``saved`` is None while nothing was used up, or a price is missing.
    """

    bought: Bought
    of_a_litre: float | None
    of_a_dose: float | None
    saved: float | None
    used_mL: float


def against(bought: Bought, own: Costed | None, now: datetime | None = None) -> Against:
    """Compare by volume; by load where the bought one says how many it does and the own one has a dose."""
    amount, price = bought.amount, float(bought.price)
    litre = price / amount.mL * 1000.0 if amount.kind == "volume" else None
    dose = price / bought.loads if bought.loads else None
    used = used_mL(bought.formula, now or timezone.now())
    cost = own.cost if own is not None else None
    saved = None
    if cost is not None and not cost.unpriced and used:
        own_dose = own.of_a_dose if own is not None else None
        mine = own.dose if own is not None else None
        if dose is not None and own_dose is not None and mine is not None:
            saved = (dose - own_dose[0]) * used / ((mine.low + mine.high) / 2.0)
        elif litre is not None:
            saved = (litre - cost.of_a_litre) * used / 1000.0
    return Against(bought, litre, dose, saved, used)


def used_mL(formula: Formula, now: datetime) -> float:
    """mL of a product in bottles that were used up in the season until now."""
    since = now - timedelta(days=SEASON_D)
    used = Bottle.objects.filter(
        filling__batch__version__formula=formula, used=True, ended_at__gte=since, ended_at__lte=now
    )
    return sum(used.values_list("filling__fill_mL", flat=True))
