"""The house is as docs/architecture.md draws it: rooms, faces, tests beside their modules, one set of families."""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

from firkin.core.catalogue import families
from firkin.core.questions import QUESTIONS
from firkin.exchange.validation import schema
from firkin.formulas.models import Formula
from firkin.ui.fields import FamilyField

ROOT = Path(__file__).resolve().parents[1]
SOURCE = ROOT / "src" / "firkin"
CORE = SOURCE / "core"
ROOMS = sorted(room.name for room in CORE.iterdir() if (room / "__init__.py").exists())
ARCHITECTURE = (ROOT / "docs" / "architecture.md").read_text("utf-8")


def imports() -> Iterator[tuple[Path, str]]:
    """Every import of something in core: the file, and the module it names."""
    for path in SOURCE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("firkin.core"):
                yield path, node.module or ""
            if isinstance(node, ast.Import):
                yield from ((path, alias.name) for alias in node.names if alias.name.startswith("firkin.core"))


def test_a_room_is_entered_by_its_face_alone() -> None:
    deep = [
        f"{path.relative_to(ROOT)}: {module}"
        for path, module in imports()
        if len(parts := module.split(".")) > 3 and path.parent != CORE / parts[2]
    ]
    assert not deep


def test_there_are_sixteen_rooms_and_each_says_what_is_in_it_and_who_may_import_it() -> None:
    assert len(ROOMS) == 16
    for room in ROOMS:
        said = ast.get_docstring(ast.parse((CORE / room / "__init__.py").read_text("utf-8"))) or ""
        assert "mport" in said, room
        assert "\n\n" not in said, f"{room}: one paragraph"


def test_a_data_file_lies_in_the_room_that_reads_it() -> None:
    read = {
        (path.parent.name, place)
        for path in CORE.rglob("*.py")
        for place in re.findall(r'datafiles\.\w+\("([\w./]+)"', path.read_text("utf-8"))
    }
    assert all(place.split("/")[0] == room for room, place in read)
    there = {str(path.relative_to(CORE)) for path in CORE.rglob("*") if path.suffix in (".toml", ".csv", ".txt")}
    assert {place for _, place in read} == there


def test_tests_of_core_stand_under_the_names_of_its_modules() -> None:
    for path in (ROOT / "tests" / "core").rglob("test_*.py"):
        assert (CORE / path.parent.name / f"{path.stem[5:]}.py").exists(), path


@pytest.mark.parametrize(
    ("folder", "kind"),
    [(SOURCE, "rooms of the house"), (CORE, "rooms of core"), *((CORE / room, f"core/{room}") for room in ROOMS)],
)
def test_the_page_of_the_architecture_names_what_is_there(folder: Path, kind: str) -> None:
    """A section per room lists its modules, in a table whose first column is code."""
    section = re.search(
        rf"^#+ {re.escape(kind.capitalize() if ' ' in kind else kind)}\n(.*?)(?=^#|\Z)", ARCHITECTURE, re.M | re.S
    )
    assert section, kind
    named = set(re.findall(r"^\| `([\w]+)`", section[1], re.M))
    if kind.startswith("core/"):
        there = {path.stem for path in folder.glob("*.py")} - {"__init__"}
    else:
        there = {path.name for path in folder.iterdir() if (path / "__init__.py").exists()}
    assert named == there


def test_families_are_one_set_in_schema_catalogue_and_forms() -> None:
    known = list(families())
    assert schema("firkin-formula-1")["properties"]["family"]["enum"] == known
    assert [key for key, _ in FamilyField().choices] == known
    assert [key for key, _ in Formula._meta.get_field("family").flatchoices] == known


def test_no_template_line_is_longer_than_can_be_read() -> None:
    long = [
        f"{path.relative_to(ROOT)}:{number}"
        for path in SOURCE.rglob("*.html")
        for number, line in enumerate(path.read_text("utf-8").splitlines(), start=1)
        if len(line) > 140
    ]
    assert not long


def test_a_file_that_is_named_is_there() -> None:
    """In the docs, on a page, in a docstring: a path that was true before a move sends the next one astray."""
    speaking = [*ROOT.glob("*.md"), *(ROOT / "docs").rglob("*.md")]
    speaking += [path for kind in ("html", "py", "toml") for path in SOURCE.rglob(f"*.{kind}")]
    there = [path.as_posix() for top in ("src", "docs", "tests", "benchmarks") for path in (ROOT / top).rglob("*.*")]
    astray = [
        f"{path.relative_to(ROOT)}: {named}"
        for path in speaking
        for named in re.findall(r"\w[\w-]*/[\w/-]+\.(?:py|toml|html|lark|css|js|md)\b", path.read_text("utf-8"))
        if not any(one.endswith(f"/{named}") for one in there)
    ]
    assert not astray


@pytest.mark.parametrize("ask", QUESTIONS)
def test_every_question_has_tests_under_the_name_of_its_module(ask: str) -> None:
    module = QUESTIONS[ask].answer.__module__.rpartition(".")[2]
    assert (ROOT / "tests" / "core" / "questions" / f"test_{module}.py").exists()


@pytest.mark.parametrize("kind", ["app", "dev"])
def test_every_package_that_is_asked_for_has_its_licence_and_its_reason(kind: str) -> None:
    asked = re.findall(r"(?m)^([A-Za-z][\w-]*)", (ROOT / "requirements" / f"{kind}.in").read_text())
    told = re.findall(r"(?m)^\| ([\w-]+) \| (\S.*?) \| (\S.*?) \|$", (ROOT / "docs" / "licences.md").read_text())
    assert set(asked) <= {name for name, *_ in told}
    both = "\n".join((ROOT / "requirements" / f"{one}.in").read_text() for one in ("app", "dev"))
    assert {name for name, *_ in told} - {"package", "file"} <= set(re.findall(r"(?m)^([A-Za-z][\w-]*)", both))


def test_every_file_of_others_has_its_licence() -> None:
    told = (ROOT / "docs" / "licences.md").read_text()
    theirs = [
        *(ROOT / "src/firkin/site/static/vendor").iterdir(),
        *(ROOT / "src/firkin/site/static/vendor/fonts").iterdir(),
    ]
    theirs += [ROOT / "tests/browser/axe.min.js", ROOT / "src/firkin/drawings/fonts"]
    for one in theirs:
        if one.name not in ("README.md", "fonts") or one.parent.name == "drawings":
            assert str(one.relative_to(ROOT)) in told, one
