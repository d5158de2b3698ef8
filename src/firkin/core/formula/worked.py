"""The arithmetic of a reckoning, line by line, in the order a maker would do it on paper."""

from firkin.core.formula.actives import Active
from firkin.core.formula.formula import PERCENT_SLACK, Formula, percent_total
from firkin.core.formula.reckoning import Reckoning
from firkin.core.measures import Working, WorkLine, figures
from firkin.core.texts import uncapped


def work_reckoning(result: Reckoning) -> Working:
    """The arithmetic of a reckoning, in the order a maker would do it on paper.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.

    >>> from firkin.core.formula.house import house_formulas
    >>> from firkin.core.formula.reckoning import reckon
    >>> len(work_reckoning(reckon(house_formulas()["who-one"].formula))) > 5
    True
    """
    return (*_sizes(result), *(line for active in result.actives for line in _strength(result, active)))


def _sizes(result: Reckoning) -> list[WorkLine]:
    total = result.total
    added = " + ".join(figures(line.volume_mL) for line in result.lines)
    lines = [WorkLine("Volumes before mixing", f"{added} mL", total.sum_of_volumes_mL, "mL")]
    weighed = " + ".join(figures(line.mass_g) for line in result.lines)
    lines.append(WorkLine("Weights add", f"{weighed} g", total.mass_g, "g"))
    if abs(total.contraction_pct) > 0.005:
        lines.append(
            WorkLine(
                "Volume after mixing, from the density of the mixture",
                f"{figures(total.mass_g)} g ÷ {figures(total.density)} g/mL",
                total.volume_mL,
                "mL",
            )
        )
        lines.append(
            WorkLine(
                result.shrink_words.capitalize(),
                f"1 − {figures(total.volume_mL)} ÷ {figures(total.sum_of_volumes_mL)}",
                total.contraction_pct,
                "%",
            )
        )
    return lines


def _strength(result: Reckoning, active: Active) -> list[WorkLine]:
    formula = result.formula
    terms, volume = [], 0.0
    for line, amount in zip(formula.lines, result.lines, strict=True):
        if line.material.id != active.active:
            continue
        strength = line.counted_strength
        volume += amount.volume_mL
        shown = f" × {figures(strength.value)} %" if strength and active.is_alcohol else ""
        terms.append(f"{figures(amount.volume_mL)} mL{shown}")
    topped = formula.topped_up is not None
    whole = result.total.volume_mL if topped else result.total.sum_of_volumes_mL
    if not active.is_alcohol:
        return [WorkLine(f"{active.name} in the whole", "", active.label, active.basis)]
    pure = active.label / 100.0 * whole
    lines = [
        WorkLine(f"{active.name} brought in", " + ".join(terms), pure, "mL"),
        WorkLine(
            f"{active.name}, label arithmetic",
            f"{figures(pure)} ÷ {figures(whole)} mL {'made up' if topped else 'poured'}",
            active.label,
            "% v/v",
        ),
        WorkLine(
            f"{active.name}, true strength at 20 °C",
            f"{figures(pure)} ÷ {figures(result.total.volume_mL)} mL in the jug",
            active.true,
            "% v/v",
        ),
    ]
    if active.low < active.lower - 0.005 or active.high > active.higher + 0.005:
        lines.append(WorkLine(f"{active.name}, lowest worst case", "", active.low, "% v/v"))
        lines.append(WorkLine(f"{active.name}, highest worst case", "", active.high, "% v/v"))
    return lines


def percent_words(formula: Formula) -> tuple[str, bool] | None:
    """What the per cent lines add up to, in a sentence, and whether it is right; None without any.

    A q.s. line makes up the rest; amounts beside per cents leave the rest open.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula.formula import Line
    >>> from firkin.core.measures import read_quantity
    >>> dish = (Line(find("water"), read_quantity("90 %")), Line(find("sles"), read_quantity("8 %")))
    >>> percent_words(Formula("Dish", dish))
    ('98 % named: 2 % is missing.', False)
    """
    total = percent_total(formula)
    if not any(line.amount.kind == "percent" for line in formula.lines):
        return None
    said, left = f"{figures(total)} % named", 100.0 - total
    if left < -PERCENT_SLACK:
        return f"{said}: {figures(-left)} % too much.", False
    topped = formula.topped_up
    if topped is not None:
        rest = uncapped(formula.lines[topped].material.name)
        return f"{said}; {rest} makes up the other {figures(max(0.0, left))} %.", left > PERCENT_SLACK
    if any(line.amount.kind != "percent" for line in formula.lines):
        return f"{said}; the amounts beside them make up the rest.", True
    if left > PERCENT_SLACK:
        return f"{said}: {figures(left)} % is missing.", False
    return "100 % named: it adds up.", True
