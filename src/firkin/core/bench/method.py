"""What belongs to making a formula: its cautions, and what to wear."""

from firkin.core.bench.progress import Progress
from firkin.core.bench.readings import Stands, measured_of
from firkin.core.bench.tasks import TaskKind
from firkin.core.catalogue import Caution, cautions, families
from firkin.core.formula import Formula, ferments
from firkin.core.questions import SURE_BY_MOLES, neutrality


def cautions_for(formula: Formula) -> tuple[Caution, ...]:
    """The cautions of everything in a formula and of its family, each once, signal words first.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula import Line
    >>> from firkin.core.measures import read_quantity
    >>> rub = Formula("Rub", (Line(find("ethanol"), read_quantity("1 L")),), family="liquid-rub")
    >>> [caution.id for caution in cautions_for(rub)][:2]
    ['flammable', 'eyes']
    """
    ids: list[str] = [key for line in formula.lines for key in line.material.cautions]
    ids += families()["ferment" if ferments(formula) else formula.family].cautions
    oxygen = any({"oxidiser", "carbonate"} <= line.material.roles for line in formula.lines)
    if oxygen and not formula.dry and formula.lines_with("water"):
        ids.append("oxygen-bleach-closed")
    known = cautions()
    chosen = [known[key] for key in dict.fromkeys(ids)]
    return tuple(sorted(chosen, key=lambda caution: not caution.signal))


def cautions_now(progress: Progress) -> tuple[tuple[Caution, ...], tuple[Caution, ...]]:
    """The cautions that bite now, and those that were read before: the ones folded away once something was done.

    What bites: every danger, and what belongs to the material at hand, or to a ferment at rest.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["who-one"].formula
    >>> now, read = cautions_now(Progress(made, plan_of(made), ()))
    >>> len(now) > 4, read
    (True, ())
    """
    every = cautions_for(progress.formula)
    if progress.last is None:
        return every, ()
    line = progress.task.line if progress.task is not None else None
    here = set(progress.formula.lines[line].material.cautions) if line is not None else set()
    here |= {"pressure"} if progress.task is None or progress.task.kind is TaskKind.WAIT else set()
    now = tuple(one for one in every if one.signal or one.id in here)
    return now, tuple(one for one in every if one not in now)


def cautions_of(progress: Progress) -> tuple[Caution, ...]:
    """The cautions of a batch as it is: what burned going in burns no more once a pH within its window was read.

    While the pH is not known, or the last reading is outside, everything stands; where the caustic is used up by its
    amounts, it is said that the pH was not read instead. A ferment that is strained needs no venting by the calendar
    any more.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["who-one"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> [caution.id for caution in cautions_of(progress)][:2]
    ['flammable', 'eyes']
    """
    read = [one for one in measured_of(progress) if one.what == "ph"]
    neutral = bool(read) and read[-1].judged is not None and read[-1].judged.verdict is Stands.WITHIN
    unread = not read and bool(taken_up(progress))
    found = tuple(
        one for one in cautions_for(progress.result.formula) if not ((neutral or unread) and one.until_neutral)
    )
    found = (*found, cautions()["ph-unread"]) if unread else found
    if not progress.strained or progress.unfinished:
        return found
    return tuple(cautions()["pressure-after"] if one.id == "pressure" else one for one in found)


def taken_up(progress: Progress) -> tuple[int, ...]:
    """The lines of caustic of what is in a batch that its acid takes up: by what was measured, none of it is left over.

    A pH above its window says otherwise, whatever was worked out.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["dish-gentle"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> taken_up(progress)
    ()
    """
    caustic = progress.result.formula.lines_of("caustic-soda")
    ended = neutrality(progress.result) if caustic and not progress.unfinished else None
    read = [one for one in measured_of(progress) if one.what == "ph"]
    high = bool(read) and read[-1].judged is not None and read[-1].judged.verdict is Stands.HIGH
    if ended is None or high:
        return ()
    spare = ended.base_g_spare / max(1e-9, sum(progress.result.lines[i].mass_g for i in caustic))
    return caustic if spare <= SURE_BY_MOLES else ()


def gear_for(formula: Formula) -> tuple[str, ...]:
    """What to wear and mind while making a formula.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula import house_formulas
    >>> gear_for(house_formulas()["dish-gentle"].formula)
    ('Goggles and gloves',)
    """
    said = [line.material.gear for line in formula.lines]
    said += [line.material.gear_dry for line in formula.lines if formula.dry]
    worn = dict.fromkeys(words for words in said if words)
    said_by_more = {words for words in worn for other in worn if words != other and words.lower() in other.lower()}
    return tuple(words for words in worn if words not in said_by_more)
