"""Review: how a formula's batches came out, one chart a figure, and what differed between two of them."""

from dataclasses import dataclass

from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, render

from firkin.accounts.middleware import MakerRequest
from firkin.batches.comparison import Numbers, Row, Side, numbers_of, rows_of
from firkin.batches.models import Batch
from firkin.core.use import LEAST_POINTS, Chart, chart_of
from firkin.drawings.control import control_chart
from firkin.formulas.models import Formula
from firkin.shelf.models import kitchens_of

#: So many batches are looked at, the newest.
MOST_BATCHES = 30


@dataclass(frozen=True, slots=True)
class Reviewed:
    """One figure over batches: its name, its drawing, and the batches outside the limits."""

    name: str
    drawing: str
    outside: tuple[str, ...]
    limits: bool


def review(request: MakerRequest, pk: int) -> HttpResponse:
    """The figures of a formula's batches, and the odd one against the one most like the others."""
    formula = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    made = Batch.objects.filter(workshop=request.workshop, made_at__isnull=False).of_formula(formula.pk)
    sides = [Side(batch) for batch in reversed(made.whole().order_by("-made_at")[:MOST_BATCHES])]
    if not sides and not Batch.objects.filter(workshop=request.workshop).of_formula(formula.pk).exists():
        raise Http404
    numbers = numbers_of(sides, request.workshop.currency)
    charts = [(one, chart_of([value for _, value in one.points])) for one in numbers]
    pair = _like_and_odd(sides, charts)
    kitchens = {kitchen.id: kitchen.name for kitchen in kitchens_of(request.workshop).values()}
    rows = rows_of(pair, request.workshop.currency, kitchens) if pair else []
    context = {
        "formula": formula,
        "count": len(sides),
        "of": made.count(),
        "least": LEAST_POINTS,
        "reviewed": [_reviewed(one, chart) for one, chart in charts],
        "pair": pair,
        "rows": [row for row in rows if row.differs],
        "same": _same(rows),
    }
    return render(request, "use/review.html", context)


def _reviewed(one: Numbers, chart: Chart) -> Reviewed:
    codes = [code for code, _ in one.points]
    drawn = control_chart(one.name, one.unit, codes, chart)
    name = f"{one.name}, {one.unit}" if one.unit else one.name
    return Reviewed(name, drawn, tuple(codes[i] for i in chart.outside), chart.high is not None)


def _like_and_odd(sides: list[Side], charts: list[tuple[Numbers, Chart]]) -> list[Side]:
    """The batch most like the others, and the one least like them: by their farthest figure, in spreads."""
    off: dict[str, list[float]] = {}
    for one, chart in charts:
        if chart.mean is None or chart.high is None or chart.high - chart.mean < 1e-9:
            continue
        for code, value in one.points:
            off.setdefault(code, []).append(abs(value - chart.mean) / (chart.high - chart.mean))
    if len(off) < LEAST_POINTS:
        return []
    by_code = {side.batch.code: side for side in sides}
    ordered = sorted(off, key=lambda code: max(off[code]))
    return [by_code[ordered[0]], by_code[ordered[-1]]]


def _same(rows: list[Row]) -> int:
    """How many of the things compared are the same."""
    return sum(not row.differs for row in rows)
