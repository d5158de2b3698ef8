"""Quantities and strengths as columns: numbers with units, never text alone."""

from django.db import models

from firkin.accounts.bounded import AMOUNT, PER_CENT, Bounded
from firkin.core.measures import BASES, QS, Quantity, Strength, units


def unit_choices() -> list[tuple[str, str]]:
    """Every unit of an amount."""
    return [(QS, "top up"), *((unit.id, unit.label) for unit in units().values())]


def basis_choices() -> list[tuple[str, str]]:
    """Every basis of a strength."""
    return [(basis, f"% {basis}") for basis in BASES]


class StrengthColumns(Bounded):
    """A strength: nominal, ends of its range, basis. All empty when there is none."""

    strength_value = models.FloatField(null=True, blank=True, validators=[PER_CENT])
    strength_low = models.FloatField(null=True, blank=True, validators=[PER_CENT])
    strength_high = models.FloatField(null=True, blank=True, validators=[PER_CENT])
    strength_basis = models.CharField(max_length=3, blank=True, choices=basis_choices)

    class Meta:
        abstract = True

    @property
    def strength(self) -> Strength | None:
        """The strength as core knows it."""
        if self.strength_value is None or self.strength_low is None or self.strength_high is None:
            return None
        return Strength(self.strength_value, self.strength_low, self.strength_high, self.strength_basis)

    @strength.setter
    def strength(self, strength: Strength | None) -> None:
        self.strength_value = strength.value if strength else None
        self.strength_low = strength.low if strength else None
        self.strength_high = strength.high if strength else None
        self.strength_basis = strength.basis if strength else ""


class AmountColumns(Bounded):
    """An amount: a number and its unit."""

    amount_value = models.FloatField(validators=[AMOUNT])
    amount_unit = models.CharField(max_length=12, choices=unit_choices)

    class Meta:
        abstract = True

    @property
    def amount(self) -> Quantity:
        """The amount as core knows it."""
        return Quantity(self.amount_value, self.amount_unit)

    @amount.setter
    def amount(self, amount: Quantity) -> None:
        self.amount_value = amount.value
        self.amount_unit = amount.unit
