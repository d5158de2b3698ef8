"""Mixing: masses add, and the volume comes from the density of the mixture.

All alcohol and all water of the batch, from whatever stock, shrink together as one alcohol-water
mixture; a solid whose solution is known adds what it takes up in so much water; every other component adds its own
volume (its volume beyond the water it carries).
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache

from firkin.core.catalogue import Material
from firkin.core.densities import ALCOHOLS, Solution, ethanol_water_density


@dataclass(frozen=True, slots=True)
class Nature:
    """What one gram of a stock is: fractions by mass, densities in g/mL, ``residue`` in mL per g.

    ``measured`` is the density by which a measured volume becomes mass (bulk density for powders);
    ``settled`` the one by which it counts before mixing. ``solute`` is the fraction that dissolves as ``solution``
    says, ``dry`` its density while it lies undissolved.
    """

    measured: float
    settled: float
    ethanol: float
    isopropanol: float
    water: float
    residue: float
    active: float
    solute: float = 0.0
    solution: Solution | None = None
    dry: float = 1.0


@lru_cache(maxsize=4096)
def nature(material: Material, mass_fraction: float | None, celsius: float = 20.0) -> Nature:
    """The nature of a material at an active mass fraction and a bench temperature.

    Args:
        material: a material of the catalogue or the workshop, known or not.
        mass_fraction: mass of the active over that of the stock, 0 to 1; None where it has none.
        celsius: temperature of the liquid in degC.

    >>> from firkin.core.catalogue import find
    >>> round(nature(find("aloe-gel"), None).water, 2)
    0.99
    """
    active = mass_fraction if mass_fraction is not None else 0.0
    density = material.density_at(mass_fraction, celsius)
    if material.alcohol is not None:
        ethanol = active if material.id == "ethanol" else 0.0
        isopropanol = active if material.id == "isopropanol" else 0.0
        return Nature(density, density, ethanol, isopropanol, 1.0 - active, 0.0, active)
    water = material.water_fraction(mass_fraction)
    if material.solid:
        liquid = material.dissolved(mass_fraction)
        measured = density if liquid else material.bulk or density
        if material.solution is None:
            return Nature(measured, density, 0.0, 0.0, 0.0, 1.0 / density, active)
        pure = 1.0 if mass_fraction is None else mass_fraction
        solute = pure * material.holds
        inert = 0.0 if liquid else (1.0 - pure) / density
        bound = water if liquid else pure - solute
        return Nature(measured, density, 0.0, 0.0, bound, inert, active, solute, material.solution, material.density)
    residue = 1.0 / material.density_at(mass_fraction) - water / ethanol_water_density(0.0)
    if water == 1.0:
        residue = 0.0
    return Nature(density, density, 0.0, 0.0, water, residue, active)


def alcohol_water_volume(ethanol_g: float, isopropanol_g: float, water_g: float, celsius: float) -> float:
    """Volume in mL of the alcohols and the water of a batch together, in g, at a temperature.

    With both alcohols the water is shared between them in proportion to their masses: no published
    table covers the three together.

    >>> round(alcohol_water_volume(700 * 0.78924, 0.0, 300 * 0.99820, 20.0))
    968
    """
    if not isopropanol_g:
        total = ethanol_g + water_g
        return total / ethanol_water_density(ethanol_g / total, celsius) if total else 0.0
    share = isopropanol_g / (ethanol_g + isopropanol_g)
    mixed = isopropanol_g + water_g * share
    volume = mixed / ALCOHOLS["isopropanol"].density(isopropanol_g / mixed, celsius)
    if ethanol_g:
        mixed = ethanol_g + water_g * (1.0 - share)
        volume += mixed / ethanol_water_density(ethanol_g / mixed, celsius)
    return volume


class Pot:
    """Several stocks in one vessel at one temperature: volumes from masses, quickly.

    >>> from firkin.core.catalogue import find
    >>> pot = Pot([nature(find("ethanol"), 1.0), nature(find("water"), None)], 20.0)
    >>> round(pot.volume([552.47, 299.46]))
    968
    """

    def __init__(self, natures: Sequence[Nature], celsius: float, dry: bool = False) -> None:
        self.natures = natures
        self.celsius = celsius
        self.dry = dry
        self._solutes = {n.solution: n.dry for n in natures if n.solution is not None}

    def along(self, curve: Callable[[float], float], at: float) -> float:
        """A smooth curve at a value; a pot of draws asks it for all of them at once."""
        return curve(at)

    def at_least_none(self, mass_g: float) -> float:
        """A mass that may have come out negative, as what can be poured."""
        return max(0.0, mass_g)

    def line_volume(self, index: int, mass_g: float) -> float:
        """The volume in mL that one line counts for before mixing."""
        stock = self.natures[index]
        return mass_g / (stock.measured if self.dry else stock.settled)

    def volume(self, masses_g: Sequence[float], celsius: float | None = None) -> float:
        """The finished volume in mL; of dry goods, the sum of their loose volumes."""
        return self._volume(self._content(masses_g), self.celsius if celsius is None else celsius)

    def _content(self, masses_g: Sequence[float]) -> list[float]:
        """Grams of ethanol, isopropanol and water, mL of everything else, grams of each thing that dissolves."""
        ethanol = isopropanol = water = residue = 0.0
        for mass, stock in zip(masses_g, self.natures, strict=True):
            ethanol += mass * stock.ethanol
            isopropanol += mass * stock.isopropanol
            water += mass * stock.water
            residue += mass / stock.measured if self.dry else mass * stock.residue
        if self.dry or not self._solutes:
            return [ethanol, isopropanol, water, residue]
        solutes = dict.fromkeys(self._solutes, 0.0)
        for mass, stock in zip(masses_g, self.natures, strict=True):
            if stock.solution is not None:
                solutes[stock.solution] += mass * stock.solute
        return [ethanol, isopropanol, water, residue, *solutes.values()]

    def _volume(self, content: Sequence[float], celsius: float) -> float:
        ethanol, isopropanol, water, residue = content[:4]
        volume = residue + alcohol_water_volume(ethanol, isopropanol, 0.0 if self.dry else water, celsius)
        for (solution, dry), grams in zip(self._solutes.items(), content[4:], strict=False):
            volume += solution.added_volume(grams, water, dry)
        return volume

    def top_up(self, masses_g: list[float], index: int, volume_mL: float) -> float:
        """The mass in g of line ``index`` that brings the pot to ``volume_mL``; may be negative."""
        stock = self.natures[index]
        return self._solve(masses_g, volume_mL, [stock.settled if i == index else 0.0 for i in range(len(masses_g))])

    def fill(self, masses_g: list[float], shares_g: list[float], volume_mL: float) -> float:
        """How many times ``shares_g`` must join ``masses_g`` to come to ``volume_mL``."""
        return self._solve(masses_g, volume_mL, shares_g) / sum(shares_g)

    def _solve(self, masses_g: list[float], volume_mL: float, direction_g: list[float]) -> float:
        """Mass added along a direction until the volume fits: secant search on a nearly straight line."""
        whole = sum(direction_g)
        start = self._content(masses_g)
        per_gram = self._content([d / whole for d in direction_g])

        def missing(added: float) -> float:
            content = [a + added * b for a, b in zip(start, per_gram, strict=True)]
            return volume_mL - self._volume(content, self.celsius)

        before, gap_before = 0.0, missing(0.0)
        now = gap_before / self._volume(per_gram, self.celsius)
        if now <= 0.0:
            return now
        for _ in range(30):
            gap = missing(now)
            if abs(gap) <= 1e-10 * volume_mL or gap == gap_before:
                break
            before, gap_before, now = now, gap, max(0.0, now - gap * (now - before) / (gap - gap_before))
        return now
