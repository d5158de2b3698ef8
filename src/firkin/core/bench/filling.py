"""What is still to fill of a batch, and what may be filled of it."""

from firkin.core.bench.progress import Progress

#: What clings to the vessel and is not worth a bottle, mL (common practice, no source).
DREGS_ML = 1.0
#: How far fillings may come to more than was reckoned, as a share of what is left (common practice, no source).
_SLACK = 0.02


def left_to_fill(progress: Progress, filled_mL: float) -> float:
    """mL still to fill after so much was filled, cut with water where it is cut; 0 for dregs.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        filled_mL: what is in bottles already, mL.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> progress = Progress(rub, plan_of(rub), ())
    >>> round(left_to_fill(progress, 950.0)), left_to_fill(progress, 999.5)
    (50, 0.0)
    """
    left = progress.to_fill_mL - progress.gone_mL - filled_mL
    return left if left > DREGS_ML else 0.0


def can_be_filled(filling_mL: float, left_mL: float) -> bool:
    """True when so much can have come out of what is left, as well as bottles are read.

    Args:
        filling_mL: what is said to go into bottles, mL.
        left_mL: what is left by the record, mL.

    >>> can_be_filled(505.0, 500.0), can_be_filled(520.0, 500.0)
    (True, False)
    """
    return filling_mL <= left_mL * (1.0 + _SLACK) + DREGS_ML
