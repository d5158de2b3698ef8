"""A batch planned anew after a rescue: what goes in more, at the task at hand, how it is worked in, how it rests."""

from collections.abc import Sequence
from dataclasses import replace

from firkin.core.bench import Progress
from firkin.core.formula import Formula, Line, Step, pour_text, quarantined, reckon, steps_of
from firkin.core.measures import QUARANTINE_H, Quantity, Strength, wait_kind
from firkin.core.mending.help import EVEN, Rescue


def next_step(progress: Progress) -> int:
    """The place of the step at hand; after the last when everything is done."""
    return len(steps_of(progress.formula)) if progress.task is None else max(progress.task.step, 0)


def next_task(progress: Progress) -> int:
    """The place of the first task of the step at hand: where a rescue's tasks go in."""
    if progress.task is None:
        return len(progress.tasks)
    step = next_step(progress)
    return next(i for i, task in enumerate(progress.tasks) if task.step >= step)


def rescued(
    progress: Progress, help_: Rescue, measured: Strength | None = None, left_h: float | None = None
) -> Formula:
    """The formula as measured, with what a rescue adds at the task at hand, its mixing, and the rest it needs.

    A wait that runs, with ``left_h`` hours to go, is begun again after it; a ferment goes on for what is left. A rub
    rests its 72 hours after what went in, once.

    When the batch measured another strength than the record says, its alcohol counts as so much weaker or stronger
    from now on that the batch comes to what was measured: a record is not trusted against a reading.
    """
    there, steps, at = as_read(progress, measured), list(steps_of(progress.formula)), next_step(progress)
    lines = [replace(line, amount=line.amount.times(help_.left)) for line in there.lines]
    worked_in = []
    for addition in help_.additions:
        lines.append(Line(addition.material, addition.amount, addition.strength, note="rescue"))
        text = pour_text(lines[-1])
        step = Step("rescue", text, (len(lines) - 1,), portions=addition.portions, caution=addition.caution)
        worked_in.append(step)
    worked_in.append(Step("mix", help_.mix))
    again = _broken_off_wait(progress, steps[:at], left_h)
    ahead = [step.wait_h for step in (*again, *steps[at:]) if step.wait_h]
    if help_.rest is not None and max(ahead, default=0.0) < (help_.rest.wait_h or 0.0):
        worked_in.append(help_.rest)
    after = [*again, *steps[at:]]
    if quarantined(progress.formula):
        after = _resting_72_hours([*worked_in, *after])[len(worked_in) :]
    return replace(there, lines=tuple(lines), steps=(*steps[:at], *worked_in, *after))


def with_extra(progress: Progress, line: Line, left_h: float | None = None) -> tuple[Formula, dict[str, int]]:
    """The formula with a line that was put in besides, at the task at hand; and where its steps went in.

    What is topped up to a mark still goes to that mark. Once all is done it is mixed in, and rests as after a fix;
    ``left_h`` is what is left of a wait that runs, in hours.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        line: what was put in besides, with its amount.
        left_h: what is left of a wait that runs, in hours; None where none does.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["who-one"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> more, placed = with_extra(progress, Line(find("glycerol"), read_quantity("5 mL")))
    >>> len(more.lines) - len(made.lines)
    1
    """
    waiting = progress.topping is not None and progress.topping in progress.pending and not progress.overfull
    there = progress.as_measured() if waiting else as_read(progress, None)
    steps, at = list(steps_of(progress.formula)), next_step(progress)
    step = Step("added", "Also put in.", (len(there.lines),))
    after = steps[at:] if progress.unfinished else _worked_in(progress, steps, left_h)
    formula = replace(there, lines=(*there.lines, line), steps=(*steps[:at], step, *after))
    added = len(formula.steps) - len(steps)
    return formula, {"step": at, "task": next_task(progress), "added": added}


def put_in_late(progress: Progress, left_h: float | None = None) -> tuple[Formula, dict[str, int]]:
    """The formula of a batch that was made, once something that was left out is in after all; and where steps went in.

    It is mixed in, and rests as after a fix: ``left_h`` is what is left of a wait that runs, in hours.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        left_h: what is left of a wait that runs, in hours; None where none does.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["who-one"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> late, placed = put_in_late(progress)
    >>> len(late.lines) == len(made.lines)
    True
    """
    steps = list(steps_of(progress.formula))
    after = _worked_in(progress, steps, left_h)
    moves = {"step": len(steps), "task": len(progress.tasks), "added": len(after)}
    return replace(as_read(progress, None), steps=(*steps, *after)), moves


def _worked_in(progress: Progress, steps: Sequence[Step], left_h: float | None) -> list[Step]:
    """What follows where something goes into a batch that was made: it is mixed in, and rests again."""
    after = [Step("mix", EVEN), *_broken_off_wait(progress, steps, left_h)]
    return _resting_72_hours(after) if quarantined(progress.formula) else after


def _broken_off_wait(progress: Progress, done: Sequence[Step], left_h: float | None) -> tuple[Step, ...]:
    """The wait that was broken off, as it goes on after something new went in."""
    if left_h is None or not done or done[-1].wait_h is None:
        return ()
    if wait_kind(done[-1].do, done[-1].text) == "ferment":
        return (replace(done[-1], text="Close it again and let it go on.", wait_h=max(1.0, left_h)),)
    return (done[-1],)


def _resting_72_hours(steps: Sequence[Step]) -> list[Step]:
    """The steps with 72 hours of rest once everything is in, the last wait as much longer as is missing."""
    last_in = max((place for place, step in enumerate(steps) if step.lines), default=-1)
    missing = QUARANTINE_H - sum(step.wait_h or 0.0 for step in steps[last_in + 1 :])
    if missing <= 0.0:
        return list(steps)
    text = "Keep it closed for 72 hours again: something new went in."
    last = steps[-1]
    if last.wait_h and wait_kind(last.do, last.text) == "quarantine":
        return [*steps[:-1], replace(last, text=text, wait_h=last.wait_h + missing)]
    return [*steps, Step("quarantine", text, wait_h=missing)]


def as_read(progress: Progress, measured: Strength | None) -> Formula:
    """The formula as measured out, with the strength of the alcohol that makes it read as ``measured``."""
    active = progress.result.main
    off, there = 1.0, _measured_out(progress, 1.0)
    if measured is None or active is None or not active.is_alcohol or not active.true:
        return there
    for _ in range(12):
        read = reckon(there).active(active.active)
        if read is None or abs(read.true - measured.value) < 0.01:
            break
        off *= measured.value / read.true
        there = _measured_out(progress, off)
    return there


def _measured_out(progress: Progress, off: float) -> Formula:
    """The formula as measured out, its alcohols ``off`` times as strong as recorded.

    What is measured by volume stays a volume: weaker alcohol of the same volume weighs more.
    """
    lines = []
    for position, (line, planned) in enumerate(zip(progress.formula.lines, progress.plan, strict=True)):
        strength = planned.strength
        if strength is not None and off != 1.0 and line.material.alcohol is not None:
            strength = Strength.of(min(100.0, round(strength.value * off, 2)), strength.basis)
        lines.append(replace(line, amount=_amount_in(progress, position), strength=strength))
    topped = progress.formula.topped_up is not None and not progress.overfull
    topped = topped and progress.topping not in progress.left_out
    made_up = (progress.formula.made_up and progress.topping not in progress.left_out) or topped
    return replace(progress.formula, lines=tuple(lines), make=None, made_up=made_up)


def _amount_in(progress: Progress, position: int) -> Quantity:
    """How much of a line is in, or is to go in, as it is measured: a volume or a weight; of a top-up its weight."""
    if position in progress.left_out:  # it stands in the formula as it was planned, and is counted in nothing
        return progress.in_the_formula(position)
    grams, planned, entry = progress.masses_g[position], progress.plan[position], progress.measured.get(position)
    if position == progress.topping or not grams or (entry is not None and entry.level):
        return Quantity(grams, "g")
    if entry is None:
        return Quantity(grams, "g") if planned.weighed else Quantity(planned.mL * grams / planned.g, "mL")
    if entry.amount is None or entry.amount.kind != "volume":
        return Quantity(grams, "g")
    return Quantity(entry.amount.mL * grams / progress.grams(position, entry.amount), "mL")
