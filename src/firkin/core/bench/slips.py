"""What a batch does without: the lines that were left out, what follows from each, and what then cannot be done."""

import re
from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles
from firkin.core.bench.progress import Progress
from firkin.core.bench.tasks import Task, TaskKind
from firkin.core.catalogue import Material, families
from firkin.core.measures import Quantity
from firkin.core.texts import uncapped


@dataclass(frozen=True, slots=True)
class _Without:
    """What follows where a role or a material is missing, in some families or in all."""

    says: str
    role: str = ""
    id: str = ""
    families: tuple[str, ...] = ()
    watery: bool = False

    def fits(self, material: Material, family: str) -> bool:
        """True where it is said of a material left out of a product of a family."""
        here = not self.families or family in self.families
        wet = not self.watery or families()[family].watery
        return here and wet and (self.role in material.roles or self.id == material.id)


@cache
def _known() -> tuple[_Without, ...]:
    rows = datafiles.toml("bench/left_out.toml")["without"]
    return tuple(_Without(**{**row, "families": tuple(row.get("families", ()))}) for row in rows)


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A line that was left out: its place and material, what follows, and how much of it would go in now."""

    line: int
    material: Material
    follows: str
    amount: Quantity


def left_out(progress: Progress) -> tuple[LeftOut, ...]:
    """The lines that were left out and can still be put in; without those that never were of the batch.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from datetime import UTC, datetime
    >>> from firkin.core.bench.journal import Entry, EntryKind
    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> forgot = Entry(1, EntryKind.LEFT_OUT, datetime(2026, 5, 1, tzinfo=UTC), line=2, data={"planned": 18.3})
    >>> [one.follows for one in left_out(Progress(rub, plan_of(rub), [forgot]))]
    ['It will dry hands out. Use it with a hand cream, or put the glycerol in.']
    """
    found = []
    for position, entry in sorted(progress.left_out.items()):
        if not entry.void:
            material = progress.formula.lines[position].material
            family = progress.formula.family
            found.append(LeftOut(position, material, follows(material, family), _now(progress, position)))
    return tuple(found)


def _now(progress: Progress, position: int) -> Quantity:
    """How much of a line that was left out would go in now: of a top-up what it was planned to be."""
    planned = progress.plan[position]
    return progress.asked_now(position) if position != progress.topping else Quantity(planned.mL, "mL")


def follows(material: Material, family: str) -> str:
    """What a product of a family does without, where a material is left out; empty where nothing is known.

    Args:
        material: a material of the catalogue or the workshop, known or not.
        family: id of a family, such as "liquid-rub"; one that is not known counts as "other".

    >>> from firkin.core.catalogue import find
    >>> follows(find("phenoxyethanol"), "liquid-soap")[:41]
    'It keeps a few weeks at most: mind its ke'
    """
    says = next((one.says for one in _known() if one.fits(material, family)), "")
    return says.format(it=f"the {uncapped(material.name)}")


def not_in_yet(progress: Progress, task: Task) -> tuple[int, ...]:
    """The lines left out that something to do speaks of: it cannot be done as told while they are not in.

    Of a material that is in by another line it can.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        task: one of ``progress.tasks``.

    >>> from datetime import UTC, datetime
    >>> from firkin.core.bench.journal import Entry, EntryKind
    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> soap = house_formulas()["powder-soft"].formula
    >>> forgot = Entry(1, EntryKind.LEFT_OUT, datetime(2026, 5, 1, tzinfo=UTC), line=3, data={"planned": 5.0})
    >>> progress = Progress(soap, plan_of(soap), [forgot])
    >>> [not_in_yet(progress, task) for task in progress.tasks if task.kind is TaskKind.DO]
    [(), (), ()]
    """
    if task.kind is not TaskKind.DO:
        return ()
    steps = progress.formula.steps
    listed = steps[task.step].lines if 0 <= task.step < len(steps) else ()
    there = {progress.formula.lines[i].material.id for i in progress.measured}
    out = [i for i, entry in progress.left_out.items() if not entry.void]
    out = [i for i in out if progress.formula.lines[i].material.id not in there]
    return tuple(i for i in sorted(out) if i in listed or _named(progress.formula.lines[i].material, task.text))


def _named(material: Material, text: str) -> bool:
    """True where a text names a material: by its own name, or by one of its usual ones."""
    names = sorted({material.name.lower(), *(name.lower() for name in material.names)})
    return any(len(name) > 3 and re.search(rf"\b{re.escape(name)}\b", text.lower()) for name in names)
