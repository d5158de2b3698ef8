"""What a batch took off the shelf, kept in line with its journal: by plan, by a fix, besides, and what boiled over.

After each press the ledger is held against the record, and what they differ by is one movement more. So whatever is
undone, corrected or was not of this batch after all comes back to its bottle without being looked for.
"""

from collections import defaultdict

from django.db import models

from firkin.batches.models import Batch, BatchLine, Draw
from firkin.core.bench import Progress
from firkin.shelf.models import Movement, Stock

#: Less than this, in g, is rounding of floats and no movement.
_NOTHING_G = 1e-6
#: Notes of lines that were not planned: they were added.
ADDED = frozenset({"rescue", "besides"})
Key = tuple[int, Movement.Kind]


def settle(batch: Batch, rows: list[BatchLine], progress: Progress) -> None:
    """Write what moved since: so much of each bottle as the record says, no more and no less."""
    wanted, stocks = _taken(rows, progress)
    drawn = _drawn(batch)
    for stock_id, kind in wanted.keys() | drawn.keys():
        missing = wanted[stock_id, kind] - drawn[stock_id, kind]
        if abs(missing) > _NOTHING_G:
            stock = stocks.get(stock_id) or Stock.objects.get(pk=stock_id)
            words = f"batch {batch.code}" if missing > 0 else f"batch {batch.code}, put right"
            Draw.objects.create(batch=batch, movement=stock.move(kind, -missing, words))


def _taken(rows: list[BatchLine], progress: Progress) -> tuple[defaultdict[Key, float], dict[int, Stock]]:
    """Grams that came out of each bottle by the record, and the bottles."""
    taken: defaultdict[Key, float] = defaultdict(float)
    stocks = {row.stock.pk: row.stock for row in rows if row.stock is not None}
    for row, line in zip(rows, progress.formula.lines, strict=True):
        if row.stock is not None:
            kind = Movement.Kind.ADDED if line.note in ADDED else Movement.Kind.POURED
            taken[row.stock.pk, kind] += progress.taken_g(row.position)
    return taken, stocks


def _drawn(batch: Batch) -> defaultdict[Key, float]:
    """Grams that the ledger says came out of each bottle for a batch."""
    drawn: defaultdict[Key, float] = defaultdict(float)
    sums = batch.draws.values_list("movement__stock", "movement__kind").annotate(models.Sum("movement__mass_g"))
    for stock_id, kind, grams in sums.order_by():
        drawn[stock_id, Movement.Kind(kind)] -= grams
    return drawn
