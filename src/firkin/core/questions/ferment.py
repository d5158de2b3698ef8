"""The citrus ferment: 1 part sugar, 3 peel, 10 water by weight, in a container that holds 15 parts."""

from dataclasses import dataclass

from firkin.core.errors import CannotReckon
from firkin.core.measures import Working, WorkLine, figures

SUGAR, PEEL, WATER, GAS = 1, 3, 10, 1  # common practice, no source: the free part is for gas
_WHOLE = SUGAR + PEEL + WATER + GAS


@dataclass(frozen=True, slots=True)
class Ferment:
    """What goes into a container: g, g, mL, and the space left for gas in mL."""

    sugar_g: float
    peel_g: float
    water_mL: float
    gas_space_mL: float
    working: Working


def ferment(container_mL: float) -> Ferment:
    """The amounts for a container of a brim volume, a part of each counting as 1 g or 1 mL.

    Raises CannotReckon for a container of nothing.

    >>> filled = ferment(2500.0)
    >>> round(filled.sugar_g), round(filled.peel_g), round(filled.water_mL)
    (167, 500, 1667)
    """
    if container_mL <= 0:
        raise CannotReckon("A container holds more than 0 mL.").at("container")
    part = container_mL / _WHOLE
    working = (
        WorkLine("One part of fifteen", f"{figures(container_mL)} mL ÷ {_WHOLE}", part, "mL, or g"),
        WorkLine("Sugar", f"{SUGAR} × {figures(part)}", SUGAR * part, "g"),
        WorkLine("Peel", f"{PEEL} × {figures(part)}", PEEL * part, "g"),
        WorkLine("Water", f"{WATER} × {figures(part)}", WATER * part, "mL"),
        WorkLine("Left free for gas", f"{GAS} × {figures(part)}", GAS * part, "mL"),
    )
    return Ferment(SUGAR * part, PEEL * part, WATER * part, GAS * part, working)
