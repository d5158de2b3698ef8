"""Short ways to write a formula in a test."""

from firkin.core.catalogue import find
from firkin.core.formula import Formula, Line
from firkin.core.quantities import read_quantity, read_volume_or_mass


def line(material: str, amount: str, strength: str = "") -> Line:
    """One line, written as a maker writes it."""
    found = find(material)
    return Line(found, read_quantity(amount), found.read_strength(strength) if strength else None)


def mix(*lines: tuple[str, ...], make: str = "", **options) -> Formula:
    """A formula of (material, amount[, strength]) lines."""
    return Formula(
        "Test mix",
        tuple(line(*parts) for parts in lines),
        make=read_volume_or_mass(make) if make else None,
        **options,
    )
