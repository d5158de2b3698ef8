"""Acid against base: does a mix end acid or alkaline, and how much base is missing or spare?"""

from dataclasses import dataclass

from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity, Strength, Working, WorkLine, figures

#: Within this share of the acid the mix counts as neutral: finer than a kitchen scale can place it.
NEUTRAL_SLACK = 0.005


@dataclass(frozen=True, slots=True)
class Neutralised:
    """Moles of acid and base groups, how it ends, and the base (as supplied) missing or spare, in g."""

    acid_mol: float
    base_mol: float
    ends: str  # "acid", "neutral" or "alkaline"
    base_g_missing: float
    base_g_spare: float
    working: Working


def neutralise(
    acid: tuple[Material, Strength | None, Quantity], base: tuple[Material, Strength | None, Quantity]
) -> Neutralised:
    """Count acid against base by mole; a material with several groups counts each of them.

    Molar masses come from the catalogue (LABSA a mean of 320 g/mol). Raises CannotReckon, with the path,
    for a material that is no acid, or no base, or an amount that is neither volume nor weight.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> grams = lambda text: read_quantity(text)
    >>> ended = neutralise((find("labsa"), Strength.of(96, "w/w"), grams("100 g")),
    ...                    (find("caustic-soda"), Strength.of(100, "w/w"), grams("10 g")))
    >>> round(ended.acid_mol, 4), ended.ends, round(ended.base_g_missing, 2)
    (0.3, 'acid', 2.0)
    """
    acid_mol, acid_line, _ = _moles("acid", *acid)
    base_mol, base_line, base_g_per_mol = _moles("base", *base)
    gap = base_mol - acid_mol
    ends = "neutral" if abs(gap) <= NEUTRAL_SLACK * acid_mol else ("alkaline" if gap > 0 else "acid")
    grams = gap * base_g_per_mol
    word = "Base to spare" if gap > 0 else "Base missing"
    verdict = WorkLine(
        word,
        f"|{figures(base_mol)} − {figures(acid_mol)}| mol × {figures(base_g_per_mol)} g/mol",
        abs(grams),
        "g",
    )
    return Neutralised(acid_mol, base_mol, ends, max(0.0, -grams), max(0.0, grams), (acid_line, base_line, verdict))


def _moles(
    place: str, material: Material, strength: Strength | None, amount: Quantity
) -> tuple[float, WorkLine, float]:
    """Moles of acid or base groups, the arithmetic, and grams as supplied per mole of groups."""
    if material.molar_mass is None or place not in material.roles:
        raise CannotReckon(f"{material.name} is not counted as {_article(place)} here.").at(place, "material")
    fraction = material.mass_fraction(strength or material.usual_strength)
    fraction = 1.0 if fraction is None else fraction
    if not fraction:
        raise CannotReckon(f"At 0 % there is no {place}.").at(place, "strength")
    if amount.kind == "volume":
        grams = amount.mL * (material.bulk or material.density_at(fraction))
    elif amount.kind == "mass":
        grams = amount.g
    else:
        raise CannotReckon("Give an amount in g or mL.").at(place, "amount")
    per_mol = material.molar_mass / material.groups / fraction
    moles = grams / per_mol
    mass_per_mol = figures(material.molar_mass / material.groups)
    line = WorkLine(
        f"{material.name}, {place} groups",
        f"{figures(grams)} g × {figures(100 * fraction)} % ÷ {mass_per_mol} g/mol",
        moles,
        "mol",
    )
    return moles, line, per_mol


def _article(place: str) -> str:
    return "an acid" if place == "acid" else "a base"
