"""Audit rules about strength: rule lines, claims, labels, sums."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace

from firkin.core.audit.findings import Finding, Severity
from firkin.core.audit.fixes import Fix, fixes
from firkin.core.catalogue import Material, Standing, Verdict, families, find, judge, materials, rule_line
from firkin.core.errors import CannotReckon
from firkin.core.formula import (
    PERCENT_SLACK,
    Active,
    Claim,
    Formula,
    Line,
    Reckoning,
    percent_total,
    with_line,
    work_out,
)
from firkin.core.measures import QS, Quantity, Strength, figures
from firkin.core.texts import uncapped

_CLAIM_SLACK = 0.5  # points: finer than any kitchen measure
_CLAIM_SLACK_OF_IT = 0.1  # and no more than a tenth of what is claimed
_BASIS_SLACK = 1.0  # points: how near a claim must be on the other basis to have been meant on it
#: Chlorine is a target, and not a floor: 20 mL of 5 % "in a litre" is meant (WHO, May 2020, gives whole parts).
_AIMED = 0.95


def _off_the_line(result: Reckoning) -> Iterator[Finding]:
    for verdict in result.verdicts:
        if verdict.verdict == Verdict.MEETS:
            continue
        rule = rule_line(verdict.guideline)
        active = result.active(verdict.active)
        if active is None:
            name = materials()[verdict.active].name
            yield Finding(
                "line-active-missing",
                Severity.STOP,
                f"No {uncapped(name)} in this mix, and its rule asks for it: {rule.name} ({rule.source}).",
                "Choose the rule for what is in the bottle, or another stock.",
            )
        elif verdict.verdict == Verdict.SHORT:
            family_line = not result.formula.guidelines and result.formula.family == "surface"
            aimed = "chlorine" in materials()[verdict.active].roles and active.lower >= _AIMED * (
                verdict.minimum or 0.0
            )
            yield Finding(
                "surface-weak" if family_line else "line-short",
                Severity.WARN if aimed else Severity.STOP,
                f"{active.name} comes to {figures(active.lower)} {active.basis}. It should be "
                f"{figures(verdict.minimum or 0)} %: {rule.name} ({rule.source}).",
                *_first_fix(result, verdict, "Use a stronger stock, or less of everything else."),
            )
        elif verdict.verdict == Verdict.ON_THE_LINE:
            yield Finding(
                "line-uncertain",
                Severity.WARN,
                f"{active.name} holds {rule.name} on paper, but between {figures(active.low)} and "
                f"{figures(active.high)} {active.basis} the worst case does not.",
                *_first_fix(result, verdict, "Aim a little higher, or measure more exactly."),
            )
        elif verdict.verdict == Verdict.TOO_STRONG:
            yield _too_strong(result, active, verdict)


def _claim_differs(result: Reckoning) -> Iterator[Finding]:
    claim = result.formula.claim
    if claim is None:
        return
    active = result.active(claim.active)
    name, lines = uncapped(find(claim.active).name), result.formula.lines_of(claim.active)
    if active is None and not lines:
        yield Finding(
            "claim-differs",
            Severity.STOP,
            f"No {name} in this mix, though it claims {claim.strength}.",
            "Check what is in the bottle.",
            (),
            replace(result.formula, claim=None),
        )
        return
    if active is None:
        if claim.strength.basis != "w/w":
            return  # what is no active is counted by weight alone
        lower = higher = _share_by_weight(result, lines)
    else:
        bases = {"w/w": (active.pct_ww,) * 2, "w/v": (active.pct_wv,) * 2}
        lower, higher = bases.get(claim.strength.basis, (active.lower, active.higher))
        if active.basis == f"% {claim.strength.basis}":
            lower, higher = active.lower, active.higher
    below, above = claim.strength.low - higher, lower - claim.strength.high
    slack = min(_CLAIM_SLACK, _CLAIM_SLACK_OF_IT * claim.strength.value)
    if below > slack or above > slack:
        yield Finding(
            "claim-differs",
            Severity.WARN if above > slack else Severity.STOP,
            f"It comes to {figures(lower)} % {claim.strength.basis}, not to the {claim.strength} {name} it claims.",
            "Correct the claim.",
            lines,
            replace(result.formula, claim=_true_claim(claim, lower)),
        )


def _share_by_weight(result: Reckoning, lines: Sequence[int]) -> float:
    """Per cent by weight of what some lines bring, pure: of lye its caustic soda."""
    pure = sum(result.lines[at].pure_g for at in lines)
    return 100.0 * pure / result.total.mass_g


def _unknown_material(result: Reckoning) -> Iterator[Finding]:
    for i, line in enumerate(result.formula.lines):
        if not line.material.known:
            yield Finding(
                "unknown-material",
                Severity.WARN,
                f"Firkin does not know “{line.material.name}”. It is counted as an inert "
                f"{line.material.kind} of density 1.",
                "Check the name, or choose a material that is known.",
                (i,),
            )


def _strength_assumed(result: Reckoning) -> Iterator[Finding]:
    for i, line in enumerate(result.formula.lines):
        if line.claims.assumed or (line.strength is None and _varies(line.material)):
            yield Finding(
                "strength-assumed",
                Severity.WARN,
                f"No strength given for {_called(line)}. {line.counted_strength} is counted.",
                "Read the label and enter what it says.",
                (i,),
            )


def _called(line: Line) -> str:
    """What a line was called, where its strength depends on that."""
    return line.claims.words if line.claims.assumed else uncapped(line.material.name)


def _varies(material: Material) -> bool:
    """True for what is sold in several strengths, so that the usual one may be wrong by half."""
    return material.reports == "active" or ("surfactant" in material.roles and material.strength != 100.0)


def _who_incomplete(result: Reckoning) -> Iterator[Finding]:
    """WHO, Guide to Local Production: a formulation is all of its parts."""
    for verdict in result.verdicts:
        if verdict.lacks and not verdict.verdict.fails:
            rule = rule_line(verdict.guideline)
            yield Finding(
                "who-incomplete",
                Severity.WARN,
                f"As strong as {rule.short}, but not {rule.short}: {', '.join(verdict.lacks)}. The whole formulation "
                f"is {rule.use} ({rule.source}).",
                "Make it as it is written, or don't call it that.",
                result.formula.lines_of(verdict.active),
            )


def _above_the_range(result: Reckoning) -> Iterator[Finding]:
    """MMWR 51(RR-16), 2002: above 95 % alcohol works less well, whichever line was chosen."""
    rule = rule_line("hicpac-60-95")
    if not families()[result.formula.family].rub:
        return
    judged = {one.active for one in result.verdicts if one.maximum is not None}
    for active in result.actives:
        limit = rule.limit_for(active.active)
        if limit is None or active.active in judged:
            continue
        standing = judge(rule.id, limit, active.lower, active.higher, active.low, active.high)
        if standing.verdict is Verdict.TOO_STRONG:
            yield _too_strong(result, active, standing, " Without enough water, alcohol works less well.")


def _too_strong(result: Reckoning, active: Active, standing: Standing, why: str = "") -> Finding:
    """Above the maximum of a rule line, whether it was chosen or holds for every rub."""
    rule = rule_line(standing.guideline)
    return Finding(
        "line-too-strong",
        Severity.WARN,
        f"{active.name} comes to {figures(active.higher)} {active.basis}. The most is "
        f"{figures(standing.maximum or 0)} %: {rule.name} ({rule.source}).{why}",
        *_first_fix(result, standing, "Thin it with water."),
    )


def _basis_mistaken(result: Reckoning) -> Iterator[Finding]:
    """A claim that is true by weight and said by volume, or the other way round."""
    claim = result.formula.claim
    active = None if claim is None else result.active(claim.active)
    if claim is None or active is None or not active.is_alcohol or claim.strength.basis == "w/v":
        return
    by_volume = claim.strength.basis == "v/v"
    said, other = claim.strength.value, active.pct_ww if by_volume else active.true
    meant = active.true if by_volume else active.pct_ww
    if abs(said - other) <= _BASIS_SLACK < abs(said - meant) - _CLAIM_SLACK:
        words = ("by weight", "by volume") if by_volume else ("by volume", "by weight")
        yield Finding(
            "basis-mistaken",
            Severity.WARN,
            f"{figures(said)} % is right {words[0]} and is said {words[1]}: {words[1]} it is {figures(meant)} %. That "
            "is where the difference comes from; rules are by volume.",
            f"Say which: {figures(active.pct_ww)} % w/w, {figures(active.true)} % v/v.",
            result.formula.lines_of(claim.active),
            replace(result.formula, claim=Claim(claim.active, Strength.of(said, "w/w" if by_volume else "v/v"))),
        )


def _percent_sum(result: Reckoning) -> Iterator[Finding]:
    formula = result.formula
    if {line.amount.kind for line in formula.lines} != {"percent"}:
        return
    total = percent_total(formula)
    if abs(total - 100.0) > PERCENT_SLACK:
        gap = 100.0 - total
        fix = f"{figures(gap)} % is missing: often the water." if gap > 0 else f"Take out {figures(-gap)} %."
        fixed = _to_hundred(formula, gap)
        yield Finding(
            "percent-sum", Severity.WARN, f"The percentages add up to {figures(total)}, not 100.", fix, (), fixed
        )


def _misses_make(result: Reckoning) -> Iterator[Finding]:
    make = result.formula.make
    if make is None or {line.amount.kind for line in result.formula.lines} == {"percent"}:
        return
    got = result.total.volume_mL if make.kind == "volume" else result.total.mass_g
    asked = make.mL if make.kind == "volume" else make.g
    if abs(got - asked) > 0.005 * asked:
        unit = "mL" if make.kind == "volume" else "g"
        yield Finding(
            "amounts-miss-make",
            Severity.WARN,
            f"These amounts come to {figures(got)} {unit}, not the {figures(asked)} {unit} to make.",
            "Let one liquid top the batch up (q.s.).",
            (),
            topped_with_water(result, make),
        )


def _two_alcohols(result: Reckoning) -> Iterator[Finding]:
    alcohols = [active for active in result.actives if active.is_alcohol]
    if len(alcohols) > 1:
        together = sum(active.lower for active in alcohols)
        yield Finding(
            "two-alcohols",
            Severity.NOTE,
            f"Two alcohols, {figures(together)} % v/v together. Rules are made for one alcohol, so each is checked by "
            "itself. No published table covers the two mixed: the volume is an estimate.",
        )


def _table_uncertain(result: Reckoning) -> Iterator[Finding]:
    active = result.active("isopropanol")
    if active is not None and (active.low < active.lower or active.high > active.higher):
        yield Finding(
            "table-uncertain",
            Severity.NOTE,
            "Isopropanol figures are good to 0.3 points. The range shown allows for that.",
        )


def _no_rule_line(result: Reckoning) -> Iterator[Finding]:
    line = families()[result.formula.family].line
    if not result.formula.guidelines and line:
        yield Finding(
            "no-rule-line",
            Severity.NOTE,
            f"No rule is chosen. Checked against the usual one of its family: {rule_line(line).name}.",
            "Choose one yourself if you work to another.",
        )


def _first_fix(result: Reckoning, verdict: Standing, otherwise: str) -> tuple[str, tuple[int, ...], Formula | None]:
    """The fix of a finding about a verdict: its sentence, the lines it is about, the formula with it done."""
    first = next(fixes(result, verdict), Fix(otherwise))
    return first.text, result.formula.lines_of(verdict.active), first.formula


def _true_claim(claim: Claim, lower: float) -> Claim:
    """The claim brought down, or up, to what is computed, to a tenth of a point below it."""
    return Claim(claim.active, Strength.of(math.floor(lower * 10.0 + 1e-9) / 10.0, claim.strength.basis))


def _to_hundred(formula: Formula, gap: float) -> Formula | None:
    """Per cents brought to 100 by the water's share; a line of water more where there is none and some is missing."""
    water = formula.water
    if water is not None:
        share = formula.lines[water].amount.value + gap
        return with_line(formula, water, amount=Quantity(round(share, 6), "%")) if share > 0 else None
    if gap <= 0:
        return None
    line = Line(materials()["water"], Quantity(round(gap, 6), "%"))
    return replace(formula, lines=(*formula.lines, line))


def topped_with_water(result: Reckoning, size: Quantity) -> Formula | None:
    """The formula with its water topping it up to a size; None where there is none, or no room for any."""
    formula = result.formula
    water = formula.water
    if water is None or formula.topped_up is not None or size.kind != "volume":
        return None
    topped = replace(with_line(formula, water, amount=Quantity(0.0, QS)), make=size)
    try:
        work_out(topped)
    except CannotReckon:
        return None
    return topped


#: So little of a batch depends little on how big a part is, % by weight (common practice, no source).
_PINCH_PCT = 2.0


def _parts_beside_amounts(result: Reckoning) -> Iterator[Finding]:
    """Parts beside mL or g, and no size: how much a part is, nobody said. A pinch of something is no matter."""
    formula = result.formula
    parts = tuple(i for i, line in enumerate(formula.lines) if line.amount.kind == "part")
    measured = [
        line
        for line, worked in zip(formula.lines, result.lines, strict=True)
        if line.amount.kind in ("volume", "mass") and worked.share_w_pct > _PINCH_PCT
    ]
    if parts and measured and formula.make is None:
        size = "100 g" if formula.basis == "weight" else "100 mL"
        yield Finding(
            "part-unsaid",
            Severity.ASK,
            f"How much is one part? Here it counts as {size}, beside {measured[0].amount.words} of "
            f"{uncapped(measured[0].material.name)}.",
            "Give the size of the batch, or write every amount in parts.",
            parts,
            choices=("Give the size", "Write it in parts"),
        )


STRENGTH_RULES = (
    _parts_beside_amounts,
    _off_the_line,
    _who_incomplete,
    _above_the_range,
    _claim_differs,
    _basis_mistaken,
    _unknown_material,
    _strength_assumed,
    _percent_sum,
    _misses_make,
    _two_alcohols,
    _table_uncertain,
    _no_rule_line,
)
