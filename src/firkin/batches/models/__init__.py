"""Batches and everything that is written of them."""

from firkin.batches.models.batch import FILLING_H, Batch, BatchLine, BatchQuerySet, State
from firkin.batches.models.journal import Draw, Entry, Filling, Photo
from firkin.batches.models.waits import CalendarFeed, Due, DueQuerySet, Wait

__all__ = [
    "FILLING_H",
    "Batch",
    "BatchLine",
    "BatchQuerySet",
    "CalendarFeed",
    "Draw",
    "Due",
    "DueQuerySet",
    "Entry",
    "Filling",
    "Photo",
    "State",
    "Wait",
]
