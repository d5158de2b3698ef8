"""Batches side by side, of a formula or of several, and one number over all of a formula."""

from django.core.paginator import Paginator
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, render

from firkin.accounts.middleware import MakerRequest
from firkin.batches.comparison import Side, numbers_of, rows_of
from firkin.batches.listing import found_by
from firkin.batches.models import Batch, BatchQuerySet
from firkin.drawings.series import number_series
from firkin.formulas.models import Formula
from firkin.shelf.models import kitchens_of
from firkin.ui.fields import whole_number

MOST_SIDES = 10
#: So many batches are offered at a time.
MOST_OFFERED = 30
MOST_OVER = 12  # batches one number is drawn over


def compare(request: MakerRequest, pk: int) -> HttpResponse:
    """Two or more batches of a formula: amounts, strength, readings, what was seen, cost, yield, what differed."""
    formula = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    batches = Batch.objects.filter(workshop=request.workshop).of_formula(formula.pk)
    if not batches.exists():
        raise Http404
    made = list(batches.whole().filter(made_at__isnull=False).order_by("-made_at")[:MOST_OVER])[::-1]
    numbers = numbers_of([Side(batch) for batch in made], request.workshop.currency)
    series = [(one.name, number_series(one.name, one.unit, one.points)) for one in numbers]
    return _side_by_side(request, batches, {"formula": formula, "series": series})


def compare_any(request: MakerRequest) -> HttpResponse:
    """Batches of whatever formulas side by side."""
    return _side_by_side(request, Batch.objects.filter(workshop=request.workshop), {})


def _offered(request: MakerRequest, batches: BatchQuerySet, chosen: list[int]) -> dict[str, object]:
    """The batches to choose from, a page of those that are looked for; what is chosen stays on it."""
    words = request.GET.get("q", "")[:80]
    page = Paginator(found_by(batches, words), MOST_OFFERED).get_page(request.GET.get("page"))
    there = {one.pk for one in page}
    kept = [one for one in batches.filter(pk__in=chosen) if one.pk not in there]
    return {"batches": [*kept, *page], "page": page, "words": words}


def _side_by_side(request: MakerRequest, batches: BatchQuerySet, context: dict[str, object]) -> HttpResponse:
    """The chosen ones; without a choice the last two that are made, or else the last two."""
    asked = [number for typed in request.GET.getlist("b") if (number := whole_number(typed))]
    whole = batches.whole()
    finished = whole.filter(made_at__isnull=False)
    chosen = whole.filter(number__in=asked)[:MOST_SIDES] if asked else finished[:2]
    if not asked and len(chosen) < 2:
        chosen = whole[:2]
    sides = [Side(batch) for batch in sorted(chosen, key=lambda batch: batch.number)]
    kitchens = {kitchen.id: kitchen.name for kitchen in kitchens_of(request.workshop).values()}
    context |= {
        **_offered(request, batches, [side.batch.pk for side in sides]),
        "chosen": {side.batch.pk for side in sides},
        "sides": sides,
        "rows": rows_of(sides, request.workshop.currency, kitchens) if sides else [],
    }
    return render(request, "batches/compare.html", context)
