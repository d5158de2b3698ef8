"""Rule lines: published and customary limits for a finished product, and verdicts against them."""

import math
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

from firkin.core import datafiles
from firkin.core.errors import CannotRead
from firkin.core.measures import figures
from firkin.core.texts import quoted

#: A limit is shown in so many figures, and a strength beside it too: a verdict never hangs on what is not shown.
_SHOWN_DIGITS = 4


class Verdict(StrEnum):
    """How a strength stands against a rule line, the worst first."""

    SHORT = "short"
    TOO_STRONG = "too-strong"
    ON_THE_LINE = "on-the-line"
    MEETS = "meets"

    @property
    def fails(self) -> bool:
        """True where even the nominal strength is outside the line."""
        return self in (Verdict.SHORT, Verdict.TOO_STRONG)

    @classmethod
    def worst(cls, verdicts: "Iterable[Verdict]") -> "Verdict | None":
        """The worst of several; None of none.

        >>> Verdict.worst([Verdict.MEETS, Verdict.SHORT])
        <Verdict.SHORT: 'short'>
        """
        return min(verdicts, key=list(cls).index, default=None)


@dataclass(frozen=True, slots=True)
class Limit:
    """The window of one active in per cent; None leaves an end open."""

    active: str
    minimum: float | None = None
    maximum: float | None = None


@dataclass(frozen=True, slots=True)
class Besides:
    """What a whole formulation holds beside its active: a material, and its per cent as it is reported."""

    material: str
    pct: float


@dataclass(frozen=True, slots=True)
class RuleLine:
    """A guideline: its limits and where they were published; ``besides`` what a whole formulation holds with them."""

    id: str
    name: str
    short: str
    use: str
    basis: str
    source: str
    limits: tuple[Limit, ...]
    besides: tuple[Besides, ...] = ()

    def limit_for(self, active: str) -> Limit | None:
        """The window for one active, if this rule line speaks of it."""
        return next((limit for limit in self.limits if limit.active == active), None)


@dataclass(frozen=True, slots=True)
class Standing:
    """How one active stands against one rule line; margin in points to the nearest limit.

    ``lacks`` names what keeps a mix of that strength from being the whole formulation the line is for.
    """

    guideline: str
    active: str
    minimum: float | None
    maximum: float | None
    verdict: Verdict
    margin_points: float
    lacks: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        """How far it is from its line: "2.4 points inside", "by 7.5 points"."""
        if self.lacks and not self.verdict.fails:
            short = rule_line(self.guideline).short
            return f"strength of {short}, not {short}: {', '.join(self.lacks)}"
        if self.verdict is Verdict.ON_THE_LINE:
            return "holds on paper, not in the worst case"
        points = f"{figures(abs(self.margin_points), 2)} points"
        return f"{points} inside" if self.verdict is Verdict.MEETS else f"by {points}"


@cache
def rule_lines() -> dict[str, RuleLine]:
    """Every rule line by id.

    >>> rule_lines()["who-ethanol"].limits
    (Limit(active='ethanol', minimum=75.0, maximum=85.0),)
    """
    return {
        key: RuleLine(
            key,
            row["name"],
            row["short"],
            row["for"],
            row["basis"],
            row["source"],
            tuple(Limit(**limit) for limit in row["limits"]),
            tuple(Besides(**one) for one in row.get("besides", ())),
        )
        for key, row in datafiles.toml("catalogue/rule_lines.toml").items()
    }


def rule_line(key: str) -> RuleLine:
    """One rule line.

    Args:
        key: id of a rule line, such as "who-ethanol".

    Raises:
        CannotRead: with the rule lines there are.

    >>> rule_line("cdc-alcohol-60").limits[0].minimum
    60.0
    """
    found = rule_lines().get(key)
    if found is None:
        raise CannotRead(f"{quoted(key)} is not a rule line. Known: {', '.join(rule_lines())}.")
    return found


def judge(guideline: str, limit: Limit, lower: float, higher: float, low: float, high: float) -> Standing:
    """The verdict of an active against a limit, all in per cent.

    ``lower`` and ``higher`` are the nominal strength by whichever of label and true is lower and
    higher; ``low`` and ``high`` the worst cases. A minimum is judged by the lower, a maximum by the
    higher. The nominal decides short and too strong, the worst case decides between meets and on the
    line. What is less than half of the last figure shown of the limit off it is on it.

    Args:
        guideline: id of the rule line, for the standing.
        limit: minimum and maximum of an active, in per cent on its basis.
        lower: nominal strength, the lower of label and true, per cent.
        higher: nominal strength, the higher of the two, per cent.
        low: its worst case downwards, per cent.
        high: its worst case upwards, per cent.

    >>> judge("cdc-alcohol-60", Limit("ethanol", 60.0), 60.3, 60.6, 59.1, 61.9).verdict
    <Verdict.ON_THE_LINE: 'on-the-line'>
    """
    margins = []
    verdict = Verdict.MEETS
    if limit.maximum is not None:
        margins.append(limit.maximum - higher)
        if high > limit.maximum + _unseen(limit.maximum):
            verdict = Verdict.ON_THE_LINE
        if higher > limit.maximum + _unseen(limit.maximum):
            verdict = Verdict.TOO_STRONG
    if limit.minimum is not None:
        margins.append(lower - limit.minimum)
        if low < limit.minimum - _unseen(limit.minimum) and verdict != Verdict.TOO_STRONG:
            verdict = Verdict.ON_THE_LINE
        if lower < limit.minimum - _unseen(limit.minimum):
            verdict = Verdict.SHORT
    return Standing(guideline, limit.active, limit.minimum, limit.maximum, verdict, min(margins))


def _unseen(limit: float) -> float:
    """Half of the last figure shown of a limit, a hair less."""
    if not limit:
        return 1e-9
    return 0.4999 * 10.0 ** (math.floor(math.log10(limit)) - _SHOWN_DIGITS + 1)
