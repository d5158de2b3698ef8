"""A recipe as heard or seen: lines, claims, and what was not understood."""

from dataclasses import dataclass

from firkin.core.catalogue import Material, families
from firkin.core.errors import CannotReckon
from firkin.core.formula import UNCLAIMED, UNCLAIMED_LINE, Claim, Claims, Formula, Line, LineClaims
from firkin.core.measures import Quantity, Strength


@dataclass(frozen=True, slots=True)
class HeardLine:
    """One line as read; ``wording`` is its amount as written."""

    material: Material
    amount: Quantity | None = None
    strength: Strength | None = None
    claims: LineClaims = UNCLAIMED_LINE
    wording: str = ""

    def words(self) -> tuple[str, str, str]:
        """Material, strength and amount as text that reads back: "isopropanol", "70 % v/v", "3 part".

        >>> from firkin.core.catalogue import find
        >>> HeardLine(find("water"), Quantity(3.0, "part")).words()
        ('water', '', '3 part')
        """
        name = self.material.written if self.material.known else self.material.name
        return name, str(self.strength or ""), self.wording or str(self.amount or "")


@dataclass(frozen=True, slots=True)
class Recipe:
    """What was read: lines, size, claims; what was taken for advice, and what was not understood."""

    lines: tuple[HeardLine, ...] = ()
    make: Quantity | None = None
    claim: Claim | None = None
    claims: Claims = UNCLAIMED
    family: str = "other"
    basis: str = "volume"
    remarks: tuple[str, ...] = ()
    unread: tuple[str, ...] = ()
    left_out: str = ""

    def formula(self, name: str = "A recipe heard") -> Formula:
        """The recipe as a formula.

        Raises CannotReckon where a line has no amount yet.
        """
        lines = []
        for i, line in enumerate(self.lines):
            if line.amount is None:
                raise CannotReckon(f"How much {line.material.name.lower()}? The text does not say.").at(
                    "lines", i, "amount"
                )
            lines.append(Line(line.material, line.amount, line.strength, claims=line.claims))
        return Formula(
            name,
            tuple(lines),
            self.family,
            self.basis,
            self.make,
            guidelines=families()[self.family].lines,
            claim=self.claim,
            claims=self.claims,
        )
