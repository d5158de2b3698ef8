"""Strengths on different bases, and ranges, held against each other: by mass fraction, never as bare numbers."""

from collections.abc import Sequence

from firkin.core.catalogue import Material, find
from firkin.core.formula import nature
from firkin.core.measures import Side, Strength, figures

_WATER = find("water")


def fraction(active: Material, strength: Strength) -> float:
    """Mass fraction of an active at a nominal strength; a strength of 0 is plain water."""
    if not strength.value:
        return 0.0
    found = active.mass_fraction(strength)
    assert found is not None
    return found


def counted(strength: Strength) -> Strength:
    """The end of a label's range that is reckoned with: the weaker, so that what is made never falls short.

    >>> str(counted(Strength(93.0, 90.0, 96.0, "v/v")))
    '90 % v/v'
    """
    return strength.end(Side.LOW)


def percent(active: Material, mass_fraction: float, basis: str) -> float:
    """A mass fraction in per cent on a basis, at 20 degC.

    >>> from firkin.core.catalogue import find
    >>> round(percent(find("ethanol"), 0.6, "v/v"), 2), round(percent(find("caustic-soda"), 0.1, "w/v"), 2)
    (67.74, 11.09)
    """
    if basis == "w/v":
        return 100.0 * mass_fraction * active.density_at(mass_fraction)
    if basis == "v/v" and active.alcohol is not None:
        return 100.0 * active.alcohol.volume_fraction(mass_fraction)
    if basis == "v/v" and mass_fraction and not (active.solid or active.sold_thinned):
        return 100.0 * mass_fraction * active.density_at(mass_fraction) / active.density_at(1.0)
    return 100.0 * mass_fraction


def label_basis(active: Material, target: Strength) -> str:
    """The basis label arithmetic is done on: by volume for an alcohol, else that of the target."""
    return "v/v" if active.alcohol is not None else target.basis


def label_pct(active: Material, strength: Strength, basis: str) -> float:
    """A nominal strength as label arithmetic counts it, in per cent on a basis.

    >>> from firkin.core.catalogue import find
    >>> round(label_pct(find("ethanol"), Strength.of(60.0, "w/w"), "v/v"), 2)
    67.74
    """
    return strength.value if strength.basis == basis else percent(active, fraction(active, strength), basis)


def both(active: Material, strength: Strength) -> str:
    """A nominal strength with its other basis beside it.

    >>> from firkin.core.catalogue import find
    >>> both(find("ethanol"), Strength.of(60.0, "w/w")), both(find("caustic-soda"), Strength.of(10.0, "w/w"))
    ('60 % w/w (67.74 % v/v)', '10 % w/w (11.09 % w/v)')
    """
    share = fraction(active, strength)
    other = "w/w" if strength.basis != "w/w" else "v/v" if active.alcohol is not None else "w/v"
    return f"{figures(strength.value)} % {strength.basis} ({figures(percent(active, share, other))} % {other})"


def grams_per_mL(active: Material, mass_fraction: float, celsius: float = 20.0) -> float:
    """By what a measured volume of a stock becomes mass: its density, a powder's loose one, water's where it is none.

    >>> from firkin.core.catalogue import find
    >>> lye = find("caustic-soda")
    >>> [round(grams_per_mL(lye, share), 3) for share in (0.99, 0.5, 0.0)]
    [1.1, 1.525, 0.998]
    """
    if not mass_fraction:
        return _WATER.density_at(None, celsius)
    return nature(active, mass_fraction, celsius).measured


def outcome(active: Material, poured: Sequence[tuple[float, Strength]], side: Side, celsius: float = 20.0) -> float:
    """The mass fraction that comes of so many mL of each, measured at a temperature, labels at an end of their ranges.

    >>> from firkin.core.catalogue import find
    >>> stock, water = Strength(93.0, 90.0, 96.0, "v/v"), Strength.of(0.0, "v/v")
    >>> ends = [outcome(find("ethanol"), ((700.0, stock), (300.0, water)), side) for side in Side]
    >>> [round(percent(find("ethanol"), end, "v/v"), 1) for end in ends]
    [64.4, 69.0]
    """
    active_g = whole_g = 0.0
    for volume_mL, strength in poured:
        share = fraction(active, strength.end(side))
        mass = volume_mL * grams_per_mL(active, share, celsius)
        whole_g += mass
        active_g += mass * share
    return active_g / whole_g


def comes_to(
    active: Material, poured: Sequence[tuple[float, Strength]], target: Strength, celsius: float = 20.0
) -> tuple[float, float]:
    """The lowest and the highest strength that can come of it, in per cent on the target's basis at 20 degC."""
    low, high = (percent(active, outcome(active, poured, side, celsius), target.basis) for side in Side)
    return low, high


def range_rows(active: Material, low: float, high: float, target: Strength) -> tuple[tuple[str, str], ...]:
    """What it comes to in both bases, as rows of an answer: one row where it is sure, two where a label is a range."""
    if high - low <= 1e-6 * max(1.0, high):
        return (("Its strength", both(active, target)),)
    return tuple(
        (words, both(active, Strength.of(end, target.basis)))
        for words, end in (("At the weaker end of the label", low), ("At the stronger end", high))
    )


def range_says(*strengths: Strength) -> tuple[str, ...]:
    """What is said where a label gives a range."""
    ranged = [strength for strength in strengths if not strength.exact]
    if not ranged:
        return ()
    said = " and ".join(str(strength) for strength in ranged)
    return (f"{said}: reckoned at the weaker end, to be on the safe side.",)
