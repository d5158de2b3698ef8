"""What a task asks for in the maker's own units, or in the measures the batch was laid out with."""

from firkin.core.bench.progress import Progress
from firkin.core.bench.tasks import Task, TaskKind
from firkin.core.kitchen import Kitchen, placed
from firkin.core.measures import Quantity, units

#: Units that every sheet speaks in beside the maker's own.
_PLAIN = {"mL": "volume", "L": "volume", "g": "mass", "kg": "mass"}
#: Nobody counts a part of a drop.
_WHOLE = "drop"


def in_own_unit(progress: Progress, task: Task) -> Quantity | None:
    """What a task asks for in the unit its line was written in; None where that is mL, g, a part or a per cent.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        task: one of ``progress.tasks``.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> foam = house_formulas()["foam-plain"].formula
    >>> progress = Progress(foam, plan_of(foam), ())
    >>> progress.target(progress.tasks[2]).words, in_own_unit(progress, progress.tasks[2]).words
    ('0.55 mL', '11 drops')
    """
    if task.line is None:
        return None
    written = progress.formula.make if task.kind is TaskKind.TOP_UP else progress.formula.lines[task.line].amount
    if written is None or written.unit in _PLAIN or written.kind not in ("volume", "mass"):
        return None
    target = progress.target(task)
    if target.kind != written.kind:
        return None
    each = units()[written.unit].factor
    count = (target.mL if target.kind == "volume" else target.g) / each
    return Quantity(float(max(1, round(count))) if written.unit == _WHOLE else count, written.unit)


def units_for(progress: Progress, task: Task) -> tuple[str, ...]:
    """The units an amount of a task may be entered in, the one it is asked for in first.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        task: one of ``progress.tasks``.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["foam-plain"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> units_for(progress, progress.tasks[2])
    ('drop', 'mL', 'L', 'g', 'kg')
    """
    target, own = progress.target(task), in_own_unit(progress, task)
    first = [own.unit] if own is not None else []
    if task.kind is TaskKind.TOP_UP:
        plain = [unit for unit, kind in _PLAIN.items() if kind == target.kind]
    else:
        plain = list(_PLAIN)
    return tuple(dict.fromkeys([*first, target.unit, *plain]))


def in_measures(progress: Progress, task: Task, kitchen: Kitchen) -> str:
    """What a task asks for in the measures the batch was laid out with; empty where they cannot place it well enough.

    Of a line that is in already it is what is still to add. Poured as told, nothing is off by more than the tolerance.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        task: one of ``progress.tasks``.
        kitchen: the measures the batch was laid out with.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas, reckon
    >>> from firkin.core.kitchen import in_kitchen, kitchens
    >>> rub = in_kitchen(reckon(house_formulas()["who-one"].formula), kitchens()["metric"]).result.formula
    >>> progress = Progress(rub, plan_of(rub), ())
    >>> in_measures(progress, progress.tasks[0], kitchens()["metric"])
    '850 mL in the litre jug'
    """
    if task.line is None:
        return ""
    wanted_g, planned = progress.target_g(task), progress.plan[task.line]
    share = wanted_g / planned.g if planned.g else 0.0
    return placed(wanted_g if kitchen.weighs else (planned.loose_mL or planned.mL) * share, wanted_g, kitchen)
