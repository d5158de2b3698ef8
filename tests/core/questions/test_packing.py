"""Packing bottles: nothing lost, nothing overfilled."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.questions.packing import Container, pack
from mixes import sizes


@given(sizes, st.lists(st.tuples(st.floats(min_value=20, max_value=2000), st.integers(0, 12)), max_size=5))
def test_packing_loses_nothing_and_overfills_nothing(batch: float, kinds) -> None:
    containers = [Container(str(i), volume, count) for i, (volume, count) in enumerate(kinds)]
    packed = pack(batch, containers, 5.0)
    filled = sum(fill.count * fill.fill_mL for fill in packed.fills)
    assert filled + packed.left_mL == pytest.approx(batch)
    for container in containers:
        fills = [fill for fill in packed.fills if fill.name == container.name]
        assert sum(fill.count for fill in fills) <= container.count
        assert all(fill.fill_mL <= container.volume_mL * 0.95 + 1e-6 for fill in fills)
    used = sum(fill.count for fill in packed.fills)
    assert packed.short_of_containers is (packed.left_mL > 0)
    assert not packed.left_mL or used == sum(container.count for container in containers)
