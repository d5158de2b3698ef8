"""What a simulated maker's tools and bottles are off by, drawn once or anew as their errors are."""

from random import Random

from firkin.core.formula import Line
from firkin.core.measures import Strength, Tool


class Hands:
    """The tools and bottles of one rehearsal: a tool's systematic error and a bottle's strength are drawn once.

    Errors are rectangular (JCGM 100:2008, 4.3.7), as `tolerance` counts them.
    """

    def __init__(self, random: Random, volume: Tool, weight: Tool) -> None:
        self.random, self.volume, self.weight = random, volume, weight
        self._systematic: dict[str, float] = {}
        self._strengths: dict[tuple[str, str], Strength] = {}

    def error(self, line: int, amount: float, *, weighed: bool) -> float:
        """How far one measuring of ``amount`` mL or g is off, as a fraction of it."""
        tool = self.weight if weighed else self.volume
        if tool.id not in self._systematic:
            self._systematic[tool.id] = self.random.uniform(-1.0, 1.0)
        u = self._systematic[tool.id]
        absolute = tool.error_g or tool.error_mL
        if absolute:
            return max(-1.0, u * absolute / amount) if amount > 0.0 else 0.0
        random = tool.random_pct / 100.0
        fillings = max(1, -int(-amount // tool.size)) if tool.size else 1
        drawn = sum(self.random.uniform(-1.0, 1.0) for _ in range(fillings)) / fillings if random else 0.0
        return u * (tool.error_pct / 100.0 - random) + drawn * random

    def strength(self, line: Line) -> Strength | None:
        """How strong the bottle of a line really is; None where its label says one figure."""
        if line.strength is None or line.strength.exact:
            return None
        key = (line.material.id, str(line.strength))
        if key not in self._strengths:
            value = self.random.uniform(line.strength.low, line.strength.high)
            self._strengths[key] = Strength.of(value, line.strength.basis)
        return self._strengths[key]
