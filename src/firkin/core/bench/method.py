"""What belongs to making a formula: its cautions, and what to wear."""

from firkin.core.bench.progress import Progress
from firkin.core.bench.readings import Stands, readings_of
from firkin.core.catalogue import Caution, cautions, families
from firkin.core.formula import Formula


def cautions_for(formula: Formula) -> tuple[Caution, ...]:
    """The cautions of everything in a formula and of its family, each once, signal words first.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula import Line
    >>> from firkin.core.measures import read_quantity
    >>> rub = Formula("Rub", (Line(find("ethanol"), read_quantity("1 L")),), family="liquid-rub")
    >>> [caution.id for caution in cautions_for(rub)][:2]
    ['flammable', 'eyes']
    """
    ids: list[str] = [key for line in formula.lines for key in line.material.cautions]
    ids += families()[formula.family].cautions
    known = cautions()
    chosen = [known[key] for key in dict.fromkeys(ids)]
    return tuple(sorted(chosen, key=lambda caution: not caution.signal))


def cautions_of(progress: Progress) -> tuple[Caution, ...]:
    """The cautions of a batch as it is: what burned going in burns no more once a pH within its window was read.

    While the pH is not known, or the last reading is outside, everything stands. A ferment that is strained needs no
    venting by the calendar any more.
    """
    read = [one for one in readings_of(progress) if one.what == "ph"]
    neutral = bool(read) and read[-1].judged is not None and read[-1].judged.verdict is Stands.WITHIN
    found = tuple(one for one in cautions_for(progress.formula) if not (neutral and one.until_neutral))
    if not progress.strained or progress.unfinished:
        return found
    return tuple(cautions()["pressure-after"] if one.id == "pressure" else one for one in found)


def gear_for(formula: Formula) -> tuple[str, ...]:
    """What to wear and mind while making a formula.

    >>> from firkin.core.formula import house_formulas
    >>> gear_for(house_formulas()["dish-gentle"].formula)
    ('Goggles and gloves',)
    """
    said = [line.material.gear for line in formula.lines]
    said += [line.material.gear_dry for line in formula.lines if formula.dry]
    worn = dict.fromkeys(words for words in said if words)
    said_by_more = {words for words in worn for other in worn if words != other and words.lower() in other.lower()}
    return tuple(words for words in worn if words not in said_by_more)
