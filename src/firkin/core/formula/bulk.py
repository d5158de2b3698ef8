"""Powders as dense as they really lie: a scoop that was weighed turns a formula's volumes into other weights."""

from collections.abc import Mapping
from dataclasses import replace

from firkin.core.formula.formula import Formula
from firkin.core.formula.reckoning import reckon
from firkin.core.measures import Quantity, figures, rounded, weight_words

#: How far a weighed scoop may be off the usual bulk density and change nothing (common practice, no source).
_AS_USUAL = 0.02
_FIGURES = 4


def with_bulk(formula: Formula, bulks: Mapping[int, float]) -> tuple[Formula, tuple[str, ...]]:
    """The formula made of powders that lie so dense, by line in g/mL, and what that changes, in sentences.

    What is told by the cup or the part keeps its volume and gets another weight; what is weighed stays. A dry mix in
    parts is written in grams from then on, its sizes as they come.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        bulks: bulk density in g/mL by position of the line.

    Raises:
        CannotReckon: as reckon does.

    >>> from firkin.core.formula.house import house_formulas
    >>> powder = house_formulas()["powder-soft"].formula
    >>> light, said = with_bulk(powder, {1: 0.55})
    >>> [round(line.amount.g) for line in light.lines], said[0][:34]
    ([345, 223, 254, 178], 'Washing soda lies at 0.55 g/mL by ')
    """
    odd = {
        i: bulk
        for i, bulk in bulks.items()
        if (usual := formula.lines[i].bulk) and not formula.by_weight(i) and abs(bulk / usual - 1.0) > _AS_USUAL
    }
    if not odd:
        return formula, ()
    lies = tuple(
        replace(line, material=replace(line.material, bulk=odd[i])) if i in odd else line
        for i, line in enumerate(formula.lines)
    )
    before = reckon(formula).lines
    told = replace(formula, lines=lies)
    after = reckon(told).lines
    shared = any(formula.lines[i].amount.kind in ("part", "percent") for i in odd)
    lines = tuple(
        replace(line, amount=Quantity(rounded(worked.mass_g, _FIGURES), "g"))
        if line.amount.kind != "qs" and (i in odd or shared)
        else line
        for i, (line, worked) in enumerate(zip(formula.lines, after, strict=True))
    )
    make = formula.make
    if formula.dry and make is not None and shared:
        make = Quantity(sum(line.amount.g for line in lines), "g")
    said = tuple(
        f"{formula.lines[i].material.name} lies at {figures(bulk)} g/mL by the scoop that was weighed, not "
        f"{figures(formula.lines[i].bulk or 0.0)}: {weight_words(after[i].mass_g)} instead of "
        f"{weight_words(before[i].mass_g)}."
        for i, bulk in odd.items()
    )
    return replace(formula, lines=lines, make=make), said
