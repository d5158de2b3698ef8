"""Approaching a pH or a thickness by small additions: dose, reading, remaining, until it is there.

Nothing here but what was written: each dose as it went in, and the reading after it. How large the next should be comes
from the readings so far, and carefully (common practice, no source).
"""

from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from firkin.core.bench.looks import ASPECTS
from firkin.core.bench.progress import Progress
from firkin.core.bench.tasks import Task, TaskKind
from firkin.core.catalogue import families, find
from firkin.core.formula import Line
from firkin.core.measures import Quantity, figures, rounded_down, rounded_up
from firkin.core.questions import moles
from firkin.core.texts import uncapped

#: The smallest addition worth making, as a share of what is planned.
_LEAST = 0.02
#: More than is planned goes in by so much at a time, as a share of the plan.
_BEYOND = 1.0 / 16.0
#: So much of pH the next addition should gain, by the last one: a curve steepens near its end.
_GAIN = 0.35
#: A solution of citric acid that an overshoot is taken back with, g in 100 mL.
_DILUTE = 10.0
_CITRIC = "citric-acid"


class Reads(StrEnum):
    """What is read after each addition."""

    PH = "ph"
    THICKNESS = "thickness"


class Stand(StrEnum):
    """Where an approach stands."""

    BEGIN = "begin"
    ON = "on"
    THERE = "there"
    PAST = "past"


@dataclass(frozen=True, slots=True)
class Dose:
    """One addition: how much is in after it, and what was read then; None where nothing was."""

    total: float
    reading: float | None = None


@dataclass(frozen=True)
class Approach:
    """An addition in small doses towards a window; ``rises`` when it lifts what is read. Amounts in ``unit``."""

    line: Line
    reads: Reads
    planned: float
    unit: str
    window: tuple[float, float]
    rises: bool
    portions: int
    doses: tuple[Dose, ...] = ()

    @property
    def so_far(self) -> float:
        """How much is in by now."""
        return self.doses[-1].total if self.doses else 0.0

    @property
    def remaining(self) -> float:
        """What is left of the plan; 0 when more is in."""
        return max(0.0, self.planned - self.so_far)

    @cached_property
    def read(self) -> tuple[Dose, ...]:
        """The doses after which something was read."""
        return tuple(dose for dose in self.doses if dose.reading is not None)

    def _toward(self, reading: float) -> float:
        """A reading so that more of it is nearer the far end."""
        return reading if self.rises else -reading

    @property
    def stand(self) -> Stand:
        """Where it stands, by the last reading; thickness is past its peak when it falls again."""
        if not self.doses:
            return Stand.BEGIN
        if not self.read or self.doses[-1].reading is None:
            return Stand.ON
        readings = [dose.reading or 0.0 for dose in self.read]
        if self.reads is Reads.THICKNESS:
            if readings[-1] < max(readings):
                return Stand.PAST
            return Stand.THERE if readings[-1] >= self.window[0] else Stand.ON
        near, far = sorted((self._toward(self.window[0]), self._toward(self.window[1])))
        now = self._toward(readings[-1])
        return Stand.PAST if now > far else Stand.THERE if now >= near else Stand.ON

    @property
    def next_dose(self) -> float:
        """How much to add next, from the last two readings where there are; 0 once it is there or past."""
        stand = self.stand
        if stand in (Stand.THERE, Stand.PAST):
            return 0.0
        least = _LEAST * self.planned
        usual = self.planned / max(self.portions, 4)
        if not self.doses:
            return rounded_down(min(usual, self.planned), 2)
        near = usual if self.so_far < self.planned / 2.0 else usual / 2.0
        careful = max(_BEYOND * self.planned, min(near, self.remaining / 2.0))
        if self.reads is Reads.PH and len(self.read) > 1:
            before, last = self.read[-2:]
            gained = self._toward(last.reading or 0.0) - self._toward(before.reading or 0.0)
            if gained > 0.0:
                careful = min(careful, (last.total - before.total) * _GAIN / gained)
        return rounded_down(max(least, careful), 2)

    @property
    def excess(self) -> float:
        """How much is too much, from where the readings crossed the far end of the window; 0 while it is not past."""
        if self.stand is not Stand.PAST or self.reads is not Reads.PH:
            return 0.0
        _, far = sorted((self._toward(self.window[0]), self._toward(self.window[1])))
        before = Dose(0.0)
        for dose in self.read:
            if self._toward(dose.reading or 0.0) > far:
                break
            before = dose
        last = self.read[-1]
        if before.reading is None:
            return last.total - before.total
        gone = self._toward(last.reading or 0.0) - self._toward(before.reading)
        inside = (far - self._toward(before.reading)) / gone if gone > 0 else 0.0
        return (last.total - before.total) * (1.0 - inside)

    @property
    def excess_g(self) -> float:
        """The excess in g."""
        line = self.line
        return Quantity(self.excess, self.unit).g if self.unit == "g" else self.excess * line.material.density

    @property
    def taken_back_g(self) -> float | None:
        """Grams of citric acid that take a base's excess back, counted by mole; None for anything else."""
        if not self.rises or not self.excess or self.line.material.molar_mass is None:
            return None
        base = moles("base", "base", self.line.material, self.line.counted_strength, Quantity(self.excess_g, "g"))[0]
        acid = moles("acid", "acid", find(_CITRIC), None, Quantity(100.0, "g"))[0]
        return base.protons * acid.g_per_proton

    @property
    def words(self) -> str:
        """Where it stands, in a sentence, and what to do."""
        name = uncapped(self.line.material.name)
        if self.reads is Reads.THICKNESS:
            return {
                Stand.BEGIN: "A little at a time, and look each time: past its peak, salt thins.",
                Stand.ON: "Stir, let it stand a minute, and look before the next.",
                Stand.THERE: "That is thick enough: stop here. More salt would thin it.",
                Stand.PAST: "It thins again: the peak is past. No more salt; a little water or surfactant helps.",
            }[self.stand]
        low, high = (figures(end) for end in self.window)
        last = figures(self.read[-1].reading or 0.0) if self.read else ""
        return {
            Stand.BEGIN: f"Add some, stir, and read the pH: {low} to {high} is aimed at.",
            Stand.ON: f"pH {last} so far; {low} to {high} is aimed at." if last else "Stir, and read the pH.",
            Stand.THERE: f"pH {last} is within {low} to {high}: that is enough.",
            Stand.PAST: f"pH {last} is past {low} to {high}: about {figures(self.excess, 2)} {self.unit} of {name} "
            f"too much.{self._back()}",
        }[self.stand]

    def _back(self) -> str:
        grams = self.taken_back_g
        if grams is None:
            return " No more of it."
        solution = rounded_up(100.0 * grams / _DILUTE, 2)
        return (
            f" {figures(grams, 2)} g of citric acid takes that back: {figures(solution)} mL of a solution of "
            f"{figures(_DILUTE)} g in 100 mL, in drops, reading the pH each time."
        )


def approach_of(progress: Progress, task: Task) -> Approach | None:
    """The approach a task is, with its doses so far; None for a line that is simply measured.

    Neutralisers go to a pH, as do an acid on a base that is in and a base on an acid that is in; salt in a detergent
    goes to a thickness.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        task: one of ``progress.tasks``.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["dish-gentle"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> [task.line for task in progress.tasks if approach_of(progress, task)]
    [8]
    """
    if task.line is None or task.kind is not TaskKind.POUR or progress.more:
        return None
    formula = progress.formula
    line = formula.lines[task.line]
    there = [formula.lines[i].material for i in progress.measured]
    roles = line.material.roles
    window = families()[formula.family].ph
    target = progress.target(task)
    base = "neutraliser" in roles or ("base" in roles and "carbonate" not in roles)
    acid = "acid" in roles
    meets = {
        True: any({"needs-neutraliser", "acid"} & one.roles for one in there),
        False: any("base" in one.roles and "carbonate" not in one.roles for one in there),
    }
    if "salt" in roles and formula.lines_with("surfactant"):
        aim = (float(ASPECTS["thickness"][1].index("thick")), float(len(ASPECTS["thickness"][1]) - 1))
        kind, rises, window = Reads.THICKNESS, True, aim
    elif window and not formula.dry and (base or acid) and meets[base]:
        kind, rises = Reads.PH, base
    else:
        return None
    low, high = window
    portions = max(1, task.portions)
    return Approach(line, kind, target.value, target.unit, (low, high), rises, portions, doses_of(progress, task))


def doses_of(progress: Progress, task: Task) -> tuple[Dose, ...]:
    """The doses of a task that stand, each with how much is in after it."""
    total, doses = 0.0, []
    for entry in progress.portions_of(task):
        if (dose := entry.dose) is not None:
            total += dose[0]
            doses.append(Dose(total, dose[1]))
    return tuple(doses)


def last_excess(progress: Progress) -> Approach | None:
    """The approach that last went past its window, whether or not it is finished; None when none did.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["dish-gentle"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> last_excess(progress) is None
    True
    """
    for task in reversed(progress.tasks):
        if task.line is not None and progress.portions_of(task):
            found = approach_of(progress.without(task.line), task)
            if found is not None and found.stand is Stand.PAST and found.excess:
                return found
    return None
