"""The audit of a reckoned formula: small rules, each giving findings; stops first.

Rule ids are stable and listed in docs/formats/findings.md.
"""

from collections.abc import Callable, Iterator

from firkin.core.audit.claims import CLAIM_RULES
from firkin.core.audit.findings import Finding, Severity
from firkin.core.audit.handling import HANDLING_RULES
from firkin.core.audit.mixing import MIXING_RULES
from firkin.core.audit.oils import OIL_RULES
from firkin.core.audit.quality import QUALITY_RULES
from firkin.core.audit.strength import STRENGTH_RULES
from firkin.core.formula import Reckoning

Rule = Callable[[Reckoning], Iterator[Finding]]
RULES: tuple[Rule, ...] = (
    *MIXING_RULES,
    *OIL_RULES,
    *HANDLING_RULES,
    *STRENGTH_RULES,
    *QUALITY_RULES,
    *CLAIM_RULES,
)

#: Rules that say in words what a verdict says by its shape.
VERDICT_RULES = frozenset({"line-active-missing", "line-short", "line-uncertain", "line-too-strong", "surface-weak"})


def audit(result: Reckoning) -> tuple[Finding, ...]:
    """Every finding of every rule, stops first.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula import Formula, Line
    >>> from firkin.core.measures import read_quantity
    >>> from firkin.core.formula import reckon
    >>> mix = Formula("Pond", (Line(find("pond water"), read_quantity("1 L")),))
    >>> [finding.rule for finding in audit(reckon(mix))]
    ['unknown-material']
    """
    found = [finding for rule in RULES for finding in rule(result)]
    order = list(Severity)
    return tuple(sorted(found, key=lambda finding: order.index(finding.severity)))
