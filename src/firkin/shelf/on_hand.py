"""What is at hand: the stocks that can be named in place of a material or a strength."""

from collections.abc import Iterable
from dataclasses import dataclass

from firkin.accounts.models import Workshop
from firkin.core.catalogue import Stock as CoreStock
from firkin.core.measures import Strength
from firkin.shelf.models import Stock, Tool


@dataclass(frozen=True)
class Shelf:
    """The stocks at hand, by name, with their material and strength; the tools, with their error in per cent."""

    stocks: tuple[CoreStock, ...] = ()
    tools: tuple[tuple[str, float], ...] = ()

    @classmethod
    def of(cls, workshop: Workshop) -> "Shelf":
        """What stands on the workshop's shelf and has a strength."""
        on_hand = Stock.objects.filter(workshop=workshop, strength_value__isnull=False).on_hand()
        named = on_hand.values_list(
            "name", "material", "strength_value", "strength_low", "strength_high", "strength_basis"
        )
        tools = Tool.objects.filter(workshop=workshop).values_list("name", "error_pct")
        stocks = tuple(
            CoreStock(name, material, Strength(value or 0.0, low or 0.0, high or 0.0, basis))
            for name, material, value, low, high, basis in named
        )
        return cls(stocks, tuple(tools))

    def find(self, name: str) -> CoreStock | None:
        """The stock that goes by this name."""
        plain = name.strip().lower()
        return next((stock for stock in self.stocks if stock.name.lower() == plain), None)

    def of_material(self, material: str) -> list[CoreStock]:
        """The stocks of one material."""
        return [stock for stock in self.stocks if stock.material == material]


def on_hand_g(workshop: Workshop, materials: Iterable[str]) -> dict[str, float]:
    """Grams of each material at hand, all its bottles together, by id; without what is not on the shelf."""
    left: dict[str, float] = {}
    for stock in Stock.objects.filter(workshop=workshop, material__in=set(materials)).on_hand().with_use():
        left[stock.material] = left.get(stock.material, 0.0) + stock.left_g
    return left
