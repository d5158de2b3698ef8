"""How well an amount is measured: a typed error, or that of a tool."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles
from firkin.core.errors import CannotRead
from firkin.core.measures.numerals import figures, plain_figures, read_number
from firkin.core.texts import quoted, uncapped


@dataclass(frozen=True, slots=True)
class Tool:
    """A measure, and the error of measuring with it in per cent; or an absolute one, in g or mL.

    ``random_pct`` is how much of the error is drawn anew at each filling, where that is known; ``size`` what it holds
    at once, in mL or g.
    """

    id: str
    name: str
    names: tuple[str, ...]
    error_pct: float
    source: str
    size: float | None = None
    random_pct: float = 0.0
    error_g: float = 0.0
    error_mL: float = 0.0


@cache
def tools() -> dict[str, Tool]:
    """Every tool by id.

    >>> tools()["cup"].error_pct, tools()["scale-1g"].error_g
    (5.0, 1.0)
    """
    return {
        key: Tool(
            key,
            row["name"],
            tuple(row["names"]),
            row["error_pct"],
            row["source"],
            row.get("size"),
            row.get("random_pct", 0.0),
            row.get("error_g", 0.0),
            row.get("error_mL", 0.0),
        )
        for key, row in datafiles.toml("measures/tools.toml").items()
    }


def read_error(text: str, own: Iterable[tuple[str, float]] = ()) -> float:
    """A measuring error as a fraction, read from "5 %", "± 2 %" or the name of a tool; 0 for nothing.

    ``own`` are the maker's own tools, each with its error in per cent; they are looked at first.

    Args:
        text: an error in per cent, or a tool's name.
        own: the maker's own tools by name, each with its error in per cent.

    Raises:
        CannotRead: for anything else, and for 50 % or more.

    >>> read_error("± 5 %"), read_error("cup"), read_error("")
    (0.05, 0.05, 0.0)
    """
    plain = re.sub(r"\s+", " ", text.strip().lower())
    if not plain:
        return 0.0
    for name, error_pct in own:
        if plain == name.strip().lower():
            return error_pct / 100.0
    for tool in tools().values():
        if plain in (tool.id, tool.name.lower(), *tool.names):
            return tool.error_pct / 100.0
    match = re.fullmatch(r"(?:±|\+/?-|\+-)?\s*([^\s%]+)\s*%", plain)
    if match is None:
        known = ", ".join(uncapped(tool.name) for tool in tools().values())
        raise CannotRead(f"{quoted(text)} is not an error such as 5 %, nor a tool: {known}.")
    percent = read_number(match[1])
    if not 0 <= percent < 50:
        raise CannotRead(f"An error of {figures(percent)} % is no measuring; it is from 0 to below 50 %.")
    return percent / 100.0


def usual_tool(name: str, *, weighs: bool = False) -> Tool:
    """The tool that a maker's name for one speaks of: a scale for what weighs, a cup where nothing is recognised.

    Args:
        name: the maker's own name for it.
        weighs: True where a weight is measured.

    >>> usual_tool("Small syringe").id, usual_tool("Blue thing").id, usual_tool("Old", weighs=True).id
    ('syringe', 'cup', 'scale')
    """
    if weighs:
        return tools()["scale"]
    words = set(re.findall(r"[a-z]+", name.lower()))
    return next(
        (tool for tool in tools().values() if words & {tool.id, *" ".join((tool.name.lower(), *tool.names)).split()}),
        tools()["cup"],
    )


def error_words(error: float) -> str:
    """A measuring error as it is written, so that read_error reads it; empty for none.

    Args:
        error: a fraction: 0.05 for 5 %.

    >>> error_words(0.05), error_words(0.0)
    ('5 %', '')
    """
    return f"{plain_figures(100.0 * error, 4)} %" if error else ""
