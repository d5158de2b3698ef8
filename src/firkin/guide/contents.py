"""What the guide tells, drawn together from what core knows: families, materials, pairs, troubles, words."""

import tomllib
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from firkin.core import catalogue
from firkin.core.audit import Finding, together
from firkin.core.catalogue import Caution, Family, Material, Word, cautions, families, find, materials
from firkin.core.densities import holds_g
from firkin.core.formula import HouseFormula, house_formulas, reckon, substitutes
from firkin.core.measures import figures
from firkin.core.mending import TROUBLES, rescue

#: What stands in the chart of pairs: one material of each kind, by the name people know.
CHART = {
    "sodium-hypochlorite": "Bleach",
    "ammonia": "Ammonia",
    "white-vinegar": "Vinegar",
    "citric-acid": "Citric acid",
    "hydrochloric-acid": "Strong acid",
    "hydrogen-peroxide": "Peroxide",
    "oxygen-bleach": "Oxygen bleach",
    "ethanol": "Alcohol",
    "acetone": "Acetone",
    "caustic-soda": "Caustic soda",
    "washing-soda": "Washing soda",
    "castile-soap": "Soap",
    "labsa": "LABSA",
    "salt": "Salt",
    "carbomer": "Carbomer",
    "essential-oil": "Essential oil",
    "aluminium": "Aluminium",
}
#: In which drawer of the page of materials a role stands; the first that fits.
DRAWERS = (
    ("Alcohols and actives", frozenset({"alcohol", "active"})),
    ("Water and what keeps skin soft", frozenset({"water", "humectant", "additive"})),
    ("Soaps and detergents", frozenset({"soap", "surfactant"})),
    ("Thickeners", frozenset({"thickener", "neutraliser"})),
    ("Preservatives", frozenset({"preservative"})),
    ("Powders and softeners", frozenset({"builder", "carbonate", "borate", "salt", "desiccant"})),
    ("Acids and bases", frozenset({"acid", "base", "ammonia"})),
    ("Scent and colour", frozenset({"essential-oil", "fragrance", "dye"})),
    ("Oils", frozenset({"oil"})),
)
_OTHER = "Other things"
#: Where solubility is told, degC.
_AT_C = (10.0, 20.0, 40.0, 60.0)


@dataclass(frozen=True, slots=True)
class Cell:
    """Two kinds in the chart: what stands at the row and the column, and the heaviest that is known of them."""

    one: Material
    other: Material
    finding: Finding | None

    @property
    def severity(self) -> str:
        """How grave it is; "nothing" where nothing is known."""
        return str(self.finding.severity) if self.finding else "nothing"

    @property
    def shape(self) -> str:
        """The shape that says so besides the colour."""
        return {"stop": "✕", "warn": "◐", "note": "○"}.get(self.severity, "·")

    @property
    def word(self) -> str:
        """The word that says so besides the colour."""
        return {"stop": "never", "warn": "spoils the batch", "note": "mind"}.get(self.severity, "nothing known")


@cache
def chart() -> tuple[tuple[str, tuple[Cell, ...]], ...]:
    """The chart of pairs: for each kind its name, and a cell for each kind before it."""
    rows = []
    known = [find(key) for key in CHART]
    for at, one in enumerate(known):
        cells = [Cell(one, other, next(iter(together(one, other)), None)) for other in known[:at]]
        rows.append((CHART[one.id], tuple(cells)))
    return tuple(rows)


def names() -> list[str]:
    """What a material can be called, for a list to choose from."""
    return sorted({name for one in materials().values() for name in (one.name, one.called)})


def _table(name: str) -> dict[str, Any]:
    return tomllib.loads((Path(__file__).parent / name).read_text("utf-8"))


@cache
def words() -> tuple[Word, ...]:
    """Every word, by its name."""
    return tuple(sorted(catalogue.words().values(), key=lambda word: word.name.lower()))


@dataclass(frozen=True, slots=True)
class Trouble:
    """Something that goes wrong, in the maker's words, what helps, and in which families it is usual."""

    id: str
    name: str
    advice: tuple[str, ...]
    families: tuple[Family, ...]


@cache
def troubles() -> tuple[Trouble, ...]:
    """Every trouble with what helps: in the guide's own words where amounts decide, else as a batch is told."""
    own = _table("troubles.toml")
    any_formula = reckon(next(iter(house_formulas().values())).formula)
    found = []
    for key, name in TROUBLES.items():
        advice = tuple(own[key]) if key in own else rescue(key, any_formula).advice
        usual = tuple(one for one in families().values() if key in one.troubles and one.id != "other")
        found.append(Trouble(key, name, advice, usual))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class Told:
    """All that is known of a material, as rows of a word and what it says, and what goes with it."""

    material: Material
    facts: tuple[tuple[str, str], ...]
    cautions: tuple[Caution, ...]
    never: tuple[tuple[Material, Finding], ...]
    instead: tuple[tuple[Material, str], ...]
    houses: tuple[HouseFormula, ...]


def told(material: Material) -> Told:
    """All that is known of a material."""
    pairs = [(other, found) for other in materials().values() for found in together(material, other)[:1]]
    heavy = [(other, found) for other, found in pairs if str(found.severity) in ("stop", "warn")]
    heavy.sort(key=lambda pair: (str(pair[1].severity) != "stop", pair[0].name))
    return Told(
        material,
        tuple(_facts(material)),
        tuple(cautions()[key] for key in material.cautions),
        tuple(heavy),
        tuple((find(other.to), other.note) for other in substitutes(material) if other.to != material.id),
        tuple(
            house
            for house in house_formulas().values()
            if any(line.material.id == material.id for line in house.formula.lines)
        ),
    )


def _facts(one: Material) -> Iterator[tuple[str, str]]:
    for part in (_sold, _dissolves, _preserves, _bears, _minds):
        yield from part(one)


def _sold(one: Material) -> Iterator[tuple[str, str]]:
    if one.names:
        yield "Also called", ", ".join(one.names[:8])
    if one.strength is not None:
        yield "Usual strength", f"{figures(one.strength, 4)} % {one.basis}"
    if one.sold:
        yield "Sold at", " or ".join(f"{figures(low, 3)} to {figures(high, 3)} %" for low, high in one.sold)
    what = "The powder itself weighs" if one.solid else "It weighs"
    yield "Density", f"{what} {figures(one.density, 4)} g/mL at 20 °C"


def _dissolves(one: Material) -> Iterator[tuple[str, str]]:
    if one.bulk is not None:
        yield "In a cup", f"{figures(one.bulk, 3)} g/mL, loose"
    at = [(celsius, grams) for celsius in _AT_C if (grams := holds_g(one.id, celsius)) is not None]
    if at:
        yield "100 g of water hold", ", ".join(f"{figures(grams, 3)} g at {celsius:g} °C" for celsius, grams in at)
    if one.melts_C is not None:
        yield "Melts at", f"{figures(one.melts_C, 2)} °C"


def _preserves(one: Material) -> Iterator[tuple[str, str]]:
    if one.preserves_pct:
        yield "Use as a preservative", _span(one.preserves_pct, " % of the batch, by weight")
    if one.preserves_ph:
        yield "Works at", "pH " + _span(one.preserves_ph, "")
    if one.preserves_to_ph is not None:
        yield "Works", f"below pH {figures(one.preserves_to_ph, 2)} only"
    if one.preserves_below_C is not None:
        yield "Goes in", f"below {figures(one.preserves_below_C, 2)} °C"
    if one.preserves_not_with:
        yield "Does not go with", one.preserves_not_with


def _bears(one: Material) -> Iterator[tuple[str, str]]:
    limits = (
        ("Stands alcohol", one.alcohol_limit_ww, "up to {} % by weight"),
        ("At most", one.thickens_most_pct, "{} % of the batch"),
        ("On skin that sees the sun", one.phototoxic_pct, "at most {} %"),
        ("Trust it", one.trusted_months, "for {} months after opening"),
    )
    yield from ((word, said.format(figures(limit, 3))) for word, limit, said in limits if limit is not None)
    if one.kept_in_six_months < 1.0:
        yield "Keeps", f"about {one.kept_in_six_months * 100:.0f} % of its strength after six months"


def _minds(one: Material) -> Iterator[tuple[str, str]]:
    yield from ((f"Not in {made_of}", why) for made_of, why in one.vessel_not)
    said = {"Wear": one.gear, "Careful": one.told_apart, "Mind": one.flag, "Better": one.instead, "Source": one.source}
    yield from ((word, words) for word, words in said.items() if words)


def _span(ends: tuple[float, ...], unit: str) -> str:
    return " to ".join(figures(end, 3) for end in ends) + unit


@cache
def drawers() -> tuple[tuple[str, tuple[Material, ...]], ...]:
    """Every material in its drawer."""
    found: dict[str, list[Material]] = {name: [] for name in (*dict(DRAWERS), _OTHER)}
    for material in materials().values():
        found[next((name for name, roles in DRAWERS if roles & material.roles), _OTHER)].append(material)
    return tuple((name, tuple(sorted(those, key=lambda one: one.name))) for name, those in found.items() if those)
