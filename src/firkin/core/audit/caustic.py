"""Audit rules about acid and caustic by mole: sulfonic acid, and caustic soda that nothing takes up."""

import math
from collections.abc import Iterator

from firkin.core.audit.findings import Finding, Severity
from firkin.core.catalogue import families, find
from firkin.core.formula import Formula, Reckoning, added, with_mass
from firkin.core.measures import Quantity, figures
from firkin.core.questions import SURE_BY_MOLES, neutralise, neutrality


def _sulfonic_acid(result: Reckoning) -> Iterator[Finding]:
    """LABSA and caustic by mole; LABSA a mean of 320 g/mol, from memory."""
    acid, base = result.formula.lines_of("labsa"), result.formula.lines_of("caustic-soda")
    if not acid:
        return
    if not base:
        yield Finding(
            "acid-not-neutralised",
            Severity.STOP,
            "No caustic here to neutralise the sulfonic acid: the product would burn skin.",
            "Neutralise it with caustic soda dissolved in water, to about pH 8.",
            acid,
            _neutral(result, acid[0]),
        )
        return
    ended = neutrality(result)
    if ended is None:
        return
    spare = ended.base_g_spare
    if ended.ends == "acid":
        yield Finding(
            "acid-left",
            Severity.WARN,
            f"It ends acid: {figures(-spare)} g of caustic soda are missing.",
            "Add it dissolved, in small amounts, and check the pH: about 8 for dish liquid.",
            (*acid, *base),
            with_mass(result, base[0], result.lines[base[0]].mass_g - spare),
        )
    elif ended.ends == "alkaline" and spare > SURE_BY_MOLES * result.lines[base[0]].mass_g:
        yield _caustic_left(result, (*acid, *base), base[0], spare)


def _caustic_without_acid(result: Reckoning) -> Iterator[Finding]:
    """Caustic in a product for hands, with no sulfonic acid and no fat to take it up."""
    formula = result.formula
    base = formula.lines_of("caustic-soda")
    if not base or formula.lines_of("labsa") or formula.lines_with("oil") or not families()[formula.family].skin:
        return
    ended = neutrality(result)
    spare = sum(result.lines[i].mass_g for i in base) if ended is None else ended.base_g_spare
    if spare > SURE_BY_MOLES * result.lines[base[0]].mass_g and _ph_by_moles(result, base[0], spare) > _PH_OF_HANDS:
        yield _caustic_left(result, base, base[0], spare)


#: A pH by moles is only sure beyond this share of the caustic: LABSA's molar mass is a mean, and labels are rounded.
_DOUBT = 0.10
#: Half as much again as the acid takes is no slip of a scale (common practice, no source).
_TOO_MUCH = 0.5
#: A liquid for hands above this pH hurts them (Regulation (EC) 1272/2008 takes pH 11.5 for corrosive, from memory).
_PH_OF_HANDS = 11.0


def _caustic_left(result: Reckoning, lines: tuple[int, ...], base: int, spare: float) -> Finding:
    """Caustic that nothing takes up, in g: a stop where there is much of it, or where hands go into it."""
    taken = result.lines[base].mass_g - spare
    sure = spare - _DOUBT * result.lines[base].mass_g
    on_hands = families()[result.formula.family].skin and _ph_by_moles(result, base, sure) > _PH_OF_HANDS
    much = spare >= _TOO_MUCH * taken
    words = f"{figures(spare)} g of caustic soda is left over: too alkaline"
    return Finding(
        "caustic-left",
        Severity.STOP if much or on_hands else Severity.WARN,
        f"{words}, it burns skin and eyes." if much or on_hands else f"{words}, it yellows in days and hurts hands.",
        "Use less caustic, or check the pH and bring it to about 8.",
        lines,
        with_mass(result, base, max(0.0, taken)) if taken > 0 else None,
    )


def _ph_by_moles(result: Reckoning, base: int, spare_g: float) -> float:
    """The pH that so many grams of a caustic line would give by themselves; 14 + log10 of mol/L, and 7 without."""
    strength = result.formula.lines[base].counted_strength
    fraction = result.formula.lines[base].material.mass_fraction(strength) or 1.0
    molar = spare_g * fraction / (result.formula.lines[base].material.molar_mass or 1.0)
    per_litre = molar / (result.total.volume_mL / 1000.0)
    return 14.0 + math.log10(per_litre) if per_litre > 1e-7 else 7.0


def _neutral(result: Reckoning, acid: int) -> Formula:
    """The formula with the caustic that just neutralises its sulfonic acid, after the water."""
    line = result.formula.lines[acid]
    gram = Quantity(1.0, "g")
    acid_there = (line.material, line.counted_strength, Quantity(result.lines[acid].mass_g, "g"))
    ended = neutralise(acid_there, (find("caustic-soda"), None, gram))
    needed = gram.g + ended.base_g_missing - ended.base_g_spare
    water = result.formula.lines_of("water")
    after = min(water) + 1 if water and min(water) < acid else acid
    return added(result, "caustic-soda", needed, after)


CAUSTIC_RULES = (_sulfonic_acid, _caustic_without_acid)
