"""Families of products: what they share."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles
from firkin.core.catalogue import Material


@dataclass(frozen=True, slots=True)
class Family:
    """A family: its name, what part and % mean in it, how many days a batch keeps."""

    id: str
    name: str
    basis: str
    keep_days: int
    source: str
    rub: bool = False
    ph: tuple[float, ...] = ()
    ph_low: str = ""
    ph_high: str = ""
    recheck: str = ""


#: What tells a family, the first that holds: roles or ids that are there, and ids that are not.
_SIGNS: tuple[tuple[str, frozenset[str]], ...] = (
    ("ferment", frozenset({"sugar", "peel"})),
    ("gel", frozenset({"alcohol", "thickener"})),
    ("aloe-rub", frozenset({"alcohol", "aloe-gel"})),
    ("liquid-rub", frozenset({"alcohol"})),
    ("dish-liquid", frozenset({"surfactant"})),
    ("laundry-soap", frozenset({"bar-soap", "carbonate"})),
    ("laundry-soap", frozenset({"bar-soap", "borax"})),
    ("liquid-soap", frozenset({"bar-soap"})),
    ("foaming-soap", frozenset({"castile-soap", "water"})),
    ("liquid-soap", frozenset({"castile-soap"})),
    ("dishwasher-powder", frozenset({"carbonate", "builder", "acid"})),
    ("surface", frozenset({"chlorine"})),
    ("surface", frozenset({"hydrogen-peroxide"})),
)


def family_of(materials: Iterable[Material]) -> str:
    """The family a mix most likely belongs to, by what is in it.

    >>> from firkin.core.catalogue import find
    >>> family_of([find("isopropanol"), find("aloe-gel")]), family_of([find("pond water")])
    ('aloe-rub', 'other')
    """
    there: set[str] = set()
    for material in materials:
        there |= {material.id, *material.roles}
    return next((family for family, signs in _SIGNS if signs <= there), "other")


@cache
def families() -> dict[str, Family]:
    """Every family by id.

    >>> families()["foaming-soap"].keep_days
    28
    """
    return {
        key: Family(id=key, **{**row, "ph": tuple(row.get("ph", ()))})
        for key, row in datafiles.toml("families.toml").items()
    }
