"""Thinning bleach and peroxide for surfaces, with the fading of an old bottle.

Source: WHO, Cleaning and disinfection of environmental surfaces in the context of COVID-19, May 2020;
CDC: parts of water to one of bleach = stock / wanted - 1.
"""

from dataclasses import dataclass

from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength, Working, WorkLine, figures

#: Share of its strength household bleach keeps in six months at room temperature (from memory).
KEPT_IN_SIX_MONTHS = 0.8
#: Beyond this age a bottle cannot be trusted, whatever it once held (common practice).
OLDEST_MONTHS = 12.0
#: Made-up chlorine solution is poured away after this many hours (WHO, May 2020).
DISCARD_H = 24.0


@dataclass(frozen=True, slots=True)
class Surface:
    """A surface solution: mL of stock and water, parts of water to one of stock, the stock counted."""

    bleach_mL: float
    water_mL: float
    parts_water: float
    assumed_stock_pct: float
    working: Working


def faded(stock_pct: float, age_months: float) -> float:
    """What is counted of a bottle's label strength after ``age_months``, in per cent.

    >>> round(faded(5.0, 6.0), 3)
    4.0
    """
    if age_months < 0:
        raise CannotReckon("A bottle is 0 months old or more.").at("age_months")
    return float(stock_pct * KEPT_IN_SIX_MONTHS ** (age_months / 6.0))


def surface_solution(stock: Strength, target: Strength, make_mL: float, age_months: float = 0.0) -> Surface:
    """How to thin bleach (or peroxide, with age 0) to ``make_mL`` of ``target``.

    The low end of a range is counted. Label arithmetic: per cent by weight is counted as by volume,
    which errs on the strong side. Raises CannotReckon when the (faded) stock is below the target.

    >>> made = surface_solution(Strength.of(5.0, "w/w"), Strength.of(0.5, "w/w"), 1000.0)
    >>> round(made.parts_water, 6), round(made.bleach_mL, 6), round(made.water_mL, 6)
    (9.0, 100.0, 900.0)
    """
    assumed = faded(stock.low, age_months)
    wanted = target.high
    if make_mL <= 0:
        raise CannotReckon("Make more than 0 mL.").at("make")
    if not wanted:
        raise CannotReckon("A target of 0 % is plain water.").at("target")
    if wanted > assumed * (1 + 1e-12):
        raise CannotReckon(
            f"{target} cannot be made from this bottle: {figures(assumed)} % is counted of it. "
            f"At most {figures(assumed)} % is possible, used straight."
        ).at("target")
    parts = assumed / wanted - 1.0
    bleach = make_mL / (parts + 1.0)
    lines = [
        WorkLine("Parts of water to one of stock", f"{figures(assumed)} ÷ {figures(wanted)} − 1", parts, "parts"),
        WorkLine("Stock", f"{figures(make_mL)} mL ÷ ({figures(parts)} + 1)", bleach, "mL"),
        WorkLine("Water", f"{figures(make_mL)} − {figures(bleach)}", make_mL - bleach, "mL"),
    ]
    if age_months:
        fade = WorkLine(
            "Counted of the label after fading",
            f"{figures(stock.low)} % × 0.8 ^ ({figures(age_months)} ÷ 6)",
            assumed,
            "%",
        )
        lines.insert(0, fade)
    return Surface(bleach, make_mL - bleach, parts, assumed, tuple(lines))
