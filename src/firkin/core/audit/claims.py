"""Audit rules about what is said of a recipe beside its amounts: sizes, shares, bottles, loads, money."""

import re
from collections.abc import Iterator
from dataclasses import replace

from firkin.core.audit.findings import Finding, Severity
from firkin.core.audit.strength import topped_with_water
from firkin.core.catalogue import Verdict, alcohol_names, families, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Reckoning, overflows, read_ounces, reckon, swapped, with_line
from firkin.core.measures import Quantity, amount_words, figures, rounded, rounded_down
from firkin.core.questions import USUAL_DOSE_ML
from firkin.core.texts import uncapped

_SLACK = 0.05  # finer than a kitchen measures
_SIZE_SLACK = 0.03  # what a recipe is said to make is a round figure: common practice, no source
_AMOUNT = re.compile(r"\b[0-9][0-9.,/]* ?(?:m[lL]|[lL]|k?g|cups?|tbsp|tsp|lit(?:re|er)s?|gallons?|oz|drops?)\b")


def _proof_as_percent(result: Reckoning) -> Iterator[Finding]:
    """US proof is twice the per cent by volume."""
    for i, line in enumerate(result.formula.lines):
        pct = line.claims.misread_pct
        if pct is not None:
            yield Finding(
                "proof-as-percent",
                Severity.STOP,
                f"{figures(pct)} % can't be right for {line.claims.words or uncapped(line.material.name)}. It looks "
                f"like {figures(pct)} proof, so {figures(pct / 2)} % by volume is counted.",
                f"Read the label again. If it says proof, {figures(pct / 2)} % is right.",
                (i,),
                with_line(result.formula, i, claims=replace(line.claims, misread_pct=None)),
            )


def _alcohol_unnamed(result: Reckoning) -> Iterator[Finding]:
    """ "Alcohol" and no more: which one, and is it fit for skin?"""
    unnamed = alcohol_names().unnamed
    for i, line in enumerate(result.formula.lines):
        if not line.material.known and line.material.name.lower() in unnamed:
            counted, fixed = "counted as nothing that counts", swapped(result.formula, i, "isopropanol")
        elif line.claims.words in unnamed:
            counted = f"counted as {uncapped(line.material.name)}"
            fixed = with_line(result.formula, i, claims=replace(line.claims, words=""))
        else:
            continue
        yield Finding(
            "alcohol-unnamed",
            Severity.WARN,
            f"“{(line.claims.words or line.material.name).capitalize()}” does not say which; it is {counted}. "
            "Methylated or otherwise denatured alcohol is not for skin.",
            "Read the label: isopropanol or ethanol, undenatured or cosmetic grade.",
            (i,),
            fixed,
        )


def _stock_mixed_up(result: Reckoning) -> Iterator[Finding]:
    """A recipe for one strength and a bottle of another: both results side by side."""
    for i, line in enumerate(result.formula.lines):
        bottle = line.claims.on_hand
        if bottle is None or line.strength is None:
            continue
        claims = replace(line.claims, on_hand=None)
        really = with_line(result.formula, i, strength=bottle, claims=claims)
        try:
            other = reckon(really)
        except CannotReckon:
            continue
        before, after = result.active(line.material.id), other.active(line.material.id)
        if before is None or after is None:
            continue
        held = all(verdict.verdict == Verdict.MEETS for verdict in other.verdicts)
        yield Finding(
            "stock-mixed-up",
            Severity.WARN if held else Severity.STOP,
            f"The recipe is for {line.strength}; your bottle is {bottle}. The recipe's comes to "
            f"{figures(before.lower)} % v/v, yours to {figures(after.lower)} % v/v.",
            "Use the figure for your own bottle.",
            (i,),
            really,
        )


def _amount_not_its_share(result: Reckoning) -> Iterator[Finding]:
    """ "1 % of 5 L" is 50 mL, not 5."""
    formula = result.formula
    whole_mL, whole_g = result.total.volume_mL, result.total.mass_g
    size = formula.claims.size or formula.make
    if size is not None and size.kind == "volume":
        whole_g, whole_mL = whole_g / whole_mL * size.mL, size.mL
    elif size is not None and size.kind == "mass":
        whole_mL, whole_g = whole_mL / whole_g * size.g, size.g
    for i, (line, worked) in enumerate(zip(formula.lines, result.lines, strict=True)):
        share = line.claims.share_pct
        if share is None or line.amount.kind not in ("volume", "mass"):
            continue
        by_volume = line.amount.kind == "volume"
        whole, unit = (whole_mL, "mL") if by_volume else (whole_g, "g")
        said = line.amount.mL if by_volume else line.amount.g
        meant = whole * share / 100.0
        if abs(said - meant) > _SLACK * meant:
            yield Finding(
                "amount-not-its-share",
                Severity.STOP,
                f"{figures(share)} % of {figures(whole)} {unit} is {figures(meant)} {unit}, not {figures(said)}; "
                f"{figures(said)} {unit} is {figures(100.0 * said / whole)} %.",
                f"Use {figures(meant)} {unit} of {uncapped(worked.material.name)}, or correct the per cent.",
                (i,),
                with_line(formula, i, amount=Quantity(rounded(meant), unit)),
            )


def _misses_size(result: Reckoning) -> Iterator[Finding]:
    size = result.formula.claims.size
    if size is None:
        return
    by_volume = size.kind == "volume"
    got, said = (result.total.volume_mL, size.mL) if by_volume else (result.total.mass_g, size.g)
    poured = sum(line.volume_mL for line in result.lines) if by_volume else got
    unit = "mL" if by_volume else "g"
    if min(abs(got - said), abs(poured - said)) > _SIZE_SLACK * said:
        fixed = topped_with_water(result, size)
        yield Finding(
            "amounts-miss-size",
            Severity.WARN,
            f"These amounts come to {figures(got)} {unit}, not to the {figures(said)} {unit} it says.",
            "Let the water top it up to the size." if fixed else "Correct the size, or find the line that is missing.",
            (),
            _without_size(fixed or result.formula),
        )


def _without_size(formula: Formula) -> Formula:
    return replace(formula, claims=replace(formula.claims, size=None))


def _container_too_small(result: Reckoning) -> Iterator[Finding]:
    vessel = result.formula.claims.vessel
    if vessel is None or vessel.kind != "volume" or not overflows(result.total.volume_mL, vessel.mL):
        return
    room = Quantity(rounded_down(vessel.mL * (1.0 - families()[result.formula.family].headspace_pct / 100.0), 3), "mL")
    yield Finding(
        "container-too-small",
        Severity.WARN,
        f"The batch comes to {amount_words(result.total.volume_mL)} and the container holds {amount_words(vessel.mL)}.",
        f"Make {amount_words(room.mL)}, which leaves some headspace, or take a larger one.",
        (),
        result.formula.scaled_to(room),
    )


def _loads_do_not_fit(result: Reckoning) -> Iterator[Finding]:
    """Usual dose of laundry soap: common practice."""
    claims = result.formula.claims
    if claims.loads is None or (claims.dose is not None and claims.dose.kind not in ("volume", "mass")):
        return
    low, high = USUAL_DOSE_ML
    if claims.dose is None and result.formula.family != "laundry-soap":
        return
    water_mL = result.total.volume_mL * result.formula.cut
    whole_mL, whole_g = result.total.volume_mL + water_mL, result.total.mass_g + water_mL * find("water").density
    if claims.dose is not None and claims.dose.kind == "mass":
        most = fewest = whole_g / claims.dose.g
    elif claims.dose is not None:
        most = fewest = whole_mL / claims.dose.mL
    else:
        fewest, most = whole_mL / high, whole_mL / low
    if fewest * (1 - 2 * _SLACK) <= claims.loads <= most * (1 + 2 * _SLACK):
        return
    dose = claims.dose.words if claims.dose else f"{figures(low)} to {figures(high)} mL"
    loads = f"{figures(fewest, 3)}" if most == fewest else f"{figures(fewest, 2)} to {figures(most, 2)}"
    whole = f"{amount_words(whole_mL)}{', cut with water,' if water_mL else ''}"
    yield Finding(
        "loads-do-not-fit",
        Severity.WARN,
        f"{whole} at {dose} a load {'is' if loads == '1' else 'are'} {loads} loads, not {figures(claims.loads)}.",
        f"Count on {loads}.",
        (),
        replace(result.formula, claims=replace(claims, loads=float(int(fewest)))),
    )


def _cost_does_not_fit(result: Reckoning) -> Iterator[Finding]:
    claims = result.formula.claims
    if claims.cost is None or claims.cost_per_load is None or not claims.loads:
        return
    really = claims.cost / claims.loads
    if abs(really - claims.cost_per_load) > 2 * _SLACK * really:
        yield Finding(
            "cost-does-not-fit",
            Severity.NOTE,
            f"{figures(claims.cost_per_load)} a load is claimed; {figures(claims.cost)} for {figures(claims.loads)} "
            f"loads is {figures(really, 3)} a load.",
            f"Count on {figures(really, 3)} a load.",
            (),
            replace(result.formula, claims=replace(claims, cost_per_load=rounded(really, 3))),
        )


def _ounce_unclear(result: Reckoning) -> Iterator[Finding]:
    """An ounce of a liquid may be a weight or a fluid ounce: reckoned both ways, and the lower is judged."""
    readings = read_ounces(result.formula)
    if readings is None:
        return
    unclear = [i for i, line in enumerate(result.formula.lines) if line.amount.unit == "oz" and not line.solid]
    by_weight, by_volume = (reckon(reading) for reading in readings)
    said = ""
    if by_weight.main is not None and by_volume.main is not None:
        said = (
            f" By weight it comes to {figures(by_weight.main.lower)} {by_weight.main.basis}, in fluid ounces to "
            f"{figures(by_volume.main.lower)}. The lower one counts."
        )
    for i in unclear:
        line = result.formula.lines[i]
        fluid = Quantity(line.amount.value, "floz")
        yield Finding(
            "ounce-unclear",
            Severity.NOTE,
            f"{line.amount.words} of {uncapped(line.material.name)} may be a weight, {figures(line.amount.g)} g, or "
            f"fluid ounces, {figures(fluid.mL)} mL.{said}",
            "If a fluid ounce is meant, say fl oz.",
            (i,),
            with_line(result.formula, i, amount=fluid),
        )


def _name_guessed(result: Reckoning) -> Iterator[Finding]:
    """A misspelt name was taken for the nearest one, or a sign of a figure for another."""
    for i, line in enumerate(result.formula.lines):
        if line.claims.guessed:
            amount = f", {line.amount.words}" if line.amount is not None else ""
            yield Finding(
                "name-guessed",
                Severity.NOTE,
                f"“{line.claims.guessed}” is read as {uncapped(line.material.name)}{amount}.",
                "Correct it if something else is meant.",
                (i,),
                with_line(result.formula, i, claims=replace(line.claims, guessed="")),
            )


def _heaped(result: Reckoning) -> Iterator[Finding]:
    for i, line in enumerate(result.formula.lines):
        if line.claims.heaped:
            yield Finding(
                "heaped-measure",
                Severity.NOTE,
                f"A heaped measure of {uncapped(line.material.name)}: {line.amount.words} level is counted. Heaped it "
                "can hold half as much again (common practice, no source).",
                "Level it off, or weigh it.",
                (i,),
                with_line(result.formula, i, claims=replace(line.claims, heaped=False)),
            )


def _amount_in_step(result: Reckoning) -> Iterator[Finding]:
    for number, step in enumerate(result.formula.steps, start=1):
        said = _AMOUNT.search(step.text)
        if said is not None:
            yield Finding(
                "amount-in-step",
                Severity.NOTE,
                f"Step {number} says “{said[0]}”, which stays the same when the batch is made in another size.",
                "Give it a line of its own, and let the step name the line.",
            )


CLAIM_RULES = (
    _proof_as_percent,
    _alcohol_unnamed,
    _stock_mixed_up,
    _amount_not_its_share,
    _misses_size,
    _container_too_small,
    _loads_do_not_fit,
    _cost_does_not_fit,
    _ounce_unclear,
    _name_guessed,
    _heaped,
    _amount_in_step,
)
