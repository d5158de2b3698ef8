"""Making it: one task at a time; each confirmed entry is stored at once."""

import uuid
from typing import Any

from django.contrib import messages
from django.db import IntegrityError, transaction
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.batches.forms import (
    DoseForm,
    EmptyForm,
    ExtraForm,
    MeasuredForm,
    TickForm,
)
from firkin.batches.instruments import instruments_of
from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.batches.undoing import undoable
from firkin.batches.views.at_hand import at_hand, dose_form, form_for
from firkin.batches.views.slips import show_really
from firkin.batches.views.stages import find_batch, go, moved_on, say, say_stale, shown
from firkin.core.audit import Finding, Severity, audit
from firkin.core.bench import (
    BY_MOLE,
    NEUTRALISED,
    Insight,
    Progress,
    Task,
    TaskKind,
    approach_of,
    cautions_now,
    insights,
    left_out,
    left_standing,
    ph_within,
    so_far,
)
from firkin.core.errors import CannotReckon
from firkin.core.formula import overflows
from firkin.core.measures import amount_words, figures
from firkin.drawings.pictures import with_drawings
from firkin.drawings.sheet import rail_of, vessel_of
from firkin.shelf.models import own_materials
from firkin.ui.fields import material_choices


def make(request: MakerRequest, pk: int) -> HttpResponse:
    """One task at a time; each confirmed entry is stored at once."""
    batch = find_batch(request, pk)
    if batch.state != State.MAKING:
        return moved_on(request, batch)
    making = Making(batch)
    progress = making.progress
    task = progress.task
    form: Any = None
    dose: DoseForm | None = None
    if request.POST.get("act") == "dose" and task is not None:
        dose = _dose(making, request)
        if dose is None:
            return redirect("batches:make", batch.pk)
    elif request.method == "POST" and request.POST.get("act"):
        _act(making, request.POST["act"], request)
        return _go_on(request, making.batch)
    if request.method == "POST" and dose is None:
        form = form_for(making, request.POST)
        if form is None:
            say_stale(request, batch)
            return redirect("batches:make", batch.pk)
        if form.is_valid():
            _confirm(making, form, request)
            return _go_on(request, making.batch)
    elif task is not None:
        form = form_for(making, None)
    return _make(request, making, form=form, dose=dose)


def _go_on(request: MakerRequest, batch: Batch) -> HttpResponse:
    """To the next task, or to the stage that comes once it is made: that press can be undone too."""
    last = undoable(batch) if batch.state != State.MAKING else None
    if last is not None:
        say(request, batch, last.text)
    return go(batch)


def _make(
    request: MakerRequest,
    making: Making,
    *,
    form: MeasuredForm | TickForm | None = None,
    dose: DoseForm | None = None,
    extra: ExtraForm | None = None,
) -> HttpResponse:
    """The page of the task at hand, with the forms as they were filled in."""
    batch, progress = making.batch, making.progress
    task = progress.task
    if form is None and task is not None:
        form = form_for(making, None)
    deviation = making.deviation
    context = shown(batch, progress, "make") | {
        "deviation": deviation,
        "deviation_name": progress.formula.lines[deviation.line].material.name if deviation else "",
        "choices": [(one, making.short_of(one.result)) for one in making.choices(deviation)] if deviation else (),
        "now": timezone.now(),
        "standing": left_standing(progress, timezone.now()),
        "key": uuid.uuid4(),
        "extra": extra or ExtraForm(initial={"key": uuid.uuid4()}, auto_id="extra_%s"),
        "materials": material_choices(),
        "may_pour": instruments_of(request.user.pk).may_read("mass", request.workshop),
        "empty_form": EmptyForm(initial={"key": uuid.uuid4()}),
        **_as_it_stands(making),
    }
    if task is not None:
        context |= at_hand(making, task, form, dose).shown
    return render(request, "batches/make.html", context)


def _as_it_stands(making: Making) -> dict[str, object]:
    """What the batch comes to by now: beside whatever task is at hand."""
    batch, progress = making.batch, making.progress
    now, read = cautions_now(progress)
    return {
        "rail": rail_of(progress.result),
        "vessel": vessel_of(progress.result, batch.vessel.volume_mL if batch.vessel else None),
        "insights": with_drawings(_insights(progress, progress.task)),
        "findings": _findings(progress),
        "cautions": now,
        "cautions_read": read,
        "left_out": left_out(progress),
        "too_small": _too_small(batch, progress),
        "promise": making.promise if progress.measured else "",
    }


def _too_small(batch: Batch, progress: Progress) -> str:
    """A sentence where what it comes to by now is more than its vessel holds; said at once."""
    vessel = batch.vessel
    if vessel is None or not overflows(progress.result.total.volume_mL, vessel.volume_mL):
        return ""
    comes_to, holds = progress.result.total.volume_mL, amount_words(vessel.volume_mL)
    return f"{vessel.name} holds {holds}, and this comes to {amount_words(comes_to)}. Go on in a larger one."


def _insights(progress: Progress, task: Task | None) -> tuple[Insight, ...]:
    """What its family is looked at for: by what is in by now while doses go in, and for the whole as it stands."""
    now = so_far(progress, task) if task is not None else None
    read = ph_within(progress) is not None  # what was measured counts more than what was worked out
    worked = [one for one in insights(progress.result) if not (read and one.title == NEUTRALISED)]
    return (*([now] if now is not None else []), *worked)


def _findings(progress: Progress) -> tuple[Finding, ...]:
    """What is wrong with the batch as it stands; a pH that was read answers what is worked out by mole."""
    found = audit(progress.result) if progress.measured else ()
    return tuple(one for one in found if not (one.rule in BY_MOLE and ph_within(progress) is not None))


def _dose(making: Making, request: MakerRequest) -> DoseForm | None:
    """Store one small addition; its form back where something in it is wrong."""
    task = making.progress.task
    approach = approach_of(making.progress, task) if task is not None else None
    if task is None or approach is None or request.POST.get("task") != str(making.progress.turn):
        say_stale(request, making.batch)
        return None
    form = dose_form(making, approach, request.POST)
    if not form.is_valid():
        return form
    try:
        making.dose(task, form.cleaned_data["amount"], form.read(), request.user, form.cleaned_data["key"])
    except IntegrityError:
        return None
    return None


@require_POST
def besides(request: MakerRequest, pk: int) -> HttpResponse:
    """I also put in ...: a line of this batch, at the task at hand."""
    batch = find_batch(request, pk)
    form = ExtraForm(request.POST)
    if batch.state in (State.PLANNED, State.USED, State.DISCARDED):
        return moved_on(request, batch)
    making = Making(batch)
    if not form.is_valid():
        return _besides(request, making, form)
    before = {finding.rule for finding in audit(making.progress.result)}
    try:
        line = form.line(batch.workshop, own_materials(batch.workshop_id))
        if form.asks_again(line, making.progress.result):
            return _besides(request, making, form)
        stock = form.stock(batch.workshop, line)
        progress = making.put_in_besides(line, request.user, form.cleaned_data["key"], stock)
    except CannotReckon as error:
        form.add_error("strength" if "strength" in str(error) else "amount", str(error))
        return _besides(request, making, form)
    except IntegrityError:  # pressed twice
        return redirect("batches:make", pk)
    for finding in audit(progress.result):
        if finding.rule not in before and finding.severity is Severity.STOP:
            messages.error(request, f"{finding.text} {finding.fix}")
    return redirect("batches:make", pk)


def _besides(request: MakerRequest, making: Making, form: ExtraForm) -> HttpResponse:
    """The page it was pressed on, with the form as it was filled in: the task at hand, or what really went in."""
    if making.batch.state == State.MAKING:
        return _make(request, making, extra=form)
    return show_really(request, making, extra=form)


@require_POST
def weigh_empty(request: MakerRequest, pk: int) -> HttpResponse:
    """The empty weight of the vessel it is made in: asked once, kept with the vessel."""
    batch = find_batch(request, pk)
    form = EmptyForm(request.POST)
    if batch.vessel is None:
        return redirect("batches:make", pk)
    if form.is_valid():
        batch.vessel.empty_g = form.cleaned_data["empty"].g
        batch.vessel.save(update_fields=["empty_g"])
        messages.success(request, f"{batch.vessel.name} weighs {figures(batch.vessel.empty_g)} g empty.")
    else:
        messages.error(request, " ".join(map(str, form.errors["empty"])))
    return redirect("batches:make", pk)


def _confirm(making: Making, form: MeasuredForm | TickForm, request: MakerRequest) -> None:
    """Store the entry of a task; the same key a second time changes nothing."""
    task, key = making.progress.task, form.cleaned_data["key"]
    assert task is not None
    try:
        with transaction.atomic():
            if task.line is not None:
                shown = request.POST.get("simulated") == "on"
                making.measure(task, form.cleaned_data["amount"], request.user, key, simulated=shown)
                stock = making.lines[task.line].stock
                if stock is not None and stock.overdrawn:
                    messages.warning(request, stock.overdrawn)
            elif task.kind is TaskKind.WAIT:
                making.begin_wait(task, request.user, key)
            else:
                making.tick(task, request.user, key)
    except IntegrityError:
        return


def _act(making: Making, act: str, request: MakerRequest) -> None:
    """Store what is confirmed beside the task's own amount: an addition, a timer, a decision."""
    task = making.progress.task
    try:
        key = uuid.UUID(request.POST.get("key", ""))
    except ValueError:
        return
    if task is not None and request.POST.get("task") not in (None, str(making.progress.turn)):
        say_stale(request, making.batch)
        return
    try:
        with transaction.atomic():
            if act == "portion" and task is not None and making.progress.portions_in(task) < task.portions - 1:
                making.portion(task, request.user, key)
            elif act == "timer" and task is not None:
                making.start_timer(task, request.user, key)
            elif act in ("accept", "add", "scale"):
                making.decide(act, request.user, key)
    except IntegrityError:
        return


@require_POST
def undo(request: MakerRequest, pk: int) -> HttpResponse:
    """Take back the last thing confirmed while making; the record keeps both."""
    batch = find_batch(request, pk)
    making = Making(batch)
    last = making.progress.last
    if batch.state == State.MAKING and last is not None and request.POST.get("entry") == str(last.number):
        making.take_back(last, request.user)
    else:
        messages.error(request, "Nothing was undone: something was added after this page was opened.")
    return redirect("batches:make", batch.pk)
