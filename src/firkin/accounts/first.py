"""The first keeper: let in by a link that `./firkin serve` prints where there is no account yet."""

import os
import zoneinfo
from pathlib import Path

from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_not_required
from django.core import signing
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from firkin.accounts.audit_list import noted
from firkin.accounts.forms import FirstForm
from firkin.accounts.models import Membership, User, Workshop

_BACKEND = "django.contrib.auth.backends.ModelBackend"
_SALT = "first keeper"
#: For so long the link leads in, in hours; the next start prints a new one.
OPEN_HOURS = 24


def machine_zone() -> str:
    """The time zone this machine is set to, by its name; UTC when it does not say."""
    place = str(Path("/etc/localtime").resolve())
    name = os.environ.get("TZ") or place.partition("zoneinfo/")[2]
    return name if name in zoneinfo.available_timezones() else "UTC"


def link() -> str:
    """The path that lets the first keeper in; empty where there is an account already."""
    if User.objects.exists():
        return ""
    return reverse("accounts:first", args=[signing.TimestampSigner(salt=_SALT).sign("keeper")])


def _leads_in(token: str) -> bool:
    """True for a link of a recent start, as long as nobody came in. With the first account it has done its work."""
    try:
        signing.TimestampSigner(salt=_SALT).unsign(token, max_age=OPEN_HOURS * 3600)
    except signing.BadSignature:
        return False
    return not User.objects.exists()


def _over(request: HttpRequest) -> HttpResponse:
    words = {
        "title": "This link leads nowhere",
        "advice": "It was used, or a day has passed. While there is no account, each start of Firkin prints a new one.",
    }
    return render(request, "site/sorry.html", words, status=404)


@login_not_required
def first(request: HttpRequest, token: str) -> HttpResponse:
    """Make the first account and its workshop."""
    if not _leads_in(token):
        return _over(request)
    start = {"workshop": "My bench", "time_zone": machine_zone()}
    form = FirstForm(request.POST if request.method == "POST" else None, initial=start)
    if form.is_bound and form.is_valid():
        with transaction.atomic():
            if not _leads_in(token):  # read again where one write comes after another
                return _over(request)
            user = form.save()
            workshop = Workshop.objects.create(
                name=form.cleaned_data["workshop"], time_zone=form.cleaned_data["time_zone"]
            )
            Membership.objects.create(user=user, workshop=workshop)
        login(request, user, backend=_BACKEND)
        noted(request, "Came in as the first keeper.", workshop)
        messages.success(request, f"Welcome to {workshop.name}.")
        return redirect("bench")
    return render(request, "accounts/first.html", {"form": form})
