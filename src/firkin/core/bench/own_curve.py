"""The maker's own curve of liquid soap: how thick it was next day against grams of a bar in a litre, from own batches.

What comes of a bar depends on the bar, so nothing here but what was made and looked at, and how few that is is said.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from firkin.core.bench.looks import ASPECTS, series_of
from firkin.core.bench.progress import Progress
from firkin.core.measures import figures, rounded
from firkin.core.questions import SOAP_G_PER_L

THICKNESS = ASPECTS["thickness"][1]
#: What most makers want of it: it pours from a pump and does not run like water.
WANTED = THICKNESS.index("thick")
#: A look so many days after the making tells how thick it came out: the next day (common practice, no source).
_NEXT_DAY = 0.4
#: So much more or less at a time, where nothing on the other side is known yet (common practice, no source).
_STEP = 1.25
#: So few looks are an indication and no more.
FEW = 3


@dataclass(frozen=True, slots=True)
class Made:
    """One batch: which bar, grams of it in a litre, how thick it was next day as a level, and the batch's name."""

    bar: str
    g_per_L: float
    level: int
    batch: str


@dataclass(frozen=True, slots=True)
class OwnCurve:
    """What own batches with one bar say: the batches, the grams a litre to try next, and sentences."""

    bar: str
    made: tuple[Made, ...]
    suggested: float
    says: tuple[str, ...]


def soap_g_per_L(progress: Progress) -> float | None:
    """Grams of bar soap in a litre of a batch as it was made; None where it holds none.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["bar-soap-liquid"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> round(soap_g_per_L(progress))
    75
    """
    grams = sum(progress.masses_g[i] for i in progress.formula.lines_of("bar-soap"))
    return 1000.0 * grams / progress.result.total.volume_mL if grams else None


def next_day_level(progress: Progress, begun: datetime) -> int | None:
    """How thick it was the first time it was looked at after a night; None where it was not.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        begun: when the batch was made, with its time zone.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["bar-soap-liquid"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> from datetime import UTC, datetime
    >>> next_day_level(progress, datetime(2026, 5, 1, tzinfo=UTC)) is None
    True
    """
    thickness = next((one for one in series_of(progress, begun) if one.aspect == "thickness"), None)
    points = thickness.points if thickness else ()
    return next((level for day, level in points if day >= _NEXT_DAY), None)


def own_curve(bar: str, made: Sequence[Made], wanted: int = WANTED) -> OwnCurve:
    """What batches with a bar say of the grams a litre that give a thickness, and which to try next.

    Args:
        bar: name of the bar soap.
        made: batches with it: grams in a litre, and how thick they were.
        wanted: the level of thickness that is aimed at.

    >>> thin, thick = Made("olive", 60.0, 1, "26-001"), Made("olive", 100.0, 4, "26-002")
    >>> curve = own_curve("olive", (thin, thick))
    >>> round(curve.suggested), len(curve.says)
    (87, 2)
    """
    mine = tuple(sorted((one for one in made if one.bar == bar), key=lambda one: one.g_per_L))
    if not mine:
        start = sum(SOAP_G_PER_L) / 2.0
        low, high = (figures(end) for end in SOAP_G_PER_L)
        none = f"No batch with this bar was looked at next day yet: {low} to {high} g a litre is where most start."
        return OwnCurve(bar, (), start, (f"{none} Common practice, no source.",))
    hits = [one.g_per_L for one in mine if one.level == wanted]
    below = max((one for one in mine if one.level < wanted), key=lambda one: one.g_per_L, default=None)
    above = min((one for one in mine if one.level > wanted), key=lambda one: one.g_per_L, default=None)
    word = THICKNESS[wanted]
    if hits:
        suggested, why = sum(hits) / len(hits), f"it came out {word} at {_these(hits)} g a litre."
    elif below is not None and above is not None and below.g_per_L < above.g_per_L:
        share = (wanted - below.level) / (above.level - below.level)
        suggested = below.g_per_L + share * (above.g_per_L - below.g_per_L)
        why = (
            f"between {figures(below.g_per_L)} g a litre, {THICKNESS[below.level]}, and {figures(above.g_per_L)} g, "
            f"{THICKNESS[above.level]}."
        )
    elif below is not None and above is not None:
        suggested = (below.g_per_L + above.g_per_L) / 2.0
        why = "the batches contradict each other: more soap came out thinner. Was it the water, or another bar?"
    elif below is not None:
        suggested, why = (
            below.g_per_L * _STEP,
            f"{figures(below.g_per_L)} g a litre was still {THICKNESS[below.level]}.",
        )
    else:
        assert above is not None
        suggested, why = (
            above.g_per_L / _STEP,
            f"{figures(above.g_per_L)} g a litre was already {THICKNESS[above.level]}.",
        )
    says = [f"Try {figures(rounded(suggested, 2))} g a litre next: {why}"]
    if len(mine) < FEW:
        batches = "one batch" if len(mine) == 1 else f"{len(mine)} batches"
        says.append(f"Based on {batches} with this bar: an indication, no more.")
    return OwnCurve(bar, mine, suggested, tuple(says))


def _these(values: Sequence[float]) -> str:
    low, high = figures(min(values)), figures(max(values))
    return low if low == high else f"{low} to {high}"
