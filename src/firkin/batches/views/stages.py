"""A batch's pages, one for each stage, and its journal."""

import uuid
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.batches.costs import cost_of_batch
from firkin.batches.fermenting import over_the_weeks
from firkin.batches.forms import (
    NoteForm,
    ReleaseForm,
    StartForm,
)
from firkin.batches.listing import BatchListForm
from firkin.batches.making import Making
from firkin.batches.models import FILLING_H, Batch, Entry, State
from firkin.batches.record import record_pdf
from firkin.batches.undoing import undo, undoable
from firkin.core.bench import EntryKind, Progress, cautions_now, left_out, left_to_fill
from firkin.core.errors import CannotReckon
from firkin.core.formula import house_formulas
from firkin.drawings.rest_days import DaysOfRest, rest_days
from firkin.drawings.sheet import rail_of
from firkin.formulas.models import Formula, FormulaVersion
from firkin.shelf.costs import costs_of_a_dose
from firkin.ui.lists import page_of

#: Entries that say another thing than what was believed when bottles were filled.
CORRECTIONS = (EntryKind.BOTTLE, EntryKind.LEFT_OUT)
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


def say(request: MakerRequest, batch: Batch, text: str) -> None:
    """Say what was done, with an Undo beside it while nothing rests on it."""
    entry = undoable(batch)
    undo_at = reverse("batches:undo_last", args=[batch.pk, entry.pk]) if entry is not None else ""
    messages.success(request, text, extra_tags=undo_at)


def say_stale(request: MakerRequest, batch: Batch) -> None:
    """Say that a press was of a page older than the batch, and what was done since; of two quick ones no word."""
    try:
        known = batch.entries.filter(key=uuid.UUID(request.POST.get("key", ""))).exists()
    except ValueError:
        known = False
    if not known:
        messages.error(request, f"Not stored: {_done_since(request, batch)}")


def _done_since(request: MakerRequest, batch: Batch) -> str:
    """What was written in place of a press that came too late: by whom, and when."""
    moved_on_words = "the batch has moved on since that page was loaded."
    same = _of_its_task(request.POST.get("task", ""), batch)
    done = same or batch.entries.order_by("-pk").first()
    if done is None:
        return moved_on_words
    amount = f" {done.amount.words}" if done.amount_value is not None else ""
    by = "you" if done.by_id == request.user.pk else done.author or "somebody"
    at = timezone.localtime(done.at)
    when = f"{at:%H:%M}" if at.date() == timezone.localdate() else f"{at:%-d %b, %H:%M}"
    what = f"{done.text.rstrip('.')}{amount}"
    if same is not None:
        return f"{by} did this already at {when} ({what})."
    return f"{moved_on_words} Last, at {when} by {by}: {what}."


def _of_its_task(turn: str, batch: Batch) -> Entry | None:
    """The entry that did the task a page asked for; None where it cannot be told."""
    progress = batch.progress()
    if not (turn.isascii() and turn.isdigit() and len(turn) < 9) or not progress.tasks:
        return None
    task = progress.tasks[int(turn) % len(progress.tasks)]
    if task.line is not None:
        done = progress.measured.get(task.line) or progress.left_out.get(task.line)
    else:
        done = next((one for one in progress.standing if one.line is None and one.step == task.step), None)
    return None if done is None else batch.entries.filter(pk=done.number).first()


def moved_on(request: MakerRequest, batch: Batch) -> HttpResponse:
    """To the stage the batch is in by now; a press that comes too late is told so."""
    if request.method == "POST":
        say_stale(request, batch)
    return go(batch)


@require_POST
def undo_last(request: MakerRequest, pk: int, number: int) -> HttpResponse:
    """Take back what was pressed last; refused once something was written after it."""
    batch = find_batch(request, pk)
    entry = undo(batch, number, request.user)
    if entry is None:
        messages.error(request, "That can't be undone: something was added after it.")
    else:
        messages.success(request, f"Undone: {entry.text}")
    return go(batch) if entry is not None and entry.kind == EntryKind.STATE else redirect("batches:record", batch.pk)


def batch_list(request: MakerRequest) -> HttpResponse:
    """All batches, a page at a time: found, filtered and sorted as asked."""
    form = BatchListForm(request.GET)
    found = form.found(Batch.objects.filter(workshop=request.workshop))
    return render(request, "batches/list.html", {"form": form, **page_of(found, request.GET)})


@require_POST
@once
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


@once
def wait(request: MakerRequest, pk: int) -> HttpResponse:
    """At rest until the hour it is free; releasing early needs a reason."""
    batch = find_batch(request, pk)
    running = batch.current_wait()
    if batch.state != State.RESTING or running is None:
        return moved_on(request, batch)
    making = Making(batch)
    form = ReleaseForm(request.POST if request.method == "POST" else None)
    if request.method == "POST" and form.is_valid():
        try:
            batch.release(request.user, form.cleaned_data["reason"], unfinished=making.progress.unfinished)
        except CannotReckon as error:
            form.add_error("reason", str(error))
        else:
            say(request, batch, f"{batch.name} is ready.")
            return go(batch)
    now = timezone.now()
    left = (running.free_at - now).total_seconds() / 3600
    rested_h = (now - running.started_at).total_seconds() / 3600
    filled = sum(filling.total_mL for filling in batch.fillings.all())
    unfilled_yet = not making.progress.unfinished
    to_fill = left_to_fill(making.progress, filled) if unfilled_yet else 0.0
    local = timezone.localtime
    due = {local(one.at).date(): one.get_kind_display() for one in batch.dues.all()}
    now_biting, read_before = cautions_now(making.progress)
    context = shown(batch, making.progress, "wait") | {
        "wait": running,
        "form": form,
        "fill_now": bool(to_fill) and running.kind == "quarantine" and unfilled_yet and rested_h < FILLING_H,
        "to_fill_mL": to_fill,
        "hours_left": left,
        "dues": batch.dues.filter(answered_at=None)[:6],
        "now": now,
        "days_drawn": rest_days(DaysOfRest(local(running.started_at), local(running.free_at), local(now), due)),
        "cautions": now_biting,
        "cautions_read": read_before,
    }
    return render(request, "batches/wait.html", context | over_the_weeks(making.progress))


def ready_words(moment: Any) -> str:
    """The hour something is ready, in the workshop's time zone."""
    return f"ready {timezone.localtime(moment):%a %-d %b, %H:%M}"


@require_POST
@once
def end(request: MakerRequest, pk: int) -> HttpResponse:
    """Used up or poured away: the end of a batch, with what there is to say about it."""
    batch = find_batch(request, pk)
    state = {"used": State.USED, "discarded": State.DISCARDED}.get(request.POST.get("end", ""))
    if state is not None and batch.state not in (State.USED, State.DISCARDED):
        words = "Used up" if state == State.USED else "Poured away"
        note = request.POST.get("note", "").strip()[:250]
        batch.end(state, request.user, f"{words}: {note}" if note else f"{words}.")
        say(request, batch, f"Batch {batch.code} is marked {state.label}.")
    elif state is not None:
        say_stale(request, batch)
    return redirect("batches:record", batch.pk)


def record_file(request: MakerRequest, pk: int) -> HttpResponse:
    """The record to print and keep."""
    batch = find_batch(request, pk)
    headers = {"Content-Disposition": f'inline; filename="record-{batch.code}.pdf"'}
    return HttpResponse(record_pdf(batch), content_type="application/pdf", headers=headers)


def record(request: MakerRequest, pk: int) -> HttpResponse:
    """The journal: every entry in order, amounts planned and measured, notes at any time."""
    batch = find_batch(request, pk)
    making = Making(batch)
    form = NoteForm(request.POST or None, initial={"key": uuid.uuid4()})
    if request.method == "POST" and form.is_valid():
        key = form.cleaned_data["key"]
        if not batch.entries.filter(key=key).exists():
            batch.write(EntryKind.NOTE, request.user, text=form.cleaned_data["text"], key=key)
            say(request, batch, "Written down.")
        return redirect("batches:record", batch.pk)
    context = shown(batch, making.progress, "record") | {
        "form": form,
        "entries": batch.entries.select_related("by", "line", "undone_by"),
        "undoable": undoable(batch),
        "rows": making.rows(),
        "waits": batch.waits.all(),
        "fillings": batch.fillings.all(),
        "promise": making.promise,
        "left_out": left_out(making.progress),
        "to_do": making.what_to_do if batch.entries.filter(kind__in=CORRECTIONS).exists() else (),
        "rail": rail_of(making.progress.result),
        "cost": (cost := cost_of_batch(making)),
        "bottle_costs": [(one, cost.of_mL(one.fill_mL)) for one in batch.fillings.all()] if cost else [],
        "costs_each": costs_of_a_dose(cost, making.progress.result),
    }
    return render(request, "batches/record.html", context)
