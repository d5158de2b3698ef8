"""Audit rules about whether a product holds together, keeps and does its work."""

from collections.abc import Iterator

from firkin.core.audit.findings import Finding, Severity
from firkin.core.catalogue import families, find
from firkin.core.densities import holds_g
from firkin.core.formula import (
    Formula,
    Reckoning,
    added,
    moved,
    pour_order,
    scaled_lines,
    swapped,
    with_line,
    with_mass,
    without,
)
from firkin.core.measures import Quantity, figures, rounded, weight_words
from firkin.core.texts import uncapped

#: How far a neutraliser may be off before it shows (common practice).
_TEA_SLACK = 0.35
#: Share of soap that foams well in a foaming pump: 1 part to 3, to 5 (common practice), with slack.
FOAM_SHARE_PCT = (15.0, 28.0)
_MUCH_GLYCEROL_PCT = 5.0  # WHO's formulas hold 1.45 %; above this a rub stays sticky (common practice)
_FERMENT_SLACK = 0.25
_USUAL_GLYCEROL_PCT = 1.45
#: What is offered where a neutraliser or a preservative is missing; how much of it stands in the catalogue.
_NEUTRALISER, _PRESERVATIVE = find("triethanolamine"), find("phenoxyethanol")
_TEA_PER_GRAM = _NEUTRALISER.neutralises_mL_per_g
_TEA_USUAL = sum(_TEA_PER_GRAM) / 2.0


def _thickener_limit(result: Reckoning) -> Iterator[Finding]:
    alcohol = sum(active.pct_ww for active in result.actives if active.is_alcohol)
    for i in result.formula.lines_with("thickener"):
        material = result.formula.lines[i].material
        if material.alcohol_limit_ww is not None and alcohol > material.alcohol_limit_ww:
            yield Finding(
                "thickener-limit",
                Severity.STOP,
                f"{figures(alcohol)} % alcohol by weight is too much for {uncapped(material.name)}: the gel collapses "
                f"above {figures(material.alcohol_limit_ww)} %.",
                "Use less alcohol, or a thickener made for it.",
                (i,),
                swapped(result.formula, i, "polyacrylate-gel"),
            )


def _thickener_much(result: Reckoning) -> Iterator[Finding]:
    for i in result.formula.lines_with("thickener"):
        material, share = result.formula.lines[i].material, result.lines[i].pure_share_w_pct
        most = material.thickens_most_pct
        if most is not None and share > most:
            yield Finding(
                "thickener-much",
                Severity.WARN,
                f"{figures(share, 3)} % {uncapped(material.name)} is far too much. Above {figures(most)} % it sets to "
                "lumps or rubber (common practice, no source).",
                "Read the amount again: a decimal point may have slipped.",
                (i,),
                with_mass(result, i, result.total.mass_g * most / 2.0 / 100.0 / result.lines[i].pure),
            )


def _neutraliser(result: Reckoning) -> Iterator[Finding]:
    polymer = result.formula.lines_with("needs-neutraliser")
    if not polymer:
        return
    base = result.formula.lines_with("neutraliser", "base")
    grams = sum(result.lines[i].pure_g for i in polymer)
    if not base:
        yield Finding(
            "neutraliser-missing",
            Severity.WARN,
            "This polymer gels only when it is neutralised, and no neutraliser is in the formula.",
            f"About {figures(grams * _TEA_PER_GRAM[0])} to {figures(grams * _TEA_PER_GRAM[1])} mL of triethanolamine, "
            "to pH 7.",
            polymer,
            added(result, "triethanolamine", grams * _TEA_USUAL * _NEUTRALISER.density),
        )
        return
    tea = result.formula.lines_of("triethanolamine")
    if tea and grams:
        per_gram = sum(result.lines[i].pure_g for i in tea) / _NEUTRALISER.density / grams
        low, high = _TEA_PER_GRAM[0] * (1 - _TEA_SLACK), _TEA_PER_GRAM[1] * (1 + _TEA_SLACK)
        if not low <= per_gram <= high:
            yield Finding(
                "neutraliser-off",
                Severity.WARN,
                f"{figures(per_gram)} mL of triethanolamine per gram of polymer; about 1.2 to 1.3 brings it to pH 7.",
                f"Use about {figures(grams * _TEA_USUAL)} mL, in small amounts, and check the pH.",
                (*polymer, *tea),
                _one_of(result, tea, grams * _TEA_USUAL * _NEUTRALISER.density / result.lines[tea[0]].pure),
            )


def _salt_and_polymer(result: Reckoning) -> Iterator[Finding]:
    salt, polymer = result.formula.lines_with("salt"), result.formula.lines_with("needs-neutraliser")
    if salt and polymer:
        yield Finding(
            "salt-thins-polymer",
            Severity.WARN,
            "Salt makes carbomer gels collapse.",
            "Leave the salt out.",
            (*salt, *polymer),
            without(result.formula, *salt),
        )


def _preservative(result: Reckoning) -> Iterator[Finding]:
    keeps = result.formula.lines_with("preservative")
    formula = result.formula
    if any("preservative" in line.material.name.lower() for line in formula.lines if not line.material.known):
        return  # some preservative, and which is not known: the finding about the unknown material says so
    if families()[formula.family].watery and not keeps and not formula.dry and result.formula.lines_with("water"):
        days = families()[formula.family].keep_days
        yield Finding(
            "no-preservative",
            Severity.WARN,
            "No preservative: with water in it, this spoils in weeks.",
            f"Use it within {min(days, 28)} days, or add "
            f"{figures(result.total.mass_g * _PRESERVATIVE.preserves_usual_pct / 100)} g of phenoxyethanol.",
            (),
            added(result, "phenoxyethanol", result.total.mass_g * _PRESERVATIVE.preserves_usual_pct / 100),
        )
    for i in keeps:
        material, share = formula.lines[i].material, result.lines[i].pure_share_w_pct
        if material.preserves_pct and not material.preserves_pct[0] <= share <= material.preserves_pct[1]:
            low, high = material.preserves_pct
            whole_g = result.total.mass_g / result.lines[i].pure
            yield Finding(
                "preservative-window",
                Severity.WARN,
                f"{material.name} is {figures(share)} % of the batch by weight. It should be {figures(low)} to "
                f"{figures(high)} %.",
                f"Weigh the batch and use {figures(whole_g * low / 100)} to {figures(whole_g * high / 100)} g.",
                (i,),
                with_mass(result, i, whole_g * (low + high) / 200),
            )
        if material.preserves_to_ph is not None and result.formula.lines_with("soap"):
            yield Finding(
                "preservative-ph",
                Severity.WARN,
                f"{material.name} works only below pH {figures(material.preserves_to_ph)}; soap is near pH 9 to 10, "
                "so it does nothing here.",
                "Use one that works in soap, such as phenoxyethanol, in its own window.",
                (i,),
                _preserved_otherwise(result, i),
            )


def _curdled_soap(result: Reckoning) -> Iterator[Finding]:
    soap = result.formula.lines_with("soap")
    acid = result.formula.lines_with("free-acid")
    if soap and acid:
        yield Finding(
            "acid-curdles-soap",
            Severity.WARN,
            f"{result.formula.lines[acid[0]].material.name} turns soap back into fat: it curdles.",
            "Use one or the other.",
            (*soap, *acid),
            without(result.formula, *acid),
        )
    salt = result.formula.lines_with("salt")
    if soap and salt and not result.formula.dry:
        yield Finding(
            "salt-curdles-soap",
            Severity.WARN,
            "Salt drives soap out of solution; it thickens detergents, not soap.",
            "Leave the salt out.",
            (*soap, *salt),
            without(result.formula, *salt),
        )


def _flagged(result: Reckoning) -> Iterator[Finding]:
    for i in result.formula.lines_with("flagged"):
        material = result.formula.lines[i].material
        yield Finding(
            "flagged-material",
            Severity.WARN,
            f"{material.name}: {material.flag}.",
            f"Use {uncapped(find(material.instead).name)} instead." if material.instead else "Leave it out.",
            (i,),
            _instead(result, i),
        )


#: More than this share of a batch is no pinch.
_A_LITTLE = 0.05  # common practice, no source
_MINOR = frozenset(
    {"dye", "fragrance", "essential-oil", "preservative", "salt", "neutraliser", "thickener", "starter"}
    | {"chlorine", "base", "ammonia", "strong-acid"}
)


def _topped_with_little(result: Reckoning) -> Iterator[Finding]:
    """ "Dye q.s." is a little to taste, and no top-up: asked about, never made 201 g of dye."""
    formula = result.formula
    topped = formula.topped_up
    if topped is None or not _MINOR & formula.lines[topped].material.roles:
        return
    name, grams = uncapped(formula.lines[topped].material.name), result.lines[topped].mass_g
    if grams <= _A_LITTLE * result.total.mass_g:
        return
    yield Finding(
        "top-up-of-little",
        Severity.STOP,
        f"It would fill up with {weight_words(grams)} of {name}: q.s. of something used in small amounts means "
        "as much as is needed.",
        f"Give the {name} an amount, and let the water top it up.",
        (topped,),
        None,
    )


def _salt_last(result: Reckoning) -> Iterator[Finding]:
    formula = result.formula
    salt = formula.lines_with("salt")
    mended = {line for step in formula.steps if step.do == "rescue" for line in step.lines}
    told = {line for step in formula.steps for line in step.lines}
    by_steps = told == set(range(len(formula.lines)))  # then they say what goes in last, and not the list
    order = [i for i in (pour_order(formula) if by_steps else range(len(formula.lines))) if i not in mended]
    last = order[-1] if order else 0
    if salt and formula.lines_with("surfactant") and order and last not in salt and not mended & set(salt):
        later = uncapped(formula.lines[last].material.name)
        yield Finding(
            "salt-last",
            Severity.NOTE,
            f"Salt comes before {later}. It thickens to a peak and then thins, so it goes in last, a little at a time.",
            "Move the salt to the end.",
            salt,
            None if by_steps else moved(result.formula, salt[-1], len(result.lines) - 1),
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
            Severity.WARN,
            f"1 part of soap to {figures(parts, 3)} of the rest: "
            + ("too thick, it clogs a foaming pump." if active.label > high else "too thin to foam well."),
            "1 part of soap to 3 parts of water, up to 5.",
            result.formula.lines_of("castile-soap"),
            _foaming(result),
        )


def _sticky(result: Reckoning) -> Iterator[Finding]:
    active = result.active("glycerol")
    if families()[result.formula.family].rub and active is not None and active.label > _MUCH_GLYCEROL_PCT:
        yield Finding(
            "glycerol-sticky",
            Severity.NOTE,
            f"{figures(active.label)} % glycerol stays sticky; 1 to 3 % is usual, and WHO’s formulas hold 1.45 %.",
            "Use less of it.",
            result.formula.lines_of("glycerol"),
            scaled_lines(result.formula, result.formula.lines_of("glycerol"), _USUAL_GLYCEROL_PCT / active.label),
        )


def _ferment_ratio(result: Reckoning) -> Iterator[Finding]:
    if result.formula.family != "ferment":
        return
    sugar, peel, water = (
        sum(result.lines[i].mass_g for i in result.formula.lines_with(role)) for role in ("sugar", "peel", "water")
    )
    if not sugar:
        yield Finding(
            "ferment-no-sugar", Severity.WARN, "A ferment needs sugar to work.", "1 part sugar, 3 peel, 10 water."
        )
        return
    off = max(abs(peel / sugar / 3.0 - 1.0), abs(water / sugar / 10.0 - 1.0))
    if off > _FERMENT_SLACK:
        yield Finding(
            "ferment-ratio",
            Severity.NOTE,
            f"1 part sugar to {figures(peel / sugar, 3)} peel and {figures(water / sugar, 3)} water by weight; "
            "1 : 3 : 10 is usual.",
            "Weigh it again, or expect it to differ.",
            (),
            _fermenting(result, sugar, peel, water),
        )


def _one_of(result: Reckoning, positions: tuple[int, ...], mass_g: float) -> Formula | None:
    """The formula with the first of these lines at a mass and the others gone."""
    fixed = with_mass(result, positions[0], mass_g)
    return without(fixed, *positions[1:]) if positions[1:] else fixed


def _preserved_otherwise(result: Reckoning, at: int) -> Formula:
    """Phenoxyethanol in its window in place of another preservative."""
    wanted = Quantity(rounded(result.total.mass_g * _PRESERVATIVE.preserves_usual_pct / 100), "g")
    if result.formula.lines[at].amount.kind == "percent":
        wanted = Quantity(_PRESERVATIVE.preserves_usual_pct, "%")
    return with_line(swapped(result.formula, at, "phenoxyethanol"), at, amount=wanted)


def _instead(result: Reckoning, at: int) -> Formula | None:
    material = result.formula.lines[at].material
    if not material.instead:
        return without(result.formula, at)
    if "preservative" in material.roles:
        return _preserved_otherwise(result, at)
    return swapped(result.formula, at, material.instead)


def _foaming(result: Reckoning) -> Formula | None:
    """The formula with 3 parts of water to 1 of soap."""
    soap, water = result.formula.lines_of("castile-soap"), result.formula.lines_of("water")
    if len(soap) != 1 or len(water) != 1 or result.formula.topped_up is not None:
        return None
    volumes = result.lines[soap[0]].volume_mL, result.lines[water[0]].volume_mL
    return scaled_lines(result.formula, water, 3.0 * volumes[0] / volumes[1])


def _fermenting(result: Reckoning, sugar: float, peel: float, water: float) -> Formula | None:
    """The formula with peel and water brought to 3 and 10 times the sugar."""
    if not peel or not water or result.formula.topped_up is not None:
        return None
    fixed = scaled_lines(result.formula, result.formula.lines_with("peel"), 3.0 * sugar / peel)
    return scaled_lines(fixed, result.formula.lines_with("water"), 10.0 * sugar / water)


#: Amounts of a recipe are rounded: so much past what dissolves is no fault.
_ROUNDED = 1.05


def _will_not_dissolve(result: Reckoning) -> Iterator[Finding]:
    """More of a solid than the water of the batch holds (solubility.toml: CRC Handbook, from memory)."""
    formula = result.formula
    if formula.dry:
        return
    water_g = sum(
        worked.mass_g * line.material.water_fraction(line.material.mass_fraction(line.counted_strength))
        for line, worked in zip(formula.lines, result.lines, strict=True)
    )
    for key in dict.fromkeys(line.material.id for line in formula.lines):
        places = formula.lines_of(key)
        most = holds_g(key, formula.temperature)
        if most is None or not water_g:
            continue
        material = formula.lines[places[0]].material
        solid_g = sum(result.lines[i].pure_g * formula.lines[i].material.holds for i in places)
        if solid_g > most / 100.0 * water_g * _ROUNDED:
            held = weight_words(10.0 * most / material.holds)
            yield Finding(
                "will-not-dissolve",
                Severity.WARN,
                f"It won't all dissolve: at {figures(formula.temperature)} °C a litre of water takes about {held} of "
                f"{uncapped(material.name)}. The rest settles as grit.",
                "Use less of it or more water, or keep it warm and shake it.",
                places,
            )


#: Those that hold whatever the amounts are.
ANY_AMOUNT_QUALITY_RULES = (_salt_and_polymer, _curdled_soap, _flagged)

QUALITY_RULES = (
    _thickener_limit,
    _thickener_much,
    _neutraliser,
    _salt_and_polymer,
    _preservative,
    _curdled_soap,
    _flagged,
    _salt_last,
    _topped_with_little,
    _foam,
    _sticky,
    _ferment_ratio,
    _will_not_dissolve,
)
