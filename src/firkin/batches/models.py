"""Batches and what is written of them: entries are only ever added."""

import uuid
from datetime import datetime, timedelta
from typing import Any, Self

from django.conf import settings
from django.db import models, transaction
from django.utils import timezone

from firkin.accounts.models import User, Workshop
from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.families import families
from firkin.core.formula import Formula as CoreFormula
from firkin.core.formula_format import formula_from_dict, formula_to_dict
from firkin.core.reckoning import reckon
from firkin.core.waits import KINDS, wait_kind
from firkin.formulas.models import FormulaVersion
from firkin.shelf.fields import AmountColumns, StrengthColumns
from firkin.shelf.models import Stock, Vessel, own_materials


class State(models.TextChoices):
    """Where a batch stands, in the order it goes through."""

    PLANNED = "planned", "planned"
    MAKING = "making", "being made"
    RESTING = "resting", "at rest"
    RELEASED = "released", "free to fill"
    FILLED = "filled", "filled"
    DISCARDED = "discarded", "poured away"


class BatchQuerySet(models.QuerySet["Batch"]):
    """Named selections of batches."""

    def being_made(self) -> Self:
        """Planned or begun, not yet at rest."""
        return self.filter(state__in=[State.PLANNED, State.MAKING])

    def resting(self) -> Self:
        """At rest, the one that is free soonest first."""
        return self.filter(state=State.RESTING).prefetch_related("waits").order_by("rests_until")

    def to_fill(self) -> Self:
        """Released and waiting for bottles."""
        return self.filter(state=State.RELEASED)

    def start(self, version: FormulaVersion, formula: CoreFormula, user: User) -> "Batch":
        """Plan a batch of ``formula``, a version scaled to a size; its copy is frozen here.

        Raises CannotReckon when the formula cannot be worked out.
        """
        result = reckon(formula)
        workshop = version.formula.workshop
        with transaction.atomic():
            last = self.filter(workshop=workshop).aggregate(models.Max("number"))["number__max"] or 0
            batch = self.create(
                workshop=workshop,
                version=version,
                number=last + 1,
                name=formula.name,
                family=formula.family,
                frozen=formula_to_dict(formula),
            )
            for i, (line, amount) in enumerate(zip(formula.lines, result.lines, strict=True)):
                row = BatchLine(
                    batch=batch,
                    position=i,
                    material=line.material.id,
                    planned_mL=amount.volume_mL,
                    planned_g=amount.mass_g,
                )
                row.amount = line.amount
                row.strength = line.counted_strength
                row.save()
            batch.write(Entry.Kind.STATE, user, text="Planned.")
        return batch


class Batch(models.Model):
    """A formula made once. ``frozen`` is its scaled copy in the format firkin-formula/1."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="batches")
    version = models.ForeignKey(FormulaVersion, on_delete=models.PROTECT, related_name="batches")
    number = models.PositiveIntegerField()
    name = models.CharField(max_length=200)
    family = models.CharField(max_length=20)
    frozen: "models.JSONField[dict[str, Any], Any]" = models.JSONField()
    state = models.CharField(max_length=10, choices=State.choices, default=State.PLANNED)
    vessel = models.ForeignKey(Vessel, null=True, blank=True, on_delete=models.SET_NULL)
    created_at = models.DateTimeField(default=timezone.now)
    made_at = models.DateTimeField(null=True, blank=True)
    rests_until = models.DateTimeField(null=True, blank=True)

    objects = BatchQuerySet.as_manager()

    class Meta:
        ordering = ("-number",)
        verbose_name_plural = "batches"
        constraints = (models.UniqueConstraint(fields=["workshop", "number"], name="one_batch_of_a_number"),)
        indexes = (models.Index(fields=["workshop", "state", "rests_until"], name="batch_by_state"),)

    def __str__(self) -> str:
        return f"{self.code} {self.name}"

    @property
    def code(self) -> str:
        """The batch number as written on labels, such as 26-014."""
        return f"{self.created_at.year % 100:02d}-{self.number:03d}"

    @property
    def keep_by(self) -> datetime | None:
        """Until when it usually keeps, counted from the day it was made."""
        return self.made_at + timedelta(days=families()[self.family].keep_days) if self.made_at else None

    def formula(self, own: tuple[Material, ...] | None = None) -> CoreFormula:
        """The frozen formula as core knows it."""
        return formula_from_dict(self.frozen, own_materials(self.workshop) if own is None else own)

    def current_wait(self) -> "Wait | None":
        """The wait that is running, if any."""
        return next((wait for wait in self.waits.all() if wait.ended_at is None), None)

    def write(self, kind: "Entry.Kind", user: User | None, **fields: Any) -> "Entry":
        """Add one entry to the journal."""
        return Entry.objects.create(batch=self, kind=kind, by=user, **fields)

    def move_to(self, state: State, user: User | None, text: str) -> None:
        """Change the state and write it down, both or neither."""
        with transaction.atomic():
            self.state = state
            self.save(update_fields=["state", "made_at", "rests_until", "vessel", "frozen"])
            self.write(Entry.Kind.STATE, user, text=text)

    def replan(self, formula: CoreFormula, stocks: dict[int, Stock]) -> None:
        """Plan again from the stocks chosen while nothing is poured: their strengths count from now on.

        Raises CannotReckon when these stocks cannot make it.
        """
        result = reckon(formula)
        with transaction.atomic():
            self.frozen = formula_to_dict(formula)
            self.save(update_fields=["frozen"])
            for row, line, amount in zip(self.lines.all(), formula.lines, result.lines, strict=True):
                row.strength = line.counted_strength
                row.planned_mL, row.planned_g = amount.volume_mL, amount.mass_g
                row.stock = stocks.get(row.position)
                row.save()

    def rest(self, hours: float, do: str, text: str, user: User | None, *, last: bool = True) -> "Wait":
        """Begin a wait; with nothing left to do after it, the batch counts as made now."""
        now = timezone.now()
        with transaction.atomic():
            wait = Wait.objects.create(
                batch=self,
                kind=wait_kind(do, text),
                started_at=now,
                hours=hours,
                free_at=now + timedelta(hours=hours),
            )
            if last:
                self.made_at = self.made_at or now
            self.rests_until = wait.free_at
            self.move_to(State.RESTING, user, f"{wait.get_kind_display()} begins.")
        return wait

    def finish_making(self, user: User | None) -> None:
        """Made, with nothing to wait for."""
        self.made_at = self.made_at or timezone.now()
        self.move_to(State.RELEASED, user, "Made; nothing to wait for.")

    def release(self, user: User | None, reason: str = "", *, unfinished: bool = False) -> None:
        """End the wait: back to making while it is unfinished. Early release needs a reason, which stays.

        Raises CannotReckon when it is early and no reason is given.
        """
        wait = self.current_wait()
        now = timezone.now()
        if wait is not None:
            if not wait.is_over(now) and not reason.strip():
                raise CannotReckon("It is not free yet. To release it early, say why; the reason stays in the record.")
            early = "" if wait.is_over(now) else f" early: {reason.strip()}"
            with transaction.atomic():
                wait.ended_at = now
                wait.early_reason = early.removeprefix(" early: ")
                wait.save()
                self.rests_until = None
                then = State.FILLED if self.fillings.exists() else State.RELEASED
                said = f"Released{early}." if not early.endswith(".") else f"Released{early}"
                self.move_to(State.MAKING if unfinished else then, user, said)


class BatchLine(StrengthColumns, AmountColumns):
    """One line of a batch: as the formula says it, and what that comes to in mL and g."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="lines")
    position = models.PositiveIntegerField()
    material = models.CharField(max_length=80)
    stock = models.ForeignKey(Stock, null=True, blank=True, on_delete=models.SET_NULL)
    planned_mL = models.FloatField()
    planned_g = models.FloatField()

    class Meta:
        ordering = ("position",)

    def __str__(self) -> str:
        return self.material


class Entry(AmountColumns):
    """One thing written in a batch's journal. Never changed; an undo is another entry."""

    class Kind(models.TextChoices):
        """What is written."""

        STATE = "state", "stage"
        POUR = "pour", "measured"
        STEP = "step", "done"
        UNDO = "undo", "taken back"
        NOTE = "note", "note"

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="entries")
    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    kind = models.CharField(max_length=6, choices=Kind.choices)
    line = models.ForeignKey(BatchLine, null=True, blank=True, on_delete=models.CASCADE, related_name="entries")
    step = models.PositiveIntegerField(null=True, blank=True)
    amount_value = models.FloatField(null=True, blank=True)  # type: ignore[assignment]
    amount_unit = models.CharField(max_length=12, blank=True)
    text = models.TextField(blank=True)
    undoes = models.OneToOneField("self", null=True, blank=True, on_delete=models.PROTECT, related_name="undone_by")
    key = models.UUIDField(default=uuid.uuid4)

    class Meta:
        ordering = ("pk",)
        verbose_name_plural = "entries"
        constraints = (models.UniqueConstraint(fields=["batch", "key"], name="one_entry_of_a_key"),)

    def __str__(self) -> str:
        return f"{self.get_kind_display()} {self.text}"

    def save(self, *args: Any, **kwargs: Any) -> None:
        """Store a new entry; an entry that stands in the journal is never written over."""
        if not self._state.adding:
            raise TypeError("Journal entries are only added; write an undo instead.")
        super().save(*args, **kwargs)


class Wait(models.Model):
    """A time a batch must rest, from when to when, and how it ended."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="waits")
    kind = models.CharField(max_length=12, choices=list(KINDS.items()))
    started_at = models.DateTimeField()
    hours = models.FloatField()
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


class Filling(models.Model):
    """Bottles filled at one time: how many of which, how far."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="fillings")
    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    vessel = models.ForeignKey(Vessel, null=True, blank=True, on_delete=models.SET_NULL)
    container = models.CharField(max_length=80)
    count = models.PositiveIntegerField()
    fill_mL = models.FloatField()
    key = models.UUIDField(default=uuid.uuid4)

    class Meta:
        ordering = ("pk",)
        constraints = (models.UniqueConstraint(fields=["batch", "key"], name="one_filling_of_a_key"),)

    def __str__(self) -> str:
        return f"{self.count} × {self.container}"

    @property
    def total_mL(self) -> float:
        """mL in all of them."""
        return self.count * self.fill_mL
