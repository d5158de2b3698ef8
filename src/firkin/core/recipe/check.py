"""The findings of a recipe, whether or not all its amounts are known."""

from collections.abc import Iterator
from dataclasses import replace

from firkin.core.audit import GOES_IN, Finding, Severity, audit, audit_materials
from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.measures import figures
from firkin.core.recipe.dangers import PROCEDURES, danger_findings, procedure_findings
from firkin.core.recipe.doubts import unsure_lines
from firkin.core.recipe.missing import whatever_is_missing
from firkin.core.recipe.recipe import Recipe
from firkin.core.texts import uncapped

_ORDER = list(Severity)


def findings_of(recipe: Recipe) -> tuple[Finding, ...]:
    """Every finding, stops first: of the whole where it can be reckoned, else of what is measured and what is named.

    Args:
        recipe: a recipe as it was read.

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
        found += [one for one in findings if not any(_says_as_much(other, one) for other in found)]
    if recipe.at_length and not recipe.confirmed:
        said = tuple(PROCEDURES.values())
        found = [_if_heard_right(one) if one.rule in _AS_READ and one not in said else one for one in found]
    found = _asked_once(found)
    stopped = {one.rule for one in found if one.severity is Severity.STOP}
    found = [one for one in found if one.severity is not Severity.ASK or one.rule not in stopped]
    return tuple(sorted(found, key=lambda one: _ORDER.index(one.severity)))


def _asked_once(found: list[Finding]) -> list[Finding]:
    """Findings without the plain question whether a line goes in, where a graver one asks it."""
    graver = {at for one in found if one.choices == GOES_IN and one.rule != "line-unsure" for at in one.lines}
    plain = [one.choices == GOES_IN and one.rule == "line-unsure" for one in found]
    return [one for one, asks in zip(found, plain, strict=True) if not (asks and graver & set(one.lines))]


#: Stops that rest on the lines as read: how much, how strong, in which order, for what. Of a long account one line in
#: six is read wrong (docs/testing.md). What goes in beside it is heard for itself, and stays a stop.
_AS_READ = frozenset(
    {
        *("line-short", "line-active-missing", "claim-differs", "amounts-miss-make", "amounts-miss-size"),
        *("spirit-too-weak", "proof-as-percent", "too-much-alcohol", "phototoxic-over", "thickener-limit"),
        *("caustic-left", "acid-not-neutralised", "top-up-of-little", "surface-weak", "stock-mixed-up"),
        *("amount-not-its-share", "two-top-ups", "ferment-gas-space"),
        *("water-onto-caustic", "acid-carbonate-wet", "borax-skin"),
    }
)
AMOUNTS_RIGHT = ("The amounts are right", "They are not")


def _if_heard_right(one: Finding) -> Finding:
    """A stop by what was read of a long account is a question until somebody has looked at the lines."""
    if one.severity is not Severity.STOP:
        return one
    text = f"If the lines were read right: {one.text}"
    return replace(one, severity=Severity.ASK, text=text, fixed=None, choices=AMOUNTS_RIGHT)


def _says_as_much(found: Finding, other: Finding) -> bool:
    """True where a finding says another over again: the same rule, as heavy, and of the same lines if it is grave."""
    if found.rule != other.rule or _ORDER.index(found.severity) > _ORDER.index(other.severity):
        return False
    grave = other.severity in (Severity.STOP, Severity.ASK)
    of_the_lines = bool(other.lines) and set(other.lines) == set(found.lines)
    return not grave or found.text == other.text or of_the_lines or other.rule in PROCEDURES


def _counted(recipe: Recipe) -> Iterator[Finding]:
    """The audit of the whole; or, where an amount is missing, what holds whatever it is."""
    try:
        yield from audit(reckon(recipe.formula()))
    except CannotReckon:
        yield from whatever_is_missing(recipe)


def _of_the_text(recipe: Recipe) -> Iterator[Finding]:
    """What only the reading tells."""
    if not recipe.lines and not recipe.dangers:
        yield Finding(
            "nothing-read",
            Severity.WARN,
            "No line could be read, so nothing was checked.",
            "Write one thing a line, with its amount: 2 cups isopropyl alcohol 91 %.",
        )
    if recipe.left_out:
        yield Finding(
            "not-all-read",
            Severity.WARN,
            f"{recipe.left_out} Dangers were looked for in all of it.",
            "Paste the rest by itself.",
        )
    if recipe.others:
        named = " and ".join(f"“{one.heading}”" for one in recipe.others)
        yield Finding(
            "recipe-set-aside",
            Severity.NOTE,
            f"This text holds more than one recipe or size. “{recipe.first}” was read; {named} was set aside.",
            "Paste the other one by itself to read it.",
        )
    for other in recipe.others:
        for one in findings_of(other.recipe):
            if one.severity is Severity.STOP:
                yield replace(one, text=f"In “{other.heading}”: {one.text}", lines=())
    yield from _not_measured(recipe)
    if not recipe.at_length:
        yield from unsure_lines(recipe)
    yield from _more_than_the_batch(recipe)
    tops = tuple(i for i, line in enumerate(recipe.lines) if line.amount is not None and line.amount.kind == "qs")
    if len(tops) > 1:
        names = " and ".join(uncapped(recipe.lines[i].material.name) for i in tops)
        yield Finding(
            "two-top-ups",
            Severity.STOP,
            f"{names.capitalize()} are both said to top the batch up. Only one can: how much of the other goes in is "
            "not said.",
            "Give all but one of them an amount.",
            tops,
        )


def _not_measured(recipe: Recipe) -> Iterator[Finding]:
    """Lines of which the text does not say how much."""
    missing = tuple(i for i, line in enumerate(recipe.lines) if line.amount is None)
    if missing and len(missing) < len(recipe.lines):
        names = " and ".join(dict.fromkeys(uncapped(recipe.lines[i].material.name) for i in missing))
        yield Finding(
            "line-not-measured",
            Severity.WARN,
            f"How much {names}? The text does not say.",
            "It counts once you fill it in.",
            missing,
        )


#: One line of more than this many times the batch is a slip of the pen (common practice, no source).
_TOO_MUCH = 1.02


def _more_than_the_batch(recipe: Recipe) -> Iterator[Finding]:
    """ "14.5 L glycerol" in 1 L: an amount that the batch cannot hold, and what may be meant."""
    size = recipe.make or recipe.claims.size
    if size is None or size.kind not in ("volume", "mass"):
        return
    for i, line in enumerate(recipe.lines):
        amount = line.amount
        if amount is None or amount.kind != size.kind:
            continue
        grown = (amount.mL / size.mL) if amount.kind == "volume" else (amount.g / size.g)
        if grown <= _TOO_MUCH:
            continue
        smaller = {"L": "mL", "kg": "g"}.get(amount.unit)
        meant = f" Did you mean {figures(amount.value)} {smaller}?" if smaller and grown > 10 else ""
        yield Finding(
            "amounts-miss-make" if recipe.make else "amounts-miss-size",
            Severity.STOP,
            f"{amount.words} of {uncapped(line.material.name)} do not fit in {size.words}.{meant}",
            "Correct the amount or the size.",
            (i,),
        )
