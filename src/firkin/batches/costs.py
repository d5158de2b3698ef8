"""What a batch cost: out of the stocks its lines were taken from, a litre of it, a bottle of it."""

from firkin.batches.making import Making
from firkin.shelf.costs import Cost, cost_of


def cost_of_batch(making: Making) -> Cost | None:
    """What its stocks cost, for what comes into bottles, cut where it is cut; None when no price is known."""
    progress = making.progress
    parts = [
        (line.material.name, grams, row.stock)
        for line, grams, row in zip(progress.formula.lines, progress.masses_g, making.lines, strict=True)
    ]
    return cost_of(parts, progress.to_fill_mL)
