"""Writes what is published from declarations: the schemas, and the page that tells of questions."""

import json
import re
from pathlib import Path

from firkin.core.catalogue import families
from firkin.exchange.questions import answer_schema, documentation, question_schema

SCHEMAS = Path(__file__).parent / "schemas"
PAGE = Path(__file__).resolve().parents[3] / "docs" / "formats" / "questions.md"


def published() -> dict[Path, str]:
    """What each published file says."""
    formula = SCHEMAS / "firkin-formula-1.schema.json"
    files = {
        SCHEMAS / "firkin-question-1.schema.json": json.dumps(question_schema(), indent=1) + "\n",
        SCHEMAS / "firkin-answer-1.schema.json": json.dumps(answer_schema(), indent=1) + "\n",
        formula: _with_families(formula.read_text("utf-8")),
        PAGE: documentation(),
    }
    return files


def _with_families(schema: str) -> str:
    """The schema of a formula with the families the catalogue has now; the rest of it is written by hand."""
    listed = ", ".join(json.dumps(key) for key in families())
    return re.sub(r'("family": \{\s*"enum": )\[[^\]]*\]', rf"\1[{listed}]", schema)


if __name__ == "__main__":
    for path, text in published().items():
        path.write_text(text, "utf-8")
