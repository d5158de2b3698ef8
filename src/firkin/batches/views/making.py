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
from firkin.batches.forms import MeasuredForm, TickForm, TopUpByWeightForm, TopUpForm
from firkin.batches.making import Making
from firkin.batches.models import State
from firkin.batches.views.stages import find_batch, go, shown
from firkin.core.audit import audit
from firkin.core.bench import TaskKind, cautions_for, in_measures, in_own_unit, units_for
from firkin.core.formula import work_reckoning
from firkin.core.measures import figures
from firkin.drawings.sheet import rail_of, vessel_of
from firkin.shelf.models import kitchens_of


def make(request: MakerRequest, pk: int) -> HttpResponse:
    """One task at a time; each confirmed entry is stored at once."""
    batch = find_batch(request, pk)
    if batch.state != State.MAKING:
        return go(batch)
    making = Making(batch)
    progress = making.progress
    task = progress.task
    form: Any = None
    if request.method == "POST" and request.POST.get("act"):
        _act(making, request.POST["act"], request)
        return go(find_batch(request, pk))
    if request.method == "POST":
        form = _form_for(making, request.POST)
        if form is None:
            return redirect("batches:make", batch.pk)
        if form.is_valid():
            _confirm(making, form, request)
            return go(batch)
    elif task is not None:
        form = _form_for(making, None)
    deviation, at = making.deviation, task.line if task is not None else None
    kitchen = kitchens_of(batch.workshop).get(batch.kitchen)
    poured = task is not None and at is not None and task.kind is TaskKind.POUR
    context = shown(batch, progress, "make") | {
        "task": task,
        "form": form,
        "deviation": deviation,
        "in_measures": in_measures(progress, task, kitchen) if poured and kitchen and task else "",
        "kitchen": kitchen if poured else None,
        "deviation_name": progress.formula.lines[deviation.line].material.name if deviation else "",
        "own": in_own_unit(progress, task) if task and at is not None else None,
        "portion_g": progress.target_g(task) / task.portions if task and at is not None else None,
        "portion": progress.portion_target(task) if task and at is not None and task.portions > 1 else None,
        "choices": making.choices(deviation) if deviation else (),
        "portions_in": progress.portions_in(task) if task else 0,
        "timer_end": progress.timer_end(task) if task else None,
        "now": timezone.now(),
        "target": progress.target(task) if task and at is not None else None,
        "line": progress.formula.lines[at] if at is not None else None,
        "row": making.lines[at] if at is not None else None,
        "rail": rail_of(progress.result),
        "vessel": vessel_of(progress.result, batch.vessel.volume_mL if batch.vessel else None),
        "findings": audit(progress.result) if progress.measured else (),
        "working": work_reckoning(progress.result),
        "cautions": cautions_for(progress.formula),
        "key": uuid.uuid4(),
    }
    return render(request, "batches/make.html", context)


def _form_for(making: Making, data: Any) -> MeasuredForm | TickForm | None:
    """The form of the task at hand; None when ``data`` answers another one (a second tab, a double press)."""
    task = making.progress.task
    if task is None or (data is not None and data.get("task") != str(making.progress.turn)):
        return None
    initial: dict[str, Any] = {"key": uuid.uuid4(), "task": making.progress.turn}
    if task.line is None:
        return TickForm(data, initial=initial)
    asked = in_own_unit(making.progress, task) or making.progress.target(task)
    initial |= {"amount": figures(asked.value), "unit": asked.unit}
    units = units_for(making.progress, task)
    if task.kind is not TaskKind.TOP_UP:
        return MeasuredForm(data, initial=initial, units=units)
    by_weight = making.progress.target(task).kind == "mass"
    return (TopUpByWeightForm if by_weight else TopUpForm)(data, initial=initial, units=units)


def _confirm(making: Making, form: MeasuredForm | TickForm, request: MakerRequest) -> None:
    """Store the entry of a task; the same key a second time changes nothing."""
    task, key = making.progress.task, form.cleaned_data["key"]
    assert task is not None
    try:
        with transaction.atomic():
            if task.line is not None:
                making.measure(task, form.cleaned_data["amount"], request.user, key)
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
    return redirect("batches:make", batch.pk)
