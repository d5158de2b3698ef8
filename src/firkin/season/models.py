"""What a season is planned from: habits, products with their needs; and the plans that were made of it."""

from datetime import date, timedelta
from typing import Any

from django.db import models
from django.utils import timezone

from firkin.accounts.bounded import AMOUNT, BASE_UNITS, SIZE, Bounded, Within
from firkin.accounts.models import User, Workshop
from firkin.batches.models import Batch
from firkin.core.season import WEEKDAYS
from firkin.formulas.models import Formula
from firkin.shelf.models import Vessel

MINUTES = Within(1.0, 1440.0)


def usual_days() -> list[str]:
    """The evenings of a week where nobody has said any."""
    return ["thu", "sat"]


class Habits(Bounded):
    """When the maker has time, how far ahead is planned, and how sure it is to be."""

    workshop = models.OneToOneField(Workshop, on_delete=models.CASCADE, related_name="habits")
    open_days: "models.JSONField[list[str], list[str]]" = models.JSONField(default=usual_days)
    minutes = models.FloatField("minutes an evening", default=90.0, validators=[MINUTES])
    weeks = models.PositiveIntegerField("weeks ahead", default=8, validators=[Within(1, 52)])
    #: Days the maker keeps free, as text of dates.
    closed: "models.JSONField[list[str], list[str]]" = models.JSONField(default=list, blank=True)
    delivery_days = models.PositiveIntegerField("days until an order comes", default=3, validators=[Within(0, 90)])
    #: One week in so many it may run dry.
    service = models.PositiveIntegerField(default=20, validators=[Within(2, 100)])

    class Meta:
        verbose_name_plural = "habits"

    def __str__(self) -> str:
        return f"Evenings of {self.workshop}"

    def is_open(self, day: date) -> bool:
        """True for a day with an evening at the bench."""
        return WEEKDAYS[day.weekday()] in self.open_days and day.isoformat() not in self.closed


class Product(Bounded):
    """A formula that is made for somebody: least and most of a batch, minutes it takes, where it may stand."""

    formula = models.OneToOneField(Formula, on_delete=models.CASCADE, related_name="product")
    least_mL = models.FloatField(validators=[SIZE])
    most_mL = models.FloatField(validators=[SIZE])
    #: Minutes at the bench; None: as its batches have taken so far.
    minutes = models.FloatField(null=True, blank=True, validators=[MINUTES])

    class Meta:
        ordering = ("formula__name", "pk")

    def __str__(self) -> str:
        return self.formula.name

    @property
    def vessels(self) -> list[Vessel]:
        """Where it may stand, as its maker chose."""
        return [row.vessel for row in self.stands_in.all()]


class StandsIn(Bounded):
    """One vessel that a product may stand in."""

    product = models.ForeignKey(Product, on_delete=models.CASCADE, related_name="stands_in")
    vessel = models.ForeignKey(Vessel, on_delete=models.CASCADE, related_name="products")

    class Meta:
        constraints = (models.UniqueConstraint(fields=["product", "vessel"], name="one_of_a_vessel"),)

    def __str__(self) -> str:
        return f"{self.product} in {self.vessel}"


class Need(Bounded):
    """Who needs how much of a product: every so many days, on a day, or as it has been used."""

    class Kind(models.TextChoices):
        """How it comes."""

        EVERY = "every", "again and again"
        ONCE = "once", "once"
        USED = "used", "as it has been used"

    product = models.ForeignKey(Product, on_delete=models.CASCADE, related_name="needs")
    who = models.CharField(max_length=80, blank=True)
    kind = models.CharField(max_length=5, choices=Kind.choices, default=Kind.EVERY)
    #: mL each time, and for how many: ten boats of 100 mL.
    mL = models.FloatField(default=0.0, validators=[BASE_UNITS])
    times = models.PositiveIntegerField(default=1, validators=[Within(1, 10_000)])
    every_days = models.PositiveIntegerField(null=True, blank=True, validators=[Within(1, 366)])
    on = models.DateField(null=True, blank=True)

    class Meta:
        ordering = ("product__formula__name", "on", "pk")

    def __str__(self) -> str:
        return f"{self.product} for {self.who}"

    @property
    def all_mL(self) -> float:
        """mL each time, of all together."""
        return self.mL * self.times


class PlanQuerySet(models.QuerySet["Plan"]):
    """Named selections of plans."""

    def newest_of(self, workshop: Workshop) -> "Plan | None":
        """The plan that stands: the last one that came out and was not undone."""
        return self.filter(workshop=workshop, state=Plan.State.DONE, undone=False).order_by("-pk").first()


class Plan(Bounded):
    """A plan as it was asked for and came out, in firkin-season/1 and firkin-plan/1; the ids are names on the shelf."""

    class State(models.TextChoices):
        """How far it is."""

        WORKING = "working", "being worked out"
        DONE = "done", "done"
        STOPPED = "stopped", "stopped"
        FAILED = "failed", "failed"

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="plans")
    at = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    state = models.CharField(max_length=8, choices=State.choices, default=State.WORKING)
    #: Why it was made, in a few words: "Landing rub moved to 5 December".
    why = models.CharField(max_length=200, blank=True)
    telling = models.CharField(max_length=120, blank=True)
    asked: "models.JSONField[dict[str, Any], dict[str, Any]]" = models.JSONField()
    planned: "models.JSONField[dict[str, Any] | None, dict[str, Any] | None]" = models.JSONField(null=True, blank=True)
    pid = models.PositiveIntegerField(default=0)
    undone = models.BooleanField(default=False)

    objects = PlanQuerySet.as_manager()

    class Meta:
        ordering = ("-pk",)

    def __str__(self) -> str:
        return f"Plan of {self.at:%Y-%m-%d}"

    @property
    def begins(self) -> date:
        """Its first day."""
        return date.fromisoformat(self.asked["from"])

    @property
    def ends(self) -> date:
        """Its last day."""
        return self.begins + timedelta(days=self.asked["days"] - 1)

    @property
    def pinned(self) -> list[dict[str, Any]]:
        """The batches that its maker put where they are."""
        rows: list[dict[str, Any]] = self.asked.get("pinned", [])
        return rows


class Started(Bounded):
    """A batch of a plan that became a real one."""

    plan = models.ForeignKey(Plan, on_delete=models.CASCADE, related_name="started")
    place = models.PositiveIntegerField()
    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="planned_as")

    class Meta:
        constraints = (models.UniqueConstraint(fields=["plan", "place"], name="started_once"),)

    def __str__(self) -> str:
        return f"{self.batch}"


class Bagged(Bounded):
    """A line of a plan's shopping that was bought: it is on the shelf since."""

    plan = models.ForeignKey(Plan, on_delete=models.CASCADE, related_name="bagged")
    place = models.PositiveIntegerField()
    at = models.DateTimeField(default=timezone.now)
    price = models.DecimalField(max_digits=9, decimal_places=2, null=True, blank=True, validators=[AMOUNT])

    class Meta:
        constraints = (models.UniqueConstraint(fields=["plan", "place"], name="bagged_once"),)

    def __str__(self) -> str:
        return f"{self.plan}, line {self.place}"
