"""Cautions: what is said where the work can hurt someone."""

from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles


@dataclass(frozen=True, slots=True)
class Caution:
    """A caution: the sentence, its short form for a label, a signal word where due, and the source.

    One ``until_neutral`` holds of what goes in, and of the batch until a pH within its family's window was read.
    """

    id: str
    text: str
    source: str
    short: str = ""
    signal: str = ""
    until_neutral: bool = False


@cache
def cautions() -> dict[str, Caution]:
    """Every caution by id.

    >>> cautions()["flammable"].signal
    'Danger'
    """
    return {key: Caution(id=key, **row) for key, row in datafiles.toml("catalogue/cautions.toml").items()}
