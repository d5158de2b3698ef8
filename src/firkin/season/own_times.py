"""How long a formula's batches have taken at the bench, by their journals."""

from itertools import pairwise
from statistics import median

from firkin.batches.models import Batch
from firkin.core.bench import EntryKind
from firkin.formulas.models import Formula

#: Between two entries further apart than this the maker was not at the bench, minutes (common practice, no source).
_AWAY = 30.0
#: So many batches tell it, the last ones; fewer than this many tell nothing.
_LAST, _FEWEST = 8, 2
_AT_THE_BENCH = (EntryKind.POUR, EntryKind.PORTION, EntryKind.STEP, EntryKind.READING, EntryKind.TIMER)
#: A batch entered within this many minutes was written down afterwards, and tells nothing.
_WRITTEN_UP = 4.0


def own_minutes(formula: Formula) -> float | None:
    """The median of the minutes its last batches took; None while too few tell any."""
    made = Batch.objects.of_formula(formula.pk).filter(made_at__isnull=False).order_by("-made_at")[:_LAST]
    told = []
    for batch in made.prefetch_related("entries"):
        times = sorted(entry.at for entry in batch.entries.all() if entry.kind in _AT_THE_BENCH)
        gaps = [(later - earlier).total_seconds() / 60.0 for earlier, later in pairwise(times)]
        minutes = sum(gap for gap in gaps if gap <= _AWAY)
        if minutes >= _WRITTEN_UP:
            told.append(minutes)
    return round(median(told)) if len(told) >= _FEWEST else None
