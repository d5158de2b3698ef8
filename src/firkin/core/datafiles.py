"""Reading core's own data files; each lies in the room that reads it."""

import csv
import tomllib
from functools import cache
from importlib import resources
from typing import Any


@cache
def toml(place: str) -> dict[str, Any]:
    """The contents of a TOML file by its place in core, such as "measures/units.toml"."""
    return tomllib.loads(text(place))


def rows(place: str) -> list[dict[str, str]]:
    """The rows of a CSV file by its place in core; lines that start with # are comments."""
    lines = [line for line in text(place).splitlines() if not line.startswith("#")]
    return list(csv.DictReader(lines))


def text(place: str) -> str:
    """The text of a data file by its place in core."""
    return resources.files("firkin.core").joinpath(*place.split("/")).read_text("utf-8")
