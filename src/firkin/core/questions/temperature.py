"""Volumes at other temperatures than 20 degC, and the allowance for mixing in the open."""

from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength, Working, WorkLine, figures

#: Extra stock for what evaporates while mixing in an open jug, per cent (common practice, no source).
USUAL_ALLOWANCE_PCT = 2.0


def at_20(active: Material, strength: Strength, volume_mL: float, celsius: float) -> tuple[float, Working]:
    """What a volume measured at ``celsius`` is at 20 degC, in mL: the same mass, another density.

    >>> from firkin.core.catalogue import find
    >>> round(at_20(find("ethanol"), Strength.of(96.0, "v/v"), 1000.0, 28.0)[0], 1)
    991.4
    """
    return _moved(active, strength, volume_mL, celsius, 20.0)


def at_bench(active: Material, strength: Strength, volume_mL: float, celsius: float) -> tuple[float, Working]:
    """What to measure at ``celsius`` for ``volume_mL`` at 20 degC.

    >>> from firkin.core.catalogue import find
    >>> round(at_bench(find("ethanol"), Strength.of(96.0, "v/v"), 991.4, 28.0)[0])
    1000
    """
    return _moved(active, strength, volume_mL, 20.0, celsius)


def _moved(
    active: Material, strength: Strength, volume_mL: float, measured: float, wanted: float
) -> tuple[float, Working]:
    for celsius in (measured, wanted):
        if not -20.0 <= celsius <= 40.0:
            raise CannotReckon("The density tables run from -20 to 40 °C.").at("temperature")
    mass_fraction = active.mass_fraction(strength) if strength.value else 0.0
    there, here = active.density_at(mass_fraction, measured), active.density_at(mass_fraction, wanted)
    mass = volume_mL * there
    result = mass / here
    working = (
        WorkLine(f"Weight, at {figures(measured)} °C", f"{figures(volume_mL)} mL × {figures(there)} g/mL", mass, "g"),
        WorkLine(f"Volume at {figures(wanted)} °C", f"{figures(mass)} g ÷ {figures(here)} g/mL", result, "mL"),
    )
    return result, working


def with_allowance(volume_mL: float, allowance_pct: float = USUAL_ALLOWANCE_PCT) -> float:
    """The stock to measure when ``allowance_pct`` of it may evaporate while mixing.

    >>> round(with_allowance(980.0, 2.0), 1)
    1000.0
    """
    if not 0.0 <= allowance_pct < 50.0:
        raise CannotReckon("An allowance is from 0 to below 50 %.").at("allowance")
    return volume_mL / (1.0 - allowance_pct / 100.0)
