"""Reading core's own data files."""

import csv
import tomllib
from functools import cache
from importlib import resources
from typing import Any


@cache
def toml(name: str) -> dict[str, Any]:
    """The contents of a TOML file in core/data."""
    return tomllib.loads(_text(name))


def rows(name: str) -> list[dict[str, str]]:
    """The rows of a CSV file in core/data; lines that start with # are comments."""
    lines = [line for line in _text(name).splitlines() if not line.startswith("#")]
    return list(csv.DictReader(lines))


def _text(name: str) -> str:
    return resources.files("firkin.core").joinpath("data", name).read_text("utf-8")
