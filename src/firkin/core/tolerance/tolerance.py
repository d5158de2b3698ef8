"""How sure a strength is: its distribution by Monte Carlo (JCGM 101:2008) and by propagation (JCGM 100:2008, 5)."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from firkin.core.catalogue import Limit, families, rule_line
from firkin.core.errors import CannotReckon
from firkin.core.formula import Counted, Formula, tops_last, work_out
from firkin.core.texts import uncapped
from firkin.core.tolerance.draws import Array, Planned, drawn_actives
from firkin.core.tolerance.errors import Measure, Part, Ranged, parts_of, ranges_of
from firkin.core.tolerance.spread import Propagated, Ranked, Spread, heights, propagated

#: So many draws where nothing else is said, and at the most.
DRAWS, MOST_DRAWS = 100_000, 1_000_000
#: Which strength is looked at: the label one, the true one, or, as verdicts are, the lower and the higher of the two.
WHICH = ("label", "true", "")
#: Nobody fills a syringe more often than that for one line.
_MOST_FILLINGS = 10
#: Points by which a draw may miss a limit and still stand on it: what the arithmetic itself is off by.
_HAIR = 1e-6


@dataclass(frozen=True, slots=True)
class Sureness:
    """The distribution of one active's strength, in per cent on ``basis``.

    ``share_holding_pct`` is how many of the draws hold the rule line, None without one; ``density`` the heights of
    ``bins`` equal steps between ``lowest`` and ``highest``, for a drawing.
    """

    active: str
    name: str
    basis: str
    nominal: float
    mean: float
    sd: float
    sd_linear: float
    percentiles: tuple[float, float, float]
    share_holding_pct: float | None
    guideline: str
    limit: Limit | None
    ranked: tuple[Ranked, ...]
    table_share_pct: float
    lowest: float
    highest: float
    density: tuple[float, ...]
    draws: int


@dataclass(frozen=True, slots=True)
class Asked:
    """What is looked at: the active, which of its strengths, and the rule line it is to hold, where there is one."""

    active: str
    of: str = ""
    guideline: str = ""
    limit: Limit | None = None

    def pick(self, counted: Counted, table: Array | float) -> tuple[Array, Array]:
        """The lower and the higher strength that count, at every draw."""
        label = np.asarray(counted.label + table * counted.label_doubt)
        true = np.asarray(counted.true + table * counted.doubt)
        if self.of == "label":
            return label, label
        if self.of == "true":
            return true, true
        return np.minimum(label, true), np.maximum(label, true)

    def one(self, lower: Array, higher: Array) -> Array:
        """The strength told as one figure: the lower, or the higher where only a maximum is to be held."""
        only_most = self.limit is not None and self.limit.minimum is None and self.limit.maximum is not None
        return higher if only_most else lower

    def holds(self, lower: Array, higher: Array) -> float | None:
        """Per cent of the draws that hold the rule line; None without one. A window holds when both its ends do."""
        if self.limit is None:
            return None
        good = np.ones(lower.shape, dtype=bool)
        if self.limit.minimum is not None:
            good &= lower >= self.limit.minimum - _HAIR
        if self.limit.maximum is not None:
            good &= higher <= self.limit.maximum + _HAIR
        return 100.0 * float(good.mean())


def how_sure(
    formula: Formula,
    measures: Sequence[Measure],
    of: str = "",
    guideline: str = "",
    active: str = "",
    draws: int = DRAWS,
    seed: int = 0,
) -> Sureness:
    """The distribution of a formula's strength when it is measured with these tools from bottles of these ranges.

    ``of`` is one of WHICH; ``guideline`` a rule line, the formula's own first one where it is empty; ``active`` the
    main one where it is empty. The same seed gives the same figures.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        measures: how far each line is off when it is measured, in the order of the lines.
        of: one of WHICH.
        guideline: id of a rule line; the first of the formula where it is empty.
        active: id of an active; the main one where it is empty.
        draws: how many batches are drawn at random.
        seed: starts the generator of random numbers; the same seed gives the same answer.

    Raises:
        CannotReckon: as formula.work_out does, where nothing in it has a strength, where there is not one measure
            a line, and for an unknown rule line.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula import Line
    >>> from firkin.core.measures import Strength, read_quantity
    >>> can = Line(find("ethanol"), read_quantity("1 L"), Strength(90.0, 85.0, 95.0, "v/v"))
    >>> sure = how_sure(Formula("Straight", (can,), "liquid-rub"), [Measure()], seed=1)
    >>> round(sure.mean, 1), round(sure.sd, 2), round(sure.sd_linear, 2)
    (90.0, 2.89, 2.89)
    """
    if not 1 <= draws <= MOST_DRAWS:
        raise CannotReckon(f"{draws}; expected from 1 to {MOST_DRAWS} draws").at("draws")
    planned = work_out(formula)
    asked = asked_of(formula, planned, of, guideline, active)
    parts, ranges = parts_of(formula, *planned, measures), ranges_of(formula, measures)
    lower, higher = asked.pick(*_drawn(formula, planned, asked, parts, ranges, Spread(draws, seed)))
    values = asked.one(lower, higher)
    values = np.broadcast_to(values, (draws,))
    linear = _propagated(formula, planned, asked, parts, ranges)
    low, middle, high = (float(value) for value in np.percentile(values, (5, 50, 95)))
    lowest, highest = float(values.min()), float(values.max())
    counted = drawn_actives(formula, planned, [np.zeros(1)] * len(formula.lines), [None] * len(formula.lines))
    return Sureness(
        asked.active,
        counted[asked.active].name,
        f"% {counted[asked.active].basis}",
        linear.nominal,
        float(values.mean()),
        float(values.std()),
        linear.sd,
        (low, middle, high),
        asked.holds(np.broadcast_to(lower, (draws,)), np.broadcast_to(higher, (draws,))),
        asked.guideline,
        asked.limit,
        linear.ranked,
        linear.other_share_pct,
        lowest,
        highest,
        heights(values),
        draws,
    )


def asked_of(formula: Formula, planned: Planned, of: str = "", guideline: str = "", active: str = "") -> Asked:
    """What is looked at in a formula, where it is not all said.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        planned: what the formula comes to without errors.
        of: one of WHICH.
        guideline: id of a rule line; the first of the formula where it is empty.
        active: id of an active; the main one where it is empty.

    Raises:
        CannotReckon: where ``of`` is none of WHICH, or nothing in the formula has a strength.

    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["aloe-sixty"].formula
    >>> asked = asked_of(rub, work_out(rub))
    >>> asked.active, asked.limit.minimum
    ('isopropanol', 60.0)
    """
    if of not in WHICH:
        raise CannotReckon(f"{of}; expected label or true").at("of")
    there = drawn_actives(formula, planned, [np.zeros(1)] * len(formula.lines), [None] * len(formula.lines))
    if not there:
        raise CannotReckon("Nothing in it has a strength, so there is none to be sure of.").at("formula")
    chosen = [guideline] if guideline else list(formula.guidelines or families()[formula.family].lines_for(there))
    limits = [(key, limit) for key in chosen for limit in rule_line(key).limits]
    wanted = active or next((limit.active for _, limit in limits if limit.active in there), next(iter(there)))
    if wanted not in there:
        raise CannotReckon(f"{wanted} is not in it; expected one of {', '.join(there)}").at("active")
    found = next(((key, limit) for key, limit in limits if limit.active == wanted), None)
    if found is None and guideline:
        raise CannotReckon(f"{rule_line(guideline).name} says nothing of {there[wanted].name}.").at("guideline")
    return Asked(wanted, of) if found is None else Asked(wanted, of, *found)


def _drawn(
    formula: Formula, planned: Planned, asked: Asked, parts: Sequence[Part], ranges: Sequence[Ranged], spread: Spread
) -> tuple[Counted, Array | float]:
    """The active at every draw, and the draws of the table's doubt."""
    errors, strengths = spread.draw(len(formula.lines), parts, ranges)
    counted = drawn_actives(formula, planned, errors, strengths)[asked.active]
    doubtful = np.any(np.asarray(counted.doubt)) or np.any(np.asarray(counted.label_doubt))
    return counted, spread.rectangle() if doubtful else 0.0


def _propagated(
    formula: Formula, planned: Planned, asked: Asked, parts: Sequence[Part], ranges: Sequence[Ranged]
) -> Propagated:
    """By the law of propagation; the table's doubt is the difference its half-width makes."""
    moved: list[float] = []

    def strength(errors: Sequence[Array], strengths: Sequence[Array | None]) -> Array:
        counted = drawn_actives(formula, planned, errors, strengths)[asked.active]
        moved.append(float(np.asarray(asked.one(*asked.pick(counted, 1.0))).flat[-1]))
        return asked.one(*asked.pick(counted, 0.0))

    return propagated(strength, len(formula.lines), parts, ranges, lambda nominal: moved[-1] - nominal)


@dataclass(frozen=True, slots=True)
class Change:
    """One thing tried: at which line, in words, and what share then holds."""

    line: int
    change: str
    share_holding_pct: float | None
    sd: float


def changes_tried(
    formula: Formula,
    measures: Sequence[Measure],
    better: Sequence[Measure],
    asked: Asked,
    draws: int = DRAWS,
    seed: int = 0,
) -> tuple[Change, ...]:
    """Every change that was tried, the best first: another tool for a line, or a tenth less of what thins it.

    ``better`` are the tools that could be taken instead. The best holds the line most often; of several that hold it
    as often, the one that leaves the least spread. Nothing is tried where nothing is off.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        measures: how far each line is off when it is measured, in the order of the lines.
        better: tools that could be taken instead.
        asked: which active is asked for, and its limit.
        draws: how many batches are drawn at random.
        seed: starts the generator of random numbers; the same seed gives the same answer.

    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["aloe-sixty"].formula
    >>> asked = asked_of(rub, work_out(rub))
    >>> changes = changes_tried(rub, [Measure(systematic=0.05)] * 2, [Measure(systematic=0.01)], asked, draws=500)
    >>> len(changes) > 0
    True
    """
    tried: list[Change] = []
    pot, masses = work_out(formula)
    parts = parts_of(formula, pot, masses, measures)
    off = {line for part in parts for line in part.moves}

    def add(line: int, words: str, other: Formula, tools: Sequence[Measure]) -> None:
        try:
            sure = how_sure(other, tools, asked.of, asked.guideline, asked.active, draws, seed)
        except CannotReckon:
            return  # what cannot be made is no advice
        tried.append(Change(line, words, sure.share_holding_pct, sure.sd))

    for line in sorted(off):
        for tool in better:
            amount = masses[line] if formula.weighed(line) else masses[line] / pot.natures[line].measured
            if _fits(formula, line, tool, measures[line]) and amount <= _MOST_FILLINGS * (tool.size or amount):
                there = [replace(tool, bottle=one.bottle) if at == line else one for at, one in enumerate(measures)]
                add(line, _taking(formula, line, tool), formula, there)
    for line, words, other in _thinned_less(formula, asked):
        add(line, words, other, measures)
    return tuple(sorted(tried, key=lambda one: (-(one.share_holding_pct or 0.0), one.sd)))


def _fits(formula: Formula, line: int, tool: Measure, now: Measure) -> bool:
    """True where a line can be measured so, and is not already: powders are weighed, what tops up has its mark."""
    weighs = tool.group.startswith("scale")
    if tool.group == now.group or (formula.topped_up == line and tops_last(formula)):
        return False
    return weighs or not formula.weighed(line)


def _taking(formula: Formula, line: int, tool: Measure) -> str:
    name = uncapped(formula.lines[line].material.name)
    if tool.group.startswith("scale"):
        return f"weigh the {name}"
    return f"measure the {name} with the {uncapped(tool.name)}"


def _thinned_less(formula: Formula, asked: Asked) -> list[tuple[int, str, Formula]]:
    """A tenth less of each line without the active, where a minimum is to be held and nothing tops it up."""
    if asked.limit is None or asked.limit.minimum is None or formula.topped_up is not None:
        return []
    whole = replace(formula, make=None) if formula.make is not None else formula
    changed = []
    for line, one in enumerate(whole.lines):
        if one.material.id != asked.active and one.amount.kind in ("volume", "mass", "part"):
            less = replace(one, amount=one.amount.times(0.9))
            lines = tuple(less if at == line else other for at, other in enumerate(whole.lines))
            changed.append((line, f"a tenth less {uncapped(one.material.name)}", replace(whole, lines=lines)))
    return changed
