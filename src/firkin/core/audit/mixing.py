"""Audit rules about what must never meet, and what must not be put on skin."""

from collections.abc import Iterator
from dataclasses import replace

from firkin.core.audit.findings import Finding, Severity
from firkin.core.catalogue import Material, families, is_unfit, materials
from firkin.core.formula import Formula, Reckoning, moved, swapped, without
from firkin.core.measures import QS, Quantity, figures

#: WHO, Guide to Local Production: not more than this made or stored in one place, mL.
MOST_ALCOHOL_ML = 50_000.0
_STRONG_PEROXIDE_PCT = 6.0  # WHO, Guide to Local Production: concentrates are corrosive
_STRONG_CHLORINE_PCT = 1.0  # twice the strongest rule line


def _name(result: Reckoning, position: int) -> str:
    return result.formula.lines[position].material.name.lower()


def _never_mix(result: Reckoning) -> Iterator[Finding]:
    """What a material must not meet stands with the material (WHO, May 2020, and common knowledge of the trade)."""
    formula = result.formula
    for key in dict.fromkeys(line.material.id for line in formula.lines if line.material.hazard_rule):
        places = formula.lines_of(key)
        dangerous = formula.lines[places[0]].material
        more, fix = dangerous.hazard_advice
        for i, line in enumerate(formula.lines):
            harm = dangerous.harm_with(line.material)
            if harm is None:
                continue
            what = f" makes {harm}" if harm else " is not known to be harmless"
            yield Finding(
                dangerous.hazard_rule,
                Severity.STOP,
                f"{dangerous.called} with {_name(result, i)}{what}. {more}".strip(),
                fix,
                (*places, i),
                without(formula, i),
            )


def _acid_and_carbonate(result: Reckoning) -> Iterator[Finding]:
    acid = result.formula.lines_with("free-acid")
    carbonate = result.formula.lines_with("carbonate")
    if not acid or not carbonate:
        return
    if result.formula.dry:
        yield Finding(
            "acid-carbonate-dry",
            Severity.NOTE,
            "Acid and carbonate fizz and clump in damp air.",
            "Dry bowl and spoon, a sealed jar, and a desiccant sachet.",
            (*acid, *carbonate),
        )
    else:
        yield Finding(
            "acid-carbonate-wet",
            Severity.STOP,
            f"{_name(result, acid[0]).capitalize()} and {_name(result, carbonate[0])} fizz away in water and use each "
            "other up; in a closed jar they build pressure.",
            "Keep them apart: use one in this product, the other as a rinse.",
            (*acid, *carbonate),
            without(result.formula, *acid),
        )


def _caustic_first(result: Reckoning) -> Iterator[Finding]:
    """Always caustic into water."""
    caustic = result.formula.lines_of("caustic-soda")
    water = result.formula.lines_of("water")
    if caustic and water and min(caustic) < min(water):
        yield Finding(
            "water-onto-caustic",
            Severity.STOP,
            "Water is listed after caustic soda. Water poured onto caustic boils and spits.",
            "Put the water first and add the caustic to it slowly, with goggles and gloves.",
            (min(caustic), min(water)),
            moved(result.formula, min(water), min(caustic)),
        )
    elif caustic and not water:
        yield Finding(
            "caustic-without-water",
            Severity.WARN,
            "Caustic soda stands here without water to dissolve it in.",
            "Dissolve it in cold water first; never pour water onto it.",
            caustic,
        )


def _unfit_alcohol(result: Reckoning) -> Iterator[Finding]:
    """FDA warnings on methanol in hand sanitisers."""
    for i, line in enumerate(result.formula.lines):
        if not line.material.known and is_unfit(line.material.name):
            yield Finding(
                "unfit-alcohol",
                Severity.STOP,
                f"“{line.material.name}” is not for skin: denatured, methylated or unknown alcohol may hold "
                "methanol, which is toxic through the skin.",
                "Use undenatured or cosmetic-grade alcohol.",
                (i,),
            )


def _spirits(result: Reckoning) -> Iterator[Finding]:
    if not families()[result.formula.family].rub:
        return
    for i in result.formula.lines_with("alcohol"):
        strength = result.formula.lines[i].strength
        if strength is not None and 0 < strength.high <= 50 and result.formula.lines[i].amount.unit != QS:
            yield Finding(
                "spirit-too-weak",
                Severity.STOP,
                f"{_name(result, i).capitalize()} of {strength} is the strength of drinking spirits. It can never "
                f"reach a 60 % line, whatever it is mixed with. Is it {figures(strength.value * 2)} proof?",
                "Use a stock well above the line.",
                (i,),
            )


def _strong_peroxide(result: Reckoning) -> Iterator[Finding]:
    for i in result.formula.lines_of("hydrogen-peroxide"):
        strength = result.formula.lines[i].counted_strength
        if strength is not None and strength.high > _STRONG_PEROXIDE_PCT:
            yield Finding(
                "peroxide-strong",
                Severity.WARN,
                f"Peroxide of {strength} burns skin and eyes when poured.",
                "Gloves and goggles, or buy it at 3 %.",
                (i,),
            )


def _strong_chlorine(result: Reckoning) -> Iterator[Finding]:
    active = result.active("sodium-hypochlorite")
    if active is not None and len(result.lines) > 1 and active.higher > _STRONG_CHLORINE_PCT:
        yield Finding(
            "chlorine-strong",
            Severity.WARN,
            f"{figures(active.higher)} % chlorine is more than any surface line asks for; it attacks metal, cloth "
            "and lungs.",
            "0.1 % for surfaces, 0.5 % for large spills (WHO, May 2020).",
            result.formula.lines_of("sodium-hypochlorite"),
        )


def _too_much_alcohol(result: Reckoning) -> Iterator[Finding]:
    if result.formula.lines_with("alcohol") and result.total.volume_mL > MOST_ALCOHOL_ML * (1 + 1e-9):
        yield Finding(
            "too-much-alcohol",
            Severity.STOP,
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
    for i in result.formula.lines_with("phototoxic"):
        material, share = result.formula.lines[i].material, result.lines[i].pure_share_w_pct
        limit = material.phototoxic_pct or 0.0
        over = share > limit
        yield Finding(
            "phototoxic-over" if over else "phototoxic",
            Severity.STOP if over else Severity.WARN,
            f"{material.name} left on skin burns in sunlight"
            + (f"; {figures(share)} % is above its limit of {figures(limit)} %." if over else
               f"; {figures(share)} % is within its limit of {figures(limit)} %, and formulators still leave it out."),
            "Lavender, or none.",
            (i,),
            swapped(result.formula, i, "lavender-oil"),
        )  # fmt: skip


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
