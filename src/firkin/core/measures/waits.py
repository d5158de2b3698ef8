"""Waits: how long a batch must rest, read from text and written in words."""

import re

from firkin.core.errors import CannotRead
from firkin.core.measures.numerals import plain_figures, read_number
from firkin.core.texts import quoted

_HOURS = {
    "min": 1 / 60,
    "minute": 1 / 60,
    "h": 1.0,
    "hr": 1.0,
    "hour": 1.0,
    "d": 24.0,
    "day": 24.0,
    "week": 168.0,
}

#: Quarantine after filling, WHO Guide to Local Production: 72 hours.
QUARANTINE_H = 72.0

WAIT_KINDS = {
    "quarantine": "Quarantine",
    "hydrate": "Hydrate",
    "set": "Set overnight",
    "ferment": "Ferment",
    "rest": "Rest",
}


def read_hours(text: str) -> float:
    """Read a wait in hours: "72 h", "3 days", "30 min", "12 weeks".

    Args:
        text: a time with its unit.

    Raises:
        CannotRead: for what is no time, or no wait between nothing and five years.

    >>> read_hours("72 h"), read_hours("3 days"), read_hours("30 min")
    (72.0, 72.0, 0.5)
    """
    match = re.fullmatch(r"\s*([^a-zA-Z]+?)\s*([a-zA-Z]+?)s?\.?\s*", text)
    factor = _HOURS.get(match[2].lower()) if match else None
    if match is None or factor is None:
        raise CannotRead(f"{quoted(text)} is not a time. Write one such as 72 h, 3 days or 30 min.")
    hours = read_number(match[1]) * factor
    if not 0 < hours <= 24 * 366 * 5:
        raise CannotRead(f"{text.strip()[:30]}: a wait must be more than nothing and less than five years.")
    return hours


def hours_words(hours: float) -> str:
    """A wait in words.

    Args:
        hours: a time in hours.

    >>> [hours_words(h) for h in (0.0125, 0.5, 12, 72, 24 * 90)]
    ['45 s', '30 min', '12 h', '72 h', '90 days']
    """
    if hours < 1 / 60:
        return f"{round(hours * 3600)} s"
    if hours < 1:
        return f"{plain_figures(hours * 60)} min"
    if hours <= 96:
        return f"{plain_figures(hours)} h"
    return f"{plain_figures(hours / 24)} days"


def wait_kind(do: str, text: str) -> str:
    """Which of WAIT_KINDS a step's wait is, from what the step does and says.

    Args:
        do: what the step does, in one word.
        text: its words.

    >>> wait_kind("wait", "Leave the closed bottles in quarantine"), wait_kind("rest", "")
    ('quarantine', 'rest')
    """
    words = f"{do} {text}".lower()
    for kind in WAIT_KINDS:
        if kind in words:
            return kind
    return "set" if "overnight" in words else "rest"
