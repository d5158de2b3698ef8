"""Packing a batch into bottles, with headspace left in each."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from firkin.core.catalogue import USUAL_HEADSPACE_PCT
from firkin.core.errors import CannotReckon
from firkin.core.measures import Working, WorkLine, figures


@dataclass(frozen=True, slots=True)
class Container:
    """Bottles of one kind on hand: brim volume in mL, and how many."""

    name: str
    volume_mL: float
    count: int


@dataclass(frozen=True, slots=True)
class Fill:
    """How many of one kind to fill, and how far, in mL each."""

    name: str
    count: int
    fill_mL: float


@dataclass(frozen=True, slots=True)
class Packing:
    """The fills, what is left of the batch in mL, whether bottles ran out, and how many of the largest would do."""

    fills: tuple[Fill, ...]
    left_mL: float
    short_of_containers: bool
    working: Working
    missing: Fill | None = None


def pack(batch_mL: float, containers: Sequence[Container], headspace_pct: float = USUAL_HEADSPACE_PCT) -> Packing:
    """Fill the largest bottles first, each to its volume less headspace; the last one part full.

    Raises CannotReckon for a batch or a bottle of nothing, or headspace outside 0 to below 100 %.

    >>> packed = pack(1500.0, [Container("flask", 500.0, 2), Container("pocket", 100.0, 10)], 5.0)
    >>> [(fill.name, fill.count, round(fill.fill_mL)) for fill in packed.fills], packed.left_mL
    ([('flask', 2, 475), ('pocket', 5, 95), ('pocket', 1, 75)], 0.0)
    >>> pack(1500.0, [Container("flask", 500.0, 2)]).missing.count
    2
    """
    if batch_mL <= 0:
        raise CannotReckon("There is nothing to fill.").at("batch")
    if not 0.0 <= headspace_pct < 100.0:
        raise CannotReckon("Headspace is from 0 to below 100 %; 5 % is usual.").at("headspace_pct")
    left = batch_mL
    fills = []
    spare: Container | None = None
    for container in sorted(containers, key=lambda c: -c.volume_mL):
        if container.volume_mL <= 0 or container.count < 0:
            raise CannotReckon(f"{container.name}: a bottle needs a volume, and a count of 0 or more.").at("containers")
        each = container.volume_mL * (1.0 - headspace_pct / 100.0)
        full = min(container.count, int(left / each + 1e-9))
        if full:
            fills.append(Fill(container.name, full, each))
            left -= full * each
        if full < container.count:
            spare = container  # the smallest bottle still empty; each of them holds the rest
    if left <= 1e-9 * batch_mL:
        left = 0.0
    elif spare is not None:
        fills.append(Fill(spare.name, 1, left))
        left = 0.0
    working = [
        WorkLine(
            f"{fill.count} × {fill.name}",
            f"{fill.count} × {figures(fill.fill_mL)} mL",
            fill.count * fill.fill_mL,
            "mL",
        )
        for fill in fills
    ]
    filled = " + ".join(figures(line.result) for line in working) or "0"
    working.append(WorkLine("Left over", f"{figures(batch_mL)} − ({filled})", left, "mL"))
    missing = None
    if left > 0.0 and containers:
        largest = max(containers, key=lambda container: container.volume_mL)
        each = largest.volume_mL * (1.0 - headspace_pct / 100.0)
        missing = Fill(largest.name, math.ceil(left / each - 1e-9), each)
    return Packing(tuple(fills), left, left > 0.0, tuple(working), missing)
