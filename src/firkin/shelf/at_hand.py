"""What is at hand: the stocks that can be named in place of a material or a strength."""

from dataclasses import dataclass

from firkin.accounts.models import Workshop
from firkin.core.fixes import Stock as CoreStock
from firkin.shelf.models import Stock


@dataclass(frozen=True)
class Shelf:
    """The stocks at hand, by name, with their material and strength."""

    stocks: tuple[CoreStock, ...] = ()

    @classmethod
    def of(cls, workshop: Workshop) -> "Shelf":
        """What stands on the workshop's shelf and has a strength."""
        on_hand = Stock.objects.filter(workshop=workshop).on_hand()
        return cls(tuple((s.name, s.material, s.strength) for s in on_hand if s.strength is not None))

    def find(self, name: str) -> CoreStock | None:
        """The stock that goes by this name."""
        plain = name.strip().lower()
        return next((stock for stock in self.stocks if stock[0].lower() == plain), None)

    def of_material(self, material: str) -> list[CoreStock]:
        """The stocks of one material."""
        return [stock for stock in self.stocks if stock[1] == material]
