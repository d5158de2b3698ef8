"""How an amount may be off: the tool it is measured with, and the independent parts its errors are made of.

Every error given is the half-width of a rectangular distribution (JCGM 100:2008, 4.3.7).
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Pot, tops_last
from firkin.core.measures import Tool


@dataclass(frozen=True, slots=True)
class Measure:
    """How well one line is measured. Errors are fractions of the amount, or absolute in g or mL.

    The ``random`` part is drawn anew for each filling of the tool, the ``systematic`` one once for every line of the
    same ``group``; a line without a group is a group of its own. An absolute error is that of each filling: drawn
    anew, or, with a group, once for all. ``size`` is what the tool holds, mL or g; ``bottle`` tells two stocks of one
    label apart.
    """

    random: float = 0.0
    systematic: float = 0.0
    error_g: float = 0.0
    error_mL: float = 0.0
    group: str = ""
    fillings: int | None = None
    size: float | None = None
    bottle: str = ""
    name: str = ""

    @property
    def perfect(self) -> bool:
        """True where nothing is ever off."""
        return not (self.random or self.systematic or self.error_g or self.error_mL)


def measure_of(tool: Tool) -> Measure:
    """What measuring with a tool of the catalogue is off by: systematic unless the catalogue splits it.

    Args:
        tool: a tool of the catalogue.

    >>> from firkin.core.measures import tools
    >>> measure_of(tools()["cup"]).systematic, measure_of(tools()["scale-1g"]).error_g
    (0.05, 1.0)
    """
    random = tool.random_pct / 100.0
    return Measure(
        random,
        0.0 if tool.error_g or tool.error_mL else tool.error_pct / 100.0 - random,
        tool.error_g,
        tool.error_mL,
        tool.id,
        size=tool.size,
        name=tool.name,
    )


@dataclass(frozen=True, slots=True)
class Part:
    """One independent error: for each line it moves, by how much at the half-width, as a fraction of its amount.

    ``count`` independent draws are averaged: one cup filled five times is five draws.
    """

    moves: Mapping[int, float]
    count: int = 1

    @property
    def variance(self) -> float:
        """Of one unit of ``moves``: a rectangle of half-width 1, averaged."""
        return 1.0 / 3.0 / self.count


@dataclass(frozen=True, slots=True)
class Ranged:
    """One stock whose strength is a range: the lines poured of it, and its ends in per cent on the label's basis."""

    lines: tuple[int, ...]
    low: float
    high: float

    @property
    def middle(self) -> float:
        """Per cent."""
        return (self.low + self.high) / 2.0

    @property
    def half(self) -> float:
        """Half its width, in points."""
        return (self.high - self.low) / 2.0


def parts_of(formula: Formula, pot: Pot, masses: Sequence[float], measures: Sequence[Measure]) -> list[Part]:
    """The independent errors of a formula's lines, measured so.

    Raises CannotReckon where there is not one measure a line, or an error is as large as what is measured.
    """
    if len(measures) != len(formula.lines):
        raise CannotReckon(
            f"{len(measures)} of them; expected one for each of the {len(formula.lines)} lines of the formula"
        ).at("tools")
    parts: list[Part] = []
    shared: dict[str, dict[int, float]] = {}
    for i, (measure, mass) in enumerate(zip(measures, masses, strict=True)):
        line = formula.lines[i]
        tops = formula.topped_up == i and formula.make is not None and tops_last(formula)
        grams, volume = mass, (mass / (line.bulk or pot.natures[i].measured))
        if tops and formula.make is not None:
            whole = sum(masses)
            grams, volume = whole, pot.volume(masses)
        count = measure.fillings or _fillings(measure.size, grams if formula.weighed(i) else volume)
        absolute = _absolute(measure, grams, volume)
        for error in (measure.random, measure.systematic, absolute):
            if error >= 1.0:
                raise CannotReckon("An error as large as the amount itself measures nothing.").at("tools", i)
        if measure.random:
            parts.append(Part({i: measure.random}, count))
        if absolute and not measure.group:
            parts.append(Part({i: absolute * count}, count))
        systematic = measure.systematic + (absolute * count if measure.group else 0.0)
        if systematic:
            shared.setdefault(measure.group or f"\0{i}", {})[i] = systematic
    return [*parts, *(Part(moves) for moves in shared.values())]


def _absolute(measure: Measure, grams: float, volume: float) -> float:
    """An absolute error as a fraction of what is measured."""
    error = 0.0
    if measure.error_g and grams > 0.0:
        error += measure.error_g / grams
    if measure.error_mL and volume > 0.0:
        error += measure.error_mL / volume
    return error


def _fillings(size: float | None, amount: float) -> int:
    return 1 if not size or amount <= 0.0 else max(1, math.ceil(amount / size - 1e-9))


def ranges_of(formula: Formula, measures: Sequence[Measure]) -> list[Ranged]:
    """The stocks whose strength is a range; lines of one material and label are one stock unless they name bottles."""
    found: dict[tuple[str, str, str], list[int]] = {}
    for i, line in enumerate(formula.lines):
        if line.strength is not None and not line.strength.exact:
            bottle = measures[i].bottle if i < len(measures) else ""
            found.setdefault((line.material.id, str(line.strength), bottle), []).append(i)
    ranged = []
    for lines in found.values():
        strength = formula.lines[lines[0]].strength
        assert strength is not None
        ranged.append(Ranged(tuple(lines), strength.low, strength.high))
    return ranged


def with_measure(measures: Sequence[Measure], at: int, measure: Measure) -> list[Measure]:
    """The same measures with another for one line; its bottle stays."""
    return [replace(measure, bottle=one.bottle) if i == at else one for i, one in enumerate(measures)]
