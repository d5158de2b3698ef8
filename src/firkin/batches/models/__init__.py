"""Batches and everything that is written of them."""

from firkin.batches.models.batch import Batch, BatchLine, BatchQuerySet, State
from firkin.batches.models.journal import Entry, Filling, Photo
from firkin.batches.models.waits import CalendarFeed, Due, DueQuerySet, Wait

__all__ = [
    "Batch",
    "BatchLine",
    "BatchQuerySet",
    "CalendarFeed",
    "Due",
    "DueQuerySet",
    "Entry",
    "Filling",
    "Photo",
    "State",
    "Wait",
]
