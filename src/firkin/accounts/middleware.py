"""Who is at the bench: the demo's own sign-in, and the workshop of the user."""

import ipaddress
import zoneinfo
from collections.abc import Callable
from http import HTTPStatus
from urllib.parse import quote

from django.contrib.auth import login
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import reverse
from django.utils import timezone
from django_htmx.http import HttpResponseClientRedirect
from django_htmx.middleware import HtmxDetails

from firkin.accounts.forms import SignInForm
from firkin.accounts.models import User, Workshop
from firkin.accounts.unsent import carried
from firkin.core.measures import decimal_mark, maker_sizes

GetResponse = Callable[[HttpRequest], HttpResponse]


class MakerRequest(HttpRequest):
    """A request of a signed-in maker: it knows its workshop."""

    user: User
    workshop: Workshop
    htmx: HtmxDetails


def demo_sign_in(get_response: GetResponse) -> GetResponse:
    """In demo mode only: sign the demo user in by itself, from the loopback address only."""

    def middleware(request: HttpRequest) -> HttpResponse:
        if not request.user.is_authenticated and ipaddress.ip_address(request.META["REMOTE_ADDR"]).is_loopback:
            maker = User.objects.filter(username="lantern-quay").first()
            if maker is not None:
                login(request, maker, backend="django.contrib.auth.backends.ModelBackend")
        return get_response(request)

    return middleware


def sign_in_leaves_the_page(get_response: GetResponse) -> GetResponse:
    """A session that has ended leads the whole page to the sign-in, and back to where it was, with what was typed."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        sign_in = reverse("accounts:sign_in")
        leads_there = response.status_code == HTTPStatus.FOUND and response["Location"].startswith(sign_in)
        if not leads_there:
            return response
        if "HX-Request" not in request.headers:
            unsent = carried(request)
            if not unsent:
                return response
            context = {"form": SignInForm(request), "unsent": unsent, "next": request.get_full_path()}
            return render(request, "accounts/sign_in.html", context)
        here = HtmxDetails(request).current_url_abs_path
        return HttpResponseClientRedirect(f"{sign_in}?next={quote(here or '/')}")

    return middleware


def workshop_of_the_user(get_response: GetResponse) -> GetResponse:
    """Set ``request.workshop``, its time zone, decimal mark and own measures; without a workshop nothing is seen."""

    def middleware(request: HttpRequest) -> HttpResponse:
        if not request.user.is_authenticated:
            return get_response(request)
        workshop = Workshop.objects.filter(members=request.user).order_by("pk").first()
        if workshop is None:
            return render(request, "accounts/no_workshop.html", status=403)
        request.workshop = workshop  # type: ignore[attr-defined]
        zone, mark = zoneinfo.ZoneInfo(workshop.time_zone), workshop.decimal_mark
        with timezone.override(zone), decimal_mark(mark), maker_sizes(workshop.own_sizes):
            return get_response(request)

    return middleware
