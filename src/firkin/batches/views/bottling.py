"""Into bottles, and what their labels say."""

import uuid
from typing import Any

from django.contrib import messages
from django.db import IntegrityError, transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from firkin.accounts.middleware import MakerRequest
from firkin.batches.bottles import bottles_for, empty_bottles
from firkin.batches.forms import FillForm
from firkin.batches.labels import label_format, label_of
from firkin.batches.models import Batch, Filling, State
from firkin.batches.views.stages import find_batch, go, shown
from firkin.core.bench import left_to_fill, worries
from firkin.core.errors import CannotReckon
from firkin.core.questions import Container, pack
from firkin.drawings.label import FORMATS, label_pdf, label_svg


def fill(request: MakerRequest, pk: int) -> HttpResponse:
    """Into bottles: what to fill, how far, what is left."""
    batch = find_batch(request, pk)
    if batch.state not in (State.RESTING, State.RELEASED, State.FILLED):
        return go(batch)
    progress = batch.progress()
    if progress.unfinished:
        return go(batch)
    left = left_to_fill(progress, sum(filling.total_mL for filling in batch.fillings.all()))
    bottles = bottles_for(batch, left)
    packing = bottles.packing
    empty = empty_bottles(request.workshop)
    first = packing.fills[0] if packing and packing.fills else None
    initial: dict[str, Any] = {"key": uuid.uuid4()}
    if first is not None:
        initial |= {
            "vessel": next(bottle.pk for bottle, count in empty.items() if bottle.name == first.name and count),
            "count": first.count,
            "fill": f"{first.fill_mL:.4g} mL",
        }
    new = request.GET.get("vessel", "")
    chosen = next((bottle for bottle in empty if str(bottle.pk) == new), None)
    if chosen is not None and left and empty[chosen]:  # fetched from the shelf just now
        of_it = [Container(chosen.name, chosen.volume_mL, empty[chosen])]
        fills = pack(left, of_it, bottles.headspace_pct).fills
        initial |= {"vessel": chosen.pk, "count": fills[0].count, "fill": f"{fills[0].fill_mL:.4g} mL"}
    form = FillForm(request.POST or None, left_mL=left, empty=empty, initial=initial)
    if request.method == "POST" and form.is_valid():
        _fill(batch, form, request)
        return redirect("batches:fill", batch.pk)
    context = shown(batch, progress, "fill") | {
        "form": form,
        "packing": packing,
        "bottles": bottles,
        "any_bottle": bool(empty),
        "worries": worries(progress, batch.begun),
        "left_mL": left,
        "packed": [(one, *progress.poured_for(one.fill_mL)) for one in packing.fills] if packing else [],
        "fillings": batch.fillings.all(),
    }
    return render(request, "batches/fill.html", context)


def _fill(batch: Batch, form: FillForm, request: MakerRequest) -> None:
    data = form.cleaned_data
    try:
        with transaction.atomic():
            Filling.objects.create(
                batch=batch,
                by=request.user,
                vessel=data["vessel"],
                container=data["vessel"].name,
                count=data["count"],
                fill_mL=data["fill"].mL,
                key=data["key"],
            )
            resting = batch.state == State.RESTING
            batch.move_to(
                State.RESTING if resting else State.FILLED,
                request.user,
                f"Filled {data['count']} × {data['vessel'].name}, {data['fill']} each.",
            )
    except IntegrityError:
        return


def label(request: MakerRequest, pk: int) -> HttpResponse:
    """The label: choose a size, see it at true size, print it."""
    batch = find_batch(request, pk)
    progress = batch.progress()
    form = label_format(request.GET.get("size", ""))
    address = request.build_absolute_uri(reverse("batches:batch", args=[batch.pk]))
    asked = request.GET.get("size", "")
    context = shown(batch, progress, "label") | {"formats": FORMATS.values(), "form": form}
    if asked and asked not in FORMATS:
        context["unknown_size"] = asked[:40]
    fillings = list(batch.fillings.all())
    context |= {"fillings": fillings, "bottles": sum(filling.count for filling in fillings)}
    try:
        context["label"] = label_svg(label_of(batch, progress, fillings[-1] if fillings else None, address), form)
    except CannotReckon as error:
        context["trouble"] = str(error)
    return render(request, "batches/label.html", context)


def label_file(request: MakerRequest, pk: int, kind: str) -> HttpResponse:
    """The label as an SVG or PDF file; the PDF holds one for each bottle filled when asked for all."""
    batch = find_batch(request, pk)
    progress = batch.progress()
    form = label_format(request.GET.get("size", ""))
    address = request.build_absolute_uri(reverse("batches:batch", args=[batch.pk]))
    fillings = list(batch.fillings.all())
    try:
        if kind == "svg":
            last = fillings[-1] if fillings else None
            body: str | bytes = label_svg(label_of(batch, progress, last, address), form)
        else:
            labels = [label_of(batch, progress, filling, address) for filling in fillings for _ in range(filling.count)]
            if request.GET.get("all") != "1" or not labels:
                labels = [label_of(batch, progress, fillings[-1] if fillings else None, address)]
            body = label_pdf(labels[:500], form)
    except CannotReckon as error:
        messages.error(request, str(error))
        return redirect("batches:label", batch.pk)
    kinds = {"svg": "image/svg+xml", "pdf": "application/pdf"}
    response = HttpResponse(body, content_type=kinds[kind])
    response["Content-Disposition"] = f'inline; filename="label-{batch.code}.{kind}"'
    return response
