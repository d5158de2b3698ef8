"""Families of products: what they share."""

from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles


@dataclass(frozen=True, slots=True)
class Family:
    """A family: its name, what part and % mean in it, how many days a batch keeps."""

    id: str
    name: str
    basis: str
    keep_days: int
    source: str
    rub: bool = False


@cache
def families() -> dict[str, Family]:
    """Every family by id.

    >>> families()["foaming-soap"].keep_days
    28
    """
    return {key: Family(id=key, **row) for key, row in datafiles.toml("families.toml").items()}
