"""Batches: a formula made once, its lines, and the stages it goes through."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any, Self

from django.db import models, transaction
from django.utils import timezone

from firkin.accounts.bounded import BASE_UNITS, Bounded, Within
from firkin.accounts.models import User, Workshop
from firkin.batches.models.journal import Entry, Filling
from firkin.batches.models.waits import Due, Wait
from firkin.core.bench import (
    DAY_H,
    DREGS_ML,
    DueThing,
    EntryKind,
    Planned,
    Progress,
    after_making,
    keeps_of,
    while_waiting,
)
from firkin.core.catalogue import Material, Verdict
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula as CoreFormula
from firkin.core.formula import as_ferment, formula_from_dict, formula_to_dict, reckon, with_steps
from firkin.core.measures import amount_words, wait_kind
from firkin.core.texts import uncapped
from firkin.formulas.models import FormulaVersion
from firkin.shelf.fields import AmountColumns, StrengthColumns
from firkin.shelf.models import Stock, Vessel, own_materials

#: So long after a rest began bottles are filled as it begins, h: that is how long filling takes.
FILLING_H = 1.0


class State(models.TextChoices):
    """Where a batch stands, in the order it goes through."""

    PLANNED = "planned", "planned"
    MAKING = "making", "being made"
    RESTING = "resting", "at rest"
    RELEASED = "released", "free to fill"
    FILLED = "filled", "filled"
    USED = "used", "used up"
    DISCARDED = "discarded", "poured away"


class BatchQuerySet(models.QuerySet["Batch"]):
    """Named selections of batches."""

    def being_made(self) -> Self:
        """Planned or begun, not yet at rest."""
        return self.filter(state__in=[State.PLANNED, State.MAKING]).order_by("state", "-number")

    def resting(self) -> Self:
        """At rest, the one that is free soonest first."""
        return self.filter(state=State.RESTING).prefetch_related("waits").order_by("rests_until")

    def of_formula(self, formula: int) -> Self:
        """Batches of one formula, whatever its version."""
        return self.filter(version__formula=formula)

    def to_fill(self) -> Self:
        """Released and waiting for bottles; also one with some left that is in none yet."""
        volume = models.F("fillings__count") * models.F("fillings__fill_mL")
        stands = models.Q(fillings__taken_back_at=None)
        filled = models.functions.Coalesce(models.Sum(volume, filter=stands), 0.0, output_field=models.FloatField())
        left = models.F("comes_to_mL") - models.F("filled_mL")
        there = self.filter(state__in=[State.RELEASED, State.FILLED]).annotate(filled_mL=filled, left_mL=left)
        some = models.Q(state=State.RELEASED) | models.Q(left_mL__gt=DREGS_ML)
        return there.filter(some).order_by("-state", "-number")

    def whole(self) -> Self:
        """With everything a batch's progress is worked out from, in a fixed number of queries."""
        lines = models.Prefetch("lines", BatchLine.objects.select_related("stock"))
        return self.select_related("version__formula", "vessel").prefetch_related(lines, "entries", "fillings", "waits")

    def start(self, version: FormulaVersion, formula: CoreFormula, user: User, kitchen: str = "") -> "Batch":
        """Plan a batch of ``formula``, a version scaled to a size; its copy, with the usual steps, is frozen here.

        ``kitchen`` is the one its sheet was looked at with; preparing may choose another.

        Raises CannotReckon when the formula cannot be worked out.
        """
        formula = with_steps(as_ferment(formula))
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
                kitchen=kitchen,
            )
            for i, (line, amount) in enumerate(zip(formula.lines, result.lines, strict=True)):
                row = BatchLine(
                    batch=batch,
                    position=i,
                    material=line.material.written,
                    planned_mL=amount.volume_mL,
                    planned_g=amount.mass_g,
                )
                row.amount = line.amount
                row.strength = line.counted_strength
                row.save()
            batch.write(EntryKind.STATE, user, text="Planned.")
        return batch


class Batch(Bounded):
    """A formula made once. ``frozen`` is its scaled copy in the format firkin-formula/1."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="batches")
    version = models.ForeignKey(FormulaVersion, on_delete=models.PROTECT, related_name="batches")
    number = models.PositiveIntegerField()
    name = models.CharField(max_length=200)
    family = models.CharField(max_length=20)
    frozen: "models.JSONField[dict[str, Any], Any]" = models.JSONField()
    state = models.CharField(max_length=10, choices=State.choices, default=State.PLANNED)
    vessel = models.ForeignKey(Vessel, null=True, blank=True, on_delete=models.SET_NULL)
    #: With whose measures it is made, one of shelf.models.kitchens_of; empty for exact amounts.
    kitchen = models.CharField(max_length=20, blank=True)
    #: What its fixes work towards, one of core.mending.AIMS; empty: what it promises, where it promises anything.
    aim = models.CharField(max_length=10, blank=True)
    created_at = models.DateTimeField(default=timezone.now)
    made_at = models.DateTimeField(null=True, blank=True)
    rests_until = models.DateTimeField(null=True, blank=True)
    #: What came of it, written when it is made: the strength it is judged by, and the worst verdict.
    strength_pct = models.FloatField(null=True, blank=True, validators=[Within(0.0, 1000.0)])
    strength_of = models.CharField(max_length=80, blank=True)
    verdict = models.CharField(max_length=12, blank=True)
    #: mL that go into bottles in all, as last worked out; None before it is made.
    comes_to_mL = models.FloatField(null=True, blank=True, validators=[BASE_UNITS])
    #: Since when it counts as bad, and why: it prints no label, and every page that names it says so.
    bad_since = models.DateTimeField(null=True, blank=True)
    bad_why = models.CharField(max_length=300, blank=True)

    objects = BatchQuerySet.as_manager()

    class Meta:
        ordering = ("-number",)
        verbose_name_plural = "batches"
        constraints = (models.UniqueConstraint(fields=["workshop", "number"], name="one_batch_of_a_number"),)
        indexes = (
            models.Index(fields=["workshop", "state", "rests_until"], name="batch_by_state"),
            models.Index(fields=["workshop", "state", "-number"], name="batch_newest_of_state"),
            models.Index(fields=["workshop", "-strength_pct", "-number"], name="batch_strongest_first"),
        )

    def __str__(self) -> str:
        return f"{self.code} {self.name}"

    @property
    def code(self) -> str:
        """The batch number as written on labels, such as 26-014."""
        return f"{self.created_at.year % 100:02d}-{self.number:03d}"

    @property
    def keep_by(self) -> datetime | None:
        """Until when it usually keeps by what is in it, counted from the day it was made."""
        if self.made_at is None:
            return None
        return self.made_at + timedelta(days=keeps_of(self.progress()))

    @property
    def cut(self) -> float:
        """Parts of water to one of the batch while bottling."""
        return float(self.frozen.get("cut_parts_water", 0.0))

    def formula(self, own: tuple[Material, ...] | None = None) -> CoreFormula:
        """The frozen formula as core knows it."""
        return formula_from_dict(self.frozen, own_materials(self.workshop_id) if own is None else own)

    def progress(
        self,
        lines: "Sequence[BatchLine] | None" = None,
        own: tuple[Material, ...] | None = None,
        entries: Sequence[Entry] | None = None,
    ) -> Progress:
        """How far it is, worked out from its entries; the arguments spare the look-up of what is there."""
        rows = list(self.lines.all()) if lines is None else lines
        positions = {row.pk: row.position for row in rows}
        formula = self.formula(own)
        plan = [row.as_planned(formula) for row in rows]
        there = self.entries.all() if entries is None else entries
        return Progress(formula, plan, [entry.as_core(positions) for entry in there])

    @property
    def begun(self) -> datetime:
        """From when its days are counted: when it was made, or else planned."""
        return self.made_at or self.created_at

    @property
    def day(self) -> int:
        """Which day of its life it is in: 0 on the day it was made."""
        return (timezone.now() - self.begun).days

    def current_wait(self) -> "Wait | None":
        """The wait that is running, if any."""
        return next((wait for wait in self.waits.all() if wait.ended_at is None), None)

    def hours_left(self) -> float | None:
        """Hours left of the wait that is running; None when none is."""
        wait = self.current_wait()
        return None if wait is None else max(0.0, (wait.free_at - timezone.now()).total_seconds() / 3600)

    def plan_dues(self, things: Iterable[DueThing], begun: datetime) -> None:
        """Write down what comes due, once of each kind and hour."""
        waiting = {(due.kind, due.at) for due in self.dues.filter(answered_at=None)}
        for thing in things:
            at = begun + timedelta(hours=thing.after_h)
            if (thing.kind, at) not in waiting:
                Due.objects.create(batch=self, kind=thing.kind, at=at, text=thing.text)

    def conclude(self, progress: Progress) -> None:
        """Write down what came of it, and what comes due now that it is made."""
        result = progress.result
        active = result.main
        self.comes_to_mL = max(0.0, progress.to_fill_mL - progress.gone_mL)
        self.strength_pct = active.lower if active else None
        self.strength_of = f"{active.basis} {uncapped(active.name)}" if active else ""
        self.verdict = Verdict.worst(standing.verdict for standing in result.verdicts) or ""
        self.save(update_fields=["strength_pct", "strength_of", "verdict", "comes_to_mL"])
        formula = self.version.formula
        if self.made_at and (formula.last_made_at is None or self.made_at >= formula.last_made_at):
            formula.last_made_at, formula.last_verdict = self.made_at, self.verdict
            formula.save(update_fields=["last_made_at", "last_verdict"])
        made, free = self.made_at or timezone.now(), self.rests_until
        things = after_making(result.formula, 24.0 * keeps_of(progress))
        looks = [thing for thing in things if thing.kind == "recheck"]
        self.plan_dues([thing for thing in things if thing.kind != "recheck"], made)
        self.plan_dues(looks, free or made)  # at rest it is closed: it is looked at once it is free

    def take_back(self, filling: Filling, user: User | None) -> None:
        """Bottles poured back: the filling stays in the record, and counts no more."""
        with transaction.atomic():
            filling.taken_back_at = timezone.now()
            filling.save(update_fields=["taken_back_at"])
            left = State.FILLED if self.fillings.exists() else State.RELEASED
            then = left if self.state == State.FILLED else State(self.state)
            text = f"Undone: {filling.count} × {filling.container}, {amount_words(filling.fill_mL)} each."
            self.move_to(then, user, text)

    def end(self, state: State, user: User | None, text: str, now: datetime | None = None) -> None:
        """Used up or poured away: nothing of it waits or comes due any more."""
        now = now or timezone.now()
        with transaction.atomic():
            was = self.before(now)
            self.waits.filter(ended_at=None).update(ended_at=now, early_reason=text[:300])
            self.dues.filter(answered_at=None).update(answered_at=now, answer=text[:300])
            self.rests_until = None
            self.move_to(state, user, text, was)

    def pour_away(self, user: User | None, text: str, now: datetime | None = None) -> None:
        """Poured away: the end of it."""
        self.end(State.DISCARDED, user, text, now)

    def mark_bad(self, why: str, user: User | None) -> None:
        """It counts as bad from now on: no labels, and every page that names it says so."""
        with transaction.atomic():
            self.bad_since, self.bad_why = timezone.now(), why[:300]
            self.save(update_fields=["bad_since", "bad_why"])
            self.write(EntryKind.NOTE, user, text=f"Marked as bad: {why}"[:400])

    def mark_good(self, user: User | None) -> None:
        """It no longer counts as bad; the record keeps that it did."""
        with transaction.atomic():
            self.bad_since, self.bad_why = None, ""
            self.save(update_fields=["bad_since", "bad_why"])
            self.write(EntryKind.NOTE, user, text="No longer marked as bad.")

    def before(self, at: datetime, *, formula: bool = False) -> dict[str, object]:
        """What it is before a press at an hour, kept with that press's entry: it can be put back (batches/undoing).

        ``formula`` says that the press changes what is made as well.
        """
        was: dict[str, object] = {
            "state": self.state,
            "rests_until": self.rests_until.isoformat() if self.rests_until else None,
            "made_at": self.made_at.isoformat() if self.made_at else None,
            "at": at.isoformat(),
            "dues": [[due.kind, due.at.isoformat()] for due in self.dues.filter(answered_at=None)],
        }
        if formula:
            was |= {"frozen": self.frozen, "lines": self.lines.count()}
        return {"undo": was}

    def amend(
        self, formula: CoreFormula, user: User | None, text: str, stocks: Mapping[int, Stock] | None = None
    ) -> None:
        """Go on making with lines and steps more: a rescue. What stood before stays as it was.

        The lines a batch has keep their places; the new ones come after them, out of the bottles ``stocks`` names.
        """
        now = timezone.now()
        with transaction.atomic():
            was = self.before(now, formula=True)
            self.waits.filter(ended_at=None).update(ended_at=now, early_reason=text[:300])
            self.rests_until = None
            if self.state != State.MAKING or text:
                self.freeze(formula, stocks)
                self.move_to(State.MAKING, user, text, was)
            else:
                self.freeze(formula, stocks)
                self.save(update_fields=["rests_until"])

    def freeze(self, formula: CoreFormula, stocks: Mapping[int, Stock] | None = None) -> None:
        """Make this formula from now on: lines that are there keep their place, more come behind them, others go."""
        result = reckon(formula)
        rows = list(self.lines.all())
        self.frozen = formula_to_dict(formula)
        self.save(update_fields=["frozen"])
        for row in rows[len(formula.lines) :]:
            row.delete()
        for i, (line, amount) in enumerate(zip(formula.lines, result.lines, strict=True)):
            row = rows[i] if i < len(rows) else BatchLine(batch=self, position=i, material=line.material.written)
            row.planned_mL, row.planned_g = amount.volume_mL, amount.mass_g
            row.strength = line.counted_strength
            if i >= len(rows):
                row.amount, row.stock = line.amount, (stocks or {}).get(i)
            row.save()

    def write(self, kind: EntryKind, user: User | None, **fields: Any) -> "Entry":
        """Add one entry to the journal."""
        return Entry.objects.create(batch=self, kind=kind, by=user, **fields)

    def move_to(self, state: State, user: User | None, text: str, data: dict[str, object] | None = None) -> None:
        """Change the state and write it down, both or neither."""
        with transaction.atomic():
            self.state = state
            self.save(update_fields=["state", "made_at", "rests_until", "vessel", "kitchen", "aim", "frozen"])
            self.write(EntryKind.STATE, user, text=text, data=data or {})

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
            was = self.before(now)
            self.plan_dues(while_waiting(wait.kind), now)
            if last:
                self.made_at = self.made_at or now
            self.rests_until = wait.free_at
            self.move_to(State.RESTING, user, f"{wait.get_kind_display()} begins.", was)
        return wait

    def rest_from_filling(self) -> bool:
        """A quarantine counts from filling, since bottles bring spores of their own (WHO, Guide to Local Production).

        True where that is later than it was to end, by more than filling takes.
        """
        wait, now = self.current_wait(), timezone.now()
        if wait is None or wait.kind != "quarantine" or wait.is_over(now):
            return False
        free_at = now + timedelta(hours=wait.hours)
        later = free_at - wait.free_at
        if later <= timedelta(hours=FILLING_H):
            return False
        self.dues.filter(answered_at=None, kind="recheck").update(at=models.F("at") + later)
        wait.free_at = self.rests_until = free_at
        wait.save(update_fields=["free_at"])
        return True

    def finish_making(self, user: User | None) -> None:
        """Made, with nothing to wait for."""
        now = timezone.now()
        was = self.before(now)
        self.made_at = self.made_at or now
        then = State.FILLED if self.fillings.exists() else State.RELEASED
        self.move_to(then, user, "Made; nothing to wait for.", was)

    def release(self, user: User | None, reason: str = "", *, unfinished: bool = False) -> None:
        """End the wait: back to making while it is unfinished. Early release needs a reason, which stays.

        Raises CannotReckon when it is early and no reason is given.
        """
        wait = self.current_wait()
        now = timezone.now()
        if wait is not None:
            if not wait.is_over(now) and not reason.strip():
                raise CannotReckon("It is not ready yet. To use it early, say why; the reason stays in the record.")
            early = "" if wait.is_over(now) else f" early: {reason.strip()}"
            with transaction.atomic():
                was = self.before(now)
                wait.ended_at = now
                wait.early_reason = early.removeprefix(" early: ")
                wait.save()
                self.rests_until = None
                self.dues.filter(answered_at=None, kind="vent").update(answered_at=now, answer="The wait is over.")
                if early:
                    looks = self.dues.filter(answered_at=None, kind="recheck", at__gt=now)
                    looks.update(at=now + timedelta(hours=DAY_H))
                then = State.FILLED if self.fillings.exists() else State.RELEASED
                said = f"Ready{early}." if not early.endswith(".") else f"Ready{early}"
                self.move_to(State.MAKING if unfinished else then, user, said, was)


class BatchLine(StrengthColumns, AmountColumns):
    """One line of a batch: as the formula says it, and what that comes to in mL and g."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="lines")
    position = models.PositiveIntegerField()
    material = models.CharField(max_length=80)
    stock = models.ForeignKey(Stock, null=True, blank=True, on_delete=models.SET_NULL)
    planned_mL = models.FloatField(validators=[BASE_UNITS])
    planned_g = models.FloatField(validators=[BASE_UNITS])

    class Meta:
        ordering = ("position",)

    def __str__(self) -> str:
        return self.material

    def as_planned(self, formula: CoreFormula) -> Planned:
        """What is planned for it in its batch's formula, as core knows it."""
        material = formula.lines[self.position].material
        strength = self.strength or material.usual_strength
        weighed = formula.by_weight(self.position) or material.solid_at(strength)
        bulk = material.bulk_at(strength)
        if bulk is not None and self.stock is not None and self.stock.bulk is not None:
            bulk = self.stock.bulk
        return Planned(self.planned_mL, self.planned_g, self.strength, weighed, bulk)
