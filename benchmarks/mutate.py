"""`./firkin mutate ROOM ...`: how many small faults the tests of a room catch. Writes the table of docs/testing.md.

A copy of the sources is made, mutmut changes one thing in it at a time (a number, a sign, a comparison, an argument, a
branch), and runs the tests that stand beside the room and reach that place. Words of sentences are left alone.
"""

import json
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
TOLD = ROOT / "docs" / "testing.md"
COPIED = ("src", "tests", "docs", "benchmarks", "requirements", "firkin", "pyproject.toml", "README.md", "CHANGELOG.md")
TABLE_STARTS, TABLE_ENDS = "<!-- measured: starts -->\n", "<!-- measured: ends -->\n"

#: Modules of the site that reckon or tell, and neither keep nor answer.
PURE = {
    "batches": (
        "bottles",
        "calendar",
        "choosing",
        "comparison",
        "costs",
        "labels",
        "ledger",
        "making",
        "record",
        "soap_curve",
    ),
    "formulas": ("differences", "editor", "recipe_check", "recipe_chips", "recipe_text", "substitution"),
}
#: The rooms of core.
CORE = (
    *("measures", "densities", "catalogue", "formula", "questions", "audit", "plan", "recipe", "kitchen"),
    *("bench", "mending", "use", "season", "tolerance", "rehearsal", "practice"),
)
#: What a room is, the sources changed in it, and the tests that are asked.
ROOMS = {
    **{
        f"core/{room}": ([f"src/firkin/core/{room}/*"], [f"src/firkin/core/{room}", f"tests/core/{room}"])
        for room in CORE
    },
    "drawings": (["src/firkin/drawings/*"], ["src/firkin/drawings", "tests/drawings"]),
    "instruments": (["src/firkin/instruments/*"], ["src/firkin/instruments", "tests/instruments"]),
    **{
        app: ([f"src/firkin/{app}/{module}.py" for module in modules], [f"src/firkin/{app}", f"tests/{app}"])
        for app, modules in PURE.items()
    },
}
SETTINGS = """[mutmut]
source_paths = src
only_mutate =
    {changed}
also_copy =
    docs
    firkin
    benchmarks
    requirements
    README.md
    CHANGELOG.md
    fresh_tables.py
pytest_add_cli_args =
    -p
    no:cacheprovider
    {fresh}
pytest_add_cli_args_test_selection =
    {tests}
"""
#: mutmut, but for its changes to strings: they are sentences here, and what they must say is asked of their figures.
MUTMUT = """
import sys
import mutmut.mutation.file_mutation as files
from mutmut.mutation.mutators import operator_string
files.mutation_operators[:] = [pair for pair in files.mutation_operators if pair[1] is not operator_string]
import mutmut.__main__
sys.argv[0] = "mutmut"
mutmut.__main__.cli()
"""
#: A table that was read before a change is in force hides the change: each test reads all of them anew.
FRESH_TABLES = """
import functools
import sys
import pytest

@pytest.fixture(autouse=True)
def _fresh_tables():
    for name, module in list(sys.modules.items()):
        if name.startswith("firkin."):
            for one in list(vars(module).values()):
                if type(one) is functools._lru_cache_wrapper:
                    one.cache_clear()
"""
KILLED = {1, 3, 24, -24, 36, 152, 255}


def main(arguments: list[str]) -> int:
    """Change each room that is named, or all; ``--sample N`` tries N changes of a room, drawn at random."""
    sample = None
    if "--sample" in arguments:
        place = arguments.index("--sample")
        sample = int(arguments[place + 1])
        arguments = arguments[:place] + arguments[place + 2 :]
    unknown = [room for room in arguments if room not in ROOMS]
    if unknown:
        print(f"{unknown[0]}: no such room. There are: {', '.join(ROOMS)}.", file=sys.stderr)
        return 2
    for room in arguments or ROOMS:
        caught, tried, made, survivors = changed(room, sample)
        print(f"\n== {room}: {caught} of {tried} caught, {100 * caught / tried:.1f} %\n\n" + "\n\n".join(survivors))
        tell(room, caught, tried, made)
    return 0


def changed(room: str, sample: int | None) -> tuple[int, int, int, list[str]]:
    """Try the changes of a room: how many were caught, tried and there are, and those that were not, as differences."""
    sources, tests = ROOMS[room]
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder)
        for name in COPIED:
            source = ROOT / name
            (shutil.copytree if source.is_dir() else shutil.copy2)(source, copy / name)
        anew = "-p\n    fresh_tables" if room.startswith("core/") else ""  # elsewhere materials are told by identity
        told = {"changed": "\n    ".join(sources), "tests": "\n    ".join(tests), "fresh": anew}
        (copy / "setup.cfg").write_text(SETTINGS.format(**told))
        (copy / "fresh_tables.py").write_text(FRESH_TABLES)
        names: list[str] = []
        if sample is not None:
            mutmut(copy, "run", "no.such.change")
            all_of_it = sorted(outcomes(copy))
            names = random.Random(room).sample(all_of_it, min(sample, len(all_of_it)))
        mutmut(copy, "run", *names)
        found = outcomes(copy)
        tried = {name: code for name, code in found.items() if code is not None}
        alive = [name for name, code in tried.items() if code not in KILLED]
        return len(tried) - len(alive), len(tried), len(found), [difference(copy, name) for name in alive]


def mutmut(folder: Path, *arguments: str) -> str:
    """One command of mutmut in the copy; what it prints."""
    said = subprocess.run(
        [sys.executable, "-c", MUTMUT, *arguments],
        cwd=folder,
        env={**os.environ, "PYTHONPATH": "src"},
        capture_output=True,
        text=True,
        check=False,
    )
    if "no.such.change" not in arguments and said.returncode:
        sys.exit(said.stdout[-3000:] + said.stderr[-3000:])
    return said.stdout


def outcomes(folder: Path) -> dict[str, int | None]:
    """Each change by its name, with how the tests ended on it, or None when it was not tried."""
    found: dict[str, int | None] = {}
    for told in (folder / "mutants").rglob("*.py.meta"):
        found |= json.loads(told.read_text())["exit_code_by_key"]
    return found


def difference(folder: Path, name: str) -> str:
    """A change as its lines before and after."""
    lines = mutmut(folder, "show", name).splitlines()
    return "\n".join([name, *(line for line in lines if re.match(r"[-+](?![-+])", line))])


def tell(room: str, caught: int, tried: int, made: int) -> None:
    """Put a room's figures into the table of docs/testing.md, in place of its former ones."""
    before, rest = TOLD.read_text().split(TABLE_STARTS)
    table, after = rest.split(TABLE_ENDS)
    head, rule, *rows = table.splitlines()
    kept = {row.split("|")[1].strip(): row for row in rows}
    kept[room] = f"| {room} | {made:,} | {tried:,} | {caught:,} | {100 * caught / tried:.1f} % |"
    table = "\n".join([head, rule, *(kept[name] for name in ROOMS if name in kept)])
    TOLD.write_text(f"{before}{TABLE_STARTS}{table}\n{TABLE_ENDS}{after}")


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
