"""Packing a batch into bottles, with headspace left in each."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from firkin.core.catalogue import USUAL_HEADSPACE_PCT
from firkin.core.errors import CannotReckon
from firkin.core.measures import Working, WorkLine, amount_words, figures
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Bottle, Bottles


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

    Args:
        batch_mL: volume to fill, mL.
        containers: kinds of bottles: volume in mL, and how many there are.
        headspace_pct: share of a bottle that is left free, in per cent of its volume.

    Raises:
        CannotReckon: for a batch or a bottle of nothing, or headspace outside 0 to below 100 %.

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


def _answer(asked: Asked) -> Answer:
    containers = [Container(row["name"], row["volume"].mL, row["count"]) for row in asked["containers"]]
    headspace = USUAL_HEADSPACE_PCT if asked["headspace_pct"] is None else asked["headspace_pct"]
    packed = pack(asked["batch"].mL, containers, headspace)
    brim = {container.name: container.volume_mL for container in containers}
    rows = [(f"{fill.count} × {fill.name}", f"{amount_words(fill.fill_mL)} each") for fill in packed.fills]
    warns = []
    if packed.left_mL:
        rows.append(("Left over", amount_words(packed.left_mL)))
        more = f" {packed.missing.count} more {packed.missing.name} would take it." if packed.missing else ""
        warns.append(f"There are too few bottles: {amount_words(packed.left_mL)} are left over.{more}")
    filled = sum(fill.count for fill in packed.fills)
    return Answer(
        {
            "fills": [{"name": fill.name, "count": fill.count, "fill_mL": fill.fill_mL} for fill in packed.fills],
            "left_mL": packed.left_mL,
            "short_of_containers": packed.short_of_containers,
        },
        packed.working,
        str(filled),
        "bottle to fill" if filled == 1 else "bottles to fill",
        tuple(rows),
        (f"{figures(headspace)} % is left free in each; 5 % is usual, 10 % for foaming pumps and ferments.",),
        tuple(warns),
        Bottles(
            tuple(Bottle(fill.name, brim[fill.name], fill.fill_mL, fill.count) for fill in packed.fills),
            packed.left_mL,
        ),
    )


PACK = Question(
    "pack",
    "Bottles",
    "Does it fit into the bottles?",
    "What to fill, how far, and what is left over. The largest first; headspace in each.",
    "Soap and bottles",
    (
        Field("batch", Kind.VOLUME, "The batch is", "1.5 L", hint="1.5 L"),
        Field(
            "containers",
            Kind.GROUP,
            "Bottles",
            rows=(0, 500),
            row_labels=("Bottles", "And", "And", "And"),
            fields=(
                Field("name", Kind.NAME, "Called", ("flask", "pocket bottle"), hint="flask"),
                Field("volume", Kind.VOLUME, "Brim volume", ("500 mL", "100 mL"), hint="500 mL"),
                Field("count", Kind.COUNT, "How many", ("2", "10"), hint="6", least=0.0, most=1e6),
            ),
        ),
        Field(
            "headspace_pct",
            Kind.NUMBER,
            "Left free in each, %",
            "5",
            hint="5",
            optional=True,
            least=0.0,
            below=100.0,
        ),
    ),
    (
        Given(
            "fills",
            "how many of which to fill, and how far",
            "rows",
            fields=(
                Given("name", "the bottle", "text"),
                Given("count", "how many", "integer"),
                Given("fill_mL", "each"),
            ),
        ),
        Given("left_mL", "what is left over"),
        Given("short_of_containers", "whether bottles ran out", "boolean"),
    ),
    _answer,
)
