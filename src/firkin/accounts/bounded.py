"""The one rule for what is stored: every column holds what its table says it may, whoever writes it, or nothing is.

A form says it at its field, an import with its path; what comes past both is refused here, before it is stored.
"""

from typing import Any

from django.core.exceptions import ValidationError
from django.db import models
from django.utils.deconstruct import deconstructible

from firkin.core.measures import LARGEST
from firkin.core.texts import unwritable

#: The largest amount there is, in the largest unit there is, in g or mL: anything beyond is no amount of a thing.
_MOST = LARGEST * 1e5


@deconstructible
class Within:
    """A number from ``low`` to ``high``; what is no number is not within."""

    def __init__(self, low: float, high: float) -> None:
        self.low, self.high = low, high

    def __call__(self, value: float) -> None:
        if not self.low <= value <= self.high:
            raise ValidationError(f"This goes from {self.low:.15g} to {self.high:.15g}.")

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Within) and (self.low, self.high) == (other.low, other.high)

    def __hash__(self) -> int:
        return hash((self.low, self.high))


AMOUNT = Within(0.0, LARGEST)
BASE_UNITS = Within(0.0, _MOST)
SIZE = Within(1e-3, _MOST)
TAKEN = Within(-_MOST, _MOST)
PER_CENT = Within(0.0, 100.0)
SHARE = Within(0.0, 1.0)
DENSITY = Within(0.01, 30.0)
HOURS = Within(0.0, 24.0 * 366.0 * 100.0)
DAYS = Within(0.0, 366.0 * 100.0)
CELSIUS = Within(-50.0, 200.0)
COUNT = Within(0, 1_000_000)


#: Said of text that could be stored and never be written out again.
UNWRITABLE = "It holds a character that can't be stored. Type it again."


class Bounded(models.Model):
    """A row that is looked at before it is stored: lengths, choices, bounds."""

    class Meta:
        abstract = True

    def save(self, *args: Any, **options: Any) -> None:
        """Store it; raises ValidationError, and stores nothing, where a column holds what it may not."""
        self.check_columns()
        super().save(*args, **options)

    def check_columns(self) -> None:
        """Raises ValidationError with what is wrong by column; what a row refers to is the database's to check."""
        self.clean_fields(exclude=[c.name for c in self._meta.concrete_fields if c.related_model is not None])
        for column in self._meta.concrete_fields:
            value = getattr(self, column.attname)
            if isinstance(value, str | list | dict) and unwritable(value) is not None:
                raise ValidationError({column.name: UNWRITABLE})
