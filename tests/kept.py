"""What core says, told as text and kept in a file beside the test: a change of any figure, word or picture shows as a
line that differs. Written anew with FIRKIN_KEEP=1, to be read through before it is committed.
"""

import os
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
        parts = sorted(thing, key=str) if isinstance(thing, set | frozenset) else thing
        return [line for part in parts for line in _bulleted(part, before)]
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


def same_as_kept(file: Path, sections: dict[str, str]) -> None:
    """Every section says what the file says of it, and the file has no other."""
    text = "\n\n".join(f"## {name}\n{said}" for name, said in sections.items()) + "\n"
    if os.environ.get("FIRKIN_KEEP"):
        file.write_text(text)
    kept = {
        part.split("\n", 1)[0]: part.split("\n", 1)[1].strip() for part in ("\n" + file.read_text()).split("\n## ")[1:]
    }
    for name, said in sections.items():
        assert kept.get(name) == said.strip(), f"{file.name}: {name}"
    assert list(kept) == list(sections)
