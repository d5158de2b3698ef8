"""A line that goes in by parts, as lines of their own: each part is measured by itself."""

from collections.abc import Sequence
from dataclasses import replace

from firkin.core.formula.formula import Formula, Line, Step


def by_parts(formula: Formula, shares: Sequence[Sequence[float]]) -> Formula:
    """The formula with a line for each part of a line that its steps pour.

    The first part keeps the line's place, the others stand behind all lines. Shares that do not come to 1 are taken as
    parts of what they come to, so that no more and no less goes in than the line says. What tops up stays one line.

    Args:
        formula: a formula with its steps.
        shares: for each step the shares of its lines, in their order; empty where all of each goes in.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import Quantity
    >>> lines = (Line(find("water"), Quantity(3.0, "cup")), Line(find("salt"), Quantity(9.0, "g")))
    >>> told = Formula("Soap", lines, steps=(Step("pour", "", (0,)), Step("pour", "", (1,)), Step("pour", "", (0,))))
    >>> made = by_parts(told, [(1 / 3,), (), (2 / 3,)])
    >>> [str(line.amount) for line in made.lines], [step.lines for step in made.steps]
    (['1 cup', '9 g', '2 cup'], [(0,), (1,), (2,)])
    """
    told: dict[int, float] = {}
    for step, parts in zip(formula.steps, shares, strict=True):
        for line, share in _shared(step, parts):
            told[line] = told.get(line, 0.0) + share
    lines = list(formula.lines)
    seen: set[int] = set()
    steps: list[Step] = []
    for step, parts in zip(formula.steps, shares, strict=True):
        named = []
        for line, part in _shared(step, parts):
            whole, share = formula.lines[line], part / told[line]
            parted = share < 1.0 and whole.amount.kind != "qs"
            if line not in seen:
                seen.add(line)
                lines[line] = _part(whole, share) if parted else whole
                named.append(line)
            elif parted:
                named.append(len(lines))
                lines.append(_part(whole, share))
        if named or not step.lines:
            steps.append(replace(step, lines=tuple(named)))
    return replace(formula, lines=tuple(lines), steps=tuple(steps))


def _shared(step: Step, shares: Sequence[float]) -> list[tuple[int, float]]:
    """The lines of a step with their shares; a line told without one goes in wholly."""
    return [(line, shares[at] if at < len(shares) else 1.0) for at, line in enumerate(step.lines)]


def _part(line: Line, share: float) -> Line:
    return replace(line, amount=replace(line.amount, value=float(f"{line.amount.value * share:.6g}")))
