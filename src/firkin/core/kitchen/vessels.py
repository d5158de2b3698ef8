"""What stands against making a batch in a vessel: what it holds, what it is of, and how the batch foams or boils."""

import re
from dataclasses import dataclass

from firkin.core.catalogue import families
from firkin.core.formula import Formula, Reckoning, overflows, steps_of
from firkin.core.measures import amount_words, rounded_down, rounded_up

#: So many figures has the size that is offered for a vessel.
_FITS_DIGITS = 3
#: What a step says of what is mixed in the bottle it is used from.
_INTO_ITS_BOTTLE = re.compile(r"\binto the (?:\w+ )?bottle\b", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Against:
    """A sentence against a vessel; ``stops`` where it must not be used; ``fits_mL`` is the most that it would hold."""

    text: str
    stops: bool = False
    fits_mL: float | None = None


def against_vessel(result: Reckoning, name: str, volume_mL: float, made_of: str = "") -> tuple[Against, ...]:
    """What stands against a vessel of a brim volume for a batch; nothing where it will do.

    What is not said of a vessel is said to be not known, where it matters. Peel counts a gram as a millilitre, as the
    question of the ferment does: it floats.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.
        name: what it is called.
        volume_mL: what it holds to the brim, mL.
        made_of: id of what it is made of, such as "glass"; empty where it is not said.

    >>> from firkin.core.formula import house_formulas, reckon
    >>> peel = reckon(house_formulas()["citrus-ferment"].formula)
    >>> [one.stops for one in against_vessel(peel, "Jar", 2500.0, "glass")]
    [True]
    >>> against_vessel(peel, "Canister", 2500.0, "plastic")
    ()
    """
    formula, made_mL = result.formula, result.total.volume_mL
    if formula.lines_with("peel"):
        made_mL = max(made_mL, result.total.mass_g)
    family = families()[formula.family]
    found = []
    refused = dict(family.vessel_not) | {key: why for line in formula.lines for key, why in line.material.vessel_not}
    if made_of in refused:
        found.append(Against(refused[made_of], stops=True))
    elif not made_of and refused:
        unfit = " or ".join(refused)
        found.append(Against(f"What {name} is made of is not said on the shelf: it must not be {unfit}."))
    holds = f"{name} holds {amount_words(volume_mL)}"
    fits = rounded_down(result.total.volume_mL / made_mL * volume_mL / max(1.0, family.headroom), _FITS_DIGITS)
    if overflows(made_mL, volume_mL):
        text = f"{holds} and the batch comes to {amount_words(made_mL)}. Choose a larger one or make less."
        found.append(Against(text, stops=True, fits_mL=fits))
    elif overflows(made_mL * family.headroom, volume_mL):
        wanted = amount_words(rounded_up(made_mL * family.headroom, 2))
        text = f"{holds}, and {amount_words(made_mL)} want {wanted}: {family.headroom_why}."
        found.append(Against(text, stops=family.headroom_stops, fits_mL=fits))
    return tuple(found)


def mixed_in_its_bottle(formula: Formula) -> bool:
    """True for what is mixed in the bottle it is used from: by its family, or as its steps say.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula import house_formulas
    >>> house = house_formulas()
    >>> [mixed_in_its_bottle(house[key].formula) for key in ("foam-plain", "castile-spray", "who-one")]
    [True, True, False]
    """
    said = (step.text for step in steps_of(formula) if step.lines)
    return families()[formula.family].in_bottle or any(_INTO_ITS_BOTTLE.search(text) for text in said)
