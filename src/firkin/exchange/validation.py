"""The published JSON Schemas, and checking a document against one with a clear sentence."""

import json
import re
from collections.abc import Callable, Iterable
from functools import cache
from importlib import resources
from typing import Any

import fastjsonschema

from firkin.core.errors import CannotRead
from firkin.core.formula import FORMULA_FORMAT_NOW
from firkin.core.texts import unwritable

_TYPES = {
    "object": "an object",
    "array": "a list",
    "string": "text in quotes",
    "integer": "a whole number",
    "number": "a number",
    "null": "null",
    "boolean": "true or false",
}

#: What text of a format, or of a pattern of firkin-workshop, looks like.
_LIKE = {
    "date": "2026-11-26",
    "date-time": "2026-11-26T10:00:00+00:00",
    r"^-?[0-9]+(\.[0-9]+)?$": "4.90",
    "^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$": "0f8fad5b-d9cb-469f-a165-70867728950e",
    r"^photos/[^/]+\.jpg$": "photos/1.jpg",
}


@cache
def schema(name: str) -> dict[str, Any]:
    """One schema by name, such as "firkin-formula-1"."""
    text = resources.files("firkin.exchange").joinpath("schemas", f"{name}.schema.json").read_text("utf-8")
    loaded: dict[str, Any] = json.loads(text)
    return loaded


@cache
def _validator(name: str, part: str) -> Callable[[object], object]:
    whole = schema(name)
    chosen = {"$schema": whole["$schema"], "$ref": f"#/$defs/{part}", "$defs": whole["$defs"]} if part else whole
    compiled: Callable[[object], object] = fastjsonschema.compile(chosen)
    return compiled


def parts(name: str) -> list[str]:
    """The names of the alternatives a schema is a choice of, such as the asks of a question."""
    return [choice["$ref"].rsplit("/", 1)[-1] for choice in schema(name)["oneOf"]]


def check(document: object, name: str, part: str = "") -> None:
    """Check a document against a schema, or one of its $defs, and its texts.

    Raises CannotRead with the path of what is wrong.
    """
    broken = unwritable(document)
    if broken is not None:
        raise _at(broken, "there is a character in it that cannot be written down")
    try:
        _validator(name, part)(document)
    except fastjsonschema.JsonSchemaValueException as error:
        raise _as_cannot_read(error) from None


def _as_cannot_read(error: fastjsonschema.JsonSchemaValueException) -> CannotRead:
    path = [int(part) if part.isdigit() else part for part in error.path[1:]]
    wanted = error.rule_definition
    if error.rule == "additionalProperties":
        known = error.definition["properties"]
        extra = next(key for key in error.value if key not in known)
        return _at([*path, extra], f"unknown key; expected one of {_listed(known)}")
    if error.rule == "required":
        missing = next(key for key in wanted if key not in error.value)
        return _at([*path, missing], "missing; expected a value here")
    if error.rule == "type":
        kinds = [wanted] if isinstance(wanted, str) else wanted
        expected = " or ".join(_TYPES[kind] for kind in kinds)
    elif error.rule == "enum":
        expected = "one of " + _listed(wanted)
    elif error.rule == "const":
        expected = json.dumps(wanted)
    elif error.rule == "anyOf":
        known = wanted[-1]["properties"]
        if isinstance(error.value, dict) and (extra := [key for key in error.value if key not in known]):
            return _at([*path, extra[0]], f"unknown key; expected one of {_listed(known)}")
        return _at(path, f"{_shown(error.value)}; expected text in quotes, or an object of {_listed(known)}")
    elif error.rule in ("minItems", "minLength") and wanted == 1:
        expected = "something, not nothing"
    elif error.rule in ("minItems", "maxItems"):
        expected = f"{'at least' if error.rule == 'minItems' else 'at most'} {wanted} of them"
    elif error.rule in ("maxLength", "format", "pattern"):
        expected = f"at most {wanted} characters" if error.rule == "maxLength" else f"text such as {_LIKE[wanted]}"
    else:
        words = {"minimum": "at least", "exclusiveMinimum": "more than", "exclusiveMaximum": "less than"}
        expected = f"{words.get(str(error.rule), 'at most')} {wanted}"
    return _at(path, f"{_shown(error.value)}; expected {expected}")


def _at(path: Iterable[str | int], message: str) -> CannotRead:
    error = CannotRead(message)
    error.at(*path)
    return error


def _listed(values: Iterable[object]) -> str:
    return ", ".join(str(value) for value in values)


def _shown(value: object) -> str:
    text = json.dumps(value, ensure_ascii=False)
    return text if len(text) <= 60 else text[:57] + "..."


def version_of(there: Any, wanted: str) -> int:
    """Which version of a format a file says it is: its major. Every minor up to that of ``wanted`` is read.

    Raises CannotRead for another format, and with both numbers for one that is newer than ``wanted``.

    >>> version_of("firkin-formula/1", "firkin-formula/1.1"), version_of("firkin-formula/1.1", "firkin-formula/1.1")
    (1, 1)
    """
    name, _, newest = wanted.rpartition("/")
    told, _, number = there.rpartition("/") if isinstance(there, str) else ("", "", "")
    numbers = _VERSION.fullmatch(number)
    if told != name or numbers is None:
        raise CannotRead(f"{str(there)[:40]}; expected {wanted}").at("format")
    major, minor = int(numbers[1]), int(numbers[2] or 0)
    most = [int(part) for part in f"{newest}.0".split(".")[:2]]
    if [major, minor] > most:
        raise CannotRead(f"{there}; it was written by a newer Firkin. This one reads up to {wanted}").at("format")
    return major


#: A major from 1 on, and a minor where there is one.
_VERSION = re.compile(r"([1-9][0-9]{0,4})(?:\.([0-9]{1,4}))?", re.ASCII)


def check_formula(document: object) -> None:
    """Check a document against firkin-formula, of any version up to this program's.

    Raises CannotRead with the path of what is wrong, and with both numbers for a newer one.
    """
    there = document.get("format") if isinstance(document, dict) else None
    if isinstance(there, str) and there.startswith("firkin-formula/"):
        version_of(there, FORMULA_FORMAT_NOW)
    check(document, "firkin-formula-1")
