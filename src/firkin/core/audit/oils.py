"""Audit rules about oils: what floats, what burns in the sun, what is too much, and what does not kill germs."""

from collections.abc import Iterator
from dataclasses import replace

from firkin.core.audit.findings import Finding, Severity
from firkin.core.catalogue import Material, families, materials
from firkin.core.formula import Formula, Reckoning, scaled_lines, swapped, without
from firkin.core.measures import figures
from firkin.core.texts import uncapped

#: Essential oils all together, % by weight: at most, and what is brought back to (common practice, no source).
MOST_ESSENTIAL_OIL_PCT = 2.0
USUAL_ESSENTIAL_OIL_PCT = 0.5


def _oil_separates(result: Reckoning) -> Iterator[Finding]:
    oils = result.formula.lines_with("oil")
    if not oils or result.formula.dry:
        return
    names = ", ".join(uncapped(result.formula.lines[i].material.name) for i in oils)
    if result.formula.lines_with("alcohol"):
        yield Finding(
            "oil-in-alcohol",
            Severity.WARN,
            f"{names.capitalize()} does not dissolve in alcohol and water: it floats, and what is poured differs from "
            "bottle to bottle.",
            "Use glycerol against drying.",
            oils,
            _all_swapped(result.formula, oils, "glycerol"),
        )
    elif _holds_oil(result):
        yield Finding(
            "oil-in-soap",
            Severity.NOTE,
            f"{names.capitalize()} floats on diluted soap.",
            "A trace only, and shake it.",
            oils,
        )


def _holds_oil(result: Reckoning) -> bool:
    """True where soap or a surfactant is there to hold a trace of oil."""
    return bool(result.formula.lines_with("soap", "surfactant"))


def _oil_in_water(result: Reckoning) -> Iterator[Finding]:
    """Nothing holds it: undiluted drops of it reach skin and eyes."""
    oils = result.formula.lines_with("oil", "essential-oil")
    if (
        not oils
        or _holds_oil(result)
        or result.formula.lines_with("alcohol")
        or not result.formula.lines_with("water", "additive")
    ):
        return
    names = ", ".join(uncapped(result.formula.lines[i].material.name) for i in oils)
    yield Finding(
        "oil-in-water",
        Severity.WARN,
        f"{names.capitalize()} doesn't mix with water. It floats, and drops of it reach skin and eyes undiluted.",
        "Leave it out, or use a hydrosol. Soap holds a trace of it.",
        oils,
        without(result.formula, *oils),
    )


def _phototoxic(result: Reckoning) -> Iterator[Finding]:
    """Tisserand & Young, Essential Oil Safety, 2nd ed., from memory; common practice sides with caution.

    Several such oils add up: each takes its share of its own limit.
    """
    places = result.formula.lines_with("phototoxic")
    if not places or not families()[result.formula.family].rub:
        return
    parts = {
        i: result.lines[i].pure_share_w_pct / (result.formula.lines[i].material.phototoxic_pct or 1.0) for i in places
    }
    together = sum(parts.values())
    for i in places:
        material, share = result.formula.lines[i].material, result.lines[i].pure_share_w_pct
        limit = material.phototoxic_pct or 0.0
        if share > limit:
            why = f"; {figures(share)} % is above its limit of {figures(limit)} %."
        elif together > 1.0:
            why = (
                f"; {figures(share)} % is within its limit of {figures(limit)} %, but with the others it comes to "
                f"{figures(together, 3)} times what they may be together."
            )
        else:
            why = f"; {figures(share)} % is within its limit of {figures(limit)} %, and formulators still leave it out."
        over = together > 1.0
        yield Finding(
            "phototoxic-over" if over else "phototoxic",
            Severity.STOP if over else Severity.WARN,
            f"{material.name} left on skin burns in sunlight{why}",
            "Lavender, or none.",
            (i,),
            _lavender(result, i),
        )


def _lavender(result: Reckoning, at: int) -> Formula:
    """Lavender in place of an oil, no more than is usual of all essential oils together."""
    fixed = swapped(result.formula, at, "lavender-oil")
    others = sum(_essential_pct(result, i) for i in result.formula.lines_with("essential-oil") if i != at)
    own = _essential_pct(result, at)
    room = max(USUAL_ESSENTIAL_OIL_PCT - others, 0.1 * USUAL_ESSENTIAL_OIL_PCT)
    return scaled_lines(fixed, (at,), min(1.0, room / own)) if own else fixed


def _essential_pct(result: Reckoning, at: int) -> float:
    return result.lines[at].pure_share_w_pct


def _essential_oil_much(result: Reckoning) -> Iterator[Finding]:
    oils = result.formula.lines_with("essential-oil")
    total = sum(_essential_pct(result, i) for i in oils)
    if total > MOST_ESSENTIAL_OIL_PCT and not result.formula.dry:
        yield Finding(
            "essential-oil-much",
            Severity.WARN,
            f"{figures(total, 3)} % essential oil in all irritates skin and eyes. Up to "
            f"{figures(MOST_ESSENTIAL_OIL_PCT)} % is usual (common practice, no source).",
            f"About {figures(USUAL_ESSENTIAL_OIL_PCT)} % is enough for the scent.",
            oils,
            scaled_lines(result.formula, oils, USUAL_ESSENTIAL_OIL_PCT / total),
        )


def _oil_as_active(result: Reckoning) -> Iterator[Finding]:
    claim, formula = result.formula.claim, result.formula
    oils = result.formula.lines_with("essential-oil")
    claimed = claim is not None and "essential-oil" in _known(claim.active).roles
    kills = "essential-oil" in _known(formula.claims.kills).roles
    alone = families()[result.formula.family].rub and oils and not result.formula.lines_with("alcohol")
    if claimed or kills or alone:
        yield Finding(
            "oil-not-sanitiser",
            Severity.STOP,
            "Essential oils smell nice but don't disinfect.",
            "Count on enough alcohol. Use the oil for its scent.",
            oils,
            None if alone else _unclaimed(formula),
        )


def _unclaimed(formula: Formula) -> Formula:
    """The formula without the claim that an oil does the work."""
    claim = formula.claim
    claim = None if claim is not None and "essential-oil" in _known(claim.active).roles else claim
    return replace(formula, claim=claim, claims=replace(formula.claims, kills=""))


def _known(key: str) -> Material:
    return materials().get(key, Material(key, key))


def _all_swapped(formula: Formula, positions: tuple[int, ...], material: str) -> Formula:
    for i in positions:
        formula = swapped(formula, i, material)
    return formula


#: Those that hold whatever the amounts are.
ANY_AMOUNT_OIL_RULES = (_oil_separates, _oil_in_water, _oil_as_active)

OIL_RULES = (
    _oil_separates,
    _oil_in_water,
    _phototoxic,
    _essential_oil_much,
    _oil_as_active,
)
