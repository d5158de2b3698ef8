"""Users, workshops, and who belongs to which."""

from django.contrib.auth.models import AbstractUser
from django.db import models

from firkin.core.bench import kitchens
from firkin.core.recipe import measures

#: How a workshop writes decimals.
MARKS = [("", "1.5 (1,500: asked)"), (".", "1.5 (1,500 is 1500)"), (",", "1,5")]


def household_choices() -> list[tuple[str, str]]:
    """Whose measures there are."""
    return list(measures().items())


def kitchen_choices() -> list[tuple[str, str]]:
    """What may be measured with: exactly, with the maker's own tools, or as a usual kitchen does."""
    usual = [(kitchen.id, kitchen.name) for kitchen in kitchens().values()]
    return [("", "exact amounts"), ("own", "my measures"), ("own-scale", "my scale"), *usual]


class User(AbstractUser):
    """An account."""


class Workshop(models.Model):
    """A bench and everything on it; seen only by its members."""

    name = models.CharField(max_length=80, unique=True)
    time_zone = models.CharField(max_length=60, default="UTC")
    currency = models.CharField(max_length=3, default="EUR")
    #: Whose cups, spoons, ounces and gallons are meant where nothing says it.
    household = models.CharField(max_length=20, default="us", choices=household_choices)
    #: What the bench measures with unless another is chosen: a kitchen's id; empty for exact amounts.
    kitchen = models.CharField(max_length=20, blank=True, choices=kitchen_choices)
    decimal_mark = models.CharField(max_length=1, blank=True, choices=MARKS)
    #: How much a capful, a scoop and the like of this bench is, in mL or g, by the unit's id.
    own_sizes: "models.JSONField[dict[str, float], dict[str, float]]" = models.JSONField(default=dict, blank=True)
    members = models.ManyToManyField(User, through="Membership", related_name="workshops")

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    """One person in one workshop."""

    user = models.ForeignKey(User, on_delete=models.CASCADE)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE)

    class Meta:
        constraints = (models.UniqueConstraint(fields=["user", "workshop"], name="one_membership_each"),)

    def __str__(self) -> str:
        return f"{self.user} in {self.workshop}"


class Press(models.Model):
    """A button of a page that was pressed: the page's key, and where it led."""

    key = models.UUIDField(unique=True)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE)
    address = models.CharField(max_length=500, blank=True)
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"{self.key} led to {self.address or 'nowhere yet'}"
