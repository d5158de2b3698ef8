"""The arithmetic of a reckoning, line by line, in the order a maker would do it on paper."""

from firkin.core.formula.actives import Active
from firkin.core.formula.reckoning import Reckoning
from firkin.core.measures import Working, WorkLine, figures


def work_reckoning(result: Reckoning) -> Working:
    """The arithmetic of a reckoning, in the order a maker would do it on paper."""
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
