"""How many loads a batch washes, and what one costs."""

import math
from dataclasses import dataclass

from firkin.core.catalogue import families
from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity, Working, WorkLine, amount_words, figures, weight_words
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Bar, Bars

#: mL of laundry soap in a load, from and to.
USUAL_DOSE_ML = families()["laundry-soap"].dose_mL


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


def _answer(asked: Asked) -> Answer:
    batch, dose, cost, cut = asked["batch"], asked["dose"], asked["cost"], asked["dilute_parts_water"] or 0.0
    washed = loads(batch, dose, cost, cut)
    values: dict[str, float] = {"loads": washed.loads}
    words = amount_words if batch.kind == "volume" else weight_words
    size, each = (one.mL if batch.kind == "volume" else one.g for one in (batch, dose))
    rows = [("Whole loads", f"{math.floor(washed.loads + 1e-9)}"), ("A load", words(each))]
    bars = [Bar("The batch", size, words(size), "soap")]
    if cut:
        rows.append(("Once cut with water, it comes to", words(size * (1.0 + cut))))
        bars.append(Bar("Once cut", size * (1.0 + cut), words(size * (1.0 + cut)), "water"))
    bars.append(Bar("Ten loads", 10.0 * each, words(10.0 * each), "plain"))
    if washed.cost_per_load is not None:
        values["cost_per_load"] = washed.cost_per_load
        rows.append(("Cost of a load", f"{figures(washed.cost_per_load)}, in the money the batch’s is in"))
    warns = []
    if asked["bought_price"] is not None and asked["bought_loads"] is not None:
        bought = asked["bought_price"] / asked["bought_loads"]
        values["bought_per_load"] = bought
        rows.append(("A load of the bought one", figures(bought)))
        if washed.cost_per_load is not None:
            saved = bought - washed.cost_per_load
            rows.append((f"{'Saved' if saved >= 0 else 'Dearer by'} on a load", figures(abs(saved))))
            rows.append((f"{'Saved' if saved >= 0 else 'Dearer by'} on the batch", figures(abs(saved) * washed.loads)))
    elif asked["bought_price"] is not None or asked["bought_loads"] is not None:
        warns.append("The bought one is not compared: both its price and how many loads it washes are needed.")
    low, high = USUAL_DOSE_ML
    says = [f"Laundry soap takes about {low:g} to {high:g} mL a load (common practice, no source)."]
    if batch.kind == "volume" and not low * 0.5 <= each <= high * 2.0:
        says.append("The dose written is far from that: for another product it may be right.")
    return Answer(
        values,
        washed.working,
        figures(washed.loads),
        "loads",
        tuple(rows),
        tuple(says),
        tuple(warns),
        picture=Bars(tuple(bars)),
    )


LOADS = Question(
    "loads",
    "Loads",
    "How many loads, and what does one cost?",
    "A batch, the dose of a load, what it is cut with, and what it cost.",
    "Soap and bottles",
    (
        Field("batch", Kind.SIZE, "The batch is", "9 L", hint="9 L"),
        Field("dose", Kind.SIZE, "A load takes", "110 mL", hint="110 mL"),
        Field(
            "dilute_parts_water",
            Kind.NUMBER,
            "Cut with water, parts to one",
            "1",
            hint="0",
            optional=True,
            least=0.0,
            most=1e6,
        ),
        Field("cost", Kind.NUMBER, "It cost", hint="5.00", optional=True, least=0.0, most=1e9),
        Field("bought_price", Kind.NUMBER, "A bought one costs", hint="8.90", optional=True, least=0.0, most=1e9),
        Field("bought_loads", Kind.NUMBER, "and washes so many loads", hint="40", optional=True, above=0.0, most=1e6),
    ),
    (
        Given("loads", "loads, parts of one included"),
        Given("cost_per_load", "where the batch’s cost is given", optional=True),
        Given("bought_per_load", "where the bought one’s price and loads are given", optional=True),
    ),
    _answer,
)
