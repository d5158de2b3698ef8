"""The two alcohols of hand rub behind one face: density, fractions, and how sure they are."""

from dataclasses import dataclass
from types import ModuleType

from firkin.core.densities import ethanol, propanol
from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength
from firkin.core.texts import uncapped


@dataclass(frozen=True, slots=True)
class Alcohol:
    """An alcohol that shrinks with water. ``density_uncertainty`` is in g/mL."""

    id: str
    name: str
    table: ModuleType
    density_uncertainty: float
    source: str

    def density(self, mass_fraction: float, celsius: float = 20.0) -> float:
        """Density of its mixture with water, g/mL."""
        return float(self.table.density(mass_fraction, celsius))

    def volume_fraction(self, mass_fraction: float) -> float:
        """Fraction by volume at 20 degC from the fraction by mass."""
        return float(self.table.volume_fraction(mass_fraction))

    def mass_fraction(self, strength: Strength) -> float:
        """Fraction by mass from a strength on any basis, nominal value.

        Raises CannotReckon when a % w/v is more than pure alcohol holds.

        >>> round(ALCOHOLS["ethanol"].mass_fraction(Strength.of(92.4, "w/w")), 4)
        0.924
        """
        if strength.basis == "w/w":
            return strength.fraction
        if strength.basis == "w/v":
            volume = strength.fraction / self.pure_density
            if volume > 1.0:
                raise CannotReckon(
                    f"{strength} is more than pure {uncapped(self.name)} holds, {self.pure_density * 100:.1f} % w/v."
                )
            return float(self.table.mass_fraction(volume))
        return float(self.table.mass_fraction(strength.fraction))

    @property
    def pure_density(self) -> float:
        """Density of the pure alcohol at 20 degC, g/mL."""
        return float(self.table.pure_density())

    def as_volume(self, strength: Strength) -> Strength:
        """The same strength, ends included, in % v/v at 20 degC.

        >>> str(ALCOHOLS["ethanol"].as_volume(Strength.of(60.0, "w/w")))
        '67.74355606 % v/v'
        """
        if strength.basis == "v/v":
            return strength
        value, low, high = (
            100.0 * self.volume_fraction(self.mass_fraction(Strength.of(end, strength.basis)))
            for end in (strength.value, strength.low, strength.high)
        )
        return Strength(value, low, high, "v/v")


ALCOHOLS: dict[str, Alcohol] = {
    "ethanol": Alcohol("ethanol", "Ethanol", ethanol, 0.0, "OIML R 22 (1975), International Alcoholometric Tables"),
    "isopropanol": Alcohol(
        "isopropanol",
        "Isopropanol",
        propanol,
        propanol.DENSITY_UNCERTAINTY,
        "handbook density table recalled from memory, good to 0.002 g/mL",
    ),
}
