"""The open format firkin-recipe/1: what a recipe's text was read as."""

from typing import Any

from firkin.core.audit import Finding
from firkin.core.errors import CannotReckon
from firkin.core.formula import formula_to_dict, reckon
from firkin.core.measures import Quantity, plain_figures
from firkin.core.plan import acts_to_list, in_parts
from firkin.core.recipe import Aside, MarkKind, Recipe, is_sure, second_reading
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
        "lines": [_line(recipe, at) for at in range(len(recipe.lines))],
        **{key: value for key, value in said.items() if value is not None},
        **({"others": [_aside(one) for one in recipe.others]} if recipe.others else {}),
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
        "steps": acts_to_list(recipe.plan),
        "formula": _formula(recipe),
    }


def _second(recipe: Recipe, at: int) -> dict[str, Any]:
    """The second reading of a doubtful line; of a guessed name, its words as a material that nothing is known of."""
    line = recipe.lines[at]
    other = second_reading(recipe, at)
    if other is not None:
        strength = {"strength": str(other.strength)} if other.strength else {}
        return {"or": {"material": other.material.written, **strength, "amount": str(other.amount)}}
    misspelt = line.claims.guessed.lower() in line.said.lower() and line.said != line.material.written
    if not line.claims.guessed or not misspelt:
        return {}
    amount = {} if line.amount is None else {"amount": str(line.amount)}
    return {"or": {"material": line.said, **amount}}


def _aside(one: Aside) -> dict[str, Any]:
    """A recipe or size that was set aside."""
    made = _written(one.recipe.make or one.recipe.claims.size)
    return {
        "heading": one.heading,
        "at": list(one.at),
        "lines": [_line(one.recipe, at) for at in range(len(one.recipe.lines))],
        **({"make": made} if made is not None else {}),
    }


def _line(recipe: Recipe, at: int) -> dict[str, Any]:
    line = recipe.lines[at]
    proof = "proof" in line.strength_said
    strength = line.strength_said if proof else str(line.strength or "")
    return {
        "material": line.material.written,
        "said": line.said,
        **({"strength": strength} if strength else {}),
        **({"amount": str(line.amount)} if line.amount is not None else {}),
        "qualifiers": list(line.qualifiers),
        "sure": is_sure(recipe, at),
        **_second(recipe, at),
        "at": list(line.at),
    }


def _written(amount: Quantity | None) -> str | None:
    return None if amount is None else str(amount)


def _formula(recipe: Recipe) -> dict[str, Any] | None:
    """The formula of what is measured, where that can be counted; a finding names the lines that are not."""
    try:
        measured = recipe.measured()
        formula = in_parts(measured.formula(), measured.plan)
        reckon(formula)
    except CannotReckon:
        return None
    return formula_to_dict(formula)
