"""The open format firkin-formula/1: one reader and one writer of a formula as plain data.

The shape (keys and types) is checked before by the published JSON Schema; here the words are read.
"""

import re
from collections.abc import Iterable
from typing import Any

from firkin.core.catalogue import Material, families, find, rule_line
from firkin.core.errors import CannotReckon
from firkin.core.formula.formula import SEVERAL, Claim, Formula, Line, Step
from firkin.core.formula.parts import by_parts
from firkin.core.measures import (
    Quantity,
    error_words,
    hours_words,
    read_error,
    read_heat,
    read_hours,
    read_quantity,
    read_temperature,
    read_volume_or_mass,
)

FORMULA_FORMAT = "firkin-formula/1"
#: With a dose or loads, which a program of 1 does not know.
FORMULA_FORMAT_NOW = "firkin-formula/1.1"


class _At:
    """Puts a path before the errors raised inside its block."""

    def __init__(self, *path: str | int) -> None:
        self.path = path

    def __enter__(self) -> None:
        return None

    def __exit__(self, kind: object, error: BaseException | None, trace: object) -> None:
        if isinstance(error, CannotReckon):
            error.at(*self.path)


def formula_from_dict(data: dict[str, Any], own: Iterable[Material] = ()) -> Formula:
    """Read a formula; ``own`` are materials of the workshop beside the catalogue.

    Args:
        data: a document firkin-formula/1.
        own: materials of the workshop; they are looked at before the catalogue's.

    Raises:
        CannotReckon: whose ``path`` names the place.

    >>> formula = formula_from_dict({"format": FORMULA_FORMAT, "name": "Straight", "lines": [
    ...     {"material": "rubbing alcohol", "strength": "70 %", "amount": "2¼ cups"}]})
    >>> formula.lines[0].material.id, str(formula.lines[0].strength)
    ('isopropanol', '70 % v/v')
    """
    own = tuple(own)
    family = data.get("family", "other")
    lines = tuple(_line(i, row, own) for i, row in enumerate(data["lines"]))
    with _At("make"):
        make = read_volume_or_mass(data["make"]) if "make" in data else None
    with _At("temperature"):
        temperature = read_temperature(data["temperature"]) if "temperature" in data else 20.0
    guidelines = data.get("guideline", [])
    guidelines = tuple([guidelines] if isinstance(guidelines, str) else guidelines)
    with _At("guideline"):
        for key in guidelines:
            rule_line(key)
    with _At("keep"):
        keep = read_hours(data["keep"]) / 24.0 if "keep" in data else None
    claim = None
    if "claim" in data:
        with _At("claim", "active"):
            active = find(data["claim"]["active"], own)
        with _At("claim", "strength"):
            claim = Claim(active.id, active.read_strength(data["claim"]["strength"]))
    dose, dose_of = None, ""
    if "dose" in data:
        with _At("dose"):
            dose, dose_of = read_dose(data["dose"])
    steps = data.get("steps", [])
    formula = Formula(
        name=data["name"],
        lines=lines,
        family=family,
        basis=data.get("basis") or families()[family].basis,
        make=make,
        temperature=temperature,
        guidelines=guidelines,
        claim=claim,
        steps=tuple(_step(i, row, len(lines)) for i, row in enumerate(steps)),
        keep_days=keep,
        cut=float(data.get("cut_parts_water", 0.0)),
        made_up=bool(data.get("made_up", False)),
        dose=dose,
        dose_of=dose_of,
        loads=float(data["loads"]) if "loads" in data else None,
    )
    return by_parts(formula, list(map(shares_of, steps))) if any("share" in row for row in steps) else formula


_DOSE_OF = re.compile(r"^(?P<amount>.*?)\s+(?:per|an?|each)\s+(?P<of>[a-z][a-z ]{1,18}[a-z])$", re.IGNORECASE)


def read_dose(text: str) -> tuple[Quantity, str]:
    """What one load takes, with its word where one is said: "108 mL", "20 mL per wash", "2 tbsp a load".

    Args:
        text: what somebody wrote.

    Raises:
        CannotRead: for what is no amount.

    >>> read_dose("20 mL per wash")
    (Quantity(value=20.0, unit='mL'), 'wash')
    """
    found = _DOSE_OF.match(text.strip())
    amount, of = (found["amount"], found["of"].lower()) if found else (text, "")
    return read_volume_or_mass(amount), of


def dose_words(formula: Formula) -> str:
    """A formula's dose so that read_dose reads the same back; empty where it says none.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula.formula import Formula
    >>> dose_words(Formula("Wash", (), dose=Quantity(20.0, "mL"), dose_of="wash"))
    '20 mL per wash'
    """
    if formula.dose is None:
        return ""
    return f"{formula.dose} per {formula.dose_of}" if formula.dose_of else str(formula.dose)


def _line(index: int, row: dict[str, Any], own: tuple[Material, ...]) -> Line:
    with _At("lines", index, "material"):
        material = find(row["material"], own)
    with _At("lines", index, "strength"):
        strength = material.read_strength(row["strength"]) if "strength" in row else None
    with _At("lines", index, "amount"):
        amount = read_quantity(row["amount"])
    with _At("lines", index, "good_to"):
        error = read_error(row.get("good_to", ""))
    return Line(material, amount, strength, row.get("phase", ""), row.get("note", ""), error)


def _step(index: int, row: dict[str, Any], lines: int) -> Step:
    for position, line in enumerate(row.get("lines", [])):
        if line >= lines:
            raise CannotReckon(f"There is no line {line}; lines are counted from 0 to {lines - 1}.").at(
                "steps", index, "lines", position
            )
    with _At("steps", index, "wait"):
        wait = read_hours(row["wait"]) if "wait" in row else None
    with _At("steps", index, "timer"):
        timer = read_hours(row["timer"]) if "timer" in row else None
    with _At("steps", index, "temperature"):
        heat = read_heat(row["temperature"]) if "temperature" in row else None
    lines_named = tuple(row.get("lines", []))
    portions, caution = row.get("portions", 1), row.get("caution", "")
    portions = SEVERAL if portions == "several" else portions
    cups = row.get("vessel", ""), row.get("from", "")
    return Step(row["do"], row.get("text", ""), lines_named, wait, portions, timer, heat, caution, *cups)


def formula_to_dict(formula: Formula) -> dict[str, Any]:
    """Write a formula so that formula_from_dict reads the same one back.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.formula.house import house_formulas
    >>> written = formula_to_dict(house_formulas()["who-one"].formula)
    >>> written["format"], written["lines"][0]["material"]
    ('firkin-formula/1', 'ethanol')
    """
    newer = formula.dose is not None or formula.loads is not None
    data: dict[str, Any] = {
        "format": FORMULA_FORMAT_NOW if newer else FORMULA_FORMAT,
        "name": formula.name,
        "family": formula.family,
        "basis": formula.basis,
    }
    if formula.make is not None:
        data["make"] = str(formula.make)
    if formula.temperature != 20.0:
        data["temperature"] = f"{formula.temperature:g} degC"
    if formula.guidelines:
        data["guideline"] = list(formula.guidelines)
    if formula.claim is not None:
        data["claim"] = {"active": formula.claim.active, "strength": str(formula.claim.strength)}
    data["lines"] = [_line_to_dict(line) for line in formula.lines]
    if formula.keep_days is not None:
        data["keep"] = f"{formula.keep_days:g} days"
    if formula.cut:
        data["cut_parts_water"] = formula.cut
    if formula.made_up:
        data["made_up"] = True
    if formula.dose is not None:
        data["dose"] = dose_words(formula)
    if formula.loads is not None:
        data["loads"] = formula.loads
    if formula.steps:
        data["steps"] = [_step_to_dict(step) for step in formula.steps]
    return data


def _line_to_dict(line: Line) -> dict[str, Any]:
    row = {"material": line.material.written}
    if line.strength is not None:
        row["strength"] = str(line.strength)
    row["amount"] = str(line.amount)
    besides = (("good_to", error_words(line.error)), ("phase", line.phase), ("note", line.note))
    row |= {key: value for key, value in besides if value}
    return row


def _step_to_dict(step: Step) -> dict[str, Any]:
    row: dict[str, Any] = {"do": step.do, "text": step.text}
    if step.lines:
        row["lines"] = list(step.lines)
    if step.wait_h is not None:
        row["wait"] = hours_words(step.wait_h)
    if step.portions != 1:
        row["portions"] = step.portions
    if step.timer_h is not None:
        row["timer"] = hours_words(step.timer_h)
    if step.temperature is not None:
        row["temperature"] = f"{step.temperature:g} degC"
    said = (("caution", step.caution), ("vessel", step.vessel), ("from", step.source))
    return row | {key: words for key, words in said if words}


def steps_to_list(steps: Iterable[Step]) -> list[dict[str, Any]]:
    """Steps alone, as a formula's file holds them."""
    return [_step_to_dict(step) for step in steps]


def shares_of(row: dict[str, Any]) -> tuple[float, ...]:
    """The shares of a step's lines: one, or one for each line; none where all of each goes in.

    Args:
        row: a step as a file holds it.

    >>> shares_of({"lines": [0], "share": 0.5}), shares_of({"lines": [0, 1], "share": [0.5, 1]}), shares_of({})
    ((0.5,), (0.5, 1.0), ())
    """
    said = row.get("share", ())
    return tuple(float(share) for share in (said if isinstance(said, list | tuple) else [said]))


def steps_from_list(rows: list[dict[str, Any]], lines: int) -> tuple[Step, ...]:
    """Steps of a formula of so many ``lines``.

    Raises CannotReckon where one names a line that is not there.

    >>> steps_from_list(steps_to_list([Step("stir", "Stir.", (0,))]), 1)[0].lines
    (0,)
    """
    return tuple(_step(i, row, lines) for i, row in enumerate(rows))
