"""Formulas and their versions. A version is never changed: every save adds one."""

from collections.abc import Iterable
from datetime import timedelta
from typing import Any
from uuid import UUID

from django.conf import settings
from django.db import models, transaction
from django.http import QueryDict
from django.utils import timezone
from django.utils.text import Truncator
from django.utils.timesince import timesince

from firkin.accounts.bounded import AMOUNT, CELSIUS, DAYS, HOURS, SHARE, Bounded, Within
from firkin.accounts.models import User, Workshop
from firkin.core import formula as core
from firkin.core.catalogue import Material, families, find
from firkin.core.measures import QS, Quantity
from firkin.shelf.fields import AmountColumns, StrengthColumns, unit_choices
from firkin.shelf.models import own_materials


def family_choices() -> list[tuple[str, str]]:
    """Every family of products."""
    return [(family.id, family.name) for family in families().values()]


class FormulaQuerySet(models.QuerySet["Formula"]):
    """Named selections of formulas."""

    def book(self) -> "FormulaQuerySet":
        """For a list of the book: everything its rows show, in a fixed number of queries."""
        return self.prefetch_related("versions__lines", "versions__steps").select_related("workshop")

    def by_family(self) -> "FormulaQuerySet":
        """In the order of the families, and by name."""
        order = {key: place for place, key in enumerate(families())}
        whens = [models.When(family=key, then=place) for key, place in order.items()]
        return self.order_by(models.Case(*whens, default=len(order), output_field=models.IntegerField()), "name")

    def in_use(self) -> "FormulaQuerySet":
        """Without those put away."""
        return self.filter(put_away_at=None)

    def made_last_first(self) -> "FormulaQuerySet":
        """What was made last comes first; what was never made comes by age."""
        return self.in_use().order_by(models.F("last_made_at").desc(nulls_last=True), "-created_at")

    def of_house(self, house: core.HouseFormula, workshop: Workshop, user: User | None) -> "FormulaVersion":
        """The workshop's copy of a house formula as it stands; copied into the book when there is none yet."""
        for kept in self.filter(workshop=workshop, name=house.formula.name).book():
            for version in kept.versions.all():
                if version.as_core() == house.formula:
                    if kept.put_away_at is not None:
                        kept.put_away(away=False)
                    return version
        return self.keep(house.formula, workshop, user, house.tags).current

    def keep(
        self, formula: core.Formula, workshop: Workshop, user: User | None, tags: Iterable[str] = (), note: str = ""
    ) -> "Formula":
        """Add a formula with its first version."""
        with transaction.atomic():
            kept = self.create(workshop=workshop, name=formula.name, family=formula.family, tags=", ".join(tags)[:200])
            kept.add_version(formula, user, note[:300])
        return kept

    def save_edited(
        self,
        kept: "Formula | None",
        formula: core.Formula,
        workshop: Workshop,
        user: User,
        head: dict[str, Any],
        key: UUID | None = None,
    ) -> "Formula":
        """Add a version to ``kept`` from the editor, or a new formula when there is none yet.

        A second press of the same page, known by its ``key``, adds nothing, unless it says something else.
        """
        with transaction.atomic():
            before = FormulaVersion.objects.filter(key=key, formula__workshop=workshop).first() if key else None
            if before is not None and before.as_core() == formula:
                return before.formula
            kept = kept or self.model(workshop=workshop)
            kept.name, kept.family, kept.tags = formula.name, formula.family, head["tags"]
            kept.save()
            taken = key is not None and FormulaVersion.objects.filter(key=key).exists()
            kept.add_version(formula, user, head["change"], key=None if taken else key)
        return kept


class Formula(Bounded):
    """A recipe under its name; what it says is in its versions."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="formulas")
    name = models.CharField(max_length=200)
    family = models.CharField(max_length=20, choices=family_choices, default="other")
    tags = models.CharField(max_length=200, blank=True, help_text="Words to find it by, with commas.")
    created_at = models.DateTimeField(auto_now_add=True)
    #: What came of it when it was last made; the batch writes it, so that no list has to look through all batches.
    last_made_at = models.DateTimeField(null=True, blank=True)
    last_verdict = models.CharField(max_length=12, blank=True)
    #: Since when it is put away: out of the book and off the Bench, and still in every record.
    put_away_at = models.DateTimeField(null=True, blank=True)

    objects = FormulaQuerySet.as_manager()

    class Meta:
        ordering = ("family", "name")

    def __str__(self) -> str:
        return self.name

    @property
    def current(self) -> "FormulaVersion":
        """The newest version."""
        if "versions" in getattr(self, "_prefetched_objects_cache", {}):
            return max(self.versions.all(), key=lambda version: version.number)
        return self.versions.order_by("-number")[0]

    def put_away(self, *, away: bool) -> None:
        """Put it away, or take it out again."""
        self.put_away_at = timezone.now() if away else None
        self.save(update_fields=["put_away_at"])

    def add_version(
        self, formula: core.Formula, user: User | None, note: str = "", key: UUID | None = None
    ) -> "FormulaVersion":
        """Add a version with its lines and steps; ``key`` is that of the page it was saved from."""
        with transaction.atomic():
            last = self.versions.aggregate(models.Max("number"))["number__max"] or 0
            version = FormulaVersion(
                formula=self,
                number=last + 1,
                created_by=user,
                note=note,
                key=key,
                basis=formula.basis,
                temperature_c=formula.temperature,
                guidelines=list(formula.guidelines),
                keep_days=formula.keep_days,
                cut_parts_water=formula.cut,
            )
            version.make, version.dose = formula.make, formula.dose
            version.dose_of, version.loads = formula.dose_of, formula.loads
            version.claim = formula.claim
            version.save()
            for position, line in enumerate(formula.lines):
                row = FormulaLine(
                    version=version,
                    position=position,
                    material=line.material.written,
                    phase=line.phase,
                    note=line.note,
                    error=line.error,
                )
                row.strength = line.strength
                row.amount = line.amount
                row.save()
            for position, step in enumerate(formula.steps):
                FormulaStep.objects.create(
                    version=version,
                    position=position,
                    do=step.do,
                    text=step.text,
                    lines=list(step.lines),
                    wait_h=step.wait_h,
                    portions=step.portions,
                    timer_h=step.timer_h,
                    temperature_c=step.temperature,
                    caution=step.caution,
                    vessel=step.vessel,
                    source=step.source,
                )
        return version


class FormulaVersion(StrengthColumns):
    """What a formula said at one time. The strength columns hold the claim, if one was made."""

    formula = models.ForeignKey(Formula, on_delete=models.CASCADE, related_name="versions")
    number = models.PositiveIntegerField()
    created_at = models.DateTimeField(auto_now_add=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    #: Who wrote it by the word of a file it was brought in with.
    said_by = models.CharField(max_length=150, blank=True)
    note = models.CharField(max_length=300, blank=True)
    #: Of the page it was saved from, so that one page pressed twice is one version.
    key = models.UUIDField(null=True, unique=True, editable=False)
    basis = models.CharField(max_length=6, choices=[("volume", "volume"), ("weight", "weight")])
    make_value = models.FloatField(null=True, blank=True, validators=[AMOUNT])
    make_unit = models.CharField(max_length=12, blank=True, choices=unit_choices)
    temperature_c = models.FloatField(default=20.0, validators=[CELSIUS])
    guidelines: "models.JSONField[list[str], Any]" = models.JSONField(default=list, blank=True)
    claim_active = models.CharField(max_length=80, blank=True)
    keep_days = models.FloatField(null=True, blank=True, validators=[DAYS])
    cut_parts_water = models.FloatField(default=0.0, validators=[AMOUNT])
    #: What one load or wash takes, and how many it is said to make; None: as usual in its family.
    dose_value = models.FloatField(null=True, blank=True, validators=[AMOUNT])
    dose_unit = models.CharField(max_length=12, blank=True, choices=unit_choices)
    dose_of = models.CharField(max_length=20, blank=True)
    loads = models.FloatField(null=True, blank=True, validators=[AMOUNT])

    class Meta:
        ordering = ("-number",)
        constraints = (models.UniqueConstraint(fields=["formula", "number"], name="one_version_of_a_number"),)

    def __str__(self) -> str:
        return f"{self.formula}, version {self.number}"

    @property
    def make(self) -> Quantity | None:
        """The finished quantity."""
        return None if self.make_value is None else Quantity(self.make_value, self.make_unit)

    @make.setter
    def make(self, make: Quantity | None) -> None:
        self.make_value = make.value if make else None
        self.make_unit = make.unit if make else ""

    @property
    def dose(self) -> Quantity | None:
        """What one load or wash takes."""
        return None if self.dose_value is None else Quantity(self.dose_value, self.dose_unit)

    @dose.setter
    def dose(self, dose: Quantity | None) -> None:
        self.dose_value = dose.value if dose else None
        self.dose_unit = dose.unit if dose else ""

    @property
    def claim(self) -> core.Claim | None:
        """What the formula is said to make."""
        return core.Claim(self.claim_active, self.strength) if self.strength and self.claim_active else None

    @claim.setter
    def claim(self, claim: core.Claim | None) -> None:
        self.claim_active = claim.active if claim else ""
        self.strength = claim.strength if claim else None

    def as_core(self, own: tuple[Material, ...] | None = None) -> core.Formula:
        """The formula as core knows it; ``own`` spares the look-up of the workshop's materials."""
        if own is None:
            own = own_materials(self.formula.workshop_id)
        return core.Formula(
            name=self.formula.name,
            lines=tuple(line.as_core(own) for line in self.lines.all()),
            family=self.formula.family,
            basis=self.basis,
            make=self.make,
            temperature=self.temperature_c,
            guidelines=tuple(self.guidelines),
            claim=self.claim,
            steps=tuple(step.as_core() for step in self.steps.all()),
            keep_days=self.keep_days,
            cut=self.cut_parts_water,
            dose=self.dose,
            dose_of=self.dose_of,
            loads=self.loads,
        )


class FormulaLine(StrengthColumns, AmountColumns):
    """One thing that goes in."""

    version = models.ForeignKey(FormulaVersion, on_delete=models.CASCADE, related_name="lines")
    position = models.PositiveIntegerField()
    material = models.CharField(max_length=80)
    phase = models.CharField(max_length=40, blank=True)
    note = models.TextField(blank=True)
    error = models.FloatField(default=0.0, validators=[SHARE])

    class Meta:
        ordering = ("position",)

    def __str__(self) -> str:
        return f"{self.material}, {self.amount.words if self.amount_unit != QS else 'top up'}"

    def as_core(self, own: tuple[Material, ...]) -> core.Line:
        """The line as core knows it."""
        return core.Line(find(self.material, own), self.amount, self.strength, self.phase, self.note, self.error)


class FormulaStep(Bounded):
    """One thing to do."""

    version = models.ForeignKey(FormulaVersion, on_delete=models.CASCADE, related_name="steps")
    position = models.PositiveIntegerField()
    do = models.CharField(max_length=40)
    text = models.TextField(blank=True)
    lines: "models.JSONField[list[int], Any]" = models.JSONField(default=list, blank=True)
    wait_h = models.FloatField(null=True, blank=True, validators=[HOURS])
    portions = models.PositiveIntegerField(default=1, validators=[Within(1, 1000)])
    timer_h = models.FloatField(null=True, blank=True, validators=[HOURS])
    temperature_c = models.FloatField(null=True, blank=True, validators=[CELSIUS])
    caution = models.CharField(max_length=300, blank=True)
    vessel = models.CharField(max_length=40, blank=True)
    source = models.CharField(max_length=40, blank=True)

    class Meta:
        ordering = ("position",)

    def __str__(self) -> str:
        return self.do

    def as_core(self) -> core.Step:
        """The step as core knows it."""
        return core.Step(
            self.do,
            self.text,
            tuple(self.lines),
            self.wait_h,
            self.portions,
            self.timer_h,
            self.temperature_c,
            self.caution,
            self.vessel,
            self.source,
        )


class Bought(AmountColumns):
    """A product from a shop that a formula stands in for: its size and price, and how many loads it is said to do."""

    formula = models.ForeignKey(Formula, on_delete=models.CASCADE, related_name="bought")
    name = models.CharField("what it is", max_length=80)
    price = models.DecimalField(max_digits=9, decimal_places=2, validators=[AMOUNT])
    loads = models.FloatField(null=True, blank=True, validators=[AMOUNT])

    class Meta:
        ordering = ("pk",)

    def __str__(self) -> str:
        return self.name


#: So much of a page as it was posted is kept aside; of a longer one nothing is.
MOST_TYPED = 400_000


class Draft(Bounded):
    """What a member typed on a page and saved nowhere yet. Nobody else sees it."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")
    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    page = models.CharField(max_length=30)
    typed = models.TextField(max_length=MOST_TYPED)
    at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = (models.UniqueConstraint(fields=("workshop", "user", "page"), name="one_draft_a_page"),)

    def __str__(self) -> str:
        return f"{self.page}: {self.words}"

    @property
    def fields(self) -> QueryDict:
        """The fields as they were posted."""
        return QueryDict(self.typed)

    @property
    def words(self) -> str:
        """Its first words, to know it by."""
        named = [name for name in self.fields.getlist("material") if name]
        said = self.fields.get("text") or self.fields.get("name") or ", ".join(named)
        return Truncator(" ".join(said.split())).chars(120)

    @property
    def since(self) -> str:
        """How long ago it was left."""
        return f"{timesince(self.at)} ago" if timezone.now() - self.at >= timedelta(minutes=1) else "just now"
