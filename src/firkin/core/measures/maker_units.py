"""What makers count in that has no size of its own: capful, scoop, pump stroke, load, bucket, bar.

Each workshop says once how much its own is; without that, none is guessed.
"""

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles


@dataclass(frozen=True, slots=True)
class MakerUnit:
    """One of them: its kind ("volume" or "mass"), its name, spellings, and what one usually is, as a hint."""

    id: str
    kind: str
    name: str
    names: tuple[str, ...]
    about: str


@cache
def maker_units() -> dict[str, MakerUnit]:
    """Every one by id.

    >>> maker_units()["bar"].kind
    'mass'
    """
    table = datafiles.toml("measures/maker_units.toml")
    return {key: MakerUnit(key, u["kind"], u["name"], tuple(u["names"]), u["about"]) for key, u in table.items()}


@cache
def _spelt() -> dict[str, str]:
    return {name + ending: one.id for one in maker_units().values() for name in one.names for ending in ("", "s", "es")}


def maker_unit(word: str) -> str | None:
    """The id a word stands for, in small letters; None for any other word.

    Args:
        word: a word in any case.

    >>> maker_unit("capfuls"), maker_unit("cup")
    ('capful', None)
    """
    return _spelt().get(word)


#: How much each is for whoever writes just now, in mL or g, by id.
_sizes: ContextVar[Mapping[str, float]] = ContextVar("sizes of the maker's units")


@contextmanager
def maker_sizes(sizes: Mapping[str, float]) -> Iterator[None]:
    """Within it, each of these counts as so many mL, or g.

    Args:
        sizes: mL, or g for what weighs, by id of the maker's unit.

    >>> from firkin.core.measures import read_quantity
    >>> with maker_sizes({"capful": 15.0}):
    ...     str(read_quantity("2 capfuls"))
    '30 mL'
    """
    token = _sizes.set(sizes)
    try:
        yield
    finally:
        _sizes.reset(token)


def size_of(unit: str) -> tuple[str, float] | None:
    """Its size as the id of a unit and how many of it; None where nobody said.

    Args:
        unit: id of a maker's unit.

    >>> with maker_sizes({"capful": 15.0}):
    ...     size_of("capful")
    ('mL', 15.0)
    """
    size = _sizes.get({}).get(unit)
    return None if not size else ("mL" if maker_units()[unit].kind == "volume" else "g", size)
