"""The day it is in the workshop of the tests: for two hours before midnight another than by the machine's own clock."""

from datetime import date
from zoneinfo import ZoneInfo

from django.utils import timezone


def today() -> date:
    """Today, where the tests' workshop stands."""
    return timezone.localdate(timezone=ZoneInfo("Europe/Berlin"))
