"""Which cases of a table guard each commit, and which are run by ./firkin test --all."""

from collections.abc import Iterable
from typing import Any

import pytest


def often(values: Iterable[Any], *kept: Any) -> list[Any]:
    """The values as parameters: those kept are always run, the others are long."""
    every = list(values)
    assert all(one in every for one in kept), kept
    return [one if one in kept else pytest.param(one, marks=pytest.mark.long) for one in every]
