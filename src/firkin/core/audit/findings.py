"""Findings: what is wrong with a mix or worth knowing, each with a stable rule id and a fix."""

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from firkin.core.formula import Formula

STOP, WARN, NOTE = "stop", "warn", "note"


@dataclass(frozen=True, slots=True)
class Finding:
    """One finding; ``lines`` are positions in the formula, ``text`` says why, ``fix`` what would do.

    ``fixed`` is the formula with the fix done, where that can be done by itself.
    """

    rule: str
    severity: str
    text: str
    fix: str = ""
    lines: tuple[int, ...] = ()
    fixed: "Formula | None" = field(default=None, repr=False, compare=False)
