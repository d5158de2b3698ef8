"""Audit rules about whether a product holds together, keeps and does its work."""

from collections.abc import Iterator

from firkin.core.audit_mixing import lines_of, lines_with
from firkin.core.errors import CannotReckon
from firkin.core.families import families
from firkin.core.findings import NOTE, STOP, WARN, Finding
from firkin.core.neutralising import neutralise
from firkin.core.numerals import figures
from firkin.core.quantities import Quantity
from firkin.core.reckoning import Reckoning

_WATERY = frozenset({"foaming-soap", "liquid-soap", "dish-liquid"})
_SOAPY = frozenset({"soap", "surfactant"})

#: mL of triethanolamine per g of polymer, and how far it may be off before it shows (common practice).
TEA_PER_GRAM = (1.2, 1.3)
_TEA_SLACK = 0.35
#: Share of soap that foams well in a foaming pump: 1 part to 3, to 5 (common practice), with slack.
FOAM_SHARE_PCT = (15.0, 28.0)
_MUCH_GLYCEROL_PCT = 5.0  # WHO's formulas hold 1.45 %; above this a rub stays sticky (common practice)
_FERMENT_SLACK = 0.25


def _oil_separates(result: Reckoning) -> Iterator[Finding]:
    oils = lines_with(result, "oil")
    if not oils or result.formula.dry:
        return
    names = ", ".join(result.formula.lines[i].material.name.lower() for i in oils)
    if lines_with(result, "alcohol"):
        yield Finding(
            "oil-in-alcohol",
            WARN,
            f"{names.capitalize()} does not dissolve in alcohol and water: it floats, and what is poured differs from "
            "bottle to bottle.",
            "Use glycerol against drying.",
            oils,
        )
    elif result.formula.family in _WATERY:
        yield Finding(
            "oil-in-soap", NOTE, f"{names.capitalize()} floats on diluted soap.", "A trace only, and shake it.", oils
        )


def _thickener_limit(result: Reckoning) -> Iterator[Finding]:
    alcohol = sum(active.pct_ww for active in result.actives if active.is_alcohol)
    for i in lines_with(result, "thickener"):
        material = result.formula.lines[i].material
        if material.alcohol_limit_ww is not None and alcohol > material.alcohol_limit_ww:
            yield Finding(
                "thickener-limit",
                STOP,
                f"{material.name} stands {figures(material.alcohol_limit_ww)} % alcohol by weight; this holds "
                f"{figures(alcohol)} %. The gel collapses.",
                "Less alcohol, or a thickener made for it.",
                (i,),
            )


def _neutraliser(result: Reckoning) -> Iterator[Finding]:
    polymer = lines_with(result, "needs-neutraliser")
    if not polymer:
        return
    base = lines_with(result, "neutraliser", "base")
    grams = sum(result.lines[i].mass_g for i in polymer)
    if not base:
        yield Finding(
            "neutraliser-missing",
            WARN,
            "This polymer gels only when it is neutralised, and no neutraliser is in the formula.",
            f"About {figures(grams * TEA_PER_GRAM[0])} to {figures(grams * TEA_PER_GRAM[1])} mL of triethanolamine, "
            "to pH 7.",
            polymer,
        )
        return
    tea = lines_of(result, "triethanolamine")
    if tea and grams:
        per_gram = sum(result.lines[i].volume_mL for i in tea) / grams
        low, high = TEA_PER_GRAM[0] * (1 - _TEA_SLACK), TEA_PER_GRAM[1] * (1 + _TEA_SLACK)
        if not low <= per_gram <= high:
            yield Finding(
                "neutraliser-off",
                WARN,
                f"{figures(per_gram)} mL of triethanolamine per gram of polymer; about 1.2 to 1.3 brings it to pH 7.",
                f"Use about {figures(grams * 1.25)} mL, in small amounts, and check the pH.",
                (*polymer, *tea),
            )


def _salt_and_polymer(result: Reckoning) -> Iterator[Finding]:
    salt, polymer = lines_with(result, "salt"), lines_with(result, "needs-neutraliser")
    if salt and polymer:
        yield Finding(
            "salt-thins-polymer", WARN, "Salt makes carbomer gels collapse.", "Leave the salt out.", (*salt, *polymer)
        )


def _preservative(result: Reckoning) -> Iterator[Finding]:
    keeps = lines_with(result, "preservative")
    formula = result.formula
    if formula.family in _WATERY and not keeps and not formula.dry and lines_with(result, "water"):
        days = families()[formula.family].keep_days
        yield Finding(
            "no-preservative",
            WARN,
            "There is water and no preservative in it: diluted soap does not keep itself.",
            f"Use it up within about {min(days, 28)} days, or add a preservative by weight of the batch.",
        )
    for i in keeps:
        material, share = formula.lines[i].material, result.lines[i].share_w_pct
        if material.preserves_pct and not material.preserves_pct[0] <= share <= material.preserves_pct[1]:
            low, high = material.preserves_pct
            yield Finding(
                "preservative-window",
                WARN,
                f"{material.name} at {figures(share)} % of the batch by weight is outside {figures(low)} to "
                f"{figures(high)} %.",
                f"Weigh the batch and use {figures(result.total.mass_g * low / 100)} to "
                f"{figures(result.total.mass_g * high / 100)} g.",
                (i,),
            )
        if material.preserves_to_ph is not None and lines_with(result, "soap"):
            yield Finding(
                "preservative-ph",
                WARN,
                f"{material.name} works only below pH {figures(material.preserves_to_ph)}; soap is near pH 9 to 10, "
                "so it does nothing here.",
                "Use one that works in soap, such as phenoxyethanol, in its own window.",
                (i,),
            )


def _curdled_soap(result: Reckoning) -> Iterator[Finding]:
    soap = lines_with(result, "soap")
    acid = tuple(i for i in lines_with(result, "acid") if "surfactant" not in result.formula.lines[i].material.roles)
    if soap and acid:
        yield Finding(
            "acid-curdles-soap",
            WARN,
            f"{result.formula.lines[acid[0]].material.name} turns soap back into fat: it curdles.",
            "Use one or the other.",
            (*soap, *acid),
        )
    salt = lines_with(result, "salt")
    if soap and salt and not result.formula.dry:
        yield Finding(
            "salt-curdles-soap",
            WARN,
            "Salt drives soap out of solution; it thickens detergents, not soap.",
            "Leave the salt out.",
            (*soap, *salt),
        )


def _flagged(result: Reckoning) -> Iterator[Finding]:
    for i in lines_with(result, "flagged"):
        material = result.formula.lines[i].material
        yield Finding(
            "flagged-material",
            WARN,
            f"{material.name}: {material.flag}.",
            f"Use {material.instead} instead." if material.instead else "Leave it out.",
            (i,),
        )


def _sulfonic_acid(result: Reckoning) -> Iterator[Finding]:
    """LABSA and caustic by mole; LABSA a mean of 320 g/mol, from memory."""
    acid, base = lines_of(result, "labsa"), lines_of(result, "caustic-soda")
    if not acid:
        return
    formula = result.formula
    if not base:
        yield Finding(
            "acid-not-neutralised",
            STOP,
            "Sulfonic acid stands here with no caustic to neutralise it: the product would burn skin.",
            "Neutralise it with caustic soda dissolved in water, to about pH 8.",
            acid,
        )
        return
    try:
        ended = neutralise(
            *(
                (formula.lines[at].material, formula.lines[at].counted_strength, Quantity(result.lines[at].mass_g, "g"))
                for at in (acid[0], base[0])
            )
        )
    except CannotReckon:
        return
    if ended.ends == "acid":
        yield Finding(
            "acid-left",
            WARN,
            f"It ends acid: {figures(ended.base_g_missing)} g of caustic soda are missing.",
            "Add it dissolved, in small amounts, and check the pH: about 8 for dish liquid.",
            (*acid, *base),
        )
    elif ended.ends == "alkaline" and ended.base_g_spare > 0.05 * result.lines[base[0]].mass_g:
        yield Finding(
            "caustic-left",
            WARN,
            f"It ends alkaline: {figures(ended.base_g_spare)} g of caustic soda are to spare. Too alkaline, it yellows "
            "in days and hurts hands.",
            "Use less caustic, or check the pH and bring it to about 8.",
            (*acid, *base),
        )


def _salt_last(result: Reckoning) -> Iterator[Finding]:
    salt = lines_with(result, "salt")
    if salt and lines_with(result, "surfactant") and salt[-1] != len(result.lines) - 1:
        later = result.formula.lines[-1].material.name.lower()
        yield Finding(
            "salt-last",
            NOTE,
            f"Salt comes before {later}. It thickens to a peak and then thins, so it goes in last, a little at a time.",
            "Move the salt to the end.",
            salt,
        )


def _foam(result: Reckoning) -> Iterator[Finding]:
    if result.formula.family != "foaming-soap":
        return
    active = result.active("castile-soap")
    if active is None:
        return
    low, high = FOAM_SHARE_PCT
    if not low <= active.label <= high:
        parts = 100.0 / active.label - 1.0
        yield Finding(
            "foam-ratio",
            WARN,
            f"1 part of soap to {figures(parts, 3)} of the rest: "
            + ("too thick, it clogs a foaming pump." if active.label > high else "too thin to foam well."),
            "1 part of soap to 3 parts of water, up to 5.",
            lines_of(result, "castile-soap"),
        )


def _sticky(result: Reckoning) -> Iterator[Finding]:
    active = result.active("glycerol")
    if families()[result.formula.family].rub and active is not None and active.label > _MUCH_GLYCEROL_PCT:
        yield Finding(
            "glycerol-sticky",
            NOTE,
            f"{figures(active.label)} % glycerol stays sticky; 1 to 3 % is usual, and WHO’s formulas hold 1.45 %.",
            "Use less of it.",
            lines_of(result, "glycerol"),
        )


def _ferment_ratio(result: Reckoning) -> Iterator[Finding]:
    if result.formula.family != "ferment":
        return
    sugar, peel, water = (
        sum(result.lines[i].mass_g for i in lines_with(result, role)) for role in ("sugar", "peel", "water")
    )
    if not sugar:
        yield Finding("ferment-no-sugar", WARN, "A ferment needs sugar to work.", "1 part sugar, 3 peel, 10 water.")
        return
    off = max(abs(peel / sugar / 3.0 - 1.0), abs(water / sugar / 10.0 - 1.0))
    if off > _FERMENT_SLACK:
        yield Finding(
            "ferment-ratio",
            NOTE,
            f"1 part sugar to {figures(peel / sugar, 3)} peel and {figures(water / sugar, 3)} water by weight; "
            "1 : 3 : 10 is usual.",
            "Weigh it again, or know that it differs.",
        )


QUALITY_RULES = (
    _oil_separates,
    _thickener_limit,
    _neutraliser,
    _salt_and_polymer,
    _preservative,
    _curdled_soap,
    _flagged,
    _sulfonic_acid,
    _salt_last,
    _foam,
    _sticky,
    _ferment_ratio,
)
