"""What differs between two versions of a formula: what each comes to, the lines by material, steps, and the rest."""

from firkin.core.catalogue import rule_lines
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, dose_words, reckon
from firkin.core.measures import error_words, figures, hours_words
from firkin.core.texts import uncapped


def differences(one: Formula, other: Formula) -> list[tuple[str, str, str]]:
    """What differs between two versions: the place, what it was, what it is; first what each comes to.

    Lines are matched by their material, wherever they stand. Nothing when the two say the same.
    """
    rows: list[tuple[str, str, str]] = []
    there = [_by_material(formula) for formula in (one, other)]
    for key in dict.fromkeys([*there[0], *there[1]]):
        was, now = (lines.get(key, "—") for lines in there)
        if was != now:
            rows.append((f"{key[0]}{f', {key[1] + 1}' if key[1] else ''}", was, now))
    orders = [", ".join(line.material.name for line in formula.lines) for formula in (one, other)]
    if orders[0] != orders[1] and not rows:
        rows.append(("Order of the lines", orders[0], orders[1]))
    for i in range(max(len(one.steps), len(other.steps))):
        was, now = (_step_words(formula, i) for formula in (one, other))
        if was != now:
            rows.append((f"Step {i + 1}", was, now))
    for what, was, now in (
        ("Make", str(one.make or "as it stands"), str(other.make or "as it stands")),
        ("Parts and %", one.basis, other.basis),
        ("Temperature", f"{one.temperature:g} °C", f"{other.temperature:g} °C"),
        ("Keeps", _days(one), _days(other)),
        ("Cut with water", f"{one.cut:g} parts", f"{other.cut:g} parts"),
        ("One dose", dose_words(one) or "as usual", dose_words(other) or "as usual"),
        ("Rule lines", _lines(one), _lines(other)),
    ):
        if was != now:
            rows.append((what, was, now))
    return [*_came_to(one, other), *rows] if rows else []


def _came_to(one: Formula, other: Formula) -> list[tuple[str, str, str]]:
    """The strength and the verdict of both, always said: they are what a change is made for."""
    said = []
    for formula in (one, other):
        try:
            result = reckon(formula)
        except CannotReckon as error:
            said.append(str(error))
            continue
        active = result.main
        strength = f"{figures(active.lower)} {active.basis} {uncapped(active.name)}" if active else "no active counted"
        verdicts = [f"{one.verdict.replace('-', ' ')} ({rule_lines()[one.guideline].name})" for one in result.verdicts]
        said.append(", ".join([strength, *verdicts]))
    return [("Strength", said[0], said[1])]


def _by_material(formula: Formula) -> dict[tuple[str, int], str]:
    """Each line in words, by its material and how often that was met before."""
    found: dict[tuple[str, int], str] = {}
    for line in formula.lines:
        name = line.material.name
        parts = (str(line.strength or ""), str(line.amount), line.phase, line.note, error_words(line.error))
        found[name, sum(known == name for known, _ in found)] = ", ".join(part for part in parts if part)
    return found


def _step_words(formula: Formula, at: int) -> str:
    if at >= len(formula.steps):
        return "—"
    step = formula.steps[at]
    names = [uncapped(formula.lines[line].material.name) for line in step.lines if line < len(formula.lines)]
    lines = f" ({', '.join(names)})" if names else ""
    wait = f", {hours_words(step.wait_h)}" if step.wait_h is not None else ""
    portions = f", in {step.portions} additions" if step.portions > 1 else ""
    timer = f", timer {hours_words(step.timer_h)}" if step.timer_h is not None else ""
    heat = f", at {step.temperature:g} °C" if step.temperature is not None else ""
    caution = f" Caution: {step.caution}" if step.caution else ""
    cups = f", in a {step.vessel}" if step.vessel else f", out of the {step.source}" if step.source else ""
    return f"{step.do}: {step.text}{lines}{wait}{portions}{timer}{heat}{cups}{caution}"


def _lines(formula: Formula) -> str:
    return ", ".join(rule_lines()[key].name for key in formula.guidelines) or "those of its family"


def _days(formula: Formula) -> str:
    return "as the family does" if formula.keep_days is None else f"{formula.keep_days:g} days"
