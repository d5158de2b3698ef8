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
    parted = [one if isinstance(one, tuple) else (one,) for one in every]
    return [
        one if one in kept else pytest.param(*parts, marks=pytest.mark.long)
        for one, parts in zip(every, parted, strict=True)
    ]


def some(values: Iterable[Any], few: int) -> list[Any]:
    """So many of the values, the first, the last and others between; all of them with --all."""
    every = list(values)
    if os.environ.get("FIRKIN_EXAMPLES") == "many" or len(every) <= few:
        return every
    return [every[round(place * (len(every) - 1) / max(1, few - 1))] for place in range(few)]


def tries(few: int) -> settings:
    """So many examples of a property that takes long to try; eight times as many with --all."""
    return settings(max_examples=few * (8 if os.environ.get("FIRKIN_EXAMPLES") == "many" else 1))
