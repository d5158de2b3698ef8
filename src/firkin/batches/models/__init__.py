"""Batches and everything that is written of them."""

from firkin.batches.models.batch import FILLING_H, Batch, BatchLine, BatchQuerySet, State
from firkin.batches.models.bottles import (
    NAMELESS,
    STARTER_MATERIAL,
    Bottle,
    BottleEvent,
    Holder,
    Recall,
    bottle_of,
    bottles_of,
    told_of,
)
from firkin.batches.models.journal import Draw, Entry, Filling, Photo
from firkin.batches.models.waits import CalendarFeed, Due, DueQuerySet, Wait

__all__ = [
    "FILLING_H",
    "NAMELESS",
    "STARTER_MATERIAL",
    "Batch",
    "BatchLine",
    "BatchQuerySet",
    "Bottle",
    "BottleEvent",
    "CalendarFeed",
    "Draw",
    "Due",
    "DueQuerySet",
    "Entry",
    "Filling",
    "Holder",
    "Photo",
    "Recall",
    "State",
    "Wait",
    "bottle_of",
    "bottles_of",
    "told_of",
]
