"""The findings of a recipe, whether or not all its amounts are known."""

from collections.abc import Iterator
from dataclasses import replace

from firkin.core.audit import Finding, Severity, audit, audit_materials
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, reckon
from firkin.core.recipe.dangers import danger_findings, procedure_findings
from firkin.core.recipe.recipe import Recipe

#: What holds of the measured lines still holds when something is added that is no stock of an alcohol: it only thins.
_HOLDS_WITH_MORE = frozenset(
    {
        "line-short", "line-active-missing", "spirit-too-weak", "surface-weak", "proof-as-percent", "alcohol-unnamed",
        "stock-mixed-up", "strength-assumed", "unknown-material", "no-preservative", "ferment-no-sugar", "two-alcohols",
        "acid-not-neutralised", "acid-left", "caustic-left", "neutraliser-missing", "name-guessed", "heaped-measure",
        "table-uncertain",
    }
)  # fmt: skip


def findings_of(recipe: Recipe) -> tuple[Finding, ...]:
    """Every finding, stops first: of the whole where it can be reckoned, else of what is measured and what is named.

    >>> from firkin.core.recipe.reader import read_recipe
    >>> [one.rule for one in findings_of(read_recipe("a glug of bleach and some vinegar"))][:1]
    ['bleach-mixed']
    """
    found = list(_counted(recipe))
    named = [(line.material, line.strength) for line in recipe.lines]
    talked = [line.claims.talked for line in recipe.lines]
    more = (
        danger_findings(recipe.lines, recipe.dangers),
        audit_materials(named, recipe.family, recipe.claims, recipe.unread, recipe.steps, talked),
        procedure_findings(recipe.text),
        _of_the_text(recipe),
    )
    for findings in more:
        said = {one.rule: one.severity for one in reversed(found)}
        order = list(Severity)
        found += [one for one in findings if order.index(one.severity) < order.index(said.get(one.rule, order[-1])) or one.rule not in said]
    return tuple(sorted(found, key=lambda one: list(Severity).index(one.severity)))


def _counted(recipe: Recipe) -> tuple[Finding, ...]:
    """The audit of the whole; or, where an amount is missing, what holds whatever it is."""
    try:
        return audit(reckon(recipe.formula()))
    except CannotReckon:
        return tuple(_partly(recipe))


def _partly(recipe: Recipe) -> Iterator[Finding]:
    """What is wrong with the measured lines, and would be with anything added to them."""
    places = [i for i, line in enumerate(recipe.lines) if line.amount is not None]
    missing = [line for i, line in enumerate(recipe.lines) if i not in places]
    actives = {line.material.id for line in missing if line.material.reports == "active"}
    if not missing or not places or actives & {recipe.lines[i].material.id for i in places}:
        return
    lines = tuple(
        Line(one.material, one.amount, one.strength, claims=one.claims)
        for i in places
        if (one := recipe.lines[i]).amount
    )
    formula = Formula("As far as it is measured", lines, recipe.family, recipe.basis, recipe.make, claim=recipe.claim)
    formula = replace(formula, guidelines=recipe.guidelines, claims=replace(recipe.claims, size=None))
    try:
        found = audit(reckon(formula))
    except CannotReckon:
        return
    names = ", ".join(dict.fromkeys(line.material.name.lower() for line in missing))
    there = {role for line in missing for role in line.material.roles}
    for finding in found:
        too_weak = finding.rule == "claim-differs" and finding.severity is Severity.STOP
        if not (finding.rule in _HOLDS_WITH_MORE or too_weak) or there & _ROLES_THAT_CURE.get(finding.rule, set()):
            continue
        text = finding.text
        if finding.severity is not Severity.NOTE:
            text += f" That is without {names}, whose amount is not known."
        yield replace(finding, text=text, fixed=None, lines=tuple(places[at] for at in finding.lines))


#: A finding that something is lacking waits where what is lacking is only not measured.
_ROLES_THAT_CURE = {
    "no-preservative": {"preservative"}, "ferment-no-sugar": {"sugar"}, "neutraliser-missing": {"neutraliser"},
    "acid-not-neutralised": {"base"}, "acid-left": {"base"}, "caustic-left": {"free-acid", "acid"},
    "line-active-missing": {"active"},
}  # fmt: skip


def _of_the_text(recipe: Recipe) -> Iterator[Finding]:
    """What only the reading tells."""
    if recipe.left_out:
        yield Finding(
            "not-all-read",
            Severity.WARN,
            f"{recipe.left_out} Dangers were looked for in all of it.",
            "Paste the rest by itself.",
        )
    tops = tuple(i for i, line in enumerate(recipe.lines) if line.amount is not None and line.amount.kind == "qs")
    if len(tops) > 1:
        names = " and ".join(recipe.lines[i].material.name.lower() for i in tops)
        yield Finding(
            "two-top-ups",
            Severity.STOP,
            f"{names.capitalize()} are both said to top the batch up. Only one can: how much of the other goes in is "
            "not said.",
            "Give all but one of them an amount.",
            tops,
        )
