"""What holds for every answer of the site: no body for HEAD, and no more taken in than is asked for."""

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

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


def not_too_much(get_response: GetResponse) -> GetResponse:
    """A request that says it is larger than the largest photo and its form is refused before it is read."""

    def middleware(request: HttpRequest) -> HttpResponse:
        length = request.headers.get("Content-Length", "")
        if length.isascii() and length.isdigit() and int(length) > settings.MOST_UPLOAD:
            return too_much(request)
        return get_response(request)

    return middleware
