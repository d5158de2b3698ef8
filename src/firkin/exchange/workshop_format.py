"""What firkin-workshop is, told from the tables themselves: its JSON Schema and the page that describes it."""

from typing import Any

from django.db import models

from firkin.accounts.models import Role, User
from firkin.exchange.archive import TABLES, columns, settings_of
from firkin.exchange.upgrades import FORMAT, VERSION

_TEXTS: dict[str, tuple[str, dict[str, Any]]] = {
    "DateField": ("day", {"type": "string", "format": "date"}),
    "DateTimeField": ("hour, ISO 8601", {"type": "string", "format": "date-time"}),
    "DecimalField": ("number as text", {"type": "string", "pattern": r"^-?[0-9]+(\.[0-9]+)?$"}),
    "UUIDField": ("UUID", {"type": "string", "pattern": "^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$"}),
    "BinaryField": ("name of a file", {"type": "string", "pattern": r"^photos/[^/]+\.jpg$"}),
    "TextField": ("text", {"type": "string"}),
    "BooleanField": ("true or false", {"type": "boolean"}),
    "FloatField": ("number", {"type": "number"}),
    "PositiveIntegerField": ("whole number", {"type": "integer", "minimum": 0}),
    "PositiveSmallIntegerField": ("whole number", {"type": "integer", "minimum": 0}),
    "IntegerField": ("whole number", {"type": "integer"}),
    "JSONField": ("JSON", {}),
}


def _column_described(column: "models.Field[Any, Any]") -> tuple[str, dict[str, Any]]:
    """What a column holds: in words, and as a schema says it."""
    words, kind = _kind(column)
    if not column.null or not kind:
        return words, kind
    return f"{words}, or null" if column.related_model is not User else words, kind | {"type": [kind["type"], "null"]}


def _kind(column: "models.Field[Any, Any]") -> tuple[str, dict[str, Any]]:
    if column.related_model is User:
        return "a person", {"type": "string"}
    if column.related_model is not None:
        table = next(name for name, (model, _) in TABLES.items() if model is column.related_model)
        return f"place in `{table}`", {"type": "integer"}
    if isinstance(column, models.CharField):
        chosen = [str(key) for key, _ in column.flatchoices] + [""] * bool(column.blank)
        kind: dict[str, Any] = {"type": "string", "maxLength": column.max_length}
        return "text", kind | ({"enum": list(dict.fromkeys(chosen))} if column.choices else {})
    return _TEXTS[column.get_internal_type()]


def _row(listed: "list[models.Field[Any, Any]]") -> dict[str, Any]:
    return {
        "type": "object",
        "additionalProperties": False,
        "required": [column.name for column in listed],
        "properties": {column.name: _column_described(column)[1] for column in listed},
    }


def workshop_schema() -> dict[str, Any]:
    """The schema of the document; what is worked out of it is tried besides when it is read."""
    tables = {name: {"type": "array", "items": {"$ref": f"#/$defs/{name}"}} for name in TABLES}
    properties: dict[str, Any] = {
        "format": {"const": FORMAT},
        "workshop": _row(settings_of()),
        "members": {
            "description": "who is what, by the name they sign in by",
            "type": "object",
            "additionalProperties": {"enum": list(Role.values)},
        },
        "tables": {
            "type": "object",
            "additionalProperties": False,
            "required": list(TABLES),
            "properties": tables,
        },
    }
    return {
        "$schema": "http://json-schema.org/draft-07/schema#",
        "$id": f"urn:firkin:workshop:{VERSION}",
        "title": f"{FORMAT}: a whole workshop, or one batch with what it refers to",
        "type": "object",
        "additionalProperties": False,
        "required": list(properties),
        "properties": properties,
        "$defs": {name: _row(list(columns(model))) for name, (model, _) in TABLES.items()},
    }


def tables_in_words() -> str:
    """Every table and column for the page of the format."""
    sections = [("workshop", settings_of()), *((name, list(columns(model))) for name, (model, _) in TABLES.items())]
    return "\n".join(
        f"## {name}\n\n| column | holds |\n|---|---|\n"
        + "".join(f"| `{column.name}` | {_column_described(column)[0]} |\n" for column in listed)
        for name, listed in sections
    )
