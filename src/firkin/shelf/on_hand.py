"""What is at hand: the stocks that can be named in place of a material or a strength."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from firkin.accounts.models import Workshop
from firkin.core.catalogue import Material, aged, find
from firkin.core.catalogue import Stock as CoreStock
from firkin.core.formula import Line
from firkin.core.measures import Strength
from firkin.shelf.models import Stock, Tool, own_materials


@dataclass(frozen=True)
class Shelf:
    """The stocks at hand, by name, with their material and strength; the tools, with their error in per cent."""

    stocks: tuple[CoreStock, ...] = ()
    tools: tuple[tuple[str, float], ...] = ()

    @classmethod
    def of(cls, workshop: Workshop) -> "Shelf":
        """What stands on the workshop's shelf and has a strength."""
        on_hand = Stock.objects.filter(workshop=workshop, strength_value__isnull=False).on_hand()
        own = own_materials(workshop.pk)
        tools = Tool.objects.filter(workshop=workshop).values_list("name", "error_pct")
        stocks = tuple(
            CoreStock(one.name, one.material, now)
            for one in on_hand
            if (now := aged(find(one.material, own), one.strength, one.months())) is not None
        )
        return cls(stocks, tuple(tools))

    def find(self, name: str) -> CoreStock | None:
        """The stock that goes by this name."""
        plain = name.strip().lower()
        return next((stock for stock in self.stocks if stock.name.lower() == plain), None)

    def materials_of(self, rows: Iterable[Mapping[str, str]], own: Iterable[Material]) -> list[Material]:
        """What the rows of a form name, a stock or a material; blank rows name nothing."""
        own = tuple(own)
        written = [name for row in rows if (name := row["material"].strip())]
        return [find(stock.material if (stock := self.find(name)) else name, own) for name in written]

    def of_material(self, material: str) -> list[CoreStock]:
        """The stocks of one material."""
        return [stock for stock in self.stocks if stock.material == material]


#: What never runs out: water is taken from the tap, boiled or not.
TAP = "water"
#: Bottles this near to what a formula asks for, in points of the same basis, will do as they are.
_SAME_STRENGTH = 1.0


def on_hand_g(workshop: Workshop, lines: Iterable[Line]) -> tuple[dict[str, float], list[str]]:
    """Grams at hand of the materials of a formula's lines, by id; and the bottles left out, being of another strength.

    What is not on the shelf is not in it, nor is water: it never runs out.
    """
    wanted: dict[str, list[Strength | None]] = {}
    for line in lines:
        if line.material.id == TAP:  # out of the tap there is always more
            continue
        wanted.setdefault(line.material.written, []).append(line.counted_strength)
    left: dict[str, float] = {}
    others: list[str] = []
    for stock in Stock.objects.filter(workshop=workshop, material__in=wanted).on_hand().with_use():
        if any(will_do(stock.strength, asked) for asked in wanted[stock.material]):
            left[stock.material] = left.get(stock.material, 0.0) + stock.left_g
        else:
            others.append(stock.name)
    return left, others


def will_do(there: Strength | None, asked: Strength | None) -> bool:
    """True for a bottle of the strength that is asked for; a strength nobody said is no reason against it."""
    if there is None or asked is None or there.basis != asked.basis:
        return True
    return abs(there.value - asked.value) <= _SAME_STRENGTH


def only_bottle(workshop: Workshop, line: Line) -> Stock | None:
    """The only bottle on the shelf that a line can be from; None where there is none, or a choice."""
    there = Stock.objects.filter(workshop=workshop, material=line.material.written).on_hand()
    fit = [stock for stock in there if will_do(stock.strength, line.counted_strength)]
    return fit[0] if len(fit) == 1 else None
