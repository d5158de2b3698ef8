"""What comes due after a batch is made or begins to ferment: venting, looking again, pouring away, keep-by."""

from dataclasses import dataclass, replace

from firkin.core.bench.progress import Progress
from firkin.core.catalogue import families
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, reckon

DAY_H = 24.0

#: Kinds of things that come due: what is shown, and the word on the button that answers it.
DUE_KINDS = {
    "vent": ("Vent it", "Vented"),
    "recheck": ("Look at it again", "Looked at"),
    "discard": ("Pour it away", "Poured away"),
    "keep-by": ("Keep-by date", "Still in use"),
}
#: Venting of a ferment, in days after it began: daily in week 1, every third day in weeks 2 and 3, weekly after
#: that until day 90 (common practice, no source).
VENT_DAYS = (*range(1, 8), *range(10, 23, 3), *range(29, 91, 7))
READY_DAY = 90
#: As near to what a preservative takes at least as a kitchen scale places it.
_NEARLY = 0.95


@dataclass(frozen=True, slots=True)
class DueThing:
    """One thing that comes due, ``after_h`` hours from the moment it is counted from."""

    kind: str
    after_h: float
    text: str


def keeps_days(formula: Formula) -> float:
    """How many days a batch of a formula keeps: as its maker says, or by its family and the preservative in it.

    A preservative counts where there is as much of it as it takes, and where its pH lets it work: soap is too alkaline
    for what works only in acid.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from dataclasses import replace
    >>> from firkin.core.formula import house_formulas
    >>> soap = house_formulas()["bar-soap-liquid"].formula
    >>> keeps_days(soap), keeps_days(replace(soap, lines=soap.lines[:-1], steps=()))
    (180.0, 28.0)
    """
    if formula.keep_days is not None:
        return formula.keep_days
    family = families()[formula.family]
    preserved = family.preserved_days is not None and _preserved(formula)
    return float(family.preserved_days if preserved and family.preserved_days else family.keep_days)


def keeps_of(progress: Progress) -> float:
    """How many days a batch keeps by what is really in it: what its maker says holds while its preservative is in.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> soap = house_formulas()["bar-soap-liquid"].formula
    >>> keeps_of(Progress(soap, plan_of(soap), ()))
    180.0
    """
    there = progress.result.formula
    gone = [progress.formula.lines[i].material for i in progress.left_out]
    if any("preservative" in one.roles for one in gone):
        there = replace(there, keep_days=None)
    return keeps_days(there)


def _preserved(formula: Formula) -> bool:
    keepers = formula.lines_with("preservative")
    if not keepers:
        return False
    soap = bool(formula.lines_with("soap"))
    try:
        worked = reckon(formula).lines
    except CannotReckon:
        return False
    return any(
        (not (pct := formula.lines[i].material.preserves_pct) or worked[i].pure_share_w_pct >= pct[0] * _NEARLY)
        and not (soap and formula.lines[i].material.preserves_to_ph is not None)
        for i in keepers
    )


def after_making(formula: Formula, keeps_h: float | None = None) -> tuple[DueThing, ...]:
    """What comes due once a batch is made, the soonest first; ``keeps_h`` where it is known how long it keeps.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        keeps_h: how long it keeps, in hours; by its formula where it is None.

    >>> from firkin.core.formula import house_formulas
    >>> [(due.kind, due.after_h) for due in after_making(house_formulas()["chlorine-surfaces"].formula)]
    [('discard', 24.0)]
    """
    family = families()[formula.family]
    discards = [hours for line in formula.lines if (hours := line.material.discard_h) is not None]
    found = []
    if family.recheck:
        found.append(DueThing("recheck", DAY_H, family.recheck))
    if discards:
        found.append(DueThing("discard", min(discards), "Chlorine fades: pour away what is left, and make it fresh."))
    else:
        keeps_h = keeps_days(formula) * DAY_H if keeps_h is None else keeps_h
        found.append(DueThing("keep-by", keeps_h, "Best used before this day."))
    return tuple(sorted(found, key=lambda due: due.after_h))


def while_waiting(kind: str) -> tuple[DueThing, ...]:
    """What comes due during a wait: the venting of a ferment.

    Args:
        kind: kind of the wait, such as "ferment".

    >>> len(while_waiting("ferment")), while_waiting("ferment")[-1].after_h / 24, while_waiting("rest")
    (21, 85.0, ())
    """
    if kind != "ferment":
        return ()
    text = "Open the lid a little until it stops hissing, then close it tight."
    return tuple(DueThing("vent", day * DAY_H, text) for day in VENT_DAYS if day < READY_DAY)
