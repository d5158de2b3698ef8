"""Audit rules about what must never meet, and what must not be put on skin."""

import re
from collections.abc import Iterator
from dataclasses import replace

from firkin.core.audit.findings import NOTE, STOP, WARN, Finding
from firkin.core.catalogue import Material, families, materials
from firkin.core.formula import Formula, Reckoning, moved, swapped, without
from firkin.core.measures import QS, Quantity, figures

#: WHO, Guide to Local Production: not more than this made or stored in one place, mL.
MOST_ALCOHOL_ML = 50_000.0
_STRONG_PEROXIDE_PCT = 6.0  # WHO, Guide to Local Production: concentrates are corrosive
_STRONG_CHLORINE_PCT = 1.0  # twice the strongest rule line

_UNFIT = re.compile(r"methyl|denatur|meths|thinner|wood alcohol|methanol|turps|fuel|windscreen|screen ?wash", re.I)


def lines_with(result: Reckoning, *roles: str) -> tuple[int, ...]:
    """Positions of the lines whose material has any of these roles."""
    wanted = set(roles)
    return tuple(i for i, line in enumerate(result.formula.lines) if wanted & line.material.roles)


def lines_of(result: Reckoning, *ids: str) -> tuple[int, ...]:
    """Positions of the lines of these materials."""
    return tuple(i for i, line in enumerate(result.formula.lines) if line.material.id in ids)


def _name(result: Reckoning, position: int) -> str:
    return result.formula.lines[position].material.name.lower()


def _never_mix(result: Reckoning) -> Iterator[Finding]:
    """WHO, May 2020; the pairs are common knowledge of the trade."""
    bleach = lines_with(result, "chlorine")
    others = tuple(
        i
        for i, line in enumerate(result.formula.lines)
        if i not in bleach and not line.material.roles & {"water", "desiccant"}
    )
    for i in others:
        roles = result.formula.lines[i].material.roles
        gas = "chlorine gas" if "acid" in roles else "harmful gases" if roles & {"alcohol", "oxidiser"} else ""
        if bleach:
            what = f" makes {gas}" if gas else " is not known to be harmless"
            yield Finding(
                "bleach-mixed",
                STOP,
                f"Bleach with {_name(result, i)}{what}. Bleach goes into plain water and nothing else.",
                "Take one of the two out. Rinse well between products.",
                (*bleach, i),
                without(result.formula, i),
            )
    peroxide, vinegar = lines_of(result, "hydrogen-peroxide"), lines_of(result, "white-vinegar")
    if peroxide and vinegar:
        yield Finding(
            "peroxide-vinegar",
            STOP,
            "Peroxide with vinegar makes peracetic acid, which burns eyes, skin and lungs.",
            "Use one or the other, never both.",
            (*peroxide, *vinegar),
            without(result.formula, *vinegar),
        )


def _acid_and_carbonate(result: Reckoning) -> Iterator[Finding]:
    acid = tuple(i for i in lines_with(result, "acid") if "surfactant" not in result.formula.lines[i].material.roles)
    carbonate = lines_with(result, "carbonate")
    if not acid or not carbonate:
        return
    if result.formula.dry:
        yield Finding(
            "acid-carbonate-dry",
            NOTE,
            "Acid and carbonate fizz and clump in damp air.",
            "Dry bowl and spoon, a sealed jar, and a desiccant sachet.",
            (*acid, *carbonate),
        )
    else:
        yield Finding(
            "acid-carbonate-wet",
            STOP,
            f"{_name(result, acid[0]).capitalize()} and {_name(result, carbonate[0])} fizz away in water and use each "
            "other up; in a closed jar they build pressure.",
            "Keep them apart: use one in this product, the other as a rinse.",
            (*acid, *carbonate),
            without(result.formula, *acid),
        )


def _caustic_first(result: Reckoning) -> Iterator[Finding]:
    """Always caustic into water."""
    caustic = lines_of(result, "caustic-soda")
    water = lines_of(result, "water")
    if caustic and water and min(caustic) < min(water):
        yield Finding(
            "water-onto-caustic",
            STOP,
            "Water is listed after caustic soda. Water poured onto caustic boils and spits.",
            "Put the water first and add the caustic to it slowly, with goggles and gloves.",
            (min(caustic), min(water)),
            moved(result.formula, min(water), min(caustic)),
        )
    elif caustic and not water:
        yield Finding(
            "caustic-without-water",
            WARN,
            "Caustic soda stands here without water to dissolve it in.",
            "Dissolve it in cold water first; never pour water onto it.",
            caustic,
        )


def _unfit_alcohol(result: Reckoning) -> Iterator[Finding]:
    """FDA warnings on methanol in hand sanitisers."""
    for i, line in enumerate(result.formula.lines):
        if not line.material.known and _UNFIT.search(line.material.name):
            yield Finding(
                "unfit-alcohol",
                STOP,
                f"“{line.material.name}” is not for skin: denatured, methylated or unknown alcohol may hold "
                "methanol, which is toxic through the skin.",
                "Use undenatured or cosmetic-grade alcohol.",
                (i,),
            )


def _spirits(result: Reckoning) -> Iterator[Finding]:
    if not families()[result.formula.family].rub:
        return
    for i in lines_with(result, "alcohol"):
        strength = result.formula.lines[i].strength
        if strength is not None and 0 < strength.high <= 50 and result.formula.lines[i].amount.unit != QS:
            yield Finding(
                "spirit-too-weak",
                STOP,
                f"{_name(result, i).capitalize()} of {strength} is the strength of drinking spirits. It can never "
                f"reach a 60 % line, whatever it is mixed with. Is it {figures(strength.value * 2)} proof?",
                "Use a stock well above the line.",
                (i,),
            )


def _strong_peroxide(result: Reckoning) -> Iterator[Finding]:
    for i in lines_of(result, "hydrogen-peroxide"):
        strength = result.formula.lines[i].counted_strength
        if strength is not None and strength.high > _STRONG_PEROXIDE_PCT:
            yield Finding(
                "peroxide-strong",
                WARN,
                f"Peroxide of {strength} burns skin and eyes when poured.",
                "Gloves and goggles, or buy it at 3 %.",
                (i,),
            )


def _strong_chlorine(result: Reckoning) -> Iterator[Finding]:
    active = result.active("sodium-hypochlorite")
    if active is not None and len(result.lines) > 1 and active.higher > _STRONG_CHLORINE_PCT:
        yield Finding(
            "chlorine-strong",
            WARN,
            f"{figures(active.higher)} % chlorine is more than any surface line asks for; it attacks metal, cloth "
            "and lungs.",
            "0.1 % for surfaces, 0.5 % for large spills (WHO, May 2020).",
            lines_of(result, "sodium-hypochlorite"),
        )


def _too_much_alcohol(result: Reckoning) -> Iterator[Finding]:
    if lines_with(result, "alcohol") and result.total.volume_mL > MOST_ALCOHOL_ML * (1 + 1e-9):
        yield Finding(
            "too-much-alcohol",
            STOP,
            f"{figures(result.total.volume_mL / 1000)} L in one place: more than 50 L of rub needs special ventilation "
            "(WHO, Guide to Local Production).",
            "Make it in smaller batches, and store them apart.",
            (),
            result.formula.scaled_to(Quantity(MOST_ALCOHOL_ML / 1000.0, "L")),
        )


def _phototoxic(result: Reckoning) -> Iterator[Finding]:
    """Tisserand & Young, Essential Oil Safety, 2nd ed., from memory; common practice sides with caution."""
    if not families()[result.formula.family].rub:
        return
    for i in lines_with(result, "phototoxic"):
        material, share = result.formula.lines[i].material, result.lines[i].share_w_pct
        limit = material.phototoxic_pct or 0.0
        over = share > limit
        yield Finding(
            "phototoxic-over" if over else "phototoxic",
            STOP if over else WARN,
            f"{material.name} left on skin burns in sunlight"
            + (f"; {figures(share)} % is above its limit of {figures(limit)} %." if over else
               f"; {figures(share)} % is within its limit of {figures(limit)} %, and formulators still leave it out."),
            "Lavender, or none.",
            (i,),
            swapped(result.formula, i, "lavender-oil"),
        )  # fmt: skip


def _oil_as_active(result: Reckoning) -> Iterator[Finding]:
    claim, formula = result.formula.claim, result.formula
    oils = lines_with(result, "essential-oil")
    claimed = claim is not None and "essential-oil" in _known(claim.active).roles
    kills = "essential-oil" in _known(formula.claims.kills).roles
    alone = families()[result.formula.family].rub and oils and not lines_with(result, "alcohol")
    if claimed or kills or alone:
        yield Finding(
            "oil-not-sanitiser",
            STOP,
            "Essential oils smell nice and are not sanitisers.",
            "Count on alcohol above its line; use the oil for its scent.",
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


MIXING_RULES = (
    _never_mix,
    _acid_and_carbonate,
    _caustic_first,
    _unfit_alcohol,
    _spirits,
    _strong_peroxide,
    _strong_chlorine,
    _too_much_alcohol,
    _phototoxic,
    _oil_as_active,
)
