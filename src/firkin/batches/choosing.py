"""Bottles chosen while preparing that would make a batch fall short of its rule: said at once, with what would do."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from firkin.batches.making import Making
from firkin.core.audit import fixes
from firkin.core.catalogue import Standing, rule_lines
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Reckoning, falls_short, reckon, with_bottles
from firkin.core.measures import figures
from firkin.shelf.models import Stock


@dataclass(frozen=True, slots=True)
class Stop:
    """Why a batch should not be begun from these bottles; which of its lines are short, and what would do.

    ``others`` are bottles on the shelf that will do in their place; ``changes`` are other amounts, each a sentence and
    the formula with them.
    """

    text: str
    lines: tuple[int, ...]
    others: tuple[Stock, ...]
    changes: tuple[tuple[str, Formula], ...]
    words: tuple[str, ...]


def stop_for(making: Making, formula: Formula, on_hand: Iterable[Stock]) -> Stop | None:
    """The stop for a batch as it would be made, where it fails a rule; None where it holds them all."""
    result = reckon(formula)
    fails = next((one for one in result.verdicts if one.verdict.fails), None)
    if fails is None:
        return None
    lines = tuple(i for i, line in enumerate(formula.lines) if line.material.id == fails.active)
    found = list(fixes(result, fails))
    changes = [(one.text, one.formula) for one in found if one.formula is not None]
    kept = tuple((text, other) for text, other in changes if len(other.lines) == len(formula.lines))
    said = {text for text, _ in kept}
    return Stop(
        _text(result, fails),
        lines,
        tuple(_that_will_do(formula, lines, on_hand)),
        kept,
        tuple(one.text for one in found if one.text not in said),
    )


def _text(result: Reckoning, fails: Standing) -> str:
    active, rule = result.active(fails.active), rule_lines()[fails.guideline]
    holds = f"{figures(active.lower, 3)} {active.basis}" if active is not None else "none of it"
    short = fails.minimum is not None and (active is None or active.lower < fails.minimum)
    limit = fails.minimum if short else fails.maximum
    asked = f"{'at least' if short else 'at most'} {figures(limit or 0.0)} %"
    return f"With these bottles it comes to {holds}. “{rule.name}” asks for {asked}."


def _that_will_do(formula: Formula, lines: tuple[int, ...], on_hand: Iterable[Stock]) -> Iterable[Stock]:
    """The bottles that hold enough, and make a batch that holds its rules, in place of those chosen for some lines."""
    worked = reckon(formula).lines
    needed = sum(worked[i].mass_g for i in lines)
    for stock in on_hand:
        wanted = {formula.lines[i].material.written for i in lines}
        if stock.material not in wanted or stock.strength is None or falls_short(stock.left_g, needed):
            continue
        if _holds(formula, dict.fromkeys(lines, stock)):
            yield stock


def _holds(formula: Formula, stocks: Mapping[int, Stock]) -> bool:
    strengths = {i: now for i, stock in stocks.items() if (now := stock.strength_now) is not None}
    try:
        result = reckon(with_bottles(formula, strengths)[0])
    except CannotReckon:
        return False
    return not any(one.verdict.fails for one in result.verdicts)
