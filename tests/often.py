"""Which cases of a table, and how many examples, guard each commit, and which are run by ./firkin test --all."""

import os
from collections.abc import Iterable
from typing import Any

import pytest
from hypothesis import settings


def often(values: Iterable[Any], *kept: Any) -> list[Any]:
    """The values as parameters: those kept are always run, the others are long."""
    every = list(values)
    assert all(one in every for one in kept), kept
    return [one if one in kept else pytest.param(one, marks=pytest.mark.long) for one in every]


def tries(few: int) -> settings:
    """So many examples of a property that takes long to try; eight times as many with --all."""
    return settings(max_examples=few * (8 if os.environ.get("FIRKIN_EXAMPLES") == "many" else 1))
