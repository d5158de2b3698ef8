"""What was typed when a session had ended, or a page's token had: shown again, to be sent by its maker.

Through a sign-in it is carried in the page itself: nothing of it is kept on the server, so a stranger fills nothing up.
It is signed, so that nobody puts a form into another's sign-in; it goes nowhere by itself.
"""

from dataclasses import asdict, dataclass

from django.core import signing
from django.http import HttpRequest, HttpResponse, QueryDict
from django.shortcuts import render
from django.urls import reverse

from firkin.accounts.forms import SignInForm

_SALT = "unsent form"
#: More than this is not carried, in characters.
MOST = 200_000
#: A sign-in that takes longer than this has forgotten what it was for, in seconds.
_KEPT_S = 60 * 60 * 12
_TOKEN = "csrfmiddlewaretoken"  # noqa: S105  the name of a field


@dataclass(frozen=True)
class Unsent:
    """A form that did not get through: where it goes, its fields in order, and whether files were left behind."""

    path: str
    fields: tuple[tuple[str, str], ...]
    files: bool = False


def unsent(request: HttpRequest) -> Unsent | None:
    """The form a request brought; None where it brought none that is worth keeping."""
    if request.method != "POST" or request.path.startswith(reverse("accounts:sign_in").rsplit("/", 2)[0]):
        return None
    fields = tuple((name, value) for name, values in request.POST.lists() for value in values if name != _TOKEN)
    return Unsent(request.get_full_path(), fields, bool(request.FILES)) if fields else None


def carried(request: HttpRequest) -> str:
    """The form a request brought, signed, for the sign-in page to carry; empty where there is nothing to carry."""
    form = unsent(request)
    signed = signing.dumps(asdict(form), salt=_SALT, compress=True) if form else ""
    return signed if len(signed) <= MOST else ""


def sign_in_first(request: HttpRequest) -> HttpResponse | None:
    """The sign-in page with the form a request brought; None where it brought none."""
    signed = carried(request)
    context = {"form": SignInForm(request), "unsent": signed, "next": request.get_full_path()}
    return render(request, "accounts/sign_in.html", context) if signed else None


def read(posted: QueryDict) -> Unsent | None:
    """The form that a sign-in carried; None where it carried none, or it is not as it was signed."""
    try:
        held = signing.loads(posted.get("unsent", ""), salt=_SALT, max_age=_KEPT_S)
        return Unsent(held["path"], tuple((name, value) for name, value in held["fields"]), held["files"])
    except (signing.BadSignature, KeyError, TypeError, ValueError):
        return None
