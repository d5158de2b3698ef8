"""How many loads a batch washes, and what one costs."""

from dataclasses import dataclass

from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity, Working, WorkLine, figures

#: mL of laundry soap in a load, from and to (common practice).
USUAL_DOSE_ML = (108.0, 120.0)


@dataclass(frozen=True, slots=True)
class Loads:
    """Loads in a batch, parts of a load included, and the cost of one where the batch's is known."""

    loads: float
    cost_per_load: float | None
    working: Working


def loads(batch: Quantity, dose: Quantity, cost: float | None = None, dilute_parts_water: float = 0.0) -> Loads:
    """Loads from a batch at a dose, the batch first cut with ``dilute_parts_water`` parts of water.

    batch and dose are both volumes or both weights. Raises CannotReckon otherwise.

    >>> from firkin.core.measures import read_quantity
    >>> washed = loads(read_quantity("6 L"), read_quantity("120 mL"), cost=5.0, dilute_parts_water=1.0)
    >>> washed.loads, washed.cost_per_load
    (100.0, 0.05)
    """
    if batch.kind != dose.kind or batch.kind not in ("volume", "mass"):
        raise CannotReckon("Give the batch and the dose both as volumes, or both as weights.").at("dose")
    if dilute_parts_water < 0:
        raise CannotReckon("Parts of water are 0 or more.").at("dilute_parts_water")
    if cost is not None and cost < 0:
        raise CannotReckon("A cost is 0 or more.").at("cost")
    unit = "mL" if batch.kind == "volume" else "g"
    size = batch.mL if unit == "mL" else batch.g
    each = dose.mL if unit == "mL" else dose.g
    whole = size * (1.0 + dilute_parts_water)
    number = whole / each
    lines = []
    if dilute_parts_water:
        lines.append(WorkLine("Cut with water", f"{figures(size)} × (1 + {figures(dilute_parts_water)})", whole, unit))
    lines.append(WorkLine("Loads", f"{figures(whole)} {unit} ÷ {figures(each)} {unit}", number, "loads"))
    price = None if cost is None else cost / number
    if price is not None and cost is not None:
        lines.append(WorkLine("Cost of a load", f"{figures(cost)} ÷ {figures(number)}", price, ""))
    return Loads(number, price, tuple(lines))
