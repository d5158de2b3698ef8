"""What core says, told as text and kept in a file beside the test: a change of any figure, word or picture shows as a
line that differs. Written anew with FIRKIN_KEEP=1, to be read through before it is committed.
"""

import os
import re
from collections.abc import Callable, Mapping
from dataclasses import fields, is_dataclass
from enum import Enum
from pathlib import Path
from typing import Any

from firkin.core.catalogue import Material
from firkin.core.formula import Formula, Reckoning, formula_to_dict
from firkin.core.measures import Quantity, Strength, WorkLine


def told(thing: Any, before: str = "") -> str:
    """A thing of core as lines of text: numbers to six figures, parts of parts further in."""
    return "\n".join(_lines(thing, before))


def _lines(thing: Any, before: str) -> list[str]:
    match thing:
        case Material():
            return [before + thing.id]
        case WorkLine():
            return [before + thing.text]
        case Formula():
            return _lines(formula_to_dict(thing), before)
        case Reckoning():
            return _lines(
                {"volume": thing.total.volume_mL, "mass": thing.total.mass_g, "verdicts": thing.verdicts}, before
            )
        case Strength():
            return [f"{before}{thing} ({thing.low:.6g} to {thing.high:.6g})"]
        case Quantity():
            return [f"{before}{thing.value:.6g} {thing.unit}"]
        case Enum():
            return [before + str(thing.value)]
        case bool() | None | str() | int():
            return [f"{before}{thing}"]
        case float():
            return [f"{before}{thing:.6g}"]
    if is_dataclass(thing):
        parts = [(one.name, getattr(thing, one.name)) for one in fields(thing)]
        parts = [(name, part) for name, part in parts if part not in (None, "", ()) and not name.startswith("_")]
        return _named([("", type(thing).__name__), *parts], before)
    if isinstance(thing, dict):
        return _named(list(thing.items()), before)
    if isinstance(thing, list | tuple | set | frozenset):
        inside: Any = sorted(thing, key=str) if isinstance(thing, set | frozenset) else thing
        return [line for part in inside for line in _bulleted(part, before)]
    return [before + str(thing)]


def _bulleted(part: Any, before: str) -> list[str]:
    inner = _lines(part, "")
    return [f"{before}- {inner[0]}", *(f"{before}  {line}" for line in inner[1:])] if inner else [f"{before}-"]


def _named(parts: list[tuple[str, Any]], before: str) -> list[str]:
    found = []
    for name, part in parts:
        inner = _lines(part, "")
        if len(inner) == 1 and not inner[0].startswith("- "):
            found.append(f"{before}{name}: {inner[0]}" if name else before + inner[0])
        else:
            found += [f"{before}{name}:", *(f"{before}  {line}" for line in inner)]
    return found


#: So much of each file can be read in one sitting with the others.
MOST_LINES = 210


def same_as_kept(file: Path, sections: Mapping[str, str | Callable[[], str]]) -> None:
    """What is kept says what it said. A section may be worked out when it is asked for: only those that are kept are.

    With FIRKIN_KEEP all are worked out, and those that differ most from each other are kept; an empty one is none.
    """
    if os.environ.get("FIRKIN_KEEP"):
        every = {name: said for name, section in sections.items() if (said := _said(section))}
        chosen = _telling(every)
        file.write_text("\n\n".join(f"## {name}\n{every[name]}" for name in chosen) + "\n")
    kept = {
        part.split("\n", 1)[0]: part.split("\n", 1)[1].strip() for part in ("\n" + file.read_text()).split("\n## ")[1:]
    }
    assert kept
    for name, said in kept.items():
        assert name in sections, f"{file.name}: {name} is gone"
        assert _said(sections[name]).strip() == said, f"{file.name}: {name}"


def _said(section: str | Callable[[], str]) -> str:
    return section() if callable(section) else section


def _telling(sections: dict[str, str]) -> list[str]:
    """The names of sections that together show most kinds of lines in so many lines, in their order."""
    kinds = {name: {_kind(line) for line in said.splitlines()} for name, said in sections.items()}
    lines = {name: said.count("\n") + 3 for name, said in sections.items()}
    left, seen, chosen = MOST_LINES, set[str](), []
    while True:
        fits = [name for name in sections if name not in chosen and lines[name] <= left and kinds[name] - seen]
        if not fits:
            return [name for name in sections if name in chosen] or list(sections)[:1]
        best = max(fits, key=lambda name: len(kinds[name] - seen) / lines[name])
        chosen.append(best)
        seen |= kinds[best]
        left -= lines[best]


def _kind(line: str) -> str:
    """What a line is about: its words without its figures."""
    return re.sub(r"[\d.]+", "0", line.strip())[:40]
