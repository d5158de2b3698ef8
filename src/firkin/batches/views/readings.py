"""Measure and look: readings, observations, photos."""

import time
import uuid

from django.db import IntegrityError, transaction
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.batches.fermenting import over_the_weeks
from firkin.batches.forms import LogForm, LookForm, PhotoForm, ReadingForm
from firkin.batches.instruments import instruments_of
from firkin.batches.making import Making
from firkin.batches.models import Batch, Photo
from firkin.batches.soap_curve import soap_curve
from firkin.batches.views.stages import find_batch, say, shown
from firkin.core.bench import EntryKind, Progress, reading_words, readings_of, seen_words, series_of
from firkin.core.catalogue import families
from firkin.drawings.series import aspect_series
from firkin.ui.photos import as_picture


@once
def check(request: MakerRequest, pk: int) -> HttpResponse:
    """Readings, what is seen, and photos: written at any time, shown over the days."""
    batch = find_batch(request, pk)
    making = Making(batch)
    progress = making.progress
    posted = request.POST if request.method == "POST" else None
    act = request.POST.get("act", "")
    reading = ReadingForm(
        posted if act == "read" else None,
        initial={"key": uuid.uuid4(), **_taken(request, progress)},
        strained=progress.strained,
    )
    look = LookForm(
        posted if act == "look" else None, initial={"key": uuid.uuid4()}, auto_id="look_%s", family=batch.family
    )
    photo = PhotoForm(posted if act == "photo" else None, request.FILES if act == "photo" else None)
    if reading.is_bound and reading.is_valid():
        _store(batch, request, EntryKind.READING, reading.cleaned_data["key"], reading.words(), reading.data_read())
        if reading.cleaned_data["what"] == "volume" and batch.made_at is not None:
            Making(Batch.objects.get(pk=batch.pk)).put_right()
        say(request, batch, f"Written down: {reading.words()}")
        return redirect("batches:make" if request.POST.get("back") == "make" else "batches:check", batch.pk)
    if look.is_bound and look.is_valid():
        seen = look.seen()
        _store(batch, request, EntryKind.OBSERVE, look.cleaned_data["key"], seen_words(seen), {"seen": seen})
        say(request, batch, f"Written down: {seen_words(seen)}")
        return redirect("batches:check", batch.pk)
    log = LogForm(posted if act == "log" else None, initial={"key": uuid.uuid4()}, auto_id="log_%s")
    if log.is_bound and log.is_valid():
        _log(batch, request, log)
        say(request, batch, "Written down.")
        return redirect("batches:wait" if request.POST.get("back") == "wait" else "batches:check", batch.pk)
    if photo.is_bound and photo.is_valid():
        Photo.objects.create(
            batch=batch, by=request.user, jpeg=photo.cleaned_data["picture"], caption=photo.cleaned_data["caption"]
        )
        return redirect("batches:check", batch.pk)
    series = series_of(progress, batch.begun)
    context = shown(batch, progress, "check") | {
        "reading_form": reading,
        "look_form": look,
        "photo_form": photo,
        "readings": readings_of(progress),
        "series": [(one, aspect_series(one.name, one.points, one.words)) for one in series],
        "photos": batch.photos.defer("jpeg"),
        "day": batch.day,
        "window": families()[batch.family].ph,
        "family": families()[batch.family],
        "soap_curve": soap_curve(making),
        "may_take": instruments_of(request.user.pk).may_read("ph", request.workshop),
    }
    return render(request, "batches/check.html", context | over_the_weeks(progress, log))


def _log(batch: Batch, request: MakerRequest, log: LogForm) -> None:
    """What was seen and read as a ferment was looked after, in one press."""
    seen, ph = log.seen(), log.cleaned_data["ph"]
    with transaction.atomic():
        if seen:
            text = seen_words(seen)
            _store(batch, request, EntryKind.OBSERVE, log.cleaned_data["key"], text, {"seen": seen})
        if ph is not None:
            data = {"what": "ph", "value": ph}
            key = uuid.uuid5(log.cleaned_data["key"], "ph")
            _store(batch, request, EntryKind.READING, key, reading_words(data), data)


def _taken(request: MakerRequest, progress: Progress) -> dict[str, object]:
    """What an instrument shows, put into the form for the maker to look at and confirm; simulated ones are held into
    a sample like the batch."""
    bench, what = instruments_of(request.user.pk), request.GET.get("take", "")
    if what and not bench.may_read(what, request.workshop):
        return {}
    window, active = families()[progress.formula.family].ph, progress.result.active("ethanol")
    with bench.lock:
        bench.sample.ph = sum(window) / 2 if window else 7.0
        bench.sample.strength_pct = active.true if active is not None else 0.0
        if what == "ph":
            warm = f"{bench.sample.celsius:g} °C"
            value = f"{bench.ph_meter.read(time.time()):g}"
            return {"what": "ph", "value": value, "celsius": warm, "taken": value if bench.simulates("ph") else ""}
        if what == "alcoholmeter" and active is not None:
            reading, celsius = bench.alcoholmeter.read()
            taken = f"{reading:g}" if bench.simulates("alcoholmeter") else ""
            return {"what": "alcoholmeter", "value": f"{reading:g}", "celsius": f"{celsius:g} °C", "taken": taken}
    return {}


def _store(batch: Batch, request: MakerRequest, kind: EntryKind, key: uuid.UUID, text: str, data: dict) -> None:  # type: ignore[type-arg]
    """Write an entry once, whatever is pressed twice."""
    try:
        with transaction.atomic():
            batch.write(kind, request.user, text=text, data=data, key=key)
    except IntegrityError:
        return


def photo(request: MakerRequest, pk: int, photo_pk: int) -> HttpResponse:
    """One picture of a batch, for its workshop only."""
    found = get_object_or_404(Photo, pk=photo_pk, batch__pk=pk, batch__workshop=request.workshop)
    return as_picture(bytes(found.jpeg))
