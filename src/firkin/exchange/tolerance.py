"""The ask `tolerance` of firkin-question/1, which takes a whole formula: its part of the schemas, and its answer."""

from typing import Any

from firkin.core.errors import CannotReckon
from firkin.core.formula import formula_from_dict
from firkin.exchange.rounding import rounded
from firkin.exchange.validation import check_formula

ASK = "tolerance"

Schema = dict[str, Any]

_PER_CENT: Schema = {"type": "number", "minimum": 0, "exclusiveMaximum": 100}
_ABSOLUTE: Schema = {"type": "number", "minimum": 0, "maximum": 100000}
_NAME: Schema = {"type": "string", "minLength": 1, "maxLength": 80}

#: What it takes: each key with its schema and what it is.
_TAKES: dict[str, tuple[Schema, str]] = {
    "formula": ({"type": "object"}, "a firkin-formula"),
    "tools": (
        {
            "type": "array",
            "maxItems": 100,
            "items": {
                "anyOf": [
                    _NAME,
                    {"type": "null"},
                    {
                        "type": "object",
                        "additionalProperties": False,
                        "properties": {
                            "tool": _NAME,
                            "group": _NAME,
                            "bottle": _NAME,
                            "size": _NAME,
                            "random_pct": _PER_CENT,
                            "systematic_pct": _PER_CENT,
                            "error_g": _ABSOLUTE,
                            "error_mL": _ABSOLUTE,
                            "fillings": {"type": "integer", "minimum": 1, "maximum": 10000},
                        },
                    },
                ]
            },
        },
        "one for each line: the id of a tool, null for a perfect one, or an object of `random_pct`, `systematic_pct`,"
        " `error_g` or `error_mL`, `group` (whose systematic part is drawn once), `fillings`, `size` (what it holds, in"
        " place of fillings), `tool` (an id, with the errors of the catalogue) and `bottle` (two stocks of one label);"
        " absent: what the formula says each line is good to",
    ),
    "of": ({"enum": ["label", "true"]}, "which strength; absent: the lower of the two, as verdicts judge a minimum"),
    "guideline": (_NAME, "the rule line to hold; absent: the first of the formula's own that has something to say"),
    "active": (_NAME, "whose strength; absent: what the rule line speaks of"),
    "draws": ({"type": "integer", "minimum": 1, "maximum": 1000000}, "how many; 100 000 where absent"),
    "seed": ({"type": "integer", "minimum": 0}, "the same seed gives the same answer; 0 where absent"),
}

_NUMBER: Schema = {"type": "number"}
_SHARE: Schema = {"type": "number", "minimum": 0, "maximum": 100}

_GIVES: dict[str, tuple[Schema, str]] = {
    "active": ({"type": "string"}, "whose strength it is"),
    "basis": ({"type": "string"}, "per cent of what"),
    "nominal": (_NUMBER, "the strength as planned"),
    "mean": (_NUMBER, "of the draws"),
    "sd": ({"type": "number", "minimum": 0}, "standard deviation of the draws, points"),
    "sd_linear": ({"type": "number", "minimum": 0}, "standard deviation by the law of propagation, points"),
    "percentiles": (
        {
            "type": "object",
            "required": ["5", "50", "95"],
            "additionalProperties": False,
            "properties": {"5": _NUMBER, "50": _NUMBER, "95": _NUMBER},
        },
        "below which 5, 50 and 95 in 100 draws lie",
    ),
    "guideline": ({"type": "string"}, "the rule line that was judged (may be absent)"),
    "share_holding_pct": (_SHARE, "how many of the draws hold it (may be absent)"),
    "ranked": (
        {
            "type": "array",
            "items": {
                "type": "object",
                "required": ["line", "share_of_variance_pct"],
                "additionalProperties": False,
                "properties": {"line": {"type": "integer"}, "share_of_variance_pct": _NUMBER},
            },
        },
        "each line, the one that matters most first; below 0 where its error takes back another's",
    ),
    "table_share_of_variance_pct": (_SHARE, "what of it is the density table's own doubt (may be absent)"),
    "best_change": (
        {
            "type": "object",
            "required": ["line", "change", "share_holding_pct"],
            "additionalProperties": False,
            "properties": {
                "line": {"type": "integer"},
                "change": {"type": "string"},
                "share_holding_pct": _SHARE,
            },
        },
        "the best of the changes tried (absent where nothing could be tried)",
    ),
}
_MAY_BE_ABSENT = ("guideline", "share_holding_pct", "table_share_of_variance_pct", "best_change")


def answer(document: dict[str, Any], answer_format: str) -> dict[str, Any]:
    """Answer it; its shape has been checked, that of its formula is checked here.

    Raises CannotReckon with the place of what is wrong.
    """
    from firkin.core.tolerance import tolerance  # NumPy, only where it is asked for

    try:
        check_formula(document["formula"])
        formula = formula_from_dict(document["formula"])
    except CannotReckon as error:
        raise error.at("formula") from None
    given = tolerance(formula, document)
    return {"format": answer_format, "ask": ASK, **{key: _plain(value) for key, value in given.items()}}


def _plain(value: Any) -> Any:
    if isinstance(value, float):
        return rounded(value)
    if isinstance(value, list):
        return [_plain(one) for one in value]
    return {key: _plain(one) for key, one in value.items()} if isinstance(value, dict) else value


def question_part() -> Schema:
    """What the schema of firkin-question/1 says of it."""
    return {
        "type": "object",
        "additionalProperties": False,
        "required": ["ask", "formula"],
        "properties": {
            "format": {"$ref": "#/$defs/format"},
            "ask": {"const": ASK},
            **{key: schema for key, (schema, _) in _TAKES.items()},
        },
    }


def answer_part() -> Schema:
    """What the schema of firkin-answer/1 says of it."""
    return {
        "required": [key for key in _GIVES if key not in _MAY_BE_ABSENT],
        "properties": {
            "ask": {"const": ASK},
            "format": {},
            "working": {},
            **{key: {**schema, "description": what} for key, (schema, what) in _GIVES.items()},
        },
        "additionalProperties": False,
    }


def documentation() -> list[str]:
    """Its section of docs/formats/questions.md."""
    return [
        "",
        f"## {ASK}",
        "",
        "How sure is the strength of a mix, measured with these tools from bottles of these ranges? Each error is the",
        "half-width of a rectangular distribution (JCGM 100:2008, 4.3.7); the distribution of the strength comes from",
        "draws (JCGM 101:2008) and from propagation (JCGM 100:2008, 5). The random part of a tool is drawn anew for",
        "each filling, its systematic part once for every line of the group; a tool of the catalogue is systematic.",
        "",
        "| takes | what |",
        "|---|---|",
        *(f"| `{key}` | {what}{'' if key == 'formula' else ' (may be absent)'} |" for key, (_, what) in _TAKES.items()),
        "",
        "| gives | what |",
        "|---|---|",
        *(f"| `{key}` | {what} |" for key, (_, what) in _GIVES.items()),
    ]
