"""Families of products: what they share."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles
from firkin.core.catalogue.materials import Material

USUAL_HEADSPACE_PCT = 5.0  # common practice, no source
#: What a bottle may have on top.
TOPS = {"cap": "a cap or lid", "pump": "a pump", "spray": "a spray", "foaming": "a foaming pump"}


@dataclass(frozen=True, slots=True)
class Family:
    """A family: its name, what part and % mean in it, how many days a batch keeps, what bottles it goes into."""

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
    tops: tuple[str, ...] = ("cap", "pump", "spray")
    headspace_pct: float = USUAL_HEADSPACE_PCT


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


def suits(family: str, top: str) -> bool:
    """True when a bottle with this top will do for a family; what is not said of a bottle is taken to do.

    >>> suits("foaming-soap", "foaming"), suits("dish-liquid", "foaming"), suits("dish-liquid", "")
    (True, False, True)
    """
    return not top or top in families()[family].tops


def family_of(materials: Iterable[Material]) -> str:
    """The family a mix most likely belongs to, by what is in it.

    >>> from firkin.core.catalogue.materials import find
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
    found = {}
    for key, row in datafiles.toml("catalogue/families.toml").items():
        listed = {name: tuple(value) for name, value in row.items() if isinstance(value, list)}
        found[key] = Family(id=key, **{**row, **listed})
    return found
