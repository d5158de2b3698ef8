"""Every sentence Firkin says on a page, in a finding or to a text command, gathered from the sources.

Templates give their text with "…" where a value stands, Python its strings that read as sentences, tables their texts.
"""

import ast
import html
import re
import tomllib
from collections.abc import Iterator
from functools import cache
from pathlib import Path

SOURCES = Path(__file__).resolve().parents[1] / "src" / "firkin"
#: Tables whose texts are shown, and which of their keys hold words for people.
SHOWN = {
    "text",
    "short",
    "fix",
    "more",
    "note",
    "harm",
    "name",
    "use",
    "prepare",
    "recheck",
    "ph_low",
    "ph_high",
    "gear",
    "gear_dry",
    "told_apart",
    "flag",
    "instead",
    "headroom_why",
    "label_words",
    "preserves_not_with",
    "vessel_not",
    "title",
    "lead",
    "question",
}
#: Files of words that are read and not said.
_READ = {"words.toml", "hazards.toml", "units.toml", "alcohol_names.toml", "procedure.toml"}
_HOLE = "…"


@cache
def sentences() -> dict[str, list[str]]:
    """Every sentence by the file it is said in."""
    found: dict[str, list[str]] = {}
    for path in sorted(SOURCES.rglob("*")):
        place = str(path.relative_to(SOURCES))
        if "migrations" in place or "__pycache__" in place or "vendor" in place:
            continue
        said = list(_of(path))
        if said:
            found[place] = list(dict.fromkeys(said))
    return found


def _of(path: Path) -> Iterator[str]:
    if path.suffix == ".html":
        yield from _template(path.read_text("utf-8"))
    elif path.suffix == ".py":
        yield from _python(path.read_text("utf-8"))
    elif path.suffix == ".toml" and (path.name not in _READ or path.parent.name == "guide"):
        yield from _table(tomllib.loads(path.read_text("utf-8")))


def _template(text: str) -> Iterator[str]:
    text = re.sub(
        r"{% comment %}.*?{% endcomment %}|{#.*?#}|<script.*?</script>|<style.*?</style>", " ", text, flags=re.S
    )
    for said in re.findall(r'(?:title|placeholder|aria-label|hx-confirm|data-\w+-says)="([^"]{3,})"', text):
        yield from _parted(re.sub(r"{{.*?}}|{%.*?%}", _HOLE, said))
    text = re.sub(
        r"{{.*?}}|{% (?:url|icon|drawing|verdict|static|csrf_token|press_key|show)\b.*?%}", _HOLE, text, flags=re.S
    )
    text = re.sub(r"{%.*?%}", "\x00", text, flags=re.S)
    text = re.sub(
        r"</?(?:b|i|em|strong|small|code|kbd)\b[^>]*>|</?a\b(?![^>]*class=)[^>]*>|</a>|</?span\b(?![^>]*class=)[^>]*>|</span>",
        "",
        text,
    )
    for piece in re.split(r"<[^>]*>|\x00", text):
        yield from _parted(html.unescape(piece))


def _parted(text: str) -> Iterator[str]:
    text = " ".join(text.split()).strip(" ·|,:;")
    for sentence in re.split(r"(?<=[.?!])\s+(?=[A-Z“])", text):
        if len(re.findall(r"[A-Za-z]{2,}", sentence)) >= 2 and '="' not in sentence:
            yield sentence


def _python(text: str) -> Iterator[str]:
    for said in _strings(ast.parse(text)):
        if _reads_as_a_sentence(said):
            yield from _parted(said)


def _strings(node: ast.AST) -> Iterator[str]:
    """Every string in some code, in its order, but docstrings; one with holes in it as a whole, and those in its holes."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        yield node.value
    elif isinstance(node, ast.JoinedStr):
        yield "".join(str(part.value) if isinstance(part, ast.Constant) else _HOLE for part in node.values)
        for part in ast.walk(node):
            if part is not node and isinstance(part, ast.JoinedStr):
                yield from _strings(part)
    elif not (isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)):
        for part in ast.iter_child_nodes(node):
            yield from _strings(part)


def _reads_as_a_sentence(said: str) -> bool:
    words = said.split()
    return (
        len(words) >= 3 and re.match(r"[A-Z“…]", said) is not None and said.rstrip()[-1] in ".?”:" and "\\" not in said
    )


def _table(table: object, key: str = "") -> Iterator[str]:
    if isinstance(table, dict):
        for name, value in table.items():
            yield from _table(value, name if isinstance(value, str) else name if name in SHOWN else key)
    elif isinstance(table, list):
        for value in table:
            yield from _table(value, key)
    elif isinstance(table, str) and (key in SHOWN or (table[:1].isupper() and table.endswith("."))):
        yield from _parted(table)
