"""The audit of a reckoned formula: small rules, each giving findings; stops first, and every fix tried out.

Rule ids are stable and listed in docs/formats/findings.md.
"""

from collections import Counter
from collections.abc import Callable, Iterable, Iterator
from dataclasses import replace

from firkin.core.audit.caustic import CAUSTIC_RULES
from firkin.core.audit.claims import CLAIM_RULES
from firkin.core.audit.findings import Finding, Severity
from firkin.core.audit.handling import HANDLING_RULES
from firkin.core.audit.mixing import MIXING_RULES
from firkin.core.audit.oils import OIL_RULES
from firkin.core.audit.quality import QUALITY_RULES
from firkin.core.audit.shares import SAYS_MORE, SHARE_RULES, unusual
from firkin.core.audit.strength import STRENGTH_RULES
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Reckoning, reckon
from firkin.core.texts import uncapped

Rule = Callable[[Reckoning], Iterator[Finding]]
RULES: tuple[Rule, ...] = (
    *MIXING_RULES,
    *OIL_RULES,
    *HANDLING_RULES,
    *STRENGTH_RULES,
    *QUALITY_RULES,
    *SHARE_RULES,
    *CAUSTIC_RULES,
    *CLAIM_RULES,
)

#: Rules that say in words what a verdict says by its shape.
VERDICT_RULES = frozenset({"line-active-missing", "line-short", "line-uncertain", "line-too-strong", "surface-weak"})
#: How many further changes may follow from one fix before it is given up.
_FOLLOWING = 4
_ORDER = list(Severity)


def audit(result: Reckoning) -> tuple[Finding, ...]:
    """Every finding of every rule, stops first.

    Each ``fixed`` formula has been reckoned and audited: it cures its finding and brings none of equal or higher
    severity. What follows from a fix, such as a share that moved out of its window, is put right with it; where that
    cannot be, no formula is offered.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula import Formula, Line
    >>> from firkin.core.measures import read_quantity
    >>> from firkin.core.formula import reckon
    >>> mix = Formula("Pond", (Line(find("pond water"), read_quantity("1 L")),))
    >>> [finding.rule for finding in audit(reckon(mix))]
    ['unknown-material']
    """
    found = _found(result)
    proven = (
        finding if finding.fixed is None else _proven(_within_reason(finding, result), found) for finding in found
    )
    return tuple(sorted(proven, key=lambda finding: _ORDER.index(finding.severity)))


def _within_reason(finding: Finding, result: Reckoning) -> Finding:
    """The finding without its formula where that adds more than the batch, or a share no kitchen uses."""
    if finding.fixed is None:
        return finding
    before = {line.material.id: worked.mass_g for line, worked in zip(result.formula.lines, result.lines, strict=True)}
    try:
        fixed = reckon(finding.fixed)
    except CannotReckon:
        return finding
    for line, worked in zip(fixed.formula.lines, fixed.lines, strict=True):
        grown = worked.mass_g - before.get(line.material.id, 0.0)
        resized = finding.fixed.make != result.formula.make
        if "water" not in line.material.roles and grown > result.total.mass_g and not resized:
            return replace(finding, fix=_LOOKS_WRONG.format(name=uncapped(line.material.name)), fixed=None)
    now = {line.material.id: worked.mass_g for line, worked in zip(fixed.formula.lines, fixed.lines, strict=True)}
    added = {key for key, mass_g in now.items() if mass_g > before.get(key, 0.0) and key != "water"}
    if not added:
        return finding
    much = [key for key, off in unusual(fixed) if off > 0 and key in added]
    if much and much[0] not in dict(unusual(result)):
        name = uncapped(find(much[0]).name)
        return replace(finding, fix=f"{finding.fix} {_MUCH_OF_IT.format(name=name)}", fixed=None)
    return finding


_MUCH_OF_IT = "That is far more {name} than usual: the recipe itself looks wrong. Check its amounts first."
_LOOKS_WRONG = "That would take more {name} than the whole batch: the amounts look wrong. Check them first."


def _found(result: Reckoning) -> list[Finding]:
    found = [finding for rule in RULES for finding in rule(result)]
    told = {line for finding in found if finding.rule in SAYS_MORE for line in finding.lines}
    return [finding for finding in found if finding.rule != "share-unusual" or not told & set(finding.lines)]


def _proven(finding: Finding, before: list[Finding]) -> Finding:
    """The finding with a formula that does cure it, what follows put right; without one where none does."""
    if finding.fixed is None:
        return finding
    counts = Counter(one.rule for one in before)
    formula: Formula | None = finding.fixed
    for follows in range(_FOLLOWING + 1):
        after = _audited(formula)
        if after is None:
            break
        wrong = _worse(finding, counts, after)
        if wrong is None:
            more = " The rest is adjusted to match." if follows else ""
            return replace(finding, fixed=formula, fix=finding.fix + more)
        formula = wrong.fixed
    return replace(finding, fixed=None)


def _audited(formula: Formula | None) -> list[Finding] | None:
    try:
        return None if formula is None else _found(reckon(formula))
    except CannotReckon:
        return None


def _worse(finding: Finding, before: Counter[str], after: Iterable[Finding]) -> Finding | None:
    """What a fix left undone or brought: its own finding still, or one of equal or higher severity."""
    now = Counter(one.rule for one in after)
    for one in after:
        stays = one.rule == finding.rule and now[one.rule] >= before[one.rule]
        heavier = _ORDER.index(one.severity) <= _ORDER.index(finding.severity)
        if stays or (heavier and now[one.rule] > before[one.rule]):
            return one
    return None
