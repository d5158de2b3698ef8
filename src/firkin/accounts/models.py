"""Users, workshops, and who belongs to which."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class User(AbstractUser):
    """An account."""


class Workshop(models.Model):
    """A bench and everything on it; seen only by its members."""

    name = models.CharField(max_length=80, unique=True)
    time_zone = models.CharField(max_length=60, default="UTC")
    currency = models.CharField(max_length=3, default="EUR")
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
