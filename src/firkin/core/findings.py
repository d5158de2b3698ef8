"""Findings: what is wrong with a mix or worth knowing, each with a stable rule id and a fix."""

from dataclasses import dataclass

STOP, WARN, NOTE = "stop", "warn", "note"


@dataclass(frozen=True, slots=True)
class Finding:
    """One finding; ``lines`` are positions in the formula, ``text`` says why, ``fix`` what would do."""

    rule: str
    severity: str
    text: str
    fix: str = ""
    lines: tuple[int, ...] = ()
