"""Materials: what Firkin knows of each, and finding one by any of its usual names."""

import re
import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from firkin.core import datafiles
from firkin.core.densities import ALCOHOLS, Alcohol, Solution, ethanol_water_density, saturation, solutions
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.measures import Strength, read_number, read_strength

#: What is bought as a dry solid is at least so pure, mass fraction (common practice, no source).
_DRY_FROM = 0.85


@dataclass(frozen=True, eq=False)
class Material:
    """One material. Densities in g/mL at 20 degC; ``water`` is a mass fraction.

    ``strength`` is the usual one, on ``basis``; None for what has no strength to speak of. ``form`` names what it is
    sold as where that is not the plain one (crystals), and ``holds`` its share by mass of the plain one.
    """

    id: str
    name: str
    kind: str = "liquid"
    density: float = 1.0
    bulk: float | None = None
    basis: str = "w/w"
    strength: float | None = None
    sold: tuple[tuple[float, float], ...] = ()
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
    disperses_in_alcohol: bool = False
    melts_C: float | None = None
    thickens_most_pct: float | None = None
    preserves_pct: tuple[float, ...] = ()
    preserves_to_ph: float | None = None
    preserves_usual_pct: float = 0.0
    preserves_ph: tuple[float, ...] = ()
    preserves_below_C: float | None = None
    preserves_not_with: str = ""
    told_apart: str = ""
    vessel_not: tuple[tuple[str, str], ...] = ()
    neutralises_mL_per_g: tuple[float, ...] = ()
    kept_in_six_months: float = 1.0
    trusted_months: float | None = None
    discard_h: float | None = None
    gear: str = ""
    gear_dry: str = ""
    on_label: bool = False
    flag: str = ""
    instead: str = ""
    form: str = ""
    forms: "tuple[Material, ...]" = ()
    said_of: tuple[tuple[str, float], ...] = ()
    pct_per_volume: float = 0.0
    holds: float = 1.0
    source: str = ""
    known: bool = True

    @property
    def usually_preserves_pct(self) -> float:
        """What is used of a preservative where nothing else is said: as the catalogue says, or the middle, in %."""
        return self.preserves_usual_pct or sum(self.preserves_pct) / 2.0

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

    def sold_as(self, pct: float) -> bool:
        """True where so many per cent are a strength it is sold or kept in; False where nothing is known of it.

        >>> find("ethanol").sold_as(96.0), find("peroxide").sold_as(99.98), find("caustic soda").sold_as(0.9)
        (True, False, False)
        """
        return any(low <= pct <= high for low, high in self.sold)

    @property
    def counts_strength_by_volume(self) -> bool:
        """True when label arithmetic multiplies its strength with volumes, not masses.

        Bleach is sold by weight and diluted by volume (CDC, WHO); counting its % w/w as % w/v errs low.
        """
        return self.basis in ("v/v", "w/v") or self.counts_by == "volume"

    def read_strength(self, text: str) -> Strength:
        """Read a strength; a bare per cent takes this material's usual basis.

        Where the label names what the per cent is of, such as sodium hypochlorite on bleach, it is brought to what is
        counted here; peroxide may be labelled in volumes of oxygen.

        >>> str(find("peroxide").read_strength("20 vol"))
        '6 % w/v'
        >>> str(find("peroxide").read_strength("3 %")), str(find("bleach").read_strength("6 % sodium hypochlorite"))
        ('3 % w/v', '5.715 % w/w')
        """
        volumes = (
            re.fullmatch(r"\s*([\d.,]+)[\s-]*vol(?:ume)?s?\.?\s*", text, re.IGNORECASE) if self.pct_per_volume else None
        )
        if volumes is not None:
            return read_strength(f"{read_number(volumes[1]) * self.pct_per_volume:.6g} %", self.basis)
        for words, factor in self.said_of:
            named = re.search(rf"\s*(?:\bof\s+)?{re.escape(words)}\b", text, re.IGNORECASE)
            if named is not None:
                said = read_strength(text[: named.start()] + text[named.end() :], self.basis)
                return Strength(said.value * factor, said.low * factor, said.high * factor, said.basis)
        return read_strength(text, self.basis)

    @property
    def written(self) -> str:
        """What the open formats call it, so that ``find`` gives it again: its id, or the form it is sold in."""
        return self.form or self.id

    @property
    def solution(self) -> Solution | None:
        """The density of its solution in water, where that is known."""
        return solutions().get(self.id)

    def dissolved(self, mass_fraction: float | None) -> bool:
        """True for a solid that is sold or kept dissolved: its strength is one that water can hold.

        >>> find("caustic soda").dissolved(0.5), find("caustic soda").dissolved(0.99), find("xanthan").dissolved(0.01)
        (True, False, False)
        """
        if not self.solid or self.solution is None or mass_fraction is None:
            return False
        return mass_fraction * self.holds <= self.solution.reach * (1 + 1e-9)

    def check_dissolves(self, strength: Strength) -> None:
        """Refuse a solution of a solid that water cannot hold; what is bought dry, 85 % pure or more, is none.

        Raises CannotReckon.

        >>> find("lye").check_dissolves(Strength.of(50.0, "w/w")), find("lye").check_dissolves(Strength.of(99.0, "w/w"))
        (None, None)
        """
        share = self.mass_fraction(strength)
        most = saturation(self.id)
        if share is None or most is None or not self.solid:
            return
        if most * (1 + 1e-6) < share * self.holds < _DRY_FROM * self.holds:
            held = f"{100.0 * most / self.holds:.3g} % w/w"
            raise CannotReckon(
                f"{self.name} of {strength} will not dissolve: at 20 °C a solution holds {held} at most. "
                f"Bought dry, it is {100.0 * _DRY_FROM:g} % or more."
            )

    def solid_at(self, strength: Strength | None) -> bool:
        """True for what is a powder, gratings or peel at a strength; a solid that is dissolved is a liquid.

        >>> find("lye").solid_at(None), find("lye").solid_at(Strength.of(30.0, "w/w"))
        (True, False)
        """
        return self.solid and not self.dissolved(self.mass_fraction(strength))

    def bulk_at(self, strength: Strength | None) -> float | None:
        """The density in g/mL by which a cup measures it loose; None for a liquid, a solution among them."""
        return self.bulk if self.bulk and self.solid_at(strength) else None

    def density_at(self, mass_fraction: float | None, celsius: float = 20.0) -> float:
        """Density in g/mL of this liquid at an active mass fraction (None: as usually sold).

        Alcohols follow their tables; other liquids are taken at 20 degC but for their water. What is dissolved, or
        thinned, follows the table of its solution; without one, volumes of it and of water add.

        >>> round(find("bleach").density_at(0.0), 4), round(find("lye").density_at(0.1), 3)
        (0.9982, 1.109)
        """
        if self.id == "water":
            return ethanol_water_density(0.0, celsius)
        if mass_fraction is None:
            return self.density
        if self.alcohol is not None:
            return self.alcohol.density(mass_fraction, celsius)
        if self.solution is not None and (not self.solid or self.dissolved(mass_fraction)):
            return self.solution.density(mass_fraction * self.holds)
        if self.solid:
            return self.density
        water = 1.0 / ethanol_water_density(0.0)
        return 1.0 / (water + mass_fraction / self._sold_at * (1.0 / self.density - water))

    @property
    def sold_thinned(self) -> bool:
        """True for what is usually sold as a solution: its % v/v is of that, and no volume of a pure one."""
        return self._sold_at < 1.0

    @property
    def _sold_at(self) -> float:
        """The mass fraction it is usually sold at, the one its density is of."""
        return 1.0 if self.strength is None else self.strength / 100.0

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
        as_supplied = strength.basis == "v/v" and self.reports != "active"
        if strength.basis == "w/w" or (as_supplied and (self.solid or self.sold_thinned)):
            return strength.fraction
        grams_per_mL = strength.fraction * (self.density_at(1.0) if as_supplied else 1.0)
        solution = self.solution
        dissolving = self.solid and solution is not None
        fraction = strength.fraction
        for _ in range(60):
            share = min(fraction, 1.0)
            density = solution.density(share * self.holds) if dissolving and solution else self.density_at(share)
            fraction = grams_per_mL / density
        if dissolving and solution and not self.dissolved(fraction):
            most = 100.0 * solution.reach / self.holds * solution.density(solution.reach)
            raise CannotReckon(
                f"{self.name} of {strength} is more than water holds at 20 °C, {most:.3g} % w/v. "
                "Give the strength of a solid in % w/w."
            )
        if fraction > 1.0 + 1e-9:
            raise CannotReckon(f"{self.name} of {strength} would be more than pure.")
        return min(fraction, 1.0)

    def water_fraction(self, mass_fraction: float | None) -> float:
        """Water per gram, the rest being active or solids.

        >>> round(find("glycerol").water_fraction(0.86), 2), round(find("castile").water_fraction(0.5), 3)
        (0.14, 0.825)
        """
        own = self.water or 0.0
        if mass_fraction is None:
            return own
        if self.solid:
            return 1.0 - mass_fraction * self.holds if self.dissolved(mass_fraction) else 0.0
        return 1.0 - mass_fraction + mass_fraction * own


def _material(key: str, row: dict[str, object]) -> Material:
    values = dict(row)
    values["roles"] = frozenset(row.get("roles", ()))  # type: ignore[call-overload]
    for name in ("names", "cautions", "preserves_pct", "preserves_ph", "neutralises_mL_per_g"):
        values[name] = tuple(row.get(name, ()))  # type: ignore[arg-type]
    values["vessel_not"] = tuple(row.get("vessel_not", {}).items())  # type: ignore[attr-defined]
    values["sold"] = _ranges(row)
    values["said_of"] = tuple(row.get("said_of", {}).items())  # type: ignore[attr-defined]
    forms = values.pop("forms", {})
    plain = Material(id=key, **values)  # type: ignore[arg-type]
    if not forms:
        return plain
    sold = (
        replace(plain, form=form, **{**other, "names": tuple(other.get("names", ())), **_roles(other)})
        for form, other in forms.items()  # type: ignore[attr-defined]
    )
    return replace(plain, forms=tuple(sold))


def _roles(row: dict[str, Any]) -> dict[str, Any]:
    """What a form says of its roles and strengths in place of the plain one's."""
    return {"sold": _ranges(row) if "sold" in row else ()} | (
        {"roles": frozenset(row["roles"])} if "roles" in row else {}
    )


def _ranges(row: dict[str, Any]) -> tuple[tuple[float, float], ...]:
    return tuple((float(low), float(high)) for low, high in row.get("sold", ()))


@cache
def materials() -> dict[str, Material]:
    """The whole catalogue by id.

    >>> materials()["glycerol"].name
    'Glycerol'
    """
    return {key: _material(key, row) for key, row in datafiles.toml("catalogue/materials.toml").items()}


_BETWEEN_WORDS = re.compile(r"[\s_-]+")


def _plain(name: str) -> str:
    return _BETWEEN_WORDS.sub(" ", name.strip().lower())


def folded(name: str) -> str:
    """A name in small letters without accents: neighbours' words are often written so.

    Args:
        name: any name.

    >>> folded("Lejía"), folded("Ätznatron")
    ('lejia', 'atznatron')
    """
    if name.isascii():  # as most words are, and nothing comes off them
        return name.lower()
    apart = unicodedata.normalize("NFKD", name.lower().replace("ß", "ss").replace("ł", "l").replace("ı", "i"))
    return "".join(sign for sign in apart if not unicodedata.combining(sign))


#: Languages of the names in hazards.toml.
_LANGUAGES = ("en", "de", "fr", "es", "nl", "other")


@cache
def danger_names(heard_only: bool = True) -> dict[str, str]:
    """Everyday names of dangerous materials with the material each stands for; those only listened for too, or not.

    >>> danger_names()["lejía"], "acid" in danger_names(heard_only=False)
    ('sodium-hypochlorite', False)
    """
    kinds = (*_LANGUAGES, "heard") if heard_only else _LANGUAGES
    table = datafiles.toml("catalogue/hazards.toml")["names"]
    found: dict[str, str] = {}
    for key, row in table.items():
        for kind in kinds:
            for name in row.get(kind, ()):
                found.setdefault(name, key)
    return found


@cache
def _index() -> dict[str, Material]:
    index: dict[str, Material] = {}
    sold = [one for material in materials().values() for one in (material, *material.forms)]
    for material in sold:
        names = (material.written, material.name, *material.names)
        _put(index, material, (*names, *map(folded, names)))
    written = {one.written: one for one in sold}
    for name, key in danger_names(heard_only=False).items():
        _put(index, written[key], (name, folded(name)))
    return index


def _put(index: dict[str, Material], material: Material, names: Iterable[str]) -> None:
    for name in names:
        plain = _plain(name)
        index.setdefault(plain, material)
        index.setdefault(plain + "s", material)


def names_of_materials() -> tuple[str, ...]:
    """Every name a material of the catalogue goes by, in small letters, singular and plural.

    >>> "rubbing alcohol" in names_of_materials()
    True
    """
    return tuple(_index())


def find(name: str, own: Iterable[Material] = ()) -> Material:
    """The material that goes by ``name``; the workshop's ``own`` materials are looked at first.

    A name nobody knows gives an inert liquid of density 1 under that name, with ``known`` False.

    Args:
        name: a name as somebody writes it, any case.
        own: materials of the workshop; they are looked at before the catalogue's.

    Raises:
        CannotRead: for an empty name.

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
