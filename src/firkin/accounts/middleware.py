"""Who is at the bench: the demo's own sign-in, and the workshop of the user."""

import ipaddress
import zoneinfo
from collections.abc import Callable
from http import HTTPStatus
from typing import Any
from urllib.parse import quote

from django.contrib.auth import login
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import resolve, reverse
from django.utils import timezone
from django.utils.deprecation import MiddlewareMixin
from django_htmx.http import HttpResponseClientRedirect
from django_htmx.middleware import HtmxDetails

from firkin.accounts.models import Membership, Role, User, Workshop
from firkin.accounts.unsent import sign_in_first
from firkin.core.measures import decimal_mark, maker_sizes

GetResponse = Callable[[HttpRequest], HttpResponse]
#: Methods that ask and do nothing.
SAFE = frozenset({"GET", "HEAD", "OPTIONS"})


class MakerRequest(HttpRequest):
    """A request of a signed-in maker: it knows its workshop, and what they may do there."""

    user: User
    workshop: Workshop
    role: Role
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
            return sign_in_first(request) or response
        here = HtmxDetails(request).current_url_abs_path
        return HttpResponseClientRedirect(f"{sign_in}?next={quote(here or '/')}")

    return middleware


#: The session's word for the workshop its maker is in, of several.
CHOSEN = "workshop"
#: What needs no workshop: signing out, and coming into one by an invitation.
_WITHOUT_WORKSHOP = frozenset({"accounts:sign_out", "accounts:join"})
#: Presses that write nothing of the workshop's, by room or by address: an onlooker may.
_WRITES_NOTHING = frozenset({"accounts", "reckoner", "formulas:check"})


def workshop_of_the_user(get_response: GetResponse) -> GetResponse:
    """Set ``request.workshop``, its time zone, decimal mark and own measures; without a workshop nothing is seen."""

    def middleware(request: HttpRequest) -> HttpResponse:
        if not request.user.is_authenticated:
            return get_response(request)
        memberships = (
            Membership.objects.filter(user=request.user)
            .select_related("workshop", "workshop__example")
            .order_by("workshop_id")
        )
        chosen = request.session.get(CHOSEN)
        there = list(memberships)
        membership = next((one for one in there if one.workshop_id == chosen), there[0] if there else None)
        if membership is None:
            if resolve(request.path_info).view_name in _WITHOUT_WORKSHOP:
                return get_response(request)
            return render(request, "accounts/no_workshop.html", status=403)
        workshop = membership.workshop
        request.workshop, request.role = workshop, Role(membership.role)  # type: ignore[attr-defined]
        zone, mark = zoneinfo.ZoneInfo(workshop.time_zone), workshop.decimal_mark
        with timezone.override(zone), decimal_mark(mark), maker_sizes(workshop.own_sizes):
            return get_response(request)

    return middleware


class OnlookersWriteNothing(MiddlewareMixin):
    """A press of an onlooker that would write is refused, whatever page it comes from."""

    def process_view(
        self, request: HttpRequest, view: Callable[..., HttpResponse], args: list[Any], options: dict[str, Any]
    ) -> HttpResponse | None:
        """Refused, or None where it goes on."""
        match = request.resolver_match
        if request.method in SAFE or getattr(request, "role", None) != Role.ONLOOKER or match is None:
            return None
        if match.app_name in _WRITES_NOTHING or match.view_name in _WRITES_NOTHING:
            return None
        advice = "You can look at everything here, but change nothing. Ask a keeper to make you a maker."
        return render(request, "site/sorry.html", {"title": "Not stored", "advice": advice}, status=403)
