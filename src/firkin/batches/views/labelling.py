"""What bottles say: one label at true size, and sheets of labels for several batches."""

import uuid

from django.contrib import messages
from django.db import IntegrityError, transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from firkin.accounts.middleware import MakerRequest
from firkin.batches.forms import MOST_LABELS, LabelForm, SheetForm
from firkin.batches.labels import choices_of, label_format, label_of, numbered
from firkin.batches.models import Batch, Filling, bottles_of
from firkin.batches.views.stages import find_batch, shown
from firkin.core.bench import EntryKind, Progress
from firkin.core.errors import CannotReckon
from firkin.drawings.label import FORMATS, LabelText, label_pdf, label_svg
from firkin.ui.lists import page_of

#: So many batches stand on a page that prints sheets.
A_SHEET_PAGE = 40


def _address(request: MakerRequest, batch: Batch, number: int = 0) -> str:
    """Where the label's code leads: to the bottle of a number, or the batch; nowhere without an address of ours."""
    there = request.workshop.address.rstrip("/")
    page = reverse("use:bottle", args=[batch.pk, number]) if number else reverse("batches:batch", args=[batch.pk])
    return f"{there}{page}" if there else ""


def _labels(request: MakerRequest, batch: Batch, progress: Progress, count: int) -> list[LabelText]:
    """So many labels of a batch: one for each bottle in order, with its number; for more, without one."""
    bottles = bottles_of(batch)
    fillings = list(batch.fillings.all())
    of: list[tuple[Filling | None, int]] = [(one.filling, one.number) for one in bottles]
    last = fillings[-1] if fillings else None
    of = [*of[:count], *[(last, 0)] * (count - len(of))]
    made: dict[int | None, LabelText] = {}
    labels = []
    for filling, number in of:
        key = filling.pk if filling else None
        if key not in made:
            made[key] = label_of(batch, progress, filling, _address(request, batch))
        labels.append(numbered(made[key], batch, number, _address(request, batch, number)))
    return labels


def label(request: MakerRequest, pk: int) -> HttpResponse:
    """The label: choose a size, see it at true size, put one's own words on it, print it."""
    batch = find_batch(request, pk)
    progress = batch.progress()
    asked = request.GET.get("size", "")
    size, chosen = label_format(asked), choices_of(batch, progress)
    initial = {"words": chosen.words, "opened": chosen.opened, "key": uuid.uuid4()}
    words = LabelForm(request.POST if request.method == "POST" else None, initial=initial, label_suffix="")
    if words.is_bound and words.is_valid():
        _keep_words(batch, words, request)
        return redirect(f"{request.path}?size={size.id}")
    context = shown(batch, progress, "label") | {"formats": FORMATS.values(), "form": size, "words_form": words}
    if asked and asked not in FORMATS:
        context["unknown_size"] = asked[:40]
    fillings = list(batch.fillings.all())
    context |= {"fillings": fillings, "bottles": sum(filling.count for filling in fillings)}
    try:
        last = fillings[-1] if fillings else None
        context["label"] = label_svg(label_of(batch, progress, last, _address(request, batch)), size)
    except CannotReckon as error:
        context["trouble"] = str(error)
    return render(request, "batches/label.html", context)


def _keep_words(batch: Batch, form: LabelForm, request: MakerRequest) -> None:
    words = " ".join(form.cleaned_data["words"].split())
    data = {"label_words": words, "opened": form.cleaned_data["opened"]}
    try:
        with transaction.atomic():
            text = f"The label says: {words}" if words else "The label says nothing of its own."
            batch.write(EntryKind.NOTE, request.user, text=text, data=data, key=form.cleaned_data["key"])
    except IntegrityError:
        return


def label_file(request: MakerRequest, pk: int, kind: str) -> HttpResponse:
    """The label as an SVG or PDF file; the PDF holds one for each bottle filled when asked for all."""
    batch = find_batch(request, pk)
    if batch.bad_since:
        messages.error(request, f"{batch.code} is marked as bad: it prints no labels.")
        return redirect("batches:label", batch.pk)
    progress, size = batch.progress(), label_format(request.GET.get("size", ""))
    bottles = sum(filling.count for filling in batch.fillings.all())
    try:
        if kind == "svg":
            fillings = list(batch.fillings.all())
            last = fillings[-1] if fillings else None
            return _file(label_svg(label_of(batch, progress, last, _address(request, batch)), size), batch.code, kind)
        whole = request.GET.get("all") == "1" and bottles
        labels = _labels(request, batch, progress, min(bottles, MOST_LABELS) if whole else 1)
        return _file(label_pdf(labels, size), batch.code, kind)
    except CannotReckon as error:
        messages.error(request, str(error))
        return redirect("batches:label", batch.pk)


def _file(body: str | bytes, name: str, kind: str) -> HttpResponse:
    types = {"svg": "image/svg+xml", "pdf": "application/pdf"}
    response = HttpResponse(body, content_type=types[kind])
    response["Content-Disposition"] = f'inline; filename="label-{name}.{kind}"'
    return response


def sheets(request: MakerRequest) -> HttpResponse:
    """Sheets of labels: how many of which batches, on what, from which place of the first sheet on."""
    with_bottles = Batch.objects.filter(workshop=request.workshop, fillings__taken_back_at=None, fillings__isnull=False)
    there = with_bottles.filter(bad_since=None).exclude(state__in=("used", "discarded")).distinct().whole()
    page = page_of(there, request.GET, A_SHEET_PAGE)
    batches = list(page["page"])
    form = SheetForm(request.GET if "size" in request.GET else None, batches=batches)
    if form.is_bound and form.is_valid():
        size = FORMATS[form.cleaned_data["size"]]
        labels: list[LabelText] = []
        try:
            for batch, count in form.counts():
                batch.workshop = request.workshop
                labels += _labels(request, batch, batch.progress(), count)
            return _file(label_pdf(labels, size, form.cleaned_data["start"]), "sheets", "pdf")
        except CannotReckon as error:
            form.add_error("size", str(error))
    return render(request, "batches/label_sheets.html", {"form": form, "batches": batches, **page})
