"""One press, one deed: a page carries a key, and what was done by it is done once."""

from collections.abc import Callable
from functools import wraps
from typing import Any, Concatenate
from uuid import UUID

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseRedirectBase
from django.shortcuts import redirect

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.models import Press

View = Callable[Concatenate[MakerRequest, ...], HttpResponse]


def once(view: View) -> View:
    """A view whose POSTs carry a ``press`` key: the second of a key is led where the first led, and does nothing.

    What is refused, and so led nowhere, may be pressed again. The key is looked up in the transaction that does the
    deed, so that two presses at the same moment are one.
    """

    @wraps(view)
    def pressed(request: MakerRequest, *args: Any, **options: Any) -> HttpResponse:
        key = _key_of(request)
        if request.method != "POST" or key is None:
            return view(request, *args, **options)
        with transaction.atomic():
            press, new = Press.objects.get_or_create(key=key, defaults={"workshop": request.workshop})
            if not new:
                own = press.workshop_id == request.workshop.pk and press.address
                return redirect(press.address if own else request.path)
            response = view(request, *args, **options)
            if isinstance(response, HttpResponseRedirectBase):
                press.address = response.url[:500]
                press.save(update_fields=["address"])
            else:
                press.delete()
        return response

    return pressed


def _key_of(request: MakerRequest) -> UUID | None:
    """The key of the page that was pressed; None when it has none."""
    try:
        return UUID(request.POST.get("press", ""))
    except ValueError:
        return None


#: What an outbox in an open tab sends with a press, and where it is told to go on.
OUTBOX, GO_ON = "Firkin-Outbox", "Firkin-Go"


def told_where_to_go_on(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """A press out of an outbox (ui/static/ui/outbox.js) is told where to go on, and goes there itself.

    Followed by the browser, the page it leads to would be read unseen, with what it has to say once.
    """

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        if OUTBOX not in request.headers or not isinstance(response, HttpResponseRedirectBase):
            return response
        told = HttpResponse(status=204, headers={GO_ON: response.url})
        told.cookies = response.cookies
        return told

    return middleware
