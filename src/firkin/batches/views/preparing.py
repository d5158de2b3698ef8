"""Before anything is poured: stocks and vessel picked, gathered, sanitised."""

from urllib.parse import urlencode

from django.contrib import messages
from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.batches.bottles import bottles_for
from firkin.batches.choosing import Stop, stop_for
from firkin.batches.forms import PrepareForm
from firkin.batches.making import Making
from firkin.batches.models import State
from firkin.batches.soap_curve import soap_curve
from firkin.batches.views.stages import find_batch, moved_on, say, shown
from firkin.core.audit import audit
from firkin.core.bench import EntryKind, cautions_for, gear_for
from firkin.core.catalogue import families
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Reckoning, reckon
from firkin.core.kitchen import Kitchen, in_kitchen
from firkin.core.measures import Quantity
from firkin.formulas.sure import rehearsed_page, sure_page
from firkin.shelf.models import kitchens_of


@once
def prepare(request: MakerRequest, pk: int) -> HttpResponse:
    """Pick stocks and vessel, gather, sanitise; ready stores it."""
    batch = find_batch(request, pk)
    making = Making(batch)
    chosen = {name: request.GET[name] for name in request.GET if name.startswith(("stock_", "vessel", "kitchen"))}
    form = PrepareForm(request.POST if request.method == "POST" else None, making=making, initial=chosen)
    if batch.state != State.PLANNED:
        return moved_on(request, batch)
    wanted = request.POST.get("fetch", "")
    if wanted in form.fields:
        return _fetch(request, making, wanted)
    if request.POST.get("smaller") and form.smaller is not None:
        return _smaller(request, making, form)
    if form.is_valid():
        stocks = form.stocks()
        kitchen = kitchens_of(batch.workshop).get(form.cleaned_data["kitchen"])
        try:
            formula, changed = making.with_stocks(stocks)
            stop = stop_for(making, formula, form.on_hand.values())
            fix = request.POST.get("fix", "")
            if stop is not None and fix in [str(place) for place in range(len(stop.changes))]:
                words, formula = stop.changes[int(fix)]
                changed = (*changed, f"Changed before it was begun: {words}")
            elif stop is not None and not form.cleaned_data["anyway"]:
                return _prepare(request, making, form, stop)
            if kitchen is not None:
                formula = in_kitchen(reckon(formula), kitchen).result.formula
            with transaction.atomic():
                was = batch.before(timezone.now(), formula=True)
                batch.vessel = form.cleaned_data["vessel"]
                batch.kitchen, batch.aim = form.cleaned_data["kitchen"], form.cleaned_data["aim"]
                batch.replan(formula, stocks)
                rounded = [f"Amounts rounded to these measures: {kitchen.name}."] if kitchen else []
                begins = " ".join(["Laid out and sanitised; making begins.", *rounded, *changed])
                batch.move_to(State.MAKING, request.user, begins, was)
                for words in changed:
                    messages.warning(request, words)
        except CannotReckon as error:
            form.add_error("kitchen" if error.path == ("make",) and kitchen else None, str(error))
        else:
            say(request, batch, "Laid out. Now make it.")
            return redirect("batches:make", batch.pk)
    return _prepare(request, making, form)


def _prepare(request: MakerRequest, making: Making, form: PrepareForm, stop: Stop | None = None) -> HttpResponse:
    """The page of what to gather, with what stands against the bottles that were chosen."""
    batch, progress = making.batch, making.progress
    bottles = bottles_for(batch, progress.to_fill_mL)
    context = shown(batch, progress, "prepare") | {
        "form": form,
        "stop": stop,
        "making_aims": len(making.aims) > 1,
        "gather": [
            (row, planned, form[name], form.warnings(row))
            for row, planned, name in zip(making.lines, progress.plan, form.stock_names, strict=True)
        ],
        "soap_curve": soap_curve(making, form.bar),
        "bottles": bottles,
        "packing": bottles.packing,
        "family": families()[batch.family],
        "gear": gear_for(progress.formula),
        "cautions": cautions_for(progress.formula),
        "findings": audit(_laid_out(making, kitchens_of(batch.workshop).get(batch.kitchen))),
    }
    return render(request, "batches/prepare.html", context)


def _smaller(request: MakerRequest, making: Making, form: PrepareForm) -> HttpResponse:
    """As much as the vessel that was chosen holds, with everything chosen so far."""
    batch, size = making.batch, form.smaller
    assert size is not None
    share = size.mL / making.progress.result.total.volume_mL
    with transaction.atomic():
        batch.freeze(making.progress.formula.scaled_to(_as_made(making.progress.formula, size, share)))
        batch.write(EntryKind.NOTE, request.user, text=f"Made smaller, to fit: {size.words}.")
    chosen = {name: value for name, value in request.POST.items() if name.startswith(("stock_", "vessel", "kitchen"))}
    return redirect(f"{request.path}?{urlencode({name: value for name, value in chosen.items() if value})}")


def _as_made(formula: Formula, size: Quantity, share: float) -> Quantity:
    """A size as the formula says its own: by volume, or by weight where it is made by weight."""
    make = formula.make
    return make.times(share) if make is not None else size


def _fetch(request: MakerRequest, making: Making, wanted: str) -> HttpResponse:
    """To the shelf for a bottle or a vessel that is not there yet, and back with everything chosen so far."""
    chosen = {name: value for name, value in request.POST.items() if name.startswith(("stock_", "vessel", "kitchen"))}
    chosen.pop(wanted, None)
    back = f"{request.path}?{urlencode({name: value for name, value in chosen.items() if value})}"
    asked = {"as": wanted, "back": back}
    if wanted == "vessel":
        return redirect(f"{reverse('shelf:add', args=['vessel'])}?{urlencode(asked | {'kind': 'mixing'})}")
    row = making.lines[int(wanted.removeprefix("stock_"))]
    name = making.progress.formula.lines[row.position].material.name
    asked |= {"material": name, "strength_text": str(row.strength or "")}
    return redirect(f"{reverse('shelf:add', args=['stock'])}?{urlencode(asked)}")


def _laid_out(making: Making, kitchen: Kitchen | None) -> Reckoning:
    """What will be made: rounded to the kitchen the batch is laid out with, where it can be."""
    exact = reckon(making.progress.formula)
    if kitchen is None:
        return exact
    try:
        return in_kitchen(exact, kitchen).result
    except CannotReckon:
        return exact


def sure(request: MakerRequest, pk: int) -> HttpResponse:
    """How sure the strength of this batch is with the tools chosen, out of the bottles it is made from."""
    batch = find_batch(request, pk)
    return sure_page(request, batch.formula(), str(batch), reverse("batches:batch", args=[pk]))


def rehearsed(request: MakerRequest, pk: int) -> HttpResponse:
    """This batch as it is planned, its size and its bottles, played through; nothing of it is kept."""
    batch = find_batch(request, pk)
    return rehearsed_page(request, batch.formula(), str(batch), reverse("batches:batch", args=[pk]))
