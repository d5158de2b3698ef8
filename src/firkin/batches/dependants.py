"""What of a shelf the batches depend on, said when it is to be changed or taken away."""

from typing import Any

from django.db import models
from django.dispatch import receiver
from django.urls import reverse

from firkin.batches.bottles import GONE
from firkin.batches.models import Batch, Bottle, Filling, State
from firkin.core.use import BottleIs
from firkin.shelf.dependants import named, what_depends
from firkin.shelf.models import Material, Stock, Vessel
from firkin.shelf.whereabouts import Place, where_are


@receiver(what_depends, sender=Stock)
@receiver(what_depends, sender=Material)
@receiver(what_depends, sender=Vessel)
def _of_batches(sender: type[models.Model], thing: Any, **_: object) -> list[str]:
    if isinstance(thing, Stock):
        return named("Made with it", _names(Batch.objects.filter(lines__stock=thing)))
    if isinstance(thing, Material):
        batches = Batch.objects.filter(workshop=thing.workshop, lines__material__iexact=thing.name)
        return named("Batches with it", _names(batches))
    fillings = Filling.objects.filter(vessel=thing).select_related("batch")
    return [
        *named("Mixed in it", _names(Batch.objects.filter(vessel=thing))),
        *named("Filled into it", list(dict.fromkeys(str(filling.batch) for filling in fillings))),
    ]


def _names(batches: models.QuerySet[Batch]) -> list[str]:
    return [str(batch) for batch in batches.distinct().order_by("-number")]


@receiver(where_are, sender=Vessel)
def _where_they_are(sender: type[Vessel], vessel: Vessel, **_: object) -> list[Place]:
    """Of a bottle those filled, with whom they are, and lost ones; of a mixing vessel the batch that is in it."""
    if vessel.kind != "bottle":
        making = Batch.objects.filter(vessel=vessel, state__in=[State.MAKING, State.RESTING, State.RELEASED])
        return [(1, f"with batch {one}", reverse("batches:batch", args=[one.pk])) for one in making]
    found: dict[tuple[str, str], int] = {}
    told = Bottle.objects.filter(filling__vessel=vessel, filling__taken_back_at=None).select_related(
        "holder", "filling__batch"
    )
    away: dict[int, int] = {}
    for bottle in told:
        away[bottle.filling_id] = away.get(bottle.filling_id, 0) + 1
        gone = bottle.filling.batch.state in GONE
        if bottle.place in (BottleIs.BACK, BottleIs.THROWN) or (bottle.place == BottleIs.STORE and gone):
            continue
        key = (bottle.is_where, reverse("use:of_batch", args=[bottle.filling.batch_id]))
        found[key] = found.get(key, 0) + 1
    for filling in Filling.objects.filter(vessel=vessel).exclude(batch__state__in=GONE).select_related("batch"):
        rest = filling.count - away.get(filling.pk, 0)
        if rest > 0:
            key = (f"full, of {filling.batch.code}", reverse("use:of_batch", args=[filling.batch_id]))
            found[key] = found.get(key, 0) + rest
    return [(count, words, address) for (words, address), count in found.items()]
