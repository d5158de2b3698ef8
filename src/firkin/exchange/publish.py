"""Writes what is published from declarations: the schemas, the page of questions, the modules in the architecture."""

import ast
import json
import os
import re
from pathlib import Path

import django

from firkin.core.catalogue import families
from firkin.exchange.questions import answer_schema, documentation, question_schema

SOURCE = Path(__file__).resolve().parents[1]
SCHEMAS = SOURCE / "exchange" / "schemas"
DOCS, REQUIREMENTS = SOURCE.parents[1] / "docs", SOURCE.parents[1] / "requirements"


def published() -> dict[Path, str]:
    """What each published file says."""
    formula, architecture = SCHEMAS / "firkin-formula-1.schema.json", DOCS / "architecture.md"
    from firkin.exchange.upgrades import FORMAT  # these know of the database
    from firkin.exchange.workshop_format import tables_in_words, workshop_schema

    workshop = DOCS / "formats" / "workshop.md"
    return {
        SCHEMAS / "firkin-question-1.schema.json": json.dumps(question_schema(), indent=1) + "\n",
        SCHEMAS / "firkin-answer-1.schema.json": json.dumps(answer_schema(), indent=1) + "\n",
        SCHEMAS / f"{FORMAT.replace('/', '-')}.schema.json": json.dumps(workshop_schema(), indent=1) + "\n",
        workshop: workshop.read_text("utf-8").split("## workshop\n")[0] + tables_in_words(),
        formula: _with_families(formula.read_text("utf-8")),
        DOCS / "formats" / "questions.md": documentation(),
        architecture: _with_modules(architecture.read_text("utf-8")),
        REQUIREMENTS / "tested.txt": _pinned((REQUIREMENTS / "app.txt").read_text("utf-8")),
    }


def _pinned(lock: str) -> str:
    """The locked versions without their hashes, for pip install."""
    pins = re.findall(r"(?m)^([A-Za-z0-9_.-]+==[^ \\\n]+)", lock)
    head = (
        "# What pip install takes: the versions of app.txt without their hashes. firkin.exchange.publish writes it.\n"
    )
    return head + "\n".join(pins) + "\n"


def _with_families(schema: str) -> str:
    """The schema of a formula with the families the catalogue has now; the rest of it is written by hand."""
    listed = ", ".join(json.dumps(key) for key in families())
    return re.sub(r'("family": \{\s*"enum": )\[[^\]]*\]', rf"\1[{listed}]", schema)


def _with_modules(page: str) -> str:
    """The page of the architecture with every module of each room of core, in the words of its own first sentence."""

    def rows(found: re.Match[str]) -> str:
        modules = sorted((SOURCE / found[2]).glob("[!_]*.py"))
        return found[1] + "".join(f"| `{path.stem}` | {_subject(path)} |\n" for path in modules)

    return re.sub(r"(?m)(^### (core/\w+)\n\n\| module .*\n\|.*\n)(?:\|.*\n)*", rows, page)


def _subject(module: Path) -> str:
    said = (ast.get_docstring(ast.parse(module.read_text("utf-8"))) or "").split("\n\n")[0]
    subject = " ".join(said.split()).rstrip(".")
    return subject if subject[:4].isupper() else subject[:1].lower() + subject[1:]


if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "firkin.site.settings")
    django.setup()
    for path, text in published().items():
        path.write_text(text, "utf-8")
