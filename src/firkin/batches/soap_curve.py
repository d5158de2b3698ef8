"""The maker's own curve of liquid soap, from the batches of a workshop."""

from dataclasses import dataclass

from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.bench import ASPECTS, Made, OwnCurve, next_day_level, own_curve, soap_g_per_L
from firkin.drawings.own_curve import own_curve_drawn

#: So many of the latest batches are looked at.
_MOST = 60
_FAMILY = "liquid-soap"
_UNSAID = "bar soap of which the bottle was not chosen"


@dataclass(frozen=True)
class SoapCurve:
    """The curve of one bar, its drawing, and grams of bar in a litre of the batch it is shown for."""

    curve: OwnCurve
    drawn: str
    planned: float


def soap_curve(making: Making, bar: str = "") -> SoapCurve | None:
    """What own batches with the same bar say; None for anything but liquid soap from bars: laundry soap holds a fifth
    of it. ``bar`` names another than its own.
    """
    batch = making.batch
    planned = soap_g_per_L(making.progress)
    if planned is None or batch.family != _FAMILY:
        return None
    others = Batch.objects.whole().filter(workshop=batch.workshop, family=batch.family).exclude(state=State.PLANNED)
    made = [one for other in others.order_by("-number")[:_MOST] if (one := _made(other)) is not None]
    curve = own_curve(bar or _bar(making), made)
    points = [(one.g_per_L, one.level) for one in curve.made]
    drawn = own_curve_drawn(points, ASPECTS["thickness"][1], curve.suggested)
    return SoapCurve(curve, drawn, planned)


def _made(batch: Batch) -> Made | None:
    making = Making(batch)
    grams, level = soap_g_per_L(making.progress), next_day_level(making.progress, batch.begun)
    return None if grams is None or level is None else Made(_bar(making), grams, level, batch.code)


def _bar(making: Making) -> str:
    """Which bar it was made of: the stock that was chosen."""
    soaps = making.progress.formula.lines_of("bar-soap")
    chosen = next((row.stock for row in making.lines if row.position in soaps and row.stock is not None), None)
    return chosen.name if chosen is not None else _UNSAID
