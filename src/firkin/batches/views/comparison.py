"""Batches of a formula side by side, and one number over all of them."""

from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, render

from firkin.accounts.middleware import MakerRequest
from firkin.batches.comparison import Side, numbers_of, rows_of
from firkin.batches.models import Batch
from firkin.drawings.series import number_series
from firkin.formulas.models import Formula

MOST_SIDES = 6
MOST_OVER = 12  # batches one number is drawn over


def compare(request: MakerRequest, pk: int) -> HttpResponse:
    """Two or more batches of a formula: amounts, strength, readings, what was seen, cost, yield, what differed."""
    formula = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    batches = Batch.objects.filter(workshop=request.workshop).of_formula(formula.pk)
    whole = batches.whole()
    if not batches.exists():
        raise Http404
    asked = [int(number[:9]) for number in request.GET.getlist("b") if number.isascii() and number.isdigit()]
    chosen = list(whole.filter(number__in=asked)[:MOST_SIDES]) if asked else list(whole[:2])
    sides = [Side(batch) for batch in sorted(chosen, key=lambda batch: batch.number)]
    made = list(whole.filter(made_at__isnull=False).order_by("-made_at")[:MOST_OVER])[::-1]
    currency = request.workshop.currency
    numbers = numbers_of([Side(batch) for batch in made], currency)
    context = {
        "formula": formula,
        "batches": batches[:100],
        "chosen": {side.batch.pk for side in sides},
        "sides": sides,
        "rows": rows_of(sides, currency),
        "series": [(one.name, number_series(one.name, one.unit, one.points)) for one in numbers],
    }
    return render(request, "batches/compare.html", context)
