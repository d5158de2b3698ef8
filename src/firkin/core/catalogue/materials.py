"""Materials: what Firkin knows of each, and finding one by any of its usual names."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache, cached_property

from firkin.core import datafiles
from firkin.core.densities import ALCOHOLS, Alcohol, PiecewiseCubic, ethanol_water_density
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.measures import Strength, read_strength


@dataclass(frozen=True, eq=False)
class Material:
    """One material. Densities in g/mL at 20 degC; ``water`` is a mass fraction.

    ``strength`` is the usual one, on ``basis``; None for what has no strength to speak of.
    """

    id: str
    name: str
    kind: str = "liquid"
    density: float = 1.0
    bulk: float | None = None
    basis: str = "w/w"
    strength: float | None = None
    water: float | None = None
    roles: frozenset[str] = frozenset()
    reports: str = ""
    counts_by: str = ""
    names: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    molar_mass: float | None = None
    groups: int = 1
    phototoxic_pct: float | None = None
    alcohol_limit_ww: float | None = None
    preserves_pct: tuple[float, ...] = ()
    preserves_to_ph: float | None = None
    preserves_usual_pct: float = 0.0
    neutralises_mL_per_g: tuple[float, ...] = ()
    hazards: tuple[tuple[str, str], ...] = ()
    hazard_rule: str = ""
    hazard_advice: tuple[str, ...] = ()
    only_with: frozenset[str] = frozenset()
    kept_in_six_months: float = 1.0
    trusted_months: float | None = None
    discard_h: float | None = None
    gear: str = ""
    gear_dry: str = ""
    on_label: bool = False
    flag: str = ""
    instead: str = ""
    densities: tuple[tuple[float, float], ...] = ()
    source: str = ""
    known: bool = True

    @property
    def called(self) -> str:
        """What it is called at the bench: the first of its usual names, or its own."""
        return (self.names[0] if self.names else self.name).capitalize()

    @property
    def solid(self) -> bool:
        """True for powders, gratings and peel."""
        return self.kind == "solid"

    @property
    def alcohol(self) -> Alcohol | None:
        """The alcohol tables, when this is one of the two."""
        return ALCOHOLS.get(self.id)

    @property
    def usual_strength(self) -> Strength | None:
        """The strength counted when the maker gives none."""
        return None if self.strength is None else Strength.of(self.strength, self.basis)

    @property
    def counts_strength_by_volume(self) -> bool:
        """True when label arithmetic multiplies its strength with volumes, not masses.

        Bleach is sold by weight and diluted by volume (CDC, WHO); counting its % w/w as % w/v errs low.
        """
        return self.basis in ("v/v", "w/v") or self.counts_by == "volume"

    def harm_with(self, other: "Material") -> str | None:
        """What comes of this with another material; "" where that is not known, None where nothing is said of it.

        >>> find("bleach").harm_with(find("vinegar")), find("bleach").harm_with(find("salt"))
        ('chlorine gas', '')
        """
        if other.id == self.id:
            return None
        named = next((harm for key, harm in self.hazards if key in other.roles or key == other.id), None)
        if named is not None:
            return named
        return "" if self.only_with and not other.roles & self.only_with else None

    def read_strength(self, text: str) -> Strength:
        """Read a strength; a bare per cent takes this material's usual basis.

        >>> str(find("peroxide").read_strength("3 %"))
        '3 % w/v'
        """
        return read_strength(text, self.basis)

    @cached_property
    def _density_curve(self) -> PiecewiseCubic | None:
        if not self.densities:
            return None
        return PiecewiseCubic([w / 100 for w, _ in self.densities], [d for _, d in self.densities])

    def density_at(self, mass_fraction: float | None, celsius: float = 20.0) -> float:
        """Density in g/mL of this liquid at an active mass fraction (None: as usually sold).

        Alcohols follow their tables; other liquids are taken at 20 degC but for their water.

        >>> round(find("bleach").density_at(0.0), 4)
        0.9982
        """
        if mass_fraction is not None:
            if self.alcohol is not None:
                return self.alcohol.density(mass_fraction, celsius)
            if self._density_curve is not None:
                return self._density_curve(mass_fraction)
        return self.density if self.id != "water" else ethanol_water_density(0.0, celsius)

    def mass_fraction(self, strength: Strength | None) -> float | None:
        """Active fraction by mass from a strength on any basis; None without a strength.

        Raises CannotReckon when a % w/v cannot be met.

        >>> round(find("hydrogen-peroxide").mass_fraction(Strength.of(3.0, "w/v")), 5)
        0.02972
        """
        if strength is None:
            return None
        if self.alcohol is not None:
            return self.alcohol.mass_fraction(strength)
        if strength.basis == "w/w" or (strength.basis == "v/v" and self.reports != "active"):
            return strength.fraction
        fraction = strength.fraction
        for _ in range(40):
            fraction = strength.fraction / self.density_at(min(fraction, 1.0))
        if fraction > 1.0:
            raise CannotReckon(f"{self.name} of {strength} would be more than pure.")
        return fraction

    def water_fraction(self, mass_fraction: float | None) -> float:
        """Water per gram, the rest being active or solids."""
        if self.water is not None:
            return self.water
        if self.strength is not None and not self.solid and mass_fraction is not None:
            return 1.0 - mass_fraction
        return 0.0


def _material(key: str, row: dict[str, object]) -> Material:
    values = dict(row)
    for name in ("roles", "only_with"):
        values[name] = frozenset(row.get(name, ()))  # type: ignore[call-overload]
    for name in ("names", "cautions", "preserves_pct", "neutralises_mL_per_g", "hazard_advice"):
        values[name] = tuple(row.get(name, ()))  # type: ignore[arg-type]
    values["hazards"] = tuple(row.get("hazards", {}).items())  # type: ignore[attr-defined]
    values["densities"] = tuple(tuple(pair) for pair in row.get("densities", ()))  # type: ignore[attr-defined]
    return Material(id=key, **values)  # type: ignore[arg-type]


@cache
def materials() -> dict[str, Material]:
    """The whole catalogue by id."""
    return {key: _material(key, row) for key, row in datafiles.toml("catalogue/materials.toml").items()}


def _plain(name: str) -> str:
    return re.sub(r"[\s_-]+", " ", name.strip().lower())


@cache
def _index() -> dict[str, Material]:
    index: dict[str, Material] = {}
    for material in materials().values():
        for name in (material.id, material.name, *material.names):
            plain = _plain(name)
            index.setdefault(plain, material)
            index.setdefault(plain + "s", material)
    return index


def names_of_materials() -> tuple[str, ...]:
    """Every name a material of the catalogue goes by, in small letters, singular and plural.

    >>> "rubbing alcohol" in names_of_materials()
    True
    """
    return tuple(_index())


def find(name: str, own: Iterable[Material] = ()) -> Material:
    """The material that goes by ``name``; the workshop's ``own`` materials are looked at first.

    A name nobody knows gives an inert liquid of density 1 under that name, with ``known`` False.

    >>> find("Isopropyl Alcohol").id, find("IPA").id, find("pond water").known
    ('isopropanol', 'isopropanol', False)
    """
    plain = _plain(name)
    if not plain:
        raise CannotRead("Say what this is: a material such as isopropanol or aloe gel.")
    for material in own:
        if plain in (_plain(material.id), _plain(material.name)):
            return material
    found = _index().get(plain)
    return found or Material(id=name.strip()[:80], name=name.strip()[:80], known=False)
