"""Own materials are looked up once a request."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from firkin.shelf.models import materials_once


def own_materials_once(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Whatever of a page asks for the workshop's own materials gets what was looked up first."""

    def middleware(request: HttpRequest) -> HttpResponse:
        with materials_once():
            return get_response(request)

    return middleware
