"""What two materials bring about when they meet: the findings of both in water that neither has there by itself."""

from functools import cache

from firkin.core.audit.audit import audit
from firkin.core.audit.findings import Finding, Severity
from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, reckon
from firkin.core.measures import Quantity

#: So much of each, in so much water: enough for every rule that asks for no more than both being there.
_EACH, _WATER_ML = 100.0, 1000.0
#: Rules that speak of how much, or in what order, and not of the two.
_OF_AMOUNTS = frozenset({"caustic-left", "salt-last", "two-alcohols", "will-not-dissolve", "percent-sum"})


def together(one: Material, other: Material) -> tuple[Finding, ...]:
    """What is known of two materials together, the heaviest first; nothing where Firkin knows of nothing.

    Each is looked at in a litre of water, by itself and with the other; what only the two have is theirs. That nothing
    is found does not say that they may be mixed.

    Args:
        one: a material.
        other: another; the order does not matter.

    >>> [str(found.severity) for found in together(find("bleach"), find("vinegar"))]
    ['stop']
    >>> [found.rule for found in together(find("castile soap"), find("citric acid"))]
    ['acid-curdles-soap']
    >>> together(find("salt"), find("glycerol"))
    ()
    """
    if one.written == other.written:
        return ()
    alone = {found.rule for material in (one, other) for found in _found(material)}
    both = _found(*sorted((one, other), key=lambda material: material.written))
    theirs = [found for found in both if found.rule not in alone | _OF_AMOUNTS]
    return tuple(sorted(theirs, key=lambda found: list(Severity).index(found.severity)))


@cache
def _found(*materials: Material) -> tuple[Finding, ...]:
    lines = [Line(find("water"), Quantity(_WATER_ML, "mL"))]
    lines += [
        Line(material, Quantity(_EACH, "g" if material.solid else "mL"))
        for material in materials
        if material.id != "water"
    ]
    try:
        return audit(reckon(Formula("Together", tuple(lines))))
    except CannotReckon:
        return ()
