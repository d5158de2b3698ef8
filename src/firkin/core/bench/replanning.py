"""A batch planned anew after a rescue: what is in it, what goes in more, and the rest it starts again."""

from dataclasses import replace

from firkin.core.bench.method import quarantined, steps_of
from firkin.core.bench.progress import Progress
from firkin.core.bench.rescues import Rescue
from firkin.core.formula import Formula, Line, Step, reckon
from firkin.core.measures import QUARANTINE_H, Quantity, Strength


def rescued(progress: Progress, help_: Rescue, measured: Strength | None = None) -> Formula:
    """The formula as measured, with what a rescue adds, its steps, and the quarantine again where there is one.

    When the batch measured another strength than the record says, its alcohol counts as so much weaker or stronger
    from now on that the batch comes to what was measured: a record is not trusted against a reading.
    """
    lines = _as_read(progress, measured)
    steps = list(steps_of(progress.formula))
    for addition in help_.additions:
        lines.append(Line(addition.material, addition.amount, addition.strength, note="rescue"))
        text = " ".join(help_.advice)
        steps.append(Step("rescue", text, (len(lines) - 1,), portions=addition.portions))
    if quarantined(progress.formula):
        text = "Keep it closed for 72 hours again: something new went in."
        steps.append(Step("quarantine", text, wait_h=QUARANTINE_H))
    return replace(progress.formula, lines=tuple(lines), steps=tuple(steps), make=None)


def _as_read(progress: Progress, measured: Strength | None) -> list[Line]:
    """The lines as measured out, by weight, with the strength of the alcohol that makes them read as ``measured``."""
    worked = progress.result
    active = worked.main
    off, lines = 1.0, _weighed(progress, 1.0)
    if measured is None or active is None or not active.is_alcohol or not active.true:
        return lines
    for _ in range(12):
        read = reckon(replace(progress.formula, lines=tuple(lines), make=None)).active(active.active)
        if read is None or abs(read.true - measured.value) < 0.01:
            break
        off *= measured.value / read.true
        lines = _weighed(progress, off)
    return lines


def _weighed(progress: Progress, off: float) -> list[Line]:
    """The lines as measured out, by weight, their alcohols ``off`` times as strong as recorded."""
    lines = []
    for i, worked in enumerate(progress.result.lines):
        strength = progress.plan[i].strength
        if strength is not None and off != 1.0 and worked.material.alcohol is not None:
            strength = Strength.of(min(100.0, round(strength.value * off, 2)), strength.basis)
        line = progress.formula.lines[i]
        lines.append(replace(line, amount=Quantity(worked.mass_g, "g"), strength=strength))
    return lines
