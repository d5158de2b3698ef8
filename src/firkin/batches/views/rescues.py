"""Something went wrong: amounts where there are amounts, advice where there are none."""

import uuid

from django.db import IntegrityError, transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render

from firkin.accounts.middleware import MakerRequest
from firkin.batches.forms import RescueForm
from firkin.batches.making import Making
from firkin.batches.models import State
from firkin.batches.soap_curve import soap_curve
from firkin.batches.views.stages import find_batch, moved_on, say, shown
from firkin.core.bench import EntryKind
from firkin.core.catalogue import families
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula
from firkin.core.measures import Strength
from firkin.core.mending import ANY_BATCH, TROUBLES, Offer, offer
from firkin.shelf.models import Stock
from firkin.shelf.on_hand import only_bottle


def rescue(request: MakerRequest, pk: int) -> HttpResponse:
    """Choose the trouble, see what would help and what it comes to, and make it part of the batch."""
    batch = find_batch(request, pk)
    if batch.state in (State.PLANNED, State.USED, State.DISCARDED):
        return moved_on(request, batch)
    making = Making(batch)
    asked = request.POST if request.method == "POST" else request.GET
    curve = soap_curve(making)
    worked = {"soap": f"{curve.curve.suggested:.2g}"} if curve is not None and curve.curve.made else {}
    worked |= {"aim": making.aim.key} if making.aim is not None else {}
    form = RescueForm({**worked, **asked.dict()} if "trouble" in asked else None, making=making)
    context = shown(batch, making.progress, "rescue") | {"form": form, "key": uuid.uuid4(), "soap_curve": curve}
    usual = tuple(dict.fromkeys((*families()[batch.family].troubles, *ANY_BATCH)))
    context["troubles"] = [(trouble, TROUBLES[trouble]) for trouble in usual]
    context["others"] = [(trouble, words) for trouble, words in TROUBLES.items() if trouble not in usual]
    context["filled_mL"] = sum(filling.total_mL for filling in batch.fillings.all())
    if form.is_valid():
        try:
            found = offer(form.cleaned_data["trouble"], making.progress, form.seen(), batch.hours_left())
            context |= {"rescue": found.help, "trouble_words": TROUBLES[found.help.trouble], "after": found.result}
            context |= {"then": found.then, "sets_off": found.sets_off}
            if request.method == "POST":
                _do(request, making, found, form.cleaned_data["now"], form.cleaned_data["stock"])
                say(request, batch, "The fix is written down.")
                return redirect("batches:batch", batch.pk)
        except CannotReckon as error:
            form.add_error(
                {"stock": "stock", "mass": "mass", "soap": "soap"}.get(str(error.path[0]) if error.path else ""),
                str(error),
            )
            context.pop("rescue", None)
    return render(request, "batches/rescue.html", context)


def _do(request: MakerRequest, making: Making, found: Offer, now: Strength | None, stock: Stock | None) -> None:
    """Write the rescue down once; what is to be added becomes steps of the batch."""
    batch = making.batch
    try:
        key = uuid.UUID(request.POST.get("key", ""))
    except ValueError:
        return
    measured = f" It measured {now}." if now is not None else ""
    trouble = TROUBLES[found.help.trouble]
    text = f"{trouble}.{measured} {' '.join(found.help.advice)}"
    try:
        with transaction.atomic():
            if found.formula is not None:
                making.leave_out_what_has_no_room(request.user)
            batch.write(EntryKind.RESCUE, request.user, text=text, data=found.data, key=key)
            if found.formula is not None:
                stocks = _bottles(making, found.formula, stock)
                batch.amend(found.formula, request.user, f"A fix begins: {trouble.lower()}.", stocks)
    except IntegrityError:
        return


def _bottles(making: Making, formula: Formula, chosen: Stock | None) -> dict[int, Stock]:
    """Out of which bottle each line that a fix adds is: the one chosen for it, or the only one on the shelf."""
    known, found = len(making.lines), {}
    for place, line in list(enumerate(formula.lines))[known:]:
        fits = chosen is not None and chosen.material == line.material.written
        stock = chosen if fits else only_bottle(making.batch.workshop, line)
        if stock is not None:
            found[place] = stock
    return found
