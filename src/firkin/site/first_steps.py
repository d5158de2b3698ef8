"""The first steps of a new workshop: what stands on its shelf, and what of the house formulas can be made of it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import floor, log10

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch
from firkin.core.catalogue import Verdict
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, HouseFormula, Reckoning, house_formulas, reckon
from firkin.core.measures import figures
from firkin.shelf.models import Stock
from firkin.shelf.on_hand import TAP

#: So many formulas are offered.
MOST = 4
#: Less than this is no batch to offer, in mL.
_LEAST_ML = 20.0


@dataclass(frozen=True, slots=True)
class Offer:
    """A house formula that something on the shelf goes into, what else it takes, and a size there is enough for."""

    house: HouseFormula
    uses: tuple[str, ...]
    lacks: tuple[str, ...]
    make: str = ""


@dataclass(frozen=True, slots=True)
class FirstSteps:
    """What a workshop without any batch yet has, and could make."""

    stocks: tuple[Stock, ...]
    offers: tuple[Offer, ...]


def first_steps(workshop: Workshop) -> FirstSteps | None:
    """The first steps; None once there is a batch."""
    if Batch.objects.filter(workshop=workshop).exists():
        return None
    stocks = tuple(Stock.objects.filter(workshop=workshop).on_hand().order_by("pk"))
    return FirstSteps(stocks, tuple(offers_of(stocks)))


def offers_of(stocks: Sequence[Stock]) -> list[Offer]:
    """House formulas by how little they lack. None that falls short of its rules with the bottles that are there."""
    there = {stock.material: stock for stock in stocks}
    found = []
    for house in house_formulas().values():
        needed = dict.fromkeys(line.material.id for line in house.formula.lines if line.material.id != TAP)
        names = {line.material.id: line.material.name for line in house.formula.lines}
        uses = tuple(there[material].name for material in needed if material in there)
        lacks = tuple(names[material] for material in needed if material not in there)
        result = _reckoned(house.formula, there) if uses else None
        if result is not None and all(judged.verdict is Verdict.MEETS for judged in result.verdicts):
            found.append(Offer(house, uses, lacks, _enough_for(result, there)))
    return sorted(found, key=lambda one: len(one.lacks))[:MOST]


def _reckoned(formula: Formula, there: dict[str, Stock]) -> Reckoning | None:
    """What it comes to with the strengths on the shelf; None where one is not known: that is none to trust."""
    strengths = [
        there[line.material.id].strength_now
        if line.strength is not None and line.material.id in there
        else line.strength
        for line in formula.lines
    ]
    if any(now is None and line.strength is not None for now, line in zip(strengths, formula.lines, strict=True)):
        return None
    lines = [replace(line, strength=now) for line, now in zip(formula.lines, strengths, strict=True)]
    try:
        return reckon(replace(formula, lines=tuple(lines)))
    except CannotReckon:
        return None


def _enough_for(result: Reckoning, there: dict[str, Stock]) -> str:
    """The size that what is left of the bottles is enough for, rounded down; empty where they do for all of it."""
    needed: dict[str, float] = {}
    for line in result.lines:
        needed[line.material.id] = needed.get(line.material.id, 0.0) + line.mass_g
    shares = [there[key].left_g / grams for key, grams in needed.items() if key in there and grams]
    share = min(shares, default=1.0)
    size = share * result.total.volume_mL
    if share >= 1.0 or size < _LEAST_ML:
        return ""
    step = 10.0 ** (floor(log10(size)) - 1)
    return f"{figures(floor(size / step) * step)} mL"
