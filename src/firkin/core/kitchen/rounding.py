"""A formula in kitchen measures: every line rounded, what it must not be off by guarded, its strength said anew."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from firkin.core.audit import audit
from firkin.core.catalogue import Verdict
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, Reckoning, reckon
from firkin.core.kitchen.kitchen import ANY, Combination, Kitchen, Measure, exactly, measure_out
from firkin.core.measures import Quantity, figures, rounded_up, weight_words

#: More fillings than this are miscounted: a shorter combination that is within the tolerance too is better (common
#: practice, no source).
_COUNTED = 8
#: How far a measured amount may be off before the maker is asked what to do, as a share of it (common practice, no
#: source).
TOLERANCE = 0.02
_PASSES = (1.0 - TOLERANCE, 1.0 + TOLERANCE)
#: Above this share off, a measure is hopeless and weighing is suggested.
HOPELESS = 0.10
#: How much of the measures' own error is used where rounding to it would leave no room.
_CLOSER = 0.25
#: How far rounding may move each of an acid and its base, a polymer and its neutraliser: together under 5 %.
PAIR_SLACK = 0.024
#: How far it may move a thickener or a preservative (common practice, no source).
FINE_SLACK = 0.05
_WATER_SOLUBLE = ("caustic-soda", "citric-acid", "sodium-benzoate", "potassium-sorbate", "urea")

Band = tuple[float, float]
Sides = Callable[[Line], str]


@dataclass(frozen=True, slots=True)
class RoundedLine:
    """One line as the kitchen measures it; None where only weighing, or nothing, would do.

    ``off`` is the share by which it differs from the exact amount; ``finer`` what to do where these measures are too
    coarse for what this line may be off.
    """

    combination: Combination | None
    off: float
    weigh: bool
    rinse: bool
    finer: str = ""


@dataclass(frozen=True, slots=True)
class Rounded:
    """A formula in kitchen measures: its lines, its own reckoning, and the line that hurts most."""

    kitchen: Kitchen
    lines: tuple[RoundedLine, ...]
    result: Reckoning
    worst: int | None
    guarded: bool


def placed(amount: float, wanted_g: float, kitchen: Kitchen) -> str:
    """An amount in a kitchen's measures, in words; empty where they cannot place it well enough.

    ``amount`` is in mL as a cup measures it, or in g for a kitchen that weighs; ``wanted_g`` the same in g, for a scale
    beside the cups. Poured as told, it is off by no more than TOLERANCE.

    Args:
        amount: mL as a cup measures it, or g for a kitchen that weighs.
        wanted_g: the same in g.
        kitchen: the measures at hand.

    >>> from firkin.core.kitchen.kitchen import kitchens
    >>> placed(850.0, 700.0, kitchens()["metric"])
    '850 mL in the litre jug'
    """
    tries = [(amount, kitchen.measures, "g" if kitchen.weighs else "mL")]
    tries += [(wanted_g, (kitchen.scale,), "g")] if kitchen.scale else []
    asked = exactly(amount, wanted_g, kitchen) if amount > 0 else None
    if asked is not None:
        return asked.words
    for wanted, measures, unit in tries:
        close, short = (_try(wanted, measures, "near", unit, slack, _PASSES) for slack in (_CLOSER, 1.0))
        if close is not None and short is not None:
            return (close if close.fillings <= _COUNTED else short).words
    return ""


def in_kitchen(exact: Reckoning, kitchen: Kitchen) -> Rounded:
    """Round every line of a reckoned formula to a kitchen's measures, what matters guarded.

    When rounding to the nearest would bring an active off a line it holds exactly, or leave no room to top up, the
    lines of that active are rounded up (or down, from a maximum) and all others the other way. Acid and base, polymer
    and neutraliser, thickeners, preservatives and limited oils are not moved by more than they bear: where these
    measures cannot do that, the line keeps its exact amount and says what would. A q.s. line still tops up to its
    mark. The verdict counts how well these measures measure.

    Args:
        exact: the formula as it was reckoned, unrounded.
        kitchen: the measures at hand.

    Raises:
        CannotReckon: when the measures are too coarse for this size.

    >>> from firkin.core.kitchen.kitchen import kitchens
    >>> from firkin.core.formula import house_formulas
    >>> rub = in_kitchen(reckon(house_formulas()["who-one"].formula), kitchens()["metric"])
    >>> rub.lines[0].combination.words, rub.result.verdicts[0].verdict.value
    ('850 mL in the litre jug', 'meets')
    """
    bands = _bands(exact, kitchen)
    held = [one for one in exact.verdicts if not one.verdict.fails]
    low = {one.active for one in held if one.minimum is not None}
    high = {one.active for one in held if one.maximum is not None}
    tries: list[tuple[Sides, float]] = [(lambda line: "near", 1.0)]
    tries += [(_apart(low, "up", "down"), slack) for slack in (1.0, _CLOSER)]
    tries += [(_apart(high, "down", "up"), slack) for slack in (1.0, _CLOSER)]
    tries += [(lambda line: "near", _CLOSER)]
    for number, (sides, slack) in enumerate(tries):
        try:
            rounded = _round(exact, kitchen, bands, sides, slack)
        except CannotReckon:
            continue
        if not _brings(exact, rounded.result):
            return replace(rounded, guarded=number > 0)
    raise CannotReckon(
        "These measures are too coarse for this size: rounded, it would fall off a line or past a limit that it holds. "
        "Make more, or weigh."
    ).at("make")


def _apart(actives: set[str], own: str, others: str) -> Sides:
    return lambda line: own if line.material.id in actives else others


def _brings(exact: Reckoning, rounded: Reckoning) -> bool:
    """True when rounding brought a verdict that fails, or a finding that stops or warns about a limit."""
    before = {(one.guideline, one.active): one.verdict for one in exact.verdicts}
    for one in rounded.verdicts:
        was = before.get((one.guideline, one.active), Verdict.MEETS)
        if one.verdict.fails and not was.fails:
            return True
    return bool(_limits_past(rounded) - _limits_past(exact))


#: Findings that say a limit is past, or that one thing does not fit another.
_LIMITS = frozenset(
    {"acid-left", "caustic-left", "neutraliser-off", "preservative-window", "phototoxic-over", "thickener-limit",
     "thickener-much", "essential-oil-much", "chlorine-much", "chlorine-strong", "line-too-strong"}
)  # fmt: skip


def _limits_past(result: Reckoning) -> set[str]:
    return {finding.rule for finding in audit(result) if finding.rule in _LIMITS}


def _bands(exact: Reckoning, kitchen: Kitchen) -> list[Band]:
    """What rounding may make of each line's amount, as factors of it, from and to.

    What is hopeless in cups is weighed; what is hopeless on the scale there is asks for a finer one.
    """
    formula = exact.formula
    usual = (1.0 - HOPELESS, 1.0 + HOPELESS) if kitchen.weighs else ANY
    bands = [usual] * len(formula.lines)

    def guard(places: Sequence[int], low: float, high: float) -> None:
        for i in places:
            bands[i] = (max(bands[i][0], low), min(bands[i][1], high))

    guard(formula.lines_with("thickener", "preservative"), 1.0 - FINE_SLACK, 1.0 + FINE_SLACK)
    for one, other in ((("acid",), ("base",)), (("needs-neutraliser",), ("neutraliser",))):
        places = formula.lines_with(*one), formula.lines_with(*other)
        if all(places):
            guard([*places[0], *places[1]], 1.0 - PAIR_SLACK, 1.0 + PAIR_SLACK)
    guard(formula.lines_of("caustic-soda"), 1.0 - FINE_SLACK, 1.0 + FINE_SLACK)
    for i in formula.lines_with("preservative"):
        share, window = exact.lines[i].pure_share_w_pct, formula.lines[i].material.preserves_pct
        if window and share and window[0] <= share <= window[1]:
            guard([i], window[0] / share, window[1] / share)
    oils = formula.lines_with("phototoxic")
    together = sum(
        exact.lines[i].pure_share_w_pct / (formula.lines[i].material.phototoxic_pct or 1.0) for i in oils
    )  # fmt: skip
    if 0.0 < together <= 1.0:
        guard(oils, 0.0, 1.0 / together)
    return bands


def _round(exact: Reckoning, kitchen: Kitchen, bands: Sequence[Band], sides: Sides, slack: float) -> Rounded:
    """Round every line on its side, within its band."""
    formula = exact.formula
    lines: list[RoundedLine] = []
    amounts: list[Quantity] = []
    for position, band in enumerate(bands):
        line, amount = _round_line(exact, position, kitchen, band, sides(formula.lines[position]), slack)
        lines.append(line)
        amounts.append(amount)
    make = formula.make if formula.topped_up is not None else None
    measured = _with(formula, amounts, make)
    result = reckon(replace(measured, lines=tuple(map(_as_good_as, measured.lines, lines))))
    return Rounded(kitchen, tuple(lines), result, _worst(exact, lines, amounts), guarded=False)


def _round_line(
    exact: Reckoning, position: int, kitchen: Kitchen, band: Band, side: str, slack: float
) -> tuple[RoundedLine, Quantity]:
    """One line in the kitchen's measures, or weighed where they miss it by too much, and the amount it then is."""
    line, worked = exact.formula.lines[position], exact.lines[position]
    unit = "g" if kitchen.weighs else "mL"
    rinse = "viscous" in line.material.roles
    amount = worked.mass_g if kitchen.weighs else worked.loose_mL
    if line.amount.kind == "qs" or not amount:
        return RoundedLine(None, 0.0, weigh=False, rinse=rinse and bool(amount)), line.amount
    found = _try(amount, kitchen.measures, side, unit, slack, band)
    off = 1.0 if found is None else abs(found.total / amount - 1.0)
    taken, taken_unit = (amount, unit) if found is None else (found.total, unit)
    hopeless = off > HOPELESS and not kitchen.weighs
    if (hopeless or found is None) and kitchen.scale is not None:
        weighed = _try(worked.mass_g, (kitchen.scale,), side, "g", slack, band)
        if weighed is not None and abs(weighed.total / worked.mass_g - 1.0) < off:
            found, taken, taken_unit, hopeless = weighed, weighed.total, "g", True
            off = abs(weighed.total / worked.mass_g - 1.0)
    weigh = hopeless or (found is None and not kitchen.weighs)
    if weigh and taken_unit != "g":
        taken = amount
    finer = _finer(exact, line, worked.mass_g, kitchen, band) if found is None and band != ANY else ""
    return RoundedLine(found, off, weigh, rinse, finer), Quantity(taken, taken_unit)


def _try(
    amount: float, measures: Sequence[Measure], side: str, unit: str, slack: float, band: Band
) -> Combination | None:
    limits = (band[0] * amount, band[1] * amount)
    try:
        return measure_out(amount, measures, side, unit, slack, limits)
    except CannotReckon:
        pass
    if band == ANY:
        return None
    try:  # within its band either side will do
        return measure_out(amount, measures, "near", unit, slack, limits)
    except CannotReckon:
        return None


def _finer(exact: Reckoning, line: Line, mass_g: float, kitchen: Kitchen, band: Band) -> str:
    """What to do about a line that these measures cannot place well enough."""
    slack = min(1.0 - band[0] if band[0] > 0.0 else 1.0, band[1] - 1.0 if band[1] < 2.0 else 1.0)
    finest = mass_g * 2.0 * max(slack, 0.005)
    scale = next((step for step in (1.0, 0.1, 0.01, 0.001) if step <= finest), 0.001)
    said = [f"a scale that shows {figures(scale)} g"]
    dissolved = 10.0
    if line.material.id in _WATER_SOLUBLE and mass_g < dissolved:
        taken = mass_g * 10.0
        said.append(
            f"a solution: dissolve {figures(dissolved)} g in water to {figures(10 * dissolved)} mL, and take "
            f"{figures(taken, 3)} mL of it"
        )
    coarse = kitchen.measures[0].step or 1.0 if kitchen.weighs else 1.0
    times = coarse / finest
    if times > 1.0:
        said.append(f"a batch of {weight_words(rounded_up(exact.total.mass_g * times, 2))} or more")
    return f"{figures(mass_g, 3)} g is too little for these measures to place. It takes {', or '.join(said)}."


def _as_good_as(line: Line, rounded: RoundedLine) -> Line:
    """The line with the error of measuring it so: it widens the range, and the verdict with it."""
    found = rounded.combination
    return line if found is None else replace(line, error=min(0.49, max(line.error, found.error / found.total)))


def _with(formula: Formula, amounts: Sequence[Quantity], make: Quantity | None) -> Formula:
    lines = tuple(replace(line, amount=amount) for line, amount in zip(formula.lines, amounts, strict=True))
    return replace(formula, lines=lines, make=make)


def _worst(exact: Reckoning, lines: Sequence[RoundedLine], amounts: Sequence[Quantity]) -> int | None:
    """The line whose rounding alone moves an active most; None when none moves it by 0.05 points."""
    formula, worst, most = exact.formula, None, 0.05
    plain = [
        line.amount if line.amount.kind == "qs" else Quantity(worked.mass_g, "g")
        for line, worked in zip(formula.lines, exact.lines, strict=True)
    ]
    make = formula.make if formula.topped_up is not None else None
    for i, line in enumerate(lines):
        if line.combination is None or not line.off:
            continue
        alone = reckon(_with(formula, [amounts[i] if j == i else amount for j, amount in enumerate(plain)], make))
        moved = max((abs(a.lower - b.lower) for a, b in zip(alone.actives, exact.actives, strict=True)), default=0.0)
        if moved > most:
            worst, most = i, moved
    return worst
