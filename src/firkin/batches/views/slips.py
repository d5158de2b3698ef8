"""What really happened: left out, put in late, the wrong bottle, and what was not of this batch."""

import uuid
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from django import forms
from django.contrib import messages
from django.db import IntegrityError, transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.batches.forms import BottleForm, ExtraForm, LateForm, LeaveOutForm, NeverForm
from firkin.batches.making import Making
from firkin.batches.models import Batch, BatchLine, State
from firkin.batches.views.stages import find_batch, moved_on, say, say_stale, shown
from firkin.core.bench import LeftOut, Recorded, TaskKind, follows, left_out
from firkin.core.errors import CannotReckon
from firkin.core.measures import figures, wait_kind
from firkin.ui.fields import material_choices

_ENDED = (State.PLANNED, State.USED, State.DISCARDED)


@dataclass(frozen=True, slots=True)
class _Shown:
    """A line as the page of corrections shows it, with the forms it has."""

    row: BatchLine
    recorded: Recorded
    out: LeftOut | None
    late: LateForm | None
    bottle: BottleForm | None
    never: NeverForm | None
    to_the_shelf: str


#: How a cup that does not go in is told.
THROWN_AWAY = "Did you throw it away? Mark each thing in it as not in this batch."


@require_POST
def leave_out(request: MakerRequest, pk: int) -> HttpResponse:
    """The task at hand is left out; the batch goes on without it."""
    batch = find_batch(request, pk)
    if batch.state != State.MAKING:
        return moved_on(request, batch)
    making, form = Making(batch), LeaveOutForm(request.POST)
    task = making.progress.task
    if not form.is_valid() or task is None or str(making.progress.turn) != request.POST.get("task"):
        say_stale(request, batch)
        return redirect("batches:make", pk)
    if task.kind is TaskKind.WAIT and not form.cleaned_data["why"].strip():
        messages.error(request, "Not stored: say why the rest is left out. The reason stays in the record.")
        return redirect("batches:make", pk)
    # what is in a cup was measured, and counts: of each thing in it it is said that it did not go in
    if task.source and task.line is None:
        messages.error(request, f"Not stored: Firkin counts what is in the {task.source} as in. {THROWN_AWAY}")
        return redirect("batches:really", pk)
    material = None if task.line is None else making.progress.formula.lines[task.line].material
    done = _do(request, lambda key: making.leave_out(task, form.cleaned_data["why"], request.user, key), form)
    if done and material is not None:
        says = follows(material, batch.family)
        messages.warning(request, f"{material.name} is left out. {says}".strip())
    elif done and task.kind is TaskKind.WAIT and wait_kind(task.do, task.text) == "quarantine":
        messages.warning(
            request, "Without its 72 hours, spores from the alcohol or the bottles can live on in it (WHO)."
        )
    return redirect("batches:batch", pk)


def _do(request: MakerRequest, deed: Any, form: forms.Form) -> bool:
    """Do a deed once by its key; False where it was done already or cannot be, which is said."""
    try:
        with transaction.atomic():
            deed(form.cleaned_data["key"])
    except IntegrityError:
        return False
    except CannotReckon as error:
        messages.error(request, f"Not stored: {error}")
        return False
    return True


def really(request: MakerRequest, pk: int) -> HttpResponse:
    """Every line as it was recorded, and what can be put right of it: while it is made, and weeks later."""
    batch = find_batch(request, pk)
    if batch.state in _ENDED and request.method == "POST":
        return moved_on(request, batch)
    making = Making(batch)
    bound: dict[int, forms.Form] = {}
    if request.method == "POST":
        line = _line(request, making)
        form = _form(request.POST.get("do", ""), making, line, request.POST)
        if form.is_valid():
            _correct(request, making, line, form)
            return redirect("batches:really", pk)
        bound[line] = form
    return show_really(request, making, bound)


def show_really(
    request: MakerRequest, making: Making, bound: dict[int, forms.Form] | None = None, extra: ExtraForm | None = None
) -> HttpResponse:
    """The page of corrections, with the forms of some lines as they were filled in."""
    bound, batch = bound or {}, making.batch
    context = shown(batch, making.progress, "really") | {
        "extra": extra or ExtraForm(initial={"key": uuid.uuid4()}, auto_id="extra_%s"),
        "materials": material_choices(),
        "lines": [_shown(making, row, recorded, bound.get(row.position)) for row, recorded in making.rows()],
        "ended": batch.state in _ENDED,
        "promise": making.promise,
        "to_do": making.what_to_do,
    }
    return render(request, "batches/really.html", context)


def _line(request: MakerRequest, making: Making) -> int:
    line = request.POST.get("line", "")
    if not (line.isascii() and line.isdigit() and len(line) < 5 and int(line) < len(making.lines)):
        raise Http404
    return int(line)


def _form(do: str, making: Making, line: int, data: Any = None) -> Any:
    """The form of one correction of a line; with ``data`` as it was filled in."""
    initial = {"key": uuid.uuid4()}
    if do == "late" and line in making.progress.left_out:
        now = next((one.amount for one in left_out(making.progress) if one.line == line), None)
        amount = f"{figures(now.value)} {now.unit}" if now is not None else ""
        return LateForm(data, initial=initial | {"amount": amount}, auto_id=f"late{line}_%s")
    if do == "never" and line in making.progress.measured:
        return NeverForm(data, initial=initial, auto_id=f"never{line}_%s")
    if do == "bottle":
        return BottleForm(data, initial=initial, making=making, line=line, auto_id=f"bottle{line}_%s")
    raise Http404


def _correct(request: MakerRequest, making: Making, line: int, form: Any) -> None:
    """Store one correction of a line, and say what it changes."""
    data, name = form.cleaned_data, making.progress.formula.lines[line].material.name
    if isinstance(form, LateForm):
        done = _do(request, lambda key: making.put_in_late(line, data["amount"], request.user, key), form)
        words = f"{name} is in now."
    elif isinstance(form, NeverForm):
        done = _do(request, lambda key: making.never_was(line, data["why"], request.user, key), form)
        words = f"{name} is not in this batch any more."
    else:
        done = _do(request, lambda key: making.other_bottle(line, data["stock"], request.user, key), form)
        words = f"{name} is from {data['stock'].name} now."
    if done:
        _say_what_it_is_now(request, Batch.objects.get(pk=making.batch.pk), words)


def _say_what_it_is_now(request: MakerRequest, batch: Batch, words: str) -> None:
    anew = Making(batch)
    active = anew.progress.in_bottles.main
    holds = f" It holds {figures(active.lower, 3)} {active.basis} now." if active is not None else ""
    say(request, batch, f"{words}{holds}")


def _shown(making: Making, row: BatchLine, recorded: Recorded, bound: forms.Form | None) -> _Shown:
    line, progress = row.position, making.progress
    out = next((one for one in left_out(progress) if one.line == line), None)
    late = _form("late", making, line) if out is not None else None
    never = _form("never", making, line) if line in progress.measured else None
    bottle = _form("bottle", making, line)
    if not bottle.fields["stock"].queryset.exists():
        bottle = None
    late, never, bottle = (
        bound if one is not None and isinstance(bound, type(one)) else one for one in (late, never, bottle)
    )
    back = reverse("batches:really", args=[making.batch.pk])
    asked = {"material": recorded.line.material.name, "as": "", "back": back}
    return _Shown(row, recorded, out, late, bottle, never, f"{reverse('shelf:add', args=['stock'])}?{urlencode(asked)}")
