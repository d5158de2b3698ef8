"""Findings: what is wrong with a mix or worth knowing, each with a stable rule id and a fix."""

from dataclasses import dataclass, field
from enum import StrEnum

from firkin.core.formula import Formula


class Severity(StrEnum):
    """How much a finding weighs, the heaviest first."""

    STOP = "stop"
    ASK = "ask"
    WARN = "warn"
    NOTE = "note"


@dataclass(frozen=True, slots=True)
class Finding:
    """One finding; ``lines`` are positions in the formula, ``text`` says why, ``fix`` what would do.

    ``fixed`` is the formula with the fix done, where that can be done by itself. ``choices`` are the answers of a
    question (severity ask), which must be given before anything is called clear.
    """

    rule: str
    severity: Severity
    text: str
    fix: str = ""
    lines: tuple[int, ...] = ()
    fixed: Formula | None = field(default=None, repr=False, compare=False)
    choices: tuple[str, ...] = ()
