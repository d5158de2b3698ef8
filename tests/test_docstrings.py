"""What core's functions say of themselves: each that another room uses names its arguments, its errors, and shows one use.

Units stand in the name of an argument (``_mL``, ``_g``, ``_pct``, ``celsius``) or in its line of the docstring.
"""

import ast
import re
from collections import defaultdict
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import pytest

SOURCES = Path(__file__).resolve().parents[1] / "src" / "firkin"
CORE = SOURCES / "core"
#: Numbers that have no unit, by the name of the argument.
PLAIN = {
    "value",
    "digits",
    "seed",
    "factor",
    "parts",
    "parts_water",
    "at",
    "to",
    "gone",
    "draws",
    "bottles",
    "wanted",
    "lines",
}
IN_ITS_NAME = re.compile(r"_(g|mL|g_per_L|h|pct|fraction)$|^(celsius|hours|months|ph|mL|g_per_L)$")
IN_ITS_LINE = re.compile(r"\b(g|mL|degC|per cent|fractions?|hours|months|unit|s)\b|%")


def _used_elsewhere() -> dict[str, set[str]]:
    """By room of core, the names that are imported from it by any other room or page."""
    used: dict[str, set[str]] = defaultdict(set)
    for path in SOURCES.rglob("*.py"):
        own = path.relative_to(CORE).parts[0] if CORE in path.parents else ""
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("firkin.core."):
                room = (node.module or "").split(".")[2]
                if room != own:
                    used[room] |= {name.name for name in node.names}
    return used


@cache
def _functions() -> dict[str, ast.FunctionDef]:
    """Each function of core that another room uses, by its file and name."""
    used, found = _used_elsewhere(), {}
    for path in sorted(CORE.rglob("*.py")):
        room = path.relative_to(CORE).parts[0]
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.FunctionDef) and node.name in used[room]:
                found[f"{path.relative_to(CORE)}:{node.name}"] = node
    return found


def _arguments(function: ast.FunctionDef) -> list[ast.arg]:
    of = function.args
    besides = [one for one in (of.vararg, of.kwarg) if one]
    return [*of.posonlyargs, *of.args, *of.kwonlyargs, *besides]


def _own_raises(function: ast.FunctionDef) -> set[str]:
    called = [node.exc for node in ast.walk(function) if isinstance(node, ast.Raise)]
    return {found[0] for one in called if one and (found := re.findall(r"Cannot(?:Read|Reckon)", ast.unparse(one)))}


def _missing(function: ast.FunctionDef) -> Iterator[str]:
    """What the function does not say of itself."""
    doc = ast.get_docstring(function) or ""
    for argument in _arguments(function):
        line = re.search(rf"^    {argument.arg}: (.+(?:\n        .+)*)", doc, re.MULTILINE)
        if not line:
            yield f"nothing is said of {argument.arg}"
            continue
        number = ast.unparse(argument.annotation).split(" |")[0] == "float" if argument.annotation else False
        told = IN_ITS_NAME.search(argument.arg) or IN_ITS_LINE.search(line[1])
        if number and argument.arg not in PLAIN and not told:
            yield f"{argument.arg} in what unit?"
    for error in _own_raises(function):
        if not re.search(rf"^Raises:\n(?:    .*\n)*    {error}: ", doc, re.MULTILINE):
            yield f"raises {error} unsaid"
    if not (">>>" in doc or ("with " in doc and "yield" in ast.unparse(function))):
        yield "no example"


def test_a_function_says_what_it_takes_what_it_refuses_and_how_it_is_used() -> None:
    functions = _functions()
    assert len(functions) > 150
    assert [f"{name}: {what}" for name, function in functions.items() for what in _missing(function)] == []


@pytest.mark.parametrize(
    ("code", "missing"),
    [
        ("def f(amount: float): 'Half.\\n\\nArgs:\\n    amount: how much.\\n\\n>>> f(1)'", ["amount in what unit?"]),
        ("def f(amount_g: float): 'Half.\\n\\nArgs:\\n    amount_g: how much.\\n\\n>>> f(1)'", []),
        ("def f(a): 'Half. >>> f(1)'", ["nothing is said of a"]),
        ("def f(): 'Half.'", ["no example"]),
        ("def f():\n  'Half. >>> f()'\n  raise CannotRead('x')", ["raises CannotRead unsaid"]),
    ],
)
def test_what_is_missing_is_seen(code: str, missing: list[str]) -> None:
    (function,) = ast.parse(code).body
    assert isinstance(function, ast.FunctionDef)
    assert list(_missing(function)) == missing
