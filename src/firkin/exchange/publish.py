"""Writes what is published from declarations: the schemas of questions and answers, and the page that tells them."""

import json
from pathlib import Path

from firkin.exchange.questions import answer_schema, documentation, question_schema

SCHEMAS = Path(__file__).parent / "schemas"
PAGE = Path(__file__).resolve().parents[3] / "docs" / "formats" / "questions.md"


def published() -> dict[Path, str]:
    """What each published file says."""
    schemas = {"firkin-question-1": question_schema(), "firkin-answer-1": answer_schema()}
    files = {SCHEMAS / f"{name}.schema.json": json.dumps(schema, indent=1) + "\n" for name, schema in schemas.items()}
    return {**files, PAGE: documentation()}


if __name__ == "__main__":
    for path, text in published().items():
        path.write_text(text, "utf-8")
