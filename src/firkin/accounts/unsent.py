"""What was typed when a session had ended: carried through the sign-in in the page itself, and sent again by its maker.

Nothing of it is kept on the server, so a stranger fills nothing up. It is signed, so that nobody puts a form into
another's sign-in; it goes nowhere by itself.
"""

from dataclasses import dataclass

from django.core import signing
from django.http import HttpRequest, QueryDict
from django.urls import reverse

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


def carried(request: HttpRequest) -> str:
    """The form a request brought, signed, for the sign-in page to carry; empty where there is nothing to carry."""
    if request.method != "POST" or request.path.startswith(reverse("accounts:sign_in").rsplit("/", 2)[0]):
        return ""
    fields = [[name, value] for name, values in request.POST.lists() for value in values if name != _TOKEN]
    held = {"path": request.get_full_path(), "fields": fields, "files": bool(request.FILES)}
    signed = signing.dumps(held, salt=_SALT, compress=True)
    return signed if fields and len(signed) <= MOST else ""


def read(posted: QueryDict) -> Unsent | None:
    """The form that a sign-in carried; None where it carried none, or it is not as it was signed."""
    try:
        held = signing.loads(posted.get("unsent", ""), salt=_SALT, max_age=_KEPT_S)
        return Unsent(held["path"], tuple((name, value) for name, value in held["fields"]), held["files"])
    except (signing.BadSignature, KeyError, TypeError, ValueError):
        return None
