"""Measure and look: readings, observations, photos."""

import time
import uuid

from django.db import IntegrityError, transaction
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render

from firkin.accounts.middleware import MakerRequest
from firkin.batches.at_the_scale import instruments_of
from firkin.batches.forms import LookForm, PhotoForm, ReadingForm
from firkin.batches.looking import day_of, readings_of, seen_words, series_of
from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry, Photo
from firkin.batches.views.stages import find_batch, shown
from firkin.core.catalogue import families
from firkin.drawings.series import aspect_series

ROOM = 22.5  # degC, of the simulated bench


def check(request: MakerRequest, pk: int) -> HttpResponse:
    """Readings, what is seen, and photos: written at any time, shown over the days."""
    batch = find_batch(request, pk)
    making = Making(batch)
    posted = request.POST if request.method == "POST" else None
    act = request.POST.get("act", "")
    reading = ReadingForm(posted if act == "read" else None, initial={"key": uuid.uuid4(), **_taken(request, making)})
    look = LookForm(posted if act == "look" else None, initial={"key": uuid.uuid4()}, auto_id="look_%s")
    photo = PhotoForm(posted if act == "photo" else None, request.FILES if act == "photo" else None)
    if reading.is_bound and reading.is_valid():
        _store(batch, request, Entry.Kind.READING, reading.cleaned_data["key"], reading.words(), reading.data_read())
        return redirect("batches:check", batch.pk)
    if look.is_bound and look.is_valid():
        seen = look.seen()
        _store(batch, request, Entry.Kind.OBSERVE, look.cleaned_data["key"], seen_words(seen), {"seen": seen})
        return redirect("batches:check", batch.pk)
    if photo.is_bound and photo.is_valid():
        Photo.objects.create(
            batch=batch, by=request.user, jpeg=photo.cleaned_data["picture"], caption=photo.cleaned_data["caption"]
        )
        return redirect("batches:check", batch.pk)
    series = series_of(batch, making)
    context = shown(batch, making, "check") | {
        "reading_form": reading,
        "look_form": look,
        "photo_form": photo,
        "readings": readings_of(making),
        "series": [(one, aspect_series(one.name, one.points, one.words)) for one in series],
        "photos": batch.photos.defer("jpeg"),
        "day": day_of(batch),
        "window": families()[batch.family].ph,
        "family": families()[batch.family],
    }
    return render(request, "batches/check.html", context)


def _taken(request: MakerRequest, making: Making) -> dict[str, object]:
    """What a simulated instrument shows, put into the form for the maker to look at and confirm."""
    bench, what = instruments_of(request.user.pk), request.GET.get("take", "")
    with bench.lock:
        window = families()[making.formula.family].ph
        if what == "ph":
            true = sum(window) / 2 if window else 7.0
            return {"what": "ph", "value": f"{bench.ph_meter.read(true, time.time()):g}", "celsius": f"{ROOM:g} °C"}
        active = making.result.active("ethanol")
        if what == "alcoholmeter" and active is not None:
            reading, celsius = bench.alcoholmeter.read(active.true, ROOM)
            return {"what": "alcoholmeter", "value": f"{reading:g}", "celsius": f"{celsius:g} °C"}
    return {}


def _store(batch: Batch, request: MakerRequest, kind: Entry.Kind, key: uuid.UUID, text: str, data: dict) -> None:  # type: ignore[type-arg]
    """Write an entry once, whatever is pressed twice."""
    try:
        with transaction.atomic():
            batch.write(kind, request.user, text=text, data=data, key=key)
    except IntegrityError:
        return


def photo(request: MakerRequest, pk: int, photo_pk: int) -> HttpResponse:
    """One picture of a batch, for its workshop only."""
    found = get_object_or_404(Photo, pk=photo_pk, batch__pk=pk, batch__workshop=request.workshop)
    response = HttpResponse(bytes(found.jpeg), content_type="image/jpeg")
    response["Content-Disposition"] = "inline"
    response["X-Content-Type-Options"] = "nosniff"
    return response
