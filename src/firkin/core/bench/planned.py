"""What is planned for each line of a batch, and a line as the record shows it."""

from dataclasses import dataclass

from firkin.core.bench.journal import Entry
from firkin.core.formula import Formula, Line, reckon
from firkin.core.measures import Strength


@dataclass(frozen=True, slots=True)
class Planned:
    """What is planned for one line: mL and g, the strength its stock counts with, and whether it is weighed.

    ``bulk`` is the bulk density of a powder in g/mL.
    """

    mL: float
    g: float
    strength: Strength | None = None
    weighed: bool = False
    bulk: float | None = None

    @property
    def loose_mL(self) -> float | None:
        """What a cup measures of a powder, mL; None for what is no powder."""
        return self.g / self.bulk if self.bulk else None


@dataclass(frozen=True, slots=True)
class Recorded:
    """A line as the record shows it: what was asked for when it was measured, whatever was planned since."""

    line: Line
    planned: Planned
    entry: Entry | None


def plan_of(formula: Formula) -> tuple[Planned, ...]:
    """What is planned for each line of a formula at its size.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    Raises:
        CannotReckon: when it cannot be worked out.

    >>> from firkin.core.formula import house_formulas
    >>> [round(planned.mL, 1) for planned in plan_of(house_formulas()["who-one"].formula)][:3]
    [833.3, 41.7, 14.5]
    """
    worked = reckon(formula).lines
    return tuple(
        Planned(
            amount.volume_mL,
            amount.mass_g,
            line.counted_strength,
            formula.weighed(i),
            line.bulk,
        )
        for i, (line, amount) in enumerate(zip(formula.lines, worked, strict=True))
    )
