"""A batch's pages, one for each stage, and its journal."""

import uuid
from typing import Any
from urllib.parse import urlencode

from django.contrib import messages
from django.db import IntegrityError, transaction
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.batches.bottles import bottles_for
from firkin.batches.forms import (
    MeasuredForm,
    NoteForm,
    PrepareForm,
    ReleaseForm,
    StartForm,
    TickForm,
    TopUpByWeightForm,
    TopUpForm,
)
from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.audit import audit
from firkin.core.bench import EntryKind, Kitchen, Progress, TaskKind, cautions_for, gear_for, in_kitchen, in_measures
from firkin.core.errors import CannotReckon
from firkin.core.formula import Reckoning, house_formulas, reckon, work_reckoning
from firkin.drawings.sheet import rail_of, vessel_of
from firkin.drawings.timeline import Rest, time_line
from firkin.formulas.models import Formula, FormulaVersion
from firkin.shelf.models import kitchens_of

_STAGE_OF_STATE = {
    State.PLANNED: "batches:prepare",
    State.MAKING: "batches:make",
    State.RESTING: "batches:wait",
    State.RELEASED: "batches:fill",
    State.FILLED: "batches:label",
    State.USED: "batches:record",
    State.DISCARDED: "batches:record",
}


def find_batch(request: MakerRequest, pk: int) -> Batch:
    """The batch: whole for a page that shows it; what is sent to it asks for no more than it needs."""
    batches = Batch.objects.select_related("vessel") if request.method == "POST" else Batch.objects.whole()
    batch = get_object_or_404(batches, pk=pk, workshop=request.workshop)
    batch.workshop = request.workshop
    return batch


def go(batch: Batch) -> HttpResponse:
    """To the page of the stage the batch is in."""
    return redirect(_STAGE_OF_STATE[State(batch.state)], batch.pk)


def shown(batch: Batch, progress: Progress, stage: str) -> dict[str, Any]:
    """What every stage's page shows."""
    return {"batch": batch, "progress": progress, "stage": stage, "result": progress.result}


def batch_list(request: MakerRequest) -> HttpResponse:
    """All batches, newest first."""
    batches = Batch.objects.filter(workshop=request.workshop)[:200]
    return render(request, "batches/list.html", {"batches": batches})


@require_POST
def start(request: MakerRequest) -> HttpResponse:
    """Start a batch of a formula at a size."""
    form = StartForm(request.POST)
    if not form.is_valid():
        messages.error(request, "Open a formula and say how much to make, such as 1.5 L.")
        return redirect("formulas:book")
    version = _version(request, form.cleaned_data)
    try:
        formula = version.as_core().scaled_to(form.cleaned_data["make"])
        batch = Batch.objects.start(version, formula, request.user, form.cleaned_data["kitchen"])
    except CannotReckon as error:
        messages.error(request, str(error))
        return redirect("formulas:sheet", version.formula_id)
    return redirect("batches:prepare", batch.pk)


def _version(request: MakerRequest, asked: dict[str, Any]) -> FormulaVersion:
    """The version of one's own formula that is asked for, or one's own copy of a house formula."""
    if asked["version"] is not None:
        return get_object_or_404(FormulaVersion, pk=asked["version"], formula__workshop=request.workshop)
    house = house_formulas().get(asked["house"])
    if house is None:
        raise Http404
    return Formula.objects.of_house(house, request.workshop, request.user)


def batch(request: MakerRequest, pk: int) -> HttpResponse:
    """The address of a batch: to the stage it is in."""
    return go(find_batch(request, pk))


def prepare(request: MakerRequest, pk: int) -> HttpResponse:
    """Pick stocks and vessel, gather, sanitise; ready stores it."""
    batch = find_batch(request, pk)
    making = Making(batch)
    chosen = {name: request.GET[name] for name in request.GET if name.startswith(("stock_", "vessel", "kitchen"))}
    form = PrepareForm(request.POST if request.method == "POST" else None, making=making, initial=chosen)
    if batch.state != State.PLANNED:
        return go(batch)
    wanted = request.POST.get("fetch", "")
    if wanted in form.fields:
        return _fetch(request, making, wanted)
    if form.is_valid():
        stocks = form.stocks()
        kitchen = kitchens_of(batch.workshop).get(form.cleaned_data["kitchen"])
        try:
            formula = making.with_stocks(stocks)
            if kitchen is not None:
                formula = in_kitchen(reckon(formula), kitchen).result.formula
            with transaction.atomic():
                batch.vessel = form.cleaned_data["vessel"]
                batch.kitchen = form.cleaned_data["kitchen"]
                batch.replan(formula, stocks)
                rounded = f" Amounts rounded to these measures: {kitchen.name}." if kitchen else ""
                batch.move_to(State.MAKING, request.user, f"Laid out and sanitised; making begins.{rounded}")
        except CannotReckon as error:
            form.add_error("kitchen" if error.path == ("make",) and kitchen else None, str(error))
        else:
            return redirect("batches:make", batch.pk)
    progress = making.progress
    bottles = bottles_for(batch, progress.to_fill_mL)
    context = shown(batch, progress, "prepare") | {
        "form": form,
        "gather": [
            (row, planned, form[name], form.warnings(row))
            for row, planned, name in zip(making.lines, progress.plan, form.stock_names, strict=True)
        ],
        "bottles": bottles,
        "packing": bottles.packing,
        "gear": gear_for(progress.formula),
        "cautions": cautions_for(progress.formula),
        "findings": audit(_laid_out(making, kitchens_of(batch.workshop).get(batch.kitchen))),
    }
    return render(request, "batches/prepare.html", context)


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
    initial["amount"] = making.progress.target(task).words.split(" (")[0]
    if task.kind is not TaskKind.TOP_UP:
        return MeasuredForm(data, initial=initial)
    by_weight = making.progress.target(task).kind == "mass"
    return (TopUpByWeightForm if by_weight else TopUpForm)(data, initial=initial)


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


def wait(request: MakerRequest, pk: int) -> HttpResponse:
    """At rest until the hour it is free; releasing early needs a reason."""
    batch = find_batch(request, pk)
    running = batch.current_wait()
    if batch.state != State.RESTING or running is None:
        return go(batch)
    making = Making(batch)
    form = ReleaseForm(request.POST if request.method == "POST" else None)
    if request.method == "POST" and form.is_valid():
        try:
            batch.release(request.user, form.cleaned_data["reason"], unfinished=making.progress.unfinished)
        except CannotReckon as error:
            form.add_error("reason", str(error))
        else:
            return go(batch)
    now = timezone.now()
    left = (running.free_at - now).total_seconds() / 3600
    start = (running.started_at - now).total_seconds() / 3600
    stave = Rest(batch.name, running.get_kind_display(), start, left, free_words(running.free_at))
    context = shown(batch, making.progress, "wait") | {
        "wait": running,
        "form": form,
        "hours_left": left,
        "dues": batch.dues.filter(answered_at=None)[:6],
        "now": now,
        "time_line": time_line([stave]),
        "cautions": cautions_for(batch.formula()),
    }
    return render(request, "batches/wait.html", context)


def free_words(moment: Any) -> str:
    """The hour something is free, in the workshop's time zone."""
    return f"free {timezone.localtime(moment):%a %-d %b, %H:%M}"


@require_POST
def end(request: MakerRequest, pk: int) -> HttpResponse:
    """Used up or poured away: the end of a batch, with what there is to say about it."""
    batch = find_batch(request, pk)
    state = {"used": State.USED, "discarded": State.DISCARDED}.get(request.POST.get("end", ""))
    if state is not None and batch.state not in (State.USED, State.DISCARDED):
        words = "Used up" if state == State.USED else "Poured away"
        note = request.POST.get("note", "").strip()[:250]
        batch.end(state, request.user, f"{words}: {note}" if note else f"{words}.")
        messages.success(request, f"Batch {batch.code} is marked {state.label}.")
    return redirect("batches:record", batch.pk)


def record(request: MakerRequest, pk: int) -> HttpResponse:
    """The journal: every entry in order, amounts planned and measured, notes at any time."""
    batch = find_batch(request, pk)
    making = Making(batch)
    form = NoteForm(request.POST or None, initial={"key": uuid.uuid4()})
    if request.method == "POST" and form.is_valid():
        key = form.cleaned_data["key"]
        if not batch.entries.filter(key=key).exists():
            batch.write(EntryKind.NOTE, request.user, text=form.cleaned_data["text"], key=key)
        return redirect("batches:record", batch.pk)
    context = shown(batch, making.progress, "record") | {
        "form": form,
        "entries": batch.entries.select_related("by", "line", "undone_by"),
        "rows": making.rows(),
        "waits": batch.waits.all(),
        "fillings": batch.fillings.all(),
        "rail": rail_of(making.progress.result),
    }
    return render(request, "batches/record.html", context)
