"""What is written of a batch: entries are only ever added; photos beside them; bottles filled."""

import uuid
from collections.abc import Mapping
from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from firkin.accounts.bounded import AMOUNT, BASE_UNITS, COUNT, Bounded
from firkin.accounts.models import Workshop
from firkin.core.bench import ENTRY_WORDS, EntryKind
from firkin.core.bench import Entry as Written
from firkin.core.measures import Quantity
from firkin.shelf.fields import AmountColumns
from firkin.shelf.models import Movement, Stock, Vessel


def entry_kinds() -> list[tuple[str, str]]:
    """Every kind of entry, as the journal calls it."""
    return [(kind.value, words) for kind, words in ENTRY_WORDS.items()]


class Entry(AmountColumns):
    """One thing written in a batch's journal. Never changed; an undo is another entry."""

    Kind = EntryKind

    batch = models.ForeignKey("batches.Batch", on_delete=models.CASCADE, related_name="entries")
    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    #: Who wrote it by the word of a file it was brought in with: nobody here has proven it.
    said_by = models.CharField(max_length=150, blank=True)
    kind = models.CharField(max_length=10, choices=entry_kinds)
    line = models.ForeignKey(
        "batches.BatchLine", null=True, blank=True, on_delete=models.CASCADE, related_name="entries"
    )
    step = models.PositiveIntegerField(null=True, blank=True)
    #: Of a corrected bottle, the one it really was.
    stock = models.ForeignKey(Stock, null=True, blank=True, on_delete=models.SET_NULL, related_name="entries")
    amount_value = models.FloatField(null=True, blank=True, validators=[AMOUNT])  # type: ignore[assignment]
    amount_unit = models.CharField(max_length=12, blank=True)
    text = models.TextField(blank=True)
    data: "models.JSONField[dict[str, Any], Any]" = models.JSONField(default=dict, blank=True)
    undoes = models.OneToOneField("self", null=True, blank=True, on_delete=models.PROTECT, related_name="undone_by")
    key = models.UUIDField(default=uuid.uuid4)

    class Meta:
        ordering = ("pk",)
        verbose_name_plural = "entries"
        constraints = (models.UniqueConstraint(fields=["batch", "key"], name="one_entry_of_a_key"),)

    def __str__(self) -> str:
        return f"{self.get_kind_display()} {self.text}"

    @property
    def author(self) -> str:
        """Who wrote it; by the word of a file, where it was brought in."""
        return f"said to be by {self.said_by}" if self.said_by else self.by.username if self.by else ""

    def as_core(self, positions: Mapping[int, int]) -> Written:
        """The entry as core knows it; ``positions`` are those of the batch's lines, by key."""
        amount = None if self.amount_value is None else Quantity(self.amount_value, self.amount_unit)
        line = None if self.line_id is None else positions[self.line_id]
        return Written(
            self.pk, EntryKind(self.kind), self.at, self.text, line, self.step, amount, self.data, self.undoes_id
        )

    def save(self, *args: Any, **kwargs: Any) -> None:
        """Store a new entry; an entry that stands in the journal is never written over."""
        if not self._state.adding:
            raise TypeError("Journal entries are only added; write an undo instead.")
        super().save(*args, **kwargs)


class Draw(Bounded):
    """A movement of a stock that a batch caused."""

    batch = models.ForeignKey("batches.Batch", on_delete=models.CASCADE, related_name="draws")
    movement = models.OneToOneField(Movement, on_delete=models.CASCADE, related_name="draw")

    class Meta:
        ordering = ("pk",)

    def __str__(self) -> str:
        return f"{self.movement} of {self.batch}"


class Photo(Bounded):
    """A picture of a batch, made small and stripped of what a camera writes into it."""

    batch = models.ForeignKey("batches.Batch", on_delete=models.CASCADE, related_name="photos")
    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    #: Who wrote it by the word of a file it was brought in with: nobody here has proven it.
    said_by = models.CharField(max_length=150, blank=True)
    jpeg = models.BinaryField()
    caption = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ("at",)

    def __str__(self) -> str:
        return f"Photo of {self.batch}"


class FillingQuerySet(models.QuerySet["Filling"]):
    """Named selections of fillings."""

    def full(self, workshop: Workshop) -> dict[int, int]:
        """How many of each bottle hold a batch that is neither used up nor poured away, by the bottle's key."""
        in_use = self.filter(batch__workshop=workshop, vessel__isnull=False).exclude(
            batch__state__in=("used", "discarded")
        )
        return dict(in_use.values_list("vessel").annotate(models.Sum("count")).order_by())


class StandingFillings(models.Manager.from_queryset(FillingQuerySet)):  # type: ignore[misc]
    """The fillings that stand: without those taken back."""

    def get_queryset(self) -> FillingQuerySet:
        """Those that were not taken back, each with its bottle."""
        found: FillingQuerySet = super().get_queryset()
        return found.filter(taken_back_at=None).select_related("vessel")


class Filling(Bounded):
    """Bottles filled at one time: how many of which, how far. One taken back stays in the record."""

    batch = models.ForeignKey("batches.Batch", on_delete=models.CASCADE, related_name="fillings")
    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    #: Who wrote it by the word of a file it was brought in with: nobody here has proven it.
    said_by = models.CharField(max_length=150, blank=True)
    vessel = models.ForeignKey(Vessel, null=True, blank=True, on_delete=models.SET_NULL)
    container = models.CharField(max_length=80)
    count = models.PositiveIntegerField(validators=[COUNT])
    fill_mL = models.FloatField(validators=[BASE_UNITS])
    key = models.UUIDField(default=uuid.uuid4)
    taken_back_at = models.DateTimeField(null=True, blank=True)

    objects = StandingFillings()
    every = FillingQuerySet.as_manager()

    class Meta:
        ordering = ("pk",)
        constraints = (models.UniqueConstraint(fields=["batch", "key"], name="one_filling_of_a_key"),)

    def __str__(self) -> str:
        return f"{self.count} × {self.container}"

    @property
    def total_mL(self) -> float:
        """mL in all of them."""
        return self.count * self.fill_mL
