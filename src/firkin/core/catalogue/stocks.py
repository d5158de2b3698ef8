"""A stock as core knows it: a bottle or bag under its name."""

from dataclasses import dataclass

from firkin.core.measures import Strength


@dataclass(frozen=True, slots=True)
class Stock:
    """A bottle or bag at hand: its name, the id of its material, and the strength on its label.

    >>> Stock("Blue can", "ethanol", Strength.of(96.0, "v/v")).strength.value
    96.0
    """

    name: str
    material: str
    strength: Strength
