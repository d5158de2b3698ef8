"""Filled bottles one by one, who has them and what became of them; and what was called back.

A bottle gets a row with the first thing that happens to it: one without stands in the store as it was filled. What
happened is only ever added; where a bottle is, is worked out from it and kept beside it for lists.
"""

import uuid
from collections.abc import Iterable
from typing import Any, Self

from django.conf import settings
from django.db import models, transaction
from django.utils import timezone

from firkin.accounts.bounded import AMOUNT, Bounded
from firkin.accounts.models import User, Workshop
from firkin.batches.models.batch import Batch
from firkin.batches.models.journal import Filling
from firkin.core.errors import CannotReckon
from firkin.core.use import EVENT_WORDS, IS_WORDS, BottleEventKind, BottleIs, Happened, Whereabouts, can_happen
from firkin.core.use import whereabouts_of as core_whereabouts_of
from firkin.shelf.models import Stock

#: Said in place of a name that was forgotten.
NAMELESS = "somebody"


def event_kinds() -> list[tuple[str, str]]:
    """Everything that can happen to a bottle."""
    return [(kind.value, words) for kind, words in EVENT_WORDS.items()]


def places() -> list[tuple[str, str]]:
    """Everywhere a bottle can be."""
    return [(place.value, words) for place, words in IS_WORDS.items()]


#: What is kept back of a finished ferment to start the next.
STARTER_MATERIAL = "ferment-starter"


class Holder(Bounded):
    """Somebody, or a place, that is given bottles. A name is personal: forgotten, what they had stays on the record."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="holders")
    name = models.CharField(max_length=80, blank=True)
    #: True for a place such as the wash-house, which has no name to forget.
    place = models.BooleanField(default=False)
    created_at = models.DateTimeField(default=timezone.now)
    forgotten_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ("name",)
        constraints = (
            models.UniqueConstraint(
                fields=["workshop", "name"], condition=~models.Q(name=""), name="one_holder_of_a_name"
            ),
        )

    def __str__(self) -> str:
        return self.name or NAMELESS

    def forget(self) -> None:
        """Blank the name, here and in the words of every entry of a bottle."""
        with transaction.atomic():
            BottleEvent.objects.filter(holder=self).update(reason="")
            self.name, self.forgotten_at = "", timezone.now()
            self.save(update_fields=["name", "forgotten_at"])


class BottleQuerySet(models.QuerySet["Bottle"]):
    """Named selections of bottles something happened to."""

    def of_workshop(self, workshop: Workshop) -> Self:
        """Those of a workshop, of fillings that stand."""
        mine = self.filter(workshop=workshop, filling__taken_back_at=None)
        return mine.select_related("filling__batch__version__formula", "filling__vessel", "holder")

    def in_use(self) -> Self:
        """Opened and not finished, those opened longest first."""
        return self.filter(place__in=(BottleIs.STORE, BottleIs.OUT), opened_at__isnull=False).order_by("opened_at")

    def out(self) -> Self:
        """With somebody, with something in them."""
        return self.filter(place=BottleIs.OUT)


class Bottle(Bounded):
    """One filled bottle, by its number in its batch: 3 in 26-014-3."""

    #: That of its batch, kept beside it for lists that grow.
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="bottles")
    filling = models.ForeignKey(Filling, on_delete=models.CASCADE, related_name="bottles")
    number = models.PositiveIntegerField()
    place = models.CharField(max_length=10, choices=places, default=BottleIs.STORE.value)
    holder = models.ForeignKey(Holder, null=True, blank=True, on_delete=models.SET_NULL, related_name="bottles")
    given_at = models.DateTimeField(null=True, blank=True)
    opened_at = models.DateTimeField(null=True, blank=True)
    ended_at = models.DateTimeField(null=True, blank=True)
    #: True for what was used up, not lost or thrown away.
    used = models.BooleanField(default=False)
    loads = models.FloatField(default=0.0, validators=[AMOUNT])
    called = models.BooleanField(default=False)
    dealt = models.BooleanField(default=False)

    objects = BottleQuerySet.as_manager()

    class Meta:
        ordering = ("filling", "number")
        constraints = (models.UniqueConstraint(fields=["filling", "number"], name="one_bottle_of_a_number"),)
        indexes = (models.Index(fields=["place", "holder"], name="bottle_by_place"),)

    def __str__(self) -> str:
        return self.code

    def save(self, *args: Any, **options: Any) -> None:
        """Store it, in the workshop of its batch."""
        if self.workshop_id is None:
            self.workshop_id = self.filling.batch.workshop_id
        super().save(*args, **options)

    @property
    def code(self) -> str:
        """As written on its label: the batch number and its own."""
        return f"{self.filling.batch.code}-{self.number}"

    @property
    def full(self) -> bool:
        """True while there is something in it to use."""
        return self.place in (BottleIs.STORE, BottleIs.OUT)

    @property
    def is_where(self) -> str:
        """Where it is, in words: "out, at the wash-house"."""
        words = IS_WORDS[BottleIs(self.place)]
        with_whom = self.place in (BottleIs.OUT, BottleIs.EMPTY_OUT) and self.holder is not None
        return f"{words}, with {self.holder}" if with_whom else words

    def whereabouts(self) -> Whereabouts:
        """What became of it, by what happened to it."""
        events = list(self.events.order_by("pk"))
        undone = {event.undoes_id for event in events if event.undoes_id}
        standing = [event for event in events if event.pk not in undone and event.undoes_id is None]
        return core_whereabouts_of(event.as_core() for event in standing)

    def can(self, kind: BottleEventKind) -> bool:
        """True for what can happen to it now."""
        return can_happen(kind, self.whereabouts())

    def tell(
        self,
        kind: BottleEventKind,
        user: User | None,
        holder: Holder | None = None,
        reason: str = "",
        **more: Any,
    ) -> "BottleEvent":
        """Write down what happened to it. Raises CannotReckon, and writes nothing, for what cannot happen to it now."""
        with transaction.atomic():
            if not self.can(kind):
                raise CannotReckon(f"Bottle {self.code} is {self.is_where}: it cannot be {EVENT_WORDS[kind]} now.")
            event = BottleEvent.objects.create(
                bottle=self, kind=kind, by=user, holder=holder, reason=reason[:200], **more
            )
            self.follow()
        return event

    def follow(self) -> None:
        """Keep beside it what its events come to."""
        there, before = self.whereabouts(), self.place
        self.place, self.holder_id = there.place.value, there.holder
        self.given_at, self.opened_at, self.ended_at = there.given, there.opened, there.ended
        self.used, self.loads, self.called, self.dealt = there.used, there.loads, there.called, there.dealt
        self.save()
        vessel = self.filling.vessel
        came = (self.place == BottleIs.BACK) - (before == BottleIs.BACK)
        if vessel is not None and came:
            vessel.wants_washing(came)


class BottleEvent(Bounded):
    """One thing that happened to a bottle. Never changed; an undo is another."""

    bottle = models.ForeignKey(Bottle, on_delete=models.CASCADE, related_name="events")
    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    #: Who wrote it by the word of a file it was brought in with: nobody here has proven it.
    said_by = models.CharField(max_length=150, blank=True)
    kind = models.CharField(max_length=10, choices=event_kinds)
    holder = models.ForeignKey(Holder, null=True, blank=True, on_delete=models.SET_NULL, related_name="events")
    loads = models.FloatField(null=True, blank=True, validators=[AMOUNT])
    reason = models.CharField(max_length=200, blank=True)
    recall = models.ForeignKey(
        "batches.Recall", null=True, blank=True, on_delete=models.SET_NULL, related_name="events"
    )
    undoes = models.OneToOneField("self", null=True, blank=True, on_delete=models.PROTECT, related_name="undone_by")
    key = models.UUIDField(default=uuid.uuid4)

    class Meta:
        ordering = ("pk",)

    def __str__(self) -> str:
        return f"{self.bottle}: {self.get_kind_display()}"

    def as_core(self) -> Happened:
        """The event as core knows it."""
        return Happened(BottleEventKind(self.kind), self.at, self.holder_id, self.loads)

    def undo(self, user: User | None) -> None:
        """Take it back, where it is the last thing that stands of its bottle. Raises CannotReckon otherwise."""
        with transaction.atomic():
            standing = self.bottle.events.filter(undoes=None, undone_by=None).order_by("-pk").first()
            if standing is None or standing.pk != self.pk:
                raise CannotReckon("Something else happened to this bottle since, so this can't be undone.")
            BottleEvent.objects.create(bottle=self.bottle, kind=self.kind, by=user, undoes=self, reason="undone")
            self.bottle.follow()


class Recall(Bounded):
    """Bottles called back: because of a batch, or of a lot of a stock that went into several."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="recalls")
    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    #: Who wrote it by the word of a file it was brought in with: nobody here has proven it.
    said_by = models.CharField(max_length=150, blank=True)
    stock = models.ForeignKey(Stock, null=True, blank=True, on_delete=models.SET_NULL, related_name="recalls")
    batch = models.ForeignKey(Batch, null=True, blank=True, on_delete=models.SET_NULL, related_name="recalls")
    why = models.CharField(max_length=300)
    closed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ("-at",)

    def __str__(self) -> str:
        return f"Recall of {self.at:%Y-%m-%d}: {self.why}"


def bottle_of(batch: Batch, number: int) -> Bottle | None:
    """The bottle of a batch by its number, with or without a row of its own yet; None where there is none.

    Numbers go on through its fillings, also those taken back: a label that was printed keeps its number.
    """
    before = 0
    for filling in Filling.every.filter(batch=batch).order_by("pk").select_related("batch", "vessel"):
        if before < number <= before + filling.count and filling.taken_back_at is None:
            there = Bottle.objects.filter(filling=filling, number=number).select_related("holder").first()
            there = there or Bottle(filling=filling, number=number)
            there.filling = filling
            return there
        before += filling.count
    return None


def bottles_of(batch: Batch) -> list[Bottle]:
    """Every bottle of a batch in order, with or without a row of its own yet; without what was taken back."""
    rows = {
        (one.filling_id, one.number): one
        for one in Bottle.objects.filter(filling__batch=batch).select_related("holder", "filling__vessel")
    }
    found, before = [], 0
    for filling in Filling.every.filter(batch=batch).order_by("pk").select_related("vessel"):
        filling.batch = batch
        if filling.taken_back_at is None:
            for number in range(before + 1, before + filling.count + 1):
                one = rows.get((filling.pk, number)) or Bottle(filling=filling, number=number)
                one.filling = filling
                found.append(one)
        before += filling.count
    return found


def told_of(bottles: Iterable[Bottle], kind: BottleEventKind, user: User | None, **more: Any) -> list[BottleEvent]:
    """Write the same of several bottles, each with its row; everything or nothing."""
    events = []
    with transaction.atomic():
        for bottle in bottles:
            if bottle.pk is None:
                bottle.save()
            events.append(bottle.tell(kind, user, **more))
    return events
