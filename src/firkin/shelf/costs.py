"""What something costs by the prices on the shelf; what has no price is named, never left out in silence."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from firkin.accounts.models import Workshop
from firkin.core.formula import Reckoning
from firkin.core.questions import a_or_an, dose_of, whole_mL
from firkin.core.texts import uncapped
from firkin.shelf.models import Stock
from firkin.shelf.on_hand import will_do

#: Out of the tap it costs next to nothing.
_FREE = "water"


@dataclass(frozen=True, slots=True)
class Cost:
    """What is known of a cost: the sum, what it makes in mL, and the materials without a price."""

    total: float
    made_mL: float
    unpriced: tuple[str, ...] = ()

    @property
    def of_a_litre(self) -> float:
        """What a litre costs."""
        return self.total / self.made_mL * 1000.0

    def of_mL(self, volume_mL: float) -> float:
        """What so much of it costs."""
        return self.total * volume_mL / self.made_mL


def cost_of(parts: Iterable[tuple[str, float, Stock | None]], made_mL: float) -> Cost | None:
    """The cost of grams of materials out of stocks: name, g, stock. None when no price is known, or nothing is made."""
    known, unpriced = [], []
    for name, grams, stock in parts:
        price = None if stock is None else stock.price_of_a_gram
        if price is not None:
            known.append(grams * price)
        elif grams and uncapped(name) != _FREE:
            unpriced.append(uncapped(name))
    if not known or made_mL <= 0:
        return None
    return Cost(sum(known), made_mL, tuple(dict.fromkeys(unpriced)))


def costs_of_a_dose(cost: Cost | None, result: Reckoning) -> list[tuple[float, str]]:
    """What one load, wash or use costs, and its words: at the formula's dose, or the middle of the usual one."""
    dose = dose_of(result.formula, result)
    if cost is None or dose is None:
        return []
    share = (dose.low + dose.high) / 2.0 / whole_mL(result)
    return [(cost.total * share, a_or_an(dose.of))]


def cost_on_hand(workshop: Workshop, result: Reckoning, made_mL: float) -> Cost | None:
    """What a formula costs out of the bottles on the shelf that are of its strengths, each line out of the cheapest."""
    materials = {line.material.written for line in result.formula.lines}
    stocks = list(Stock.objects.filter(workshop=workshop, material__in=materials, price__isnull=False).on_hand())
    parts = []
    for line, worked in zip(result.formula.lines, result.lines, strict=True):
        fit = [one for one in stocks if one.material == line.material.written]
        fit = [one for one in fit if will_do(one.strength, line.counted_strength) and one.price_of_a_gram is not None]
        parts.append((line.material.name, worked.mass_g, _cheapest(fit)))
    return cost_of(parts, made_mL)


def _cheapest(stocks: Sequence[Stock]) -> Stock | None:
    return min(stocks, key=lambda stock: stock.price_of_a_gram or 0.0, default=None)
