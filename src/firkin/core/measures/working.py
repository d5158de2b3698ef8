"""Worked arithmetic as data: each line says what, how, and what comes out; and amounts as the bench says them."""

from dataclasses import dataclass

from firkin.core.measures.numerals import figures
from firkin.core.measures.quantities import Quantity


@dataclass(frozen=True, slots=True)
class WorkLine:
    """One line of arithmetic: ``what`` it finds, the ``sum`` with the numbers put in, the result.

    >>> WorkLine("Ethanol in the bottle", "833.3 mL x 96 %", 800.0, "mL").text
    'Ethanol in the bottle: 833.3 mL x 96 % = 800 mL'
    """

    what: str
    sum: str
    result: float
    unit: str

    @property
    def outcome(self) -> str:
        """The result with its unit, four figures."""
        return f"{figures(self.result)} {self.unit}".strip()

    @property
    def text(self) -> str:
        """The whole line in plain words."""
        if not self.sum:
            return f"{self.what}: {self.outcome}"
        return f"{self.what}: {self.sum} = {self.outcome}"


Working = tuple[WorkLine, ...]


def weight_words(mass_g: float) -> str:
    """A weight as shown at the bench.

    Args:
        mass_g: a mass in g.

    >>> weight_words(1500.0), weight_words(14.5)
    ('1.5 kg', '14.5 g')
    """
    if mass_g >= 999.95:
        return f"{figures(mass_g / 1000.0)} kg"
    return Quantity(mass_g, "g").words


def amount_words(volume_mL: float) -> str:
    """A volume as shown at the bench.

    Args:
        volume_mL: a volume in mL.

    >>> amount_words(1500.0), amount_words(14.5)
    ('1.5 L', '14.5 mL')
    """
    if volume_mL >= 999.95:
        return f"{figures(volume_mL / 1000.0)} L"
    return Quantity(volume_mL, "mL").words
