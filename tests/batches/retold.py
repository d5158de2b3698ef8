"""A batch's journal told once more from its rows alone: what is in it, how strong it is, what left the shelf.

It shares no code with what it checks but the rows themselves: densities come from tests/checks/model (OIML R 22 anew),
a mark is filled by root search, and what stands is found by walking the entries.
"""

from dataclasses import dataclass, field

from scipy.optimize import brentq

from checks.model import WATER, density, fraction
from firkin.batches.models import Batch, Entry

#: g/mL at 20 degC (glycerol: CRC Handbook, from memory).
GLYCEROL = 1.261
ML = {"mL": 1.0, "L": 1000.0}


@dataclass
class Told:
    """What a batch of ethanol, glycerol and water holds by its journal, in g, and what left each bottle."""

    grams: dict[int, float] = field(default_factory=dict)
    names: dict[int, str] = field(default_factory=dict)
    share: dict[int, float] = field(default_factory=dict)
    out: dict[int, float] = field(default_factory=dict)

    @property
    def ethanol_g(self) -> float:
        return sum(g * self.share[i] for i, g in self.grams.items() if self.names[i] == "ethanol")

    def volume_mL(self, more_water_g: float = 0.0) -> float:
        """Alcohol and water by the table of mixtures, glycerol beside them."""
        glycerol = sum(g for i, g in self.grams.items() if self.names[i] == "glycerol")
        mixed = sum(self.grams.values()) - glycerol + more_water_g
        return (
            mixed / density("ethanol", self.ethanol_g / mixed) + glycerol / GLYCEROL if mixed else glycerol / GLYCEROL
        )

    @property
    def pct(self) -> float:
        """Ethanol, % v/v."""
        return 100.0 * self.ethanol_g / density("ethanol", 1.0) / self.volume_mL()

    @property
    def contents(self) -> set[str]:
        return {self.names[i] for i, g in self.grams.items() if g}


def retold(batch: Batch) -> Told:
    """The journal of a rub of ethanol, glycerol and water, told once more."""
    entries = list(Entry.objects.filter(batch=batch).order_by("pk").select_related("stock", "line__stock"))
    undone = {entry.undoes_id for entry in entries if entry.undoes_id}
    standing = [entry for entry in entries if entry.pk not in undone]
    rows = {row.pk: row for row in batch.lines.select_related("stock")}
    bottles = {pk: row.stock for pk, row in rows.items()}
    bottles |= {entry.line_id: entry.stock for entry in standing if entry.kind == "bottle"}
    never = {entry.line_id: entry.pk for entry in standing if entry.data.get("void")}
    told = Told()
    for entry in standing:
        if entry.line_id is None or entry.kind not in ("pour", "left-out") or entry.pk < never.get(entry.line_id, 0):
            continue
        row = rows[entry.line_id]
        at, stock = row.position, bottles[entry.line_id]
        told.names[at] = row.material
        pct = stock.strength.value if stock is not None and stock.strength else row.strength_value
        told.share[at] = fraction("ethanol", pct, "v/v") if row.material == "ethanol" and pct else 0.0
        if entry.kind == "left-out":
            told.grams.pop(at, None)
            continue
        told.grams.pop(at, None)
        mL = entry.amount_value * ML.get(entry.amount_unit, 0.0)
        if entry.data.get("level"):
            told.grams[at] = filled_up(told, mL)
        elif mL:
            told.grams[at] = mL * of_a_mL(told, at)
        else:
            told.grams[at] = entry.amount_value
    for pk, row in rows.items():
        stock = bottles[pk]
        if stock is not None and row.position in told.grams:
            told.out[stock.pk] = told.out.get(stock.pk, 0.0) + told.grams[row.position]
    return told


def filled_up(told: Told, mark_mL: float) -> float:
    """Water that brings it to a mark, g."""
    if told.volume_mL() >= mark_mL:
        return 0.0
    return float(brentq(lambda g: told.volume_mL(g) - mark_mL, 0.0, 2.0 * mark_mL, xtol=1e-9))


def of_a_mL(told: Told, at: int) -> float:
    """What a mL of a line weighs, g."""
    if told.names[at] == "ethanol":
        return density("ethanol", told.share[at])
    return GLYCEROL if told.names[at] == "glycerol" else WATER


def poured(batch: Batch) -> dict[int, Entry]:
    """The entry that stands for each line that is in, by position: for any family."""
    entries = list(Entry.objects.filter(batch=batch).order_by("pk").select_related("line"))
    undone = {entry.undoes_id for entry in entries if entry.undoes_id}
    last: dict[int, Entry] = {}
    for entry in entries:
        if entry.pk not in undone and entry.line is not None and entry.kind in ("pour", "left-out"):
            last[entry.line.position] = entry
    return {at: entry for at, entry in last.items() if entry.kind == "pour"}
