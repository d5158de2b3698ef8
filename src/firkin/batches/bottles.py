"""Bottles for a batch: those on hand that suit it and stand empty, and how they are filled."""

from collections import Counter
from dataclasses import dataclass

from django.db import models

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch, Bottle, Filling
from firkin.core.catalogue import TOPS, families, suits
from firkin.core.questions import Container, Packing, pack
from firkin.core.use import BottleIs
from firkin.shelf.models import Vessel

#: A batch in one of these is in no bottle any more.
GONE = ("used", "discarded")


@dataclass(frozen=True, slots=True)
class Bottles:
    """How a volume goes into bottles; None without an empty one. ``unsuited`` names those left out, with why."""

    packing: Packing | None
    unsuited: tuple[str, ...]
    wanted: str
    headspace_pct: float


def empty_bottles(workshop: Workshop) -> dict[Vessel, int]:
    """The workshop's bottles, and how many of each stand here empty: not filled, not with anybody, not lost."""
    taken = _taken(workshop)
    bottles = Vessel.objects.filter(workshop=workshop, kind="bottle")
    return {bottle: max(0, bottle.count - taken[bottle.pk]) for bottle in bottles}


def _taken(workshop: Workshop) -> Counter[int]:
    """How many of each bottle are not here empty, by the bottle's key."""
    taken = Counter(Filling.objects.full(workshop))
    told = Bottle.objects.filter(workshop=workshop, filling__taken_back_at=None)
    rows = told.filter(filling__vessel__isnull=False)
    for vessel, place, state in rows.values_list("filling__vessel", "place", "filling__batch__state"):
        counted = state not in GONE
        here = place in (BottleIs.BACK, BottleIs.THROWN) or (place == BottleIs.STORE and not counted)
        taken[vessel] += (not here) - counted
    return taken


def never_soaped(workshop: Workshop, empty: dict[Vessel, int]) -> dict[int, int]:
    """Of the empty bottles, how many of each surely never held soap, by key: a rub goes into no other.

    Bottles of a kind are not told apart, so each one ever filled with anything but a rub counts as another.
    """
    rubs = [family.id for family in families().values() if family.rub]
    filled = Filling.objects.filter(batch__workshop=workshop, vessel__in=list(empty))
    soaped = Counter(
        dict(filled.exclude(batch__family__in=rubs).values_list("vessel").annotate(models.Sum("count")).order_by())
    )
    in_use = filled.filter(batch__family__in=rubs).exclude(batch__state__in=GONE)
    rub = Counter(dict(in_use.values_list("vessel").annotate(models.Sum("count")).order_by()))
    return {
        one.pk: max(0, min(count, one.count - min(one.count, soaped[one.pk]) - min(rub[one.pk], one.count - count)))
        for one, count in empty.items()
    }


def bottles_for(batch: Batch, volume_mL: float) -> Bottles:
    """The empty bottles that suit a batch against a volume of it."""
    family = families()[batch.version.formula.family]
    empty = empty_bottles(batch.workshop)
    clean = never_soaped(batch.workshop, empty) if family.rub else {}
    fit = {one: clean.get(one.pk, count) for one, count in empty.items() if suits(family.id, one.top)}
    on_hand = [Container(bottle.name, bottle.volume_mL, count) for bottle, count in fit.items()]
    return Bottles(
        pack(volume_mL, on_hand, family.headspace_pct) if any(fit.values()) and volume_mL > 0 else None,
        tuple(bottle.name for bottle in empty if bottle not in fit),
        f"{family.name} goes into bottles with {' or '.join(TOPS[top] for top in family.tops)}.",
        family.headspace_pct,
    )
