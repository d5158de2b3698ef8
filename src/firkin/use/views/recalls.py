"""Recalls: from a lot or a batch to every bottle and who has it, on one page, with a mark for each dealt with."""

from django.contrib import messages
from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.batches.models import Batch, Bottle, BottleEvent, Recall, told_of
from firkin.core.use import BottleEventKind
from firkin.shelf.models import Stock
from firkin.use.forms import DealtForm, RecallForm
from firkin.use.tracing import call_back, lots_in, of_recall, reached, same_lot
from firkin.use.tracing import close as close_recall


def recalls(request: MakerRequest) -> HttpResponse:
    """All recalls, open ones first."""
    found = (
        Recall.objects.filter(workshop=request.workshop).select_related("stock", "batch").order_by("closed_at", "-at")
    )
    bad = Batch.objects.filter(workshop=request.workshop, bad_since__isnull=False)
    return render(request, "use/recalls.html", {"recalls": found[:200], "bad": bad[:200]})


@once
def because_of_stock(request: MakerRequest, pk: int) -> HttpResponse:
    """A doubt about a bottle of a material, and its lot: what it reaches, and calling that back."""
    stock = get_object_or_404(Stock, pk=pk, workshop=request.workshop)
    return _begin(request, stock, None)


@once
def because_of_batch(request: MakerRequest, pk: int) -> HttpResponse:
    """A doubt about a batch: its bottles and what went into it, and calling them back."""
    batch = get_object_or_404(Batch.objects.select_related("version__formula"), pk=pk, workshop=request.workshop)
    return _begin(request, None, batch)


def _begin(request: MakerRequest, stock: Stock | None, batch: Batch | None) -> HttpResponse:
    lot = same_lot(stock) if stock is not None else []
    form = RecallForm(request.POST if request.method == "POST" else None, batch=batch, stock=stock)
    found = reached(lot, batch)
    if form.is_bound and form.is_valid():
        data = form.cleaned_data
        recall = call_back(request.workshop, request.user, data["why"], stock=stock, batch=batch, bad=data["bad"])
        count = sum(len(one.bottles) for one in found)
        messages.success(request, f"{count} bottles are called back. Mark each one when it is dealt with.")
        return redirect("use:recall", recall.pk)
    context = {
        "stock": stock,
        "batch": batch,
        "lot": lot,
        "found": found,
        "bottles": sum(len(one.bottles) for one in found),
        "form": form,
        "lots": lots_in(batch) if batch is not None else [],
        "open": Recall.objects.filter(workshop=request.workshop, stock=stock, batch=batch, closed_at=None).first(),
    }
    return render(request, "use/recall_begin.html", context)


def recall(request: MakerRequest, pk: int) -> HttpResponse:
    """A recall as a list to work through, and to print."""
    there = get_object_or_404(Recall, pk=pk, workshop=request.workshop)
    bottles = of_recall(there)
    notes = {
        event.bottle_id: event
        for event in BottleEvent.objects.filter(
            recall=there, kind=BottleEventKind.DEALT, undoes=None, undone_by=None
        ).select_related("by")
    }
    rows = [(bottle, notes.get(bottle.pk)) for bottle in bottles]
    context = {
        "recall": there,
        "rows": rows,
        "open": sum(note is None for _, note in rows),
        "form": DealtForm(),
        "lots": lots_in(there.batch) if there.batch is not None else [],
    }
    return render(request, "use/recall.html", context)


@require_POST
@once
def dealt(request: MakerRequest, pk: int) -> HttpResponse:
    """One bottle of a recall is dealt with, with a note."""
    there = get_object_or_404(Recall, pk=pk, workshop=request.workshop)
    number = request.POST.get("bottle", "")
    wanted = int(number) if number.isascii() and number.isdigit() and len(number) < 16 else 0
    bottle = get_object_or_404(Bottle, pk=wanted, events__recall=there, events__kind=BottleEventKind.CALLED)
    form = DealtForm(request.POST)
    note = form.cleaned_data["reason"] if form.is_valid() else ""
    done = BottleEvent.objects.filter(
        bottle=bottle, recall=there, kind=BottleEventKind.DEALT, undoes=None, undone_by=None
    ).exists()
    if not done:
        with transaction.atomic():
            told_of([bottle], BottleEventKind.DEALT, request.user, reason=note, recall=there)
        messages.success(request, f"Bottle {bottle.code} is dealt with.")
    return redirect("use:recall", pk)


@require_POST
def close(request: MakerRequest, pk: int) -> HttpResponse:
    """Done with a recall; what is open of it stays in its list."""
    there = get_object_or_404(Recall, pk=pk, workshop=request.workshop)
    if there.closed_at is None:
        close_recall(there)
        messages.success(request, "The recall is closed. Its list stays.")
    return redirect("use:recalls")


@require_POST
def good_again(request: MakerRequest, pk: int) -> HttpResponse:
    """A batch was marked as bad by mistake, or turned out well."""
    batch = get_object_or_404(Batch, pk=pk, workshop=request.workshop)
    if batch.bad_since is not None:
        batch.mark_good(request.user)
        messages.success(request, f"{batch.code} is no longer marked as bad.")
    return redirect("batches:batch", pk)
