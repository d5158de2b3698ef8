"""The drawings of one reckoned formula: its rail and its vessel."""

from firkin.core.catalogue import rule_lines
from firkin.core.formula import Reckoning, levels, pour_order, tops_last, vessel_order
from firkin.core.questions import Layer, Mark, Window, look_of
from firkin.core.texts import uncapped
from firkin.drawings.paper import Paper
from firkin.drawings.rail import strength_rail
from firkin.drawings.strip import fill_strip
from firkin.drawings.vessel import vessel


def rail_of(result: Reckoning) -> str:
    """The strength rail of the alcohols in it; empty without one."""
    actives = [active for active in result.actives if active.is_alcohol]
    if not actives:
        return ""
    windows = [
        Window(rule_lines()[verdict.guideline].short, verdict.minimum, verdict.maximum, verdict.verdict)
        for verdict in result.verdicts
    ]
    marks = [Mark(active.name, active.label, active.true, active.low, active.high) for active in actives]
    return strength_rail(windows, marks)


def vessel_of(result: Reckoning, capacity_mL: float | None = None) -> str:
    """The vessel of a formula, its layers in the order they are poured."""
    return vessel(layers_of(result), result.total.volume_mL, capacity_mL)


def strip_of(result: Reckoning, name: str, inner_diameter_mm: float) -> Paper:
    """The fill strip of a formula for a cylinder; CannotReckon when it would not fit a sheet."""
    return fill_strip(name, layers_of(result), inner_diameter_mm)


def layers_of(result: Reckoning) -> list[Layer]:
    """The layers of a formula in the order they reach the vessel, each at its level once mixed; a cup is one layer."""
    formula, found = result.formula, levels(result.formula)
    topped = formula.topped_up if tops_last(formula) else None
    number = {line: place for place, line in enumerate(pour_order(formula), start=1)}
    layers = []
    for together in vessel_order(formula):
        names = [formula.lines[i].material.name for i in together]
        look = look_of(formula.lines[together[0]].material.roles)
        name, last = ", ".join([names[0], *map(uncapped, names[1:])]), together[-1]
        layers.append(Layer(name, look, found[last], top_up=last == topped, order=number[last]))
    return layers
