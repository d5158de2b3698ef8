"""Pouring by the scale: live mass against the target; and the page about the instruments."""

import time
import uuid

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render

from firkin.accounts.middleware import MakerRequest
from firkin.batches.instruments import POURS, instruments_of
from firkin.batches.models import State
from firkin.batches.views.stages import find_batch, shown
from firkin.core.bench import Progress, Task, TaskKind, deviation_of
from firkin.core.kitchen import TOLERANCE
from firkin.drawings.pour_guide import pour_guide


def pour(request: MakerRequest, pk: int) -> HttpResponse:
    """The pour guide of the line at hand: pour, or hold a button in its place, then take what the scale shows."""
    batch = find_batch(request, pk)
    progress = batch.progress()
    task = progress.task
    if batch.state != State.MAKING or task is None or task.kind is not TaskKind.POUR or deviation_of(progress):
        return redirect("batches:batch", batch.pk)
    assert task.line is not None
    bench = instruments_of(request.user.pk)
    if not bench.may_read("mass", request.workshop):
        messages.error(request, "No scale is connected. Weigh it on yours and type what it shows.")
        return redirect("batches:make", batch.pk)
    if request.method == "POST":  # the vessel is put on the scale
        with bench.lock:
            bench.scale.tare(time.monotonic())
        return redirect("batches:pour", batch.pk)
    context = shown(batch, progress, "make") | {
        "task": task,
        "material": progress.formula.lines[task.line].material,
        "key": uuid.uuid4(),
        "simulated": bench.simulated_scale,
        **_guide(request, progress, task),
    }
    return render(request, "batches/pour.html", context)


def scale(request: MakerRequest, pk: int) -> HttpResponse:
    """What the scale shows now; a POST holds, releases or tares it."""
    batch = find_batch(request, pk)
    progress = batch.progress()
    task = progress.task
    if batch.state != State.MAKING or task is None or task.line is None:
        return HttpResponse(status=204)
    if not instruments_of(request.user.pk).may_read("mass", request.workshop):
        return HttpResponse(status=204)
    bench, now, act = instruments_of(request.user.pk), time.monotonic(), request.POST.get("act", "")
    with bench.lock:
        if act in POURS:
            bench.pour(POURS[act], now)
        elif act == "tare":
            bench.scale.tare(now)
    return render(request, "batches/pour_live.html", _guide(request, progress, task))


def _guide(request: MakerRequest, progress: Progress, task: Task) -> dict[str, object]:
    """The scale's reading and the drawing of it against the task's target."""
    assert task.line is not None
    bench = instruments_of(request.user.pk)
    target = progress.target_g(task)
    tolerance = max(bench.scale.resolution_g, target * TOLERANCE)
    with bench.lock:
        weight = bench.scale.read(time.monotonic())
    drawn, word = pour_guide(weight.grams, target, tolerance, overload=weight.overload)
    return {"weight": weight, "guide": drawn, "word": word, "target_g": target}


def instruments(request: MakerRequest) -> HttpResponse:
    """The three instruments, setting the pH meter in a buffer, and how a real device would be attached."""
    bench = instruments_of(request.user.pk)
    if request.method == "POST" and request.POST.get("buffer") in ("4", "7", "10"):
        with bench.lock:
            bench.ph_meter.calibrate(float(request.POST["buffer"]), time.time())
        messages.success(request, f"The meter is set in the buffer of pH {request.POST['buffer']}.")
        return redirect("batches:instruments")
    with bench.lock:
        weight = bench.scale.read(time.monotonic())
        days = bench.ph_meter.days_since_set(time.time())
        bench.sample.ph = 7.0
        buffer = bench.ph_meter.read(time.time())
    context = {"weight": weight, "days": days, "buffer": buffer, "scale": bench.scale}
    return render(request, "batches/instruments.html", context)
