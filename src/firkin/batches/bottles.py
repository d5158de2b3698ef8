"""Bottles for a batch: those on hand that suit it and stand empty, and how they are filled."""

from dataclasses import dataclass

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch, Filling
from firkin.core.catalogue import TOPS, families, suits
from firkin.core.questions import Container, Packing, pack
from firkin.shelf.models import Vessel


@dataclass(frozen=True, slots=True)
class Bottles:
    """How a volume goes into bottles; None without an empty one. ``unsuited`` names those left out, with why."""

    packing: Packing | None
    unsuited: tuple[str, ...]
    wanted: str
    headspace_pct: float


def empty_bottles(workshop: Workshop) -> dict[Vessel, int]:
    """The workshop's bottles, and how many of each are not filled with a batch that is still in use."""
    full = Filling.objects.full(workshop)
    bottles = Vessel.objects.filter(workshop=workshop, kind="bottle")
    return {bottle: max(0, bottle.count - full.get(bottle.pk, 0)) for bottle in bottles}


def bottles_for(batch: Batch, volume_mL: float) -> Bottles:
    """The empty bottles that suit a batch against a volume of it."""
    family = families()[batch.version.formula.family]
    empty = empty_bottles(batch.workshop)
    fit = {bottle: count for bottle, count in empty.items() if suits(family.id, bottle.top)}
    on_hand = [Container(bottle.name, bottle.volume_mL, count) for bottle, count in fit.items()]
    return Bottles(
        pack(volume_mL, on_hand, family.headspace_pct) if any(fit.values()) and volume_mL > 0 else None,
        tuple(bottle.name for bottle in empty if bottle not in fit),
        f"{family.name} goes into bottles with {' or '.join(TOPS[top] for top in family.tops)}.",
        family.headspace_pct,
    )
