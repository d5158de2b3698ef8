"""The open formats firkin-question/1 and firkin-answer/1: their schemas and their page, from core's declarations."""

from collections.abc import Iterable
from typing import Any

from firkin.core.questions import QUESTIONS, Field, Given, Kind, Question
from firkin.exchange import tolerance
from firkin.exchange.rounding import rounded

QUESTION_FORMAT, ANSWER_FORMAT = "firkin-question/1", "firkin-answer/1"
#: Which question answers to each name of the text command.
ASKS: dict[str, Question] = {ask: question for question in QUESTIONS.values() for ask in question.asks}

Schema = dict[str, Any]


def answer(document: dict[str, Any]) -> dict[str, Any]:
    """Answer a question whose shape has been checked; CannotReckon when it is impossible."""
    ask = document["ask"]
    if ask == tolerance.ASK:
        return tolerance.answer(document, ANSWER_FORMAT)
    question = ASKS[ask]
    answered = question.solve(question.read(document, ask=ask))
    return {
        "format": ANSWER_FORMAT,
        "ask": ask,
        **{key: _plain(value) for key, value in answered.values.items()},
        "working": [line.text for line in answered.working],
    }


def _plain(value: Any) -> Any:
    """A value as JSON has it, floats to seven figures."""
    if isinstance(value, float):
        return rounded(value)
    if isinstance(value, list):
        return [_plain(one) for one in value]
    return {key: _plain(one) for key, one in value.items()} if isinstance(value, dict) else value


def question_schema() -> Schema:
    """The JSON Schema of firkin-question/1."""
    return {
        "$schema": "http://json-schema.org/draft-07/schema#",
        "$id": "urn:firkin:question:1",
        "title": f"{QUESTION_FORMAT}: one question of the trade",
        "type": "object",
        "required": ["ask"],
        "oneOf": [{"$ref": f"#/$defs/{ask}"} for ask in (*ASKS, tolerance.ASK)],
        "$defs": {
            "format": {"const": QUESTION_FORMAT},
            "strength": {"type": "string", "minLength": 1, "maxLength": 60},
            "material": {"type": "string", "minLength": 1, "maxLength": 80},
            "quantity": {"type": "string", "minLength": 1, "maxLength": 60},
            **{
                ask: _object(question.fields, {"format": {"$ref": "#/$defs/format"}, "ask": {"const": ask}}, ["ask"])
                for ask, question in ASKS.items()
            },
            tolerance.ASK: tolerance.question_part(),
        },
    }


def _object(fields: Iterable[Field], properties: Schema, required: list[str]) -> Schema:
    asked = [field for field in fields if field.in_ask]
    must = [field.key for field in asked if not (field.optional or field.fallback)]
    return {
        "type": "object",
        "additionalProperties": False,
        "required": [*required, *must],
        "properties": {**properties, **{field.key: _field(field) for field in asked}},
    }


_TYPES: dict[Kind, Schema] = {
    Kind.ACTIVE: {"$ref": "#/$defs/material"},
    Kind.MATERIAL: {"$ref": "#/$defs/material"},
    Kind.STRENGTH: {"$ref": "#/$defs/strength"},
    Kind.VOLUME: {"$ref": "#/$defs/quantity"},
    Kind.SIZE: {"$ref": "#/$defs/quantity"},
    Kind.READING: {"type": ["string", "number"], "description": "% v/v, at the calibration of 20 degC"},
    Kind.TEMPERATURE: {"type": ["string", "number"], "description": "such as 27 degC"},
    Kind.NUMBER: {"type": "number"},
    Kind.GRAMS: {"type": ["number", "string"], "description": "g, or weights such as 3 x 100 g"},
    Kind.COUNT: {"type": "integer"},
    Kind.NAME: {"type": "string", "minLength": 1, "maxLength": 120},
}


def _field(field: Field) -> Schema:
    if field.kind is Kind.CHOICE:
        one: Schema = {"enum": [key for key, _ in field.choices() if key]}
    elif field.kind is Kind.GROUP:
        one = _object(field.fields, {}, [])
    else:
        one = dict(_TYPES[field.kind])
    if field.kind in (Kind.NUMBER, Kind.GRAMS, Kind.COUNT):
        bounds = (
            ("minimum", field.least),
            ("maximum", field.most),
            ("exclusiveMinimum", field.above),
            ("exclusiveMaximum", field.below),
        )
        one |= {key: int(bound) if bound == int(bound) else bound for key, bound in bounds if bound is not None}
    if field.rows is None:
        return one
    if field.kind is Kind.GROUP and [part.key for part in field.fields if not part.optional] == [field.fields[-1].key]:
        one = {"anyOf": [_field(field.fields[-1]), one]}  # a bare text stands for the one field that must be there
    return {"type": "array", "minItems": field.rows[0], "maxItems": field.rows[1], "items": one}


def answer_schema() -> Schema:
    """The JSON Schema of firkin-answer/1."""
    working = {"type": "array", "minItems": 1, "items": {"type": "string"}}
    return {
        "$schema": "http://json-schema.org/draft-07/schema#",
        "$id": "urn:firkin:answer:1",
        "title": f"{ANSWER_FORMAT}: the answer to a question",
        "type": "object",
        "required": ["format", "ask", "working"],
        "properties": {"format": {"const": ANSWER_FORMAT}, "ask": {"type": "string"}, "working": working},
        "oneOf": [{"$ref": f"#/$defs/{ask}"} for ask in (*ASKS, tolerance.ASK)],
        "$defs": {
            **{
                ask: _given(question.gives, {"ask": {"const": ask}, "format": {}, "working": {}})
                for ask, question in ASKS.items()
            },
            tolerance.ASK: tolerance.answer_part(),
        },
    }


def _given(gives: Iterable[Given], properties: Schema) -> Schema:
    gives = tuple(gives)
    return {
        "required": [given.key for given in gives if not given.optional],
        "properties": {**properties, **{given.key: _value(given) for given in gives}},
        "additionalProperties": False,
    }


def _value(given: Given) -> Schema:
    said = {"description": given.what}
    if given.choices:
        return {"enum": list(given.choices), **said}
    if given.kind == "numbers":
        return {"type": "array", "items": {"type": "number"}, **said}
    if given.kind == "rows":
        return {"type": "array", "items": {"type": "object", **_given(given.fields, {})}, **said}
    kind = {"text": "string"}.get(given.kind, given.kind)
    return {"type": [kind, "null"] if given.or_null else kind, **said}


def documentation() -> str:
    """The page docs/formats/questions.md: every ask with what it takes and gives."""
    lines = [
        "# Questions",
        "",
        "Written from the declarations in src/firkin/core/questions by `python -m firkin.exchange.publish`. Every",
        "question has its page in the reckoner, and answers to `./firkin solve` by its name here. Every answer repeats",
        "`ask` and carries `working`: the arithmetic in lines of plain words.",
    ]
    for question in QUESTIONS.values():
        lines += ["", f"## {', '.join(question.asks)}", "", f"{question.title} {question.lead}", ""]
        lines += ["| takes | what |", "|---|---|", *_takes(question.fields, "")]
        lines += ["", "| gives | what |", "|---|---|"]
        lines += [
            f"| `{given.key}` | {given.what}{' (may be absent)' if given.optional else ''} |"
            for given in question.gives
        ]
    return "\n".join([*lines, *tolerance.documentation()]) + "\n"


def _takes(fields: Iterable[Field], path: str) -> list[str]:
    rows = []
    for field in fields:
        if not field.in_ask:
            continue
        name = f"{path}{field.key}{'[]' if field.rows else ''}"
        if field.kind is Kind.GROUP:
            rows += _takes(field.fields, f"{name}.")
            continue
        what = [field.label, field.help]
        if field.kind is Kind.CHOICE:
            what.append(f"One of {', '.join(f'`{key}`' for key, _ in field.choices() if key)}.")
        said = ". ".join(part.rstrip(".") for part in what if part)
        may = " (may be absent)" if field.optional or field.fallback else ""
        rows.append(f"| `{name}` | {said}; {_WORDS[field.kind]}{may} |")
    return rows


_WORDS: dict[Kind, str] = {
    Kind.ACTIVE: "a material with a strength",
    Kind.MATERIAL: "a material",
    Kind.STRENGTH: "a strength",
    Kind.VOLUME: "a volume",
    Kind.SIZE: "a volume or a weight",
    Kind.READING: "% v/v, as a number or a strength",
    Kind.TEMPERATURE: "degrees, as a number in degC or text",
    Kind.NUMBER: "a number",
    Kind.GRAMS: "grams as a number, or weights as text",
    Kind.COUNT: "a whole number",
    Kind.CHOICE: "text",
    Kind.NAME: "text",
}
