"""What holds for every answer of the site: no body for HEAD, no more taken in than is asked for, nothing of the machine
but what a page needs.
"""

from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.utils.deprecation import MiddlewareMixin

from firkin.site.views import too_much

GetResponse = Callable[[HttpRequest], HttpResponse]


def head_without_body(get_response: GetResponse) -> GetResponse:
    """The headers alone are asked for by HEAD."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        if request.method == "HEAD" and not response.streaming:
            response.content = b""
        return response

    return middleware


#: What a browser offers pages and no page of Firkin’s asks for.
_REFUSED = ", ".join(
    f"{feature}=()"
    for feature in (
        "accelerometer", "autoplay", "browsing-topics", "camera", "display-capture", "geolocation", "gyroscope", "hid",
        "magnetometer", "microphone", "midi", "payment", "serial", "usb",
    )
)  # fmt: skip


def nothing_of_the_machine(get_response: GetResponse) -> GetResponse:
    """Pages may not ask the browser for camera, place, microphone and the like."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Permissions-Policy", _REFUSED)
        return response

    return middleware


def kept_by_nobody(get_response: GetResponse) -> GetResponse:
    """What is private is kept neither by the browser nor by anything on the way."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        if getattr(request, "user", None) is not None and request.user.is_authenticated:
            response.headers["Cache-Control"] = "no-store, private"
        return response

    return middleware


#: The rooms whose presses look at what stands before they write: a batch being made, the shelf.
_ONE_AT_A_TIME = frozenset({"batches", "shelf"})


class OnePressAtATime(MiddlewareMixin):
    """A press on a batch or the shelf is one transaction, from looking at what stands to writing.

    SQLite begins it by taking the write lock, so that two hands on one task come one after the other: the second sees
    what the first wrote. Without it two tabs stored two pours.
    """

    def process_view(
        self, request: HttpRequest, view: Callable[..., HttpResponse], args: list[Any], options: dict[str, Any]
    ) -> HttpResponse | None:
        """The view within one transaction, where it is a press that writes."""
        match = request.resolver_match
        if request.method != "POST" or match is None or match.app_name not in _ONE_AT_A_TIME:
            return None
        with transaction.atomic():
            return view(request, *args, **options)


def not_too_much(get_response: GetResponse) -> GetResponse:
    """A request that says it is larger than the largest photo and its form is refused before it is read."""

    def middleware(request: HttpRequest) -> HttpResponse:
        length = request.headers.get("Content-Length", "")
        if length.isascii() and length.isdigit() and int(length) > settings.MOST_UPLOAD:
            return too_much(request)
        return get_response(request)

    return middleware
