"""The workshop's settings."""

import zoneinfo

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render

from firkin.accounts.forms import WorkshopForm
from firkin.accounts.middleware import MakerRequest
from firkin.accounts.models import Workshop


def workshop(request: MakerRequest) -> HttpResponse:
    """Its name, time zone, currency, whose measures, and the decimal mark."""
    kept = Workshop.objects.get(pk=request.workshop.pk)  # the one of the request names the bench until it is saved
    form = WorkshopForm(request.POST if request.method == "POST" else None, instance=kept)
    if form.is_bound and form.is_valid():
        form.save()
        messages.success(request, "Kept. It holds from now on, on every page.")
        return redirect("accounts:workshop")
    return render(request, "accounts/workshop.html", {"form": form, "zones": sorted(zoneinfo.available_timezones())})
