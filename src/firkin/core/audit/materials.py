"""What can be said of a mix by its materials alone, before anything is known of their amounts.

Safety does not wait for an amount: bleach with vinegar is a stop in any measure.
"""

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace

from firkin.core.audit.findings import Finding, Severity
from firkin.core.audit.handling import HANDLING_RULES
from firkin.core.audit.mixing import ANY_AMOUNT_RULES
from firkin.core.audit.oils import ANY_AMOUNT_OIL_RULES
from firkin.core.audit.quality import ANY_AMOUNT_QUALITY_RULES
from firkin.core.catalogue import Material, find, kinds_of, names_of_materials
from firkin.core.errors import CannotReckon
from firkin.core.formula import UNCLAIMED_LINE, Claims, Formula, Line, Step, reckon
from firkin.core.measures import Quantity, Strength

_RULES = (*ANY_AMOUNT_RULES, *ANY_AMOUNT_OIL_RULES, *HANDLING_RULES, *ANY_AMOUNT_QUALITY_RULES)
#: A name shorter than this is a word of the language as often as a material.
_SHORTEST = 4


def audit_materials(
    there: Sequence[tuple[Material, Strength | None]],
    family: str,
    claims: Claims,
    words: Iterable[str] = (),
    steps: tuple[Step, ...] = (),
    talked: Sequence[bool] = (),
) -> tuple[Finding, ...]:
    """The findings that need no amount, stops first, of materials and of what unread words name besides.

    ``lines`` of a finding are positions in ``there``; what only the words name has none. ``talked`` says of each
    whether it may only be talked about. No finding carries a formula.

    Args:
        there: each material with its strength, None where none is known.
        family: id of a family, such as "liquid-rub"; one that is not known counts as "other".
        claims: what is said of the product, such as free of something.
        words: names of what was not read as a line.
        steps: what is done, in order.
        talked: by position in ``there``: True where it may only be talked about.

    >>> there = [(find("bleach"), None), (find("vinegar"), None)]
    >>> [one.rule for one in audit_materials(there, "other", Claims())]
    ['bleach-mixed']
    """
    doubts = (*talked, *(False for _ in there[len(talked) :]))
    lines = [
        Line(material, Quantity(1.0, "part"), strength, claims=replace(UNCLAIMED_LINE, talked=doubt))
        for (material, strength), doubt in zip(there, doubts, strict=True)
    ]
    known = {line.material.id for line in lines}
    lines += [Line(one, Quantity(1.0, "part")) for one in named_in(words) if one.id not in known]
    if not lines:
        return ()
    try:
        result = reckon(Formula("By its materials", tuple(lines), family, claims=claims, steps=steps))
    except CannotReckon:
        return ()
    found = [_as_named(finding, len(there)) for rule in _RULES for finding in rule(result)]
    return tuple(sorted(found, key=lambda finding: list(Severity).index(finding.severity)))


def _as_named(finding: Finding, there: int) -> Finding:
    """The finding without a formula, and without the lines that only unread words make; it says where those stand."""
    text = finding.text
    if any(at >= there for at in finding.lines):
        text += " One of them stands in what was not understood."
    return replace(finding, text=text, fixed=None, lines=tuple(at for at in finding.lines if at < there))


def named_in(words: Iterable[str]) -> Iterator[Material]:
    """Every harmless material that words name, each once; what is dangerous is heard in the whole text instead.

    >>> [one.id for one in named_in(["a splash of olive oil", "some bleach"])]
    ['vegetable-oil']
    """
    seen: set[str] = set()
    for text in words:
        plain = f" {' '.join(re.findall(r'[a-z0-9,-]+', text.lower()))} "
        for material in (find(name) for name in _names() if f" {name} " in plain):
            if material.id not in seen and not kinds_of(material):
                seen.add(material.id)
                yield material


def _names() -> Iterator[str]:
    """Names a text may hold, the longest first, so that "tea tree oil" is met before "tea tree"."""
    yield from sorted((name for name in names_of_materials() if len(name) >= _SHORTEST), key=len, reverse=True)
