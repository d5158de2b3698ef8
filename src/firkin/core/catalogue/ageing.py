"""What a bottle holds after some months: at the most what its label says, at the least what is usually left of it."""

from dataclasses import replace

from firkin.core.catalogue.materials import Material
from firkin.core.measures import Strength

#: Months after which what fades is looked at at all: younger it is as its label says.
_FRESH = 0.5


def aged(material: Material, strength: Strength | None, months: float | None) -> Strength | None:
    """A label's strength as a range, ``months`` after the bottle was opened or bought.

    From what is usually left of the lower end (the material's ``kept_in_six_months``, compounded) up to the label's
    upper end. As it is for what keeps, or where no age is known.

    Args:
        material: a material of the catalogue or the workshop, known or not.
        strength: the label's strength, or its range; None where there is none.
        months: age in months since it was opened, or else bought; None where that is not known.

    >>> from firkin.core.catalogue import find
    >>> bleach = find("bleach")
    >>> now = aged(bleach, bleach.usual_strength, 12.0)
    >>> round(now.low, 2), now.high
    (3.2, 5.0)
    """
    if strength is None or months is None or months <= _FRESH or material.kept_in_six_months >= 1.0:
        return strength
    low = strength.low * material.kept_in_six_months ** (months / 6.0)
    return replace(strength, low=low, value=(low + strength.high) / 2.0)


def too_old(material: Material, months: float | None) -> bool:
    """True for a bottle older than what its strength can be trusted for.

    Args:
        material: a material of the catalogue or the workshop, known or not.
        months: age in months since it was opened, or else bought; None where that is not known.

    >>> from firkin.core.catalogue import find
    >>> too_old(find("bleach"), 12.0), too_old(find("bleach"), 12.1), too_old(find("glycerol"), 99.0)
    (False, True, False)
    """
    return material.trusted_months is not None and months is not None and months > material.trusted_months
