"""What a batch cost: out of the stocks its lines were taken from, a litre of it, a bottle of it."""

from firkin.batches.making import Making
from firkin.core.bench import Progress
from firkin.shelf.costs import Cost, cost_of


def cost_of_batch(making: Making) -> Cost | None:
    """What its stocks cost, for what comes into bottles, cut where it is cut; None when no price is known."""
    progress = making.progress
    parts = [
        (line.material.name, _used_g(progress, position), making.lines[position].stock)
        for position, line in enumerate(progress.formula.lines)
    ]
    return cost_of(parts, progress.to_fill_mL)


def _used_g(progress: Progress, position: int) -> float:
    """Grams a line costs: all that was taken for it, also what boiled over; of one still to come, as planned."""
    return progress.taken_g(position) if position in progress.measured else progress.masses_g[position]
