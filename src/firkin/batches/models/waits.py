"""Times a batch must rest, what comes due for it, and the private address of the calendar."""

import secrets
import uuid
from datetime import datetime
from typing import Self

from django.db import models, transaction
from django.utils import timezone

from firkin.accounts.bounded import HOURS, Bounded
from firkin.accounts.models import User, Workshop
from firkin.core.bench import DUE_KINDS, EntryKind
from firkin.core.measures import WAIT_KINDS, hours_words


def wait_kinds() -> list[tuple[str, str]]:
    """Every kind of wait."""
    return list(WAIT_KINDS.items())


def due_kinds() -> list[tuple[str, str]]:
    """Every kind of thing that comes due."""
    return [(key, words[0]) for key, words in DUE_KINDS.items()]


class Wait(Bounded):
    """A time a batch must rest, from when to when, and how it ended."""

    batch = models.ForeignKey("batches.Batch", on_delete=models.CASCADE, related_name="waits")
    kind = models.CharField(max_length=12, choices=wait_kinds)
    started_at = models.DateTimeField()
    hours = models.FloatField(validators=[HOURS])
    free_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True, blank=True)
    early_reason = models.CharField(max_length=300, blank=True)

    class Meta:
        ordering = ("started_at",)

    def __str__(self) -> str:
        return f"{self.get_kind_display()} of {self.batch}"

    def is_over(self, now: datetime) -> bool:
        """True from the minute it is free."""
        return now >= self.free_at

    @property
    def due(self) -> bool:
        """True when it may end now and has not."""
        return self.ended_at is None and self.is_over(timezone.now())


class DueQuerySet(models.QuerySet["Due"]):
    """Named selections of things that come due."""

    def waiting(self, workshop: Workshop) -> Self:
        """Not answered yet, the soonest first, of batches that are still there."""
        gone = ["used", "discarded"]
        mine = self.filter(answered_at=None, batch__workshop=workshop).exclude(batch__state__in=gone)
        return mine.select_related("batch").order_by("at")

    def now_due(self, workshop: Workshop, now: datetime) -> Self:
        """Those whose hour has come."""
        return self.waiting(workshop).filter(at__lte=now)


class Due(Bounded):
    """Something that comes due for a batch at an hour, and how it was answered."""

    batch = models.ForeignKey("batches.Batch", on_delete=models.CASCADE, related_name="dues")
    kind = models.CharField(max_length=10, choices=due_kinds)
    at = models.DateTimeField()
    text = models.CharField(max_length=300, blank=True)
    answered_at = models.DateTimeField(null=True, blank=True)
    answer = models.CharField(max_length=300, blank=True)

    objects = DueQuerySet.as_manager()

    class Meta:
        ordering = ("at",)
        indexes = (models.Index(fields=["answered_at", "at"], name="due_by_hour"),)

    def __str__(self) -> str:
        return f"{self.get_kind_display()}: {self.batch}"

    @property
    def icon(self) -> str:
        """The icon it is shown with."""
        return {"vent": "balloon", "recheck": "flask"}.get(self.kind, "timer")

    @property
    def button(self) -> str:
        """The word on the button that answers it."""
        return DUE_KINDS[self.kind][1]

    def settle(self, user: User | None, key: uuid.UUID | None = None) -> None:
        """Answer it, once; what is poured away ends the batch. Earlier ventings left open are answered with it."""
        now = timezone.now()
        with transaction.atomic():
            open_now = self.batch.dues.select_for_update().filter(answered_at=None, kind=self.kind, at__lte=self.at)
            if not open_now.filter(pk=self.pk).exists():
                return
            open_now.update(answered_at=now, answer=self.button)
            late = (now - self.at).total_seconds() / 3600
            said = f", {hours_words(late)} late" if late >= 1 else ""
            data = {"due": self.kind, "at": self.at.isoformat(), **self.batch.before(now)}
            self.batch.write(EntryKind.DUE, user, text=f"{self.button}{said}.", data=data, key=key or uuid.uuid4())
            if self.kind == "discard":
                self.batch.pour_away(user, "Poured away.", now)


class CalendarFeedQuerySet(models.QuerySet["CalendarFeed"]):
    """The feeds that lead somewhere."""

    def open(self) -> Self:
        """Not revoked, and their owner is still a member of the workshop."""
        member = models.Q(owner__membership__workshop=models.F("workshop"))
        return self.filter(member, revoked_at=None).select_related("workshop").distinct()


class CalendarFeed(Bounded):
    """A private address of a workshop's calendar; revoking it makes the address nobody's."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="feeds")
    owner = models.ForeignKey(User, on_delete=models.CASCADE, null=True, related_name="feeds")
    token = models.CharField(max_length=64, unique=True, default=secrets.token_urlsafe)
    created_at = models.DateTimeField(default=timezone.now)
    revoked_at = models.DateTimeField(null=True, blank=True)

    objects = CalendarFeedQuerySet.as_manager()

    class Meta:
        ordering = ("-created_at",)

    def __str__(self) -> str:
        return f"Calendar feed of {self.workshop}"
