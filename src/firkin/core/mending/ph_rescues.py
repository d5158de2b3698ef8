"""Rescuing a batch whose pH came out wrong: by mole where acid and caustic are known, in small amounts where not."""

from firkin.core.catalogue import find
from firkin.core.formula import Reckoning
from firkin.core.measures import Quantity, Strength, figures
from firkin.core.mending.help import Addition, Rescue, Seen, in_g, in_mL
from firkin.core.questions import Moles, moles

_NEUTRALISER = find("triethanolamine")
_TEA_ML_PER_G = sum(_NEUTRALISER.neutralises_mL_per_g) / 2.0
#: Less than this share of the caustic is neither missing nor spare (common practice, no source).
_KNOWN_TO = 0.002
_CAUSTIC_CAUTION = "Put on goggles and gloves. Dissolve it in a little cold water first, never the other way round."
_ACID_CAUTION = "Put on goggles and gloves. It warms as it goes in."
_CHECK = "Stir until even and check the pH before the next of it."


def acid(result: Reckoning, seen: Seen) -> Rescue:
    """What lifts a pH that is too low."""
    polymer = result.formula.lines_with("needs-neutraliser")
    if polymer:
        grams = sum(result.lines[i].mass_g for i in polymer)
        there = sum(result.lines[i].volume_mL for i in result.formula.lines_with("neutraliser"))
        missing = max(0.0, _TEA_ML_PER_G * grams - there)
        return Rescue(
            "acid",
            (
                f"{figures(grams)} g of polymer take about {figures(_TEA_ML_PER_G * grams)} mL of triethanolamine.",
                "Add it in drops, stir, and check the pH each time: about 7. Gloves.",
            ),
            (Addition(_NEUTRALISER, in_mL(missing or 0.1 * grams), portions=4, caution="Gloves."),),
            mix="Stir gently until it gels evenly, and check the pH: about 7.",
        )
    if result.formula.lines_of("labsa"):
        missing_g, strength = _caustic_missing(result)
        if missing_g > _nothing(result):
            return Rescue(
                "acid",
                (
                    f"{figures(missing_g)} g of caustic soda {strength} is missing.",
                    "Goggles and gloves on. Dissolve it in a little cold water, never the other way round. Add it in "
                    "small amounts and check the pH: about 8.",
                ),
                (Addition(find("caustic-soda"), in_g(missing_g), strength, portions=4, caution=_CAUSTIC_CAUTION),),
                mix=_CHECK,
            )
    return Rescue(
        "acid", ("Check the meter in a buffer first. Then add a base in small amounts, and check each time.",)
    )


def alkaline(result: Reckoning, seen: Seen) -> Rescue:
    """What brings a pH down that is too high."""
    if result.formula.family == "ferment":
        return Rescue(
            "alkaline",
            (
                "A ferment falls below pH 4 by itself: leave it closed, vent it, and read it again in a week.",
                "Mould that is not white, or a smell of rot, means it is lost: pour it away.",
            ),
        )
    if result.formula.lines_with("soap") and not result.formula.lines_with("surfactant"):
        return Rescue(
            "alkaline", ("Soap is alkaline by nature, about pH 9 to 10. Acid would curdle it: leave it alone.",)
        )
    labsa = result.formula.lines_of("labsa")
    if labsa and result.formula.lines_of("caustic-soda"):
        missing_g, strength = _caustic_missing(result)
        if missing_g < -_nothing(result):
            line = result.formula.lines[labsa[0]]
            reagent = moles("acid", "acid", line.material, line.counted_strength, Quantity(100.0, "g"))[0]
            acid_g = -missing_g / _caustic(strength).g_per_proton * reagent.g_per_proton
            return Rescue(
                "alkaline",
                (
                    f"{figures(-missing_g)} g of caustic soda {strength} is left over. Sulfonic acid takes it up.",
                    "Stir it in, in small amounts, with goggles and gloves, and check the pH: about 8. Too alkaline, "
                    "it yellows in days.",
                ),
                (Addition(line.material, in_g(acid_g), line.counted_strength, portions=4, caution=_ACID_CAUTION),),
                mix=_CHECK,
            )
    if seen.citric_g:
        return Rescue(
            "alkaline",
            (
                f"{figures(seen.citric_g, 2)} g of citric acid takes up the extra base.",
                "Dissolve it in ten times as much water, add it in drops, and read the pH each time.",
            ),
            (Addition(find("citric-acid"), in_g(seen.citric_g), portions=4),),
            mix=_CHECK,
        )
    grams = 0.0005 * result.total.mass_g
    return Rescue(
        "alkaline",
        ("Check the meter in a buffer first. Then citric acid, dissolved, a pinch at a time, and check each time.",),
        (Addition(find("citric-acid"), in_g(grams), portions=4),),
        mix=_CHECK,
    )


def _nothing(result: Reckoning) -> float:
    """Grams of caustic that are neither missing nor spare: less than the acid's strength is known to."""
    return _KNOWN_TO * sum(result.lines[i].mass_g for i in result.formula.lines_of("caustic-soda"))


def _caustic(strength: Strength | None) -> Moles:
    return moles("base", "base", find("caustic-soda"), strength, Quantity(100.0, "g"))[0]


def _caustic_missing(result: Reckoning) -> tuple[float, Strength | None]:
    """Grams of caustic missing (positive) or spare (negative) by mole, in the strength of the bottle it came from."""
    formula = result.formula

    def protons(role: str, material: str) -> float:
        lines = [(formula.lines[i], result.lines[i].mass_g) for i in formula.lines_of(material)]
        return sum(
            moles(role, role, line.material, line.counted_strength, Quantity(grams, "g"))[0].protons
            for line, grams in lines
            if grams
        )

    there = formula.lines_of("caustic-soda")
    strength = formula.lines[there[0]].counted_strength if there else find("caustic-soda").usual_strength
    gap = protons("acid", "labsa") - protons("base", "caustic-soda")
    return gap * _caustic(strength).g_per_proton, strength
