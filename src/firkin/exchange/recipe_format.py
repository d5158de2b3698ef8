"""The open format firkin-recipe/1: what a recipe's text was read as."""

from typing import Any

from firkin.core.audit import Finding
from firkin.core.errors import CannotReckon
from firkin.core.formula import formula_to_dict, reckon
from firkin.core.measures import Quantity, hours_words, plain_figures
from firkin.core.plan import Act
from firkin.core.recipe import HeardLine, MarkKind, Recipe
from firkin.exchange.reckoning_format import findings_to_list

FORMAT = "firkin-recipe/1"


def recipe_to_dict(recipe: Recipe, household: str, findings: tuple[Finding, ...]) -> dict[str, Any]:
    """The document of a recipe as it was read; what was not said is absent."""
    claims, claim = recipe.claims, recipe.claim
    said = {
        "make": _written(recipe.make or claims.size),
        "container": f"{plain_figures(claims.vessel.mL, 6)} mL" if claims.vessel else None,
        "claim": {"active": claim.active, "strength": str(claim.strength)} if claim else None,
        "loads": claims.loads,
        "dose": _written(claims.dose),
        "cut_parts_water": recipe.cut or None,
    }
    return {
        "format": FORMAT,
        "household": household,
        "lines": [_line(line) for line in recipe.lines],
        **{key: value for key, value in said.items() if value is not None},
        "unread": [
            {"text": recipe.text[mark.start : mark.end], "at": [mark.start, mark.end]}
            for mark in recipe.marks
            if mark.kind is MarkKind.UNREAD
        ],
        "marks": [
            {"at": [mark.start, mark.end], "as": mark.kind.value}
            | ({"line": mark.line} if mark.line is not None else {})
            for mark in recipe.marks
        ],
        "findings": findings_to_list(findings),
        "steps": [_act(act) for act in recipe.plan],
        "formula": _formula(recipe),
    }


def _line(line: HeardLine) -> dict[str, Any]:
    proof = "proof" in line.strength_said
    strength = line.strength_said if proof else str(line.strength or "")
    return {
        "material": line.material.written,
        "said": line.said,
        **({"strength": strength} if strength else {}),
        **({"amount": str(line.amount)} if line.amount is not None else {}),
        "qualifiers": list(line.qualifiers),
        "sure": not (line.claims.talked or line.claims.guessed),
        "at": list(line.at),
    }


def _act(act: Act) -> dict[str, Any]:
    """An act with what it has; a share, a manner or a time that was not told is absent."""
    said = {
        "lines": list(act.lines),
        "shares": list(act.shares),
        "portions": {0: "several", 1: None}.get(act.portions, act.portions),
        "how": act.how,
        "wait": hours_words(act.wait_h) if act.wait_h else None,
        "timer": hours_words(act.timer_h) if act.timer_h else None,
        "every": hours_words(act.every_h) if act.every_h else None,
        "for": hours_words(act.for_h) if act.for_h else None,
        "until": act.until,
        "temperature": f"{act.temperature:g} degC" if act.temperature is not None else None,
        "vessel": act.vessel,
        "caution": act.caution,
    }
    row = {"do": act.do, "text": act.text, "at": list(act.at)}
    return row | {key: value for key, value in said.items() if value not in (None, "", [])}


def _written(amount: Quantity | None) -> str | None:
    return None if amount is None else str(amount)


def _formula(recipe: Recipe) -> dict[str, Any] | None:
    """The formula of what is measured, where that can be counted; a finding names the lines that are not."""
    try:
        formula = recipe.measured().formula()
        reckon(formula)
    except CannotReckon:
        return None
    return formula_to_dict(formula)
