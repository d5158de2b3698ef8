"""Into bottles: what to fill, how far, what is left; and pouring them back."""

import uuid
from typing import Any

from django.contrib import messages
from django.db import IntegrityError, transaction
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.batches.bottles import bottles_for, empty_bottles, never_soaped
from firkin.batches.forms import FillForm, StarterForm
from firkin.batches.making import Making
from firkin.batches.models import STARTER_MATERIAL, Batch, Filling, State
from firkin.batches.views.stages import find_batch, moved_on, say, shown
from firkin.core.bench import EntryKind, Progress, below_its_line, left_to_fill, worries
from firkin.core.catalogue import families
from firkin.core.measures import amount_words
from firkin.core.questions import Bottle, Bottles, Container, look_of, pack
from firkin.core.use import BottleIs
from firkin.drawings.bottles import bottles as draw_bottles
from firkin.shelf.models import Stock, Vessel

#: What of a ferment is kept back is filled as, and stands on the shelf as.
STARTER = "Kept back as a starter"


def fill(request: MakerRequest, pk: int) -> HttpResponse:
    """Into bottles: what to fill, how far, what is left."""
    batch = find_batch(request, pk)
    if batch.state not in (State.RESTING, State.RELEASED, State.FILLED):
        return moved_on(request, batch)
    progress = batch.progress()
    if progress.unfinished:
        return moved_on(request, batch)
    fillings = list(batch.fillings.all())
    left = left_to_fill(progress, sum(filling.total_mL for filling in fillings))
    bottles = bottles_for(batch, left)
    packing, empty = bottles.packing, empty_bottles(request.workshop)
    initial: dict[str, Any] = {"key": uuid.uuid4()}
    first = packing.fills[0] if packing and packing.fills else None
    if first is not None:
        vessel = next(bottle for bottle, count in empty.items() if bottle.name == first.name and count)
        initial |= _filled(vessel, first.count, first.fill_mL)
    new = next((bottle for bottle in empty if str(bottle.pk) == request.GET.get("vessel", "")), None)
    if new is not None and left and empty[new]:  # fetched from the shelf just now
        of_it = pack(left, [Container(new.name, new.volume_mL, empty[new])], bottles.headspace_pct).fills[0]
        initial |= _filled(new, of_it.count, of_it.fill_mL)
    fails = below_its_line(progress.in_bottles)
    clean = never_soaped(request.workshop, empty) if families()[batch.family].rub else None
    form = FillForm(request.POST or None, left_mL=left, empty=empty, fails=fails, never_soaped=clean, initial=initial)
    if request.method == "POST" and form.is_valid():
        _fill(batch, form, request)
        return redirect("batches:label" if request.POST.get("then") == "label" else "batches:fill", batch.pk)
    context = shown(batch, progress, "fill") | {
        "form": form,
        "fails": fails,
        "promise": Making(batch).promise,
        "packing": packing,
        "bottles": bottles,
        "any_bottle": bool(empty),
        "worries": worries(progress, batch.begun),
        "left_mL": left,
        "starter_form": StarterForm(left_mL=left) if batch.family == "ferment" and left else None,
        "packed": [(one, *progress.poured_for(one.fill_mL)) for one in packing.fills] if packing else [],
        "fillings": fillings,
        "filled_drawn": _drawn(
            [(f.container, f.vessel.volume_mL, f.fill_mL, f.count) for f in fillings if f.vessel], _look_of(progress)
        ),
        "to_fill_drawn": _drawn(
            [(one.name, _brim(empty, one.name), one.fill_mL, one.count) for one in packing.fills] if packing else [],
            _look_of(progress),
        ),
    }
    return render(request, "batches/fill.html", context)


def _filled(vessel: Vessel, count: int, fill_mL: float) -> dict[str, object]:
    """The fields of the form for so many of one bottle."""
    return {"vessel": vessel.pk, "count": count, "fill": f"{fill_mL:.4g}"}


def _brim(empty: dict[Vessel, int], name: str) -> float:
    return next(bottle.volume_mL for bottle in empty if bottle.name == name)


def _look_of(progress: Progress) -> str:
    """The look of what is filled: that of what there is most of, water left out where anything else has one."""
    looks = {look_of(line.material.roles) for line in progress.formula.lines}
    return next((look for look in ("alcohol", "soap", "honey", "mist", "water") if look in looks), "plain")


def _drawn(rows: list[tuple[str, float, float, int]], look: str) -> str:
    """Bottles to scale, each filled to its mark; empty without one."""
    there = [row for row in rows if row[1] > 0.0]
    kinds = tuple(Bottle(name, brim_mL, min(fill_mL, brim_mL), count) for name, brim_mL, fill_mL, count in there)
    return draw_bottles(Bottles(kinds, 0.0, look)) if kinds else ""


def _fill(batch: Batch, form: FillForm, request: MakerRequest) -> None:
    data = form.cleaned_data
    known = f" Filled all the same: {form.fails}" if form.fails else ""
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
            here = empty_bottles(request.workshop).get(data["vessel"], 0)
            data["vessel"].wants_washing(min(0, here - data["vessel"].to_wash))  # what was filled was clean by then
            resting = batch.state == State.RESTING
            anew = " Its 72 hours count from now." if resting and batch.rest_from_filling() else ""
            batch.move_to(
                State.RESTING if resting else State.FILLED,
                request.user,
                f"Filled {data['count']} × {data['vessel'].name}, {data['fill']} each.{known}{anew}",
            )
    except IntegrityError:
        return


@require_POST
@once
def keep_starter(request: MakerRequest, pk: int) -> HttpResponse:
    """Keep some of a finished ferment back to start the next: out of the batch, and onto the shelf."""
    batch = find_batch(request, pk)
    progress = batch.progress()
    left = left_to_fill(progress, sum(filling.total_mL for filling in batch.fillings.all()))
    form = StarterForm(request.POST, left_mL=left)
    if batch.family != "ferment" or batch.state not in (State.RELEASED, State.FILLED):
        return moved_on(request, batch)
    if not form.is_valid():
        messages.error(request, " ".join(map(str, form.errors["amount"])))
        return redirect("batches:fill", batch.pk)
    amount = form.cleaned_data["amount"]
    with transaction.atomic():
        Filling.objects.create(batch=batch, by=request.user, container=STARTER, count=1, fill_mL=amount.mL)
        name = f"Starter from {batch.code}"
        stock = Stock(workshop=batch.workshop, material=STARTER_MATERIAL, name=name, lot=batch.code)
        stock.amount, stock.bought_on = amount, timezone.localdate()
        stock.save()
        batch.move_to(State.FILLED, request.user, f"{amount.words} kept back to start the next; on the shelf.")
    messages.success(request, f"{stock.name} is on the shelf: choose it when the next ferment is prepared.")
    return redirect("batches:fill", batch.pk)


@require_POST
def unfill(request: MakerRequest, pk: int, filling_pk: int) -> HttpResponse:
    """Take a filling back: the bottles are empty again, and the record keeps both."""
    batch = find_batch(request, pk)
    filling = get_object_or_404(Filling, pk=filling_pk, batch=batch)
    away = sum(one.place != BottleIs.STORE for one in filling.bottles.all())
    if away:
        messages.error(
            request,
            f"{away} of them {'is' if away == 1 else 'are'} not in the store any more. Say so at each bottle first.",
        )
    elif batch.state in (State.RESTING, State.RELEASED, State.FILLED):
        batch.take_back(filling, request.user)
        messages.success(request, f"{filling.count} × {filling.container} undone.")
    return redirect("batches:fill", batch.pk)


@require_POST
@once
def rest_gone(request: MakerRequest, pk: int) -> HttpResponse:
    """What is in no bottle is not kept: the batch waits for no more of them."""
    batch = find_batch(request, pk)
    filled = sum(filling.total_mL for filling in batch.fillings.all())
    left = left_to_fill(batch.progress(), filled)
    if batch.state != State.FILLED or not left:
        return moved_on(request, batch)
    with transaction.atomic():
        text = f"The rest was not kept: {amount_words(left)}."
        batch.write(EntryKind.NOTE, request.user, text=text, data={"gone_mL": left})
        Making(Batch.objects.get(pk=batch.pk)).put_right()
    say(request, batch, f"{amount_words(left)} is written off. Nothing is left to fill.")
    return redirect("batches:fill", batch.pk)
