"""How carefully a simulated maker works: tools, minutes and chances of a slip, from care.toml."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles
from firkin.core.errors import CannotRead
from firkin.core.measures import Tool, tools

#: What can go wrong at a line.
SLIPS = ("left-out", "over", "short", "twice", "wrong-bottle")


@dataclass(frozen=True, slots=True)
class Care:
    """A level of care.

    ``minutes`` of an act, ``slips`` the chance of each kind for a line, ``notices`` of seeing it.
    """

    id: str
    name: str
    says: str
    volume: str
    weight: str
    minutes: Mapping[str, float]
    notices: float
    slips: Mapping[str, float]


@cache
def cares() -> dict[str, Care]:
    """Every level of care by id, the most careful first.

    >>> list(cares())
    ['careful', 'usual', 'hasty']
    """
    return {key: Care(key, **row) for key, row in datafiles.toml("rehearsal/care.toml").items()}


def care_of(name: str) -> Care:
    """One level of care. Raises CannotRead for a name that is none."""
    found = cares().get(name)
    if found is None:
        raise CannotRead(f"{name[:40]}; expected one of {', '.join(cares())}").at("care")
    return found


def tools_of(care: Care, named: Sequence[str] = ()) -> tuple[Tool, Tool]:
    """The tools that measure volumes and weights: the first of each kind that is named, or else those of the care.

    Where only one kind is named, it measures everything. Raises CannotRead for a name that is no tool.

    >>> [tool.id for tool in tools_of(cares()["usual"])], [tool.id for tool in tools_of(cares()["usual"], ["cup"])]
    (['jug', 'scale'], ['cup', 'cup'])
    """
    if not named:
        return tools()[care.volume], tools()[care.weight]
    for name in named:
        if name not in tools():
            raise CannotRead(f"{name[:40]}; expected some of {', '.join(tools())}").at("tools")
    weighing = [tools()[name] for name in named if weighs(name)]
    filling = [tools()[name] for name in named if not weighs(name)]
    return (filling or weighing)[0], (weighing or filling)[0]


def weighs(tool: str) -> bool:
    """True for a scale, by its id."""
    return tool.startswith("scale")
