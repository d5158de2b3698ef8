"""Audit rules about how a product is made, kept and used: heat, glass, gas, and what must not touch skin."""

import re
from collections.abc import Iterator
from dataclasses import replace

from firkin.core.audit.findings import Finding, Severity
from firkin.core.catalogue import families
from firkin.core.formula import Formula, Reckoning, Step, pour_text, tops_last, without
from firkin.core.measures import Quantity, amount_words, figures, rounded_up
from firkin.core.texts import uncapped

#: Alcohol above this, in degC, gives off more vapour than a bench should have (flash points 17.5 and 19 degC: WHO,
#: Guide to Local Production).
WARM_C = 30.0
#: A ferment of 14 parts goes into a container that holds 15 (common practice, no source).
GAS_SPACE = 15.0 / 14.0
_ROUNDED = 0.01  # amounts of a recipe are rounded
_HEAT = re.compile(
    r"\b(?:heat|heated|heating|warm(?! (?:water|room|place|day|hands))|boil|boiling|simmer|simmering|microwave|stove|"
    r"hob|flame|bain[- ]marie)\b",
    re.IGNORECASE,
)
_GLASS = re.compile(r"\bglass\b", re.IGNORECASE)
_COLD = re.compile(
    r"\b(?:away from|no|never|not|without|before|keep from|far from)\b[^.;]*$|\blet\b[^.;]*\bcool\b|\bcool(?:ed|s)?\b",
    re.IGNORECASE,
)


#: Water is heated by itself, and what it is poured to later is another matter.
_WATER_ALONE = re.compile(r"\b(?:heat|warm|boil)\s+(?:\w+\s+){0,3}water\b", re.IGNORECASE)


def _heated_alcohol(result: Reckoning) -> Iterator[Finding]:
    """A step that heats what holds alcohol, by its temperature or its words."""
    formula = result.formula
    alcohol = set(formula.lines_with("alcohol"))
    inside: set[int] = set()
    for number, step in enumerate(formula.steps, start=1):
        inside |= set(step.lines)
        if not alcohol & inside:
            continue
        hot = step.temperature is not None and step.temperature > WARM_C
        named = (
            bool(alcohol & set(step.lines))
            or "alcohol" in step.text.lower()
            or bool(alcohol & inside and not step.lines and not _WATER_ALONE.search(step.text))
        )
        if hot or (named and _says(_HEAT, step.text)):
            yield Finding(
                "heated-alcohol",
                Severity.STOP,
                f"Step {number} heats alcohol. The vapour catches fire from a flame, a hob or a spark, and the "
                "strength is lost.",
                "Heat only the water part, let it cool, and add the alcohol cold, away from any flame.",
                tuple(sorted(alcohol & inside)),
                replace(
                    formula,
                    steps=tuple(
                        replace(one, temperature=None, text=_COLD_TEXT) if one is step else one for one in formula.steps
                    ),
                ),
            )


_COLD_TEXT = "Mix it cold, away from any flame."


def _says(pattern: re.Pattern[str], text: str) -> bool:
    """True where a text says so, and not to keep away from it."""
    return any(not _COLD.search(text[: found.start()]) for found in pattern.finditer(text))


def _line_without_step(result: Reckoning) -> Iterator[Finding]:
    """A line no step names, where others are named: when it goes in is not said."""
    formula = result.formula
    named = {line for step in formula.steps for line in step.lines}
    if not named:
        return
    for i in range(len(formula.lines)):
        if i not in named:
            name = uncapped(formula.lines[i].material.name)
            yield Finding(
                "line-without-step",
                Severity.WARN,
                f"No step names the {name}: it would be measured before the first of them.",
                "Give it a step of its own, where it goes in.",
                (i,),
                replace(formula, steps=_with_step(formula, i)),
            )


def _with_step(formula: Formula, at: int) -> tuple[Step, ...]:
    """The steps with one for a line: after what is poured, before what tops it up."""
    pouring = [place for place, step in enumerate(formula.steps) if step.lines]
    last = pouring[-1]
    place = last if tops_last(formula) else last + 1
    step = Step("pour", pour_text(formula.lines[at]), (at,))
    return (*formula.steps[:place], step, *formula.steps[place:])


def _ferment_vessel(result: Reckoning) -> Iterator[Finding]:
    if result.formula.family != "ferment":
        return
    claims = result.formula.claims
    if claims.glass or any(_says(_GLASS, step.text) for step in result.formula.steps):
        yield Finding(
            "ferment-glass",
            Severity.STOP,
            "A ferment builds pressure; glass bursts into splinters.",
            "Plastic with a tight lid, and vent it.",
            (),
            replace(result.formula, claims=replace(claims, glass=False)) if claims.glass else None,
        )
    needed = result.total.mass_g * GAS_SPACE
    if claims.vessel is not None and claims.vessel.kind == "volume" and claims.vessel.mL < needed * (1 - _ROUNDED):
        room = rounded_up(needed, 3)
        yield Finding(
            "ferment-gas-space",
            Severity.STOP,
            f"No room for gas: {figures(result.total.mass_g)} g fills a container of {amount_words(claims.vessel.mL)}. "
            "It bursts or overflows.",
            f"Take a container of at least {amount_words(room)}, or make less: 15 parts hold 14.",
            (),
            replace(result.formula, claims=replace(claims, vessel=Quantity(room, "mL"))),
        )


def _borax_on_skin(result: Reckoning) -> Iterator[Finding]:
    """Regulation (EC) 1272/2008: borates harm fertility; from memory. Boric salts in cosmetics: restricted."""
    borax = result.formula.lines_with("borate")
    family = families()[result.formula.family]
    if borax and family.skin:
        yield Finding(
            "borax-skin",
            Severity.STOP,
            f"{result.formula.lines[borax[0]].material.name} is not for skin: it irritates, and borates harm fertility "
            "(Regulation (EC) 1272/2008, from memory).",
            "Leave it out of anything for hands; it belongs in laundry and dishwashers.",
            borax,
            without(result.formula, *borax),
        )


def _oxygen_bleach_wet(result: Reckoning) -> Iterator[Finding]:
    """Percarbonate in water gives off its oxygen within hours (common knowledge of the trade)."""
    formula = result.formula
    bleach = tuple(i for i in formula.lines_with("oxidiser") if "carbonate" in formula.lines[i].material.roles)
    if bleach and not result.formula.dry and result.formula.lines_with("water"):
        yield Finding(
            "oxygen-bleach-wet",
            Severity.WARN,
            "Oxygen bleach gives its oxygen off in water within hours: kept in a closed bottle it swells it, and then "
            "does nothing.",
            "Leave it out, and add it dry to the wash.",
            bleach,
            without(result.formula, *bleach),
        )


HANDLING_RULES = (
    _heated_alcohol,
    _line_without_step,
    _ferment_vessel,
    _borax_on_skin,
    _oxygen_bleach_wet,
)
