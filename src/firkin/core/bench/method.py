"""How a formula is made: the usual steps where it has none, and the cautions that belong to it."""

from firkin.core.catalogue import Caution, cautions, families
from firkin.core.formula import Formula, Line, Step
from firkin.core.measures import QUARANTINE_H


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


def quarantined(formula: Formula) -> bool:
    """True for a rub made of alcohol: it rests 72 h (WHO Guide to Local Production)."""
    return families()[formula.family].rub and any("alcohol" in line.material.roles for line in formula.lines)


def steps_of(formula: Formula) -> tuple[Step, ...]:
    """The formula's own steps, or the usual ones for its lines: pour in order, top up, mix, wait.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> rub = Formula("Rub", (Line(find("water"), read_quantity("q.s.")),
    ...     Line(find("ethanol"), read_quantity("800 mL"))), family="liquid-rub", make=read_quantity("1 L"))
    >>> [(step.do, step.lines) for step in steps_of(rub)]
    [('pour', (1,)), ('top up', (0,)), ('mix', ()), ('quarantine', ())]
    """
    if formula.steps:
        return formula.steps
    topped = formula.topped_up
    steps = [Step("pour", pour_text(formula.lines[i]), (i,)) for i in range(len(formula.lines)) if i != topped]
    if topped is not None:
        line = formula.lines[topped]
        steps.append(
            Step("top up", f"Top up with {line.material.name.lower()} to the mark, not by measure.", (topped,))
        )
    if formula.dry:
        steps.append(Step("mix", "Stir with a dry spoon in a dry bowl until even."))
    else:
        steps.append(Step("mix", "Close the vessel and mix gently until even."))
    if quarantined(formula):
        steps.append(
            Step(
                "quarantine",
                "Keep it closed and still for 72 hours, so that spores from alcohol or bottles die.",
                wait_h=QUARANTINE_H,
            )
        )
    return tuple(steps)


def pour_text(line: Line) -> str:
    """What to do with a line that no step describes."""
    material = line.material
    if line.solid:
        return f"Weigh the {material.name.lower()} and add it."
    if "viscous" in material.roles:
        return f"Add the {material.name.lower()}. It clings: rinse the measure out with some of the batch."
    if "alcohol" in material.roles:
        return f"Measure the {material.name.lower()}, away from any flame, and keep it covered."
    return f"Add the {material.name.lower()}."
