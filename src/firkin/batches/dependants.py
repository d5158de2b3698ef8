"""What of a shelf the batches depend on, said when it is to be changed or taken away."""

from typing import Any

from django.db import models
from django.dispatch import receiver

from firkin.batches.models import Batch, Filling
from firkin.shelf.dependants import named, what_depends
from firkin.shelf.models import Material, Stock, Vessel


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
