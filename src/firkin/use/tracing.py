"""From a lot to who has it, and back: which batches a stock went into, their bottles, and the lots in a batch."""

from dataclasses import dataclass

from django.db import models, transaction
from django.utils import timezone

from firkin.accounts.models import User, Workshop
from firkin.batches.models import STARTER_MATERIAL, Batch, Bottle, Recall, bottles_of, told_of
from firkin.core.use import BottleEventKind
from firkin.shelf.models import Stock

#: Less than this, in g, is rounding of floats: nothing of it went in.
_NOTHING_G = 1e-6


@dataclass(frozen=True, slots=True)
class Reached:
    """A batch a recall reaches, how much of the stock is in it, g, and its bottles."""

    batch: Batch
    grams: float
    bottles: tuple[Bottle, ...]


def same_lot(stock: Stock) -> list[Stock]:
    """The bottles of a stock's lot: itself, and where its lot number is known the others of it."""
    if not stock.lot:
        return [stock]
    others = Stock.objects.filter(workshop=stock.workshop_id, material=stock.material, lot__iexact=stock.lot)
    return list(others)


def batches_of(stocks: list[Stock]) -> list[tuple[Batch, float]]:
    """The batches that stocks went into by their ledgers, with the grams; the newest first."""
    rows = (
        Batch.objects.filter(draws__movement__stock__in=stocks)
        .annotate(drawn_g=-models.Sum("draws__movement__mass_g"))
        .filter(drawn_g__gt=_NOTHING_G)
        .select_related("version__formula")
    )
    return [(batch, batch.drawn_g) for batch in rows]  # type: ignore[attr-defined]


def starters_of(batch: Batch) -> list[Stock]:
    """What was kept back of a batch to start others with: its code is their lot, or stands in their name."""
    mine = Stock.objects.filter(workshop=batch.workshop_id, material=STARTER_MATERIAL)
    return list(mine.filter(models.Q(lot=batch.code) | models.Q(name=f"Starter from {batch.code}")))


def reached(stocks: list[Stock], batch: Batch | None = None) -> list[Reached]:
    """What a doubt about stocks, or one batch, reaches; by what was kept back of a batch, also those it started."""
    waiting = [(batch, 0.0)] if batch is not None else batches_of(stocks)
    found: dict[int, tuple[Batch, float]] = {}
    while waiting:
        one, grams = waiting.pop(0)
        if one.pk not in found:
            found[one.pk] = one, grams
            waiting += batches_of(starters_of(one))
    return [Reached(one, grams, tuple(bottles_of(one))) for one, grams in found.values()]


def lots_in(batch: Batch) -> list[tuple[Stock, float]]:
    """Back: the stocks that went into a batch, with the grams of each."""
    rows = (
        Stock.objects.filter(movements__draw__batch=batch)
        .annotate(drawn_g=-models.Sum("movements__mass_g", filter=models.Q(movements__draw__batch=batch)))
        .filter(drawn_g__gt=_NOTHING_G)
    )
    return [(stock, stock.drawn_g) for stock in rows]  # type: ignore[attr-defined]


def call_back(
    workshop: Workshop, user: User, why: str, *, stock: Stock | None = None, batch: Batch | None = None, bad: bool
) -> Recall:
    """Write a recall, and of each bottle it reaches that it is called back; with ``bad`` its batches are marked."""
    with transaction.atomic():
        recall = Recall.objects.create(workshop=workshop, by=user, stock=stock, batch=batch, why=why)
        for one in reached(same_lot(stock) if stock is not None else [], batch):
            told_of(one.bottles, BottleEventKind.CALLED, user, recall=recall)
            if bad and one.batch.bad_since is None:
                one.batch.mark_bad(why, user)
    return recall


def of_recall(recall: Recall) -> list[Bottle]:
    """The bottles a recall called back, by batch and number."""
    called = Bottle.objects.filter(events__recall=recall, events__kind=BottleEventKind.CALLED).distinct()
    return list(
        called.select_related("filling__batch", "filling__vessel", "holder").order_by("filling__batch", "number")
    )


def close(recall: Recall) -> None:
    """Done with it: nothing more is asked."""
    recall.closed_at = timezone.now()
    recall.save(update_fields=["closed_at"])
