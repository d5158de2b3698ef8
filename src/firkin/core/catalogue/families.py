"""Families of products: what they share."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache
from typing import Any

from firkin.core import datafiles
from firkin.core.catalogue.materials import Material

USUAL_HEADSPACE_PCT = 5.0  # common practice, no source
#: What a vessel may be made of.
MADE_OF = {"plastic": "plastic", "glass": "glass", "steel": "stainless steel", "aluminium": "aluminium"}
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
    preserved_days: int | None = None
    rub: bool = False
    for_skin: bool = False
    ph: tuple[float, ...] = ()
    ph_low: str = ""
    ph_high: str = ""
    recheck: str = ""
    line: str = ""
    line_by_active: tuple[tuple[str, str], ...] = ()
    watery: bool = False
    cautions: tuple[str, ...] = ()
    signs: tuple[dict[str, Any], ...] = ()
    tops: tuple[str, ...] = ("cap", "pump", "spray")
    headspace_pct: float = USUAL_HEADSPACE_PCT
    troubles: tuple[str, ...] = ()
    looks: tuple[str, ...] = ()
    prepare: tuple[str, ...] = ()
    label_words: tuple[str, ...] = ()
    usual_drifts: tuple[str, ...] = ()
    use: tuple[str, ...] = ()
    headroom: float = 1.0
    headroom_why: str = ""
    headroom_stops: bool = False
    vessel_not: tuple[tuple[str, str], ...] = ()
    in_bottle: bool = False
    dose_mL: tuple[float, ...] = ()
    dose_of: str = ""

    @property
    def skin(self) -> bool:
        """True for what is meant for hands: a rub, or a soap to wash them."""
        return self.rub or self.for_skin

    def lines_for(self, actives: Iterable[str]) -> tuple[str, ...]:
        """The rule lines it is judged by where its maker chose none: the family's own, or those of what is in it.

        >>> families()["gel"].lines_for(["ethanol"]), families()["surface"].lines_for(["hydrogen-peroxide"])
        (('cdc-alcohol-60',), ('surface-peroxide',))
        """
        by_active = dict(self.line_by_active)
        return self.lines or tuple(by_active[key] for key in actives if key in by_active)

    @property
    def lines(self) -> tuple[str, ...]:
        """The rule lines a formula of it is judged by until its maker chooses."""
        return (self.line,) if self.line else ()


def suits(family: str, top: str) -> bool:
    """True when a bottle with this top will do for a family; what is not said of a bottle is taken to do.

    Args:
        family: id of a family, such as "liquid-rub"; one that is not known counts as "other".
        top: id of the bottle's top, such as "foaming"; empty where it is not known.

    >>> suits("foaming-soap", "foaming"), suits("dish-liquid", "foaming"), suits("dish-liquid", "")
    (True, False, True)
    """
    return not top or top in families()[family].tops


def family_of(materials: Iterable[Material]) -> str:
    """The family a mix most likely belongs to, by what is in it.

    Args:
        materials: everything that is in it.

    >>> from firkin.core.catalogue.materials import find
    >>> family_of([find("isopropanol"), find("aloe-gel")]), family_of([find("pond water")])
    ('aloe-rub', 'other')
    """
    there: set[str] = set()
    for material in materials:
        there |= {material.id, *material.roles}
    ranked = [
        (sign["rank"], family.id)
        for family in families().values()
        for sign in family.signs
        if there.issuperset(sign["all"])
    ]
    return min(ranked, default=(0, "other"))[1]


@cache
def families() -> dict[str, Family]:
    """Every family by id.

    >>> families()["foaming-soap"].keep_days
    28
    """
    found = {}
    for key, row in datafiles.toml("catalogue/families.toml").items():
        listed = {name: tuple(value) for name, value in row.items() if isinstance(value, list)}
        listed |= {name: tuple(row.get(name, {}).items()) for name in ("line_by_active", "vessel_not")}
        found[key] = Family(id=key, **{**row, **listed})
    return found
