"""What was typed on a page and saved nowhere yet: kept aside for whoever typed it, until it is saved or forgotten.

A page that is left by a wrong press, a flat battery or a week away loses nothing. It is offered, and never put back
by itself: somebody may come for something new.
"""

from contextlib import suppress
from typing import Any

from django.core.exceptions import ValidationError
from django.http import QueryDict

from firkin.accounts.middleware import MakerRequest
from firkin.formulas.models import MOST_TYPED, Draft

#: The presses of what is offered, and the one that only keeps aside.
RESUME, FORGET, HOLD = "resume", "forget", "hold"
_NOT_TYPED = ("csrfmiddlewaretoken", "key")


def page_of_editor(pk: int | None) -> str:
    """What the editor's page of a formula is called here."""
    return "new" if pk is None else f"edit-{pk}"


def left(request: MakerRequest, page: str) -> Draft | None:
    """What was left on a page, for a visit that brings nothing of its own."""
    return _of(request, page) if request.method == "GET" else None


def resumed(request: MakerRequest, page: str) -> QueryDict:
    """The fields as they were left, or none."""
    draft = _of(request, page)
    return QueryDict("") if draft is None else draft.fields


def keep_aside(request: MakerRequest, page: str) -> None:
    """Keep what was posted, with the press that came with it: what it changed stands on the page alone.

    Where nothing is typed, nothing is left. What can't be stored is not, and the page says why.
    """
    fields = request.POST.copy()
    for name in (*_NOT_TYPED, *(["act"] if fields.get("act") == HOLD else [])):
        fields.pop(name, None)
    typed = fields.urlencode()
    whose: dict[str, Any] = {"workshop": request.workshop, "user": request.user, "page": page}
    if not Draft(**whose, typed=typed).words:
        forget(request, page)
    elif len(typed) <= MOST_TYPED:
        with suppress(ValidationError):
            Draft.objects.update_or_create(**whose, defaults={"typed": typed})


def forget(request: MakerRequest, page: str) -> None:
    """It is saved, or not wanted any more."""
    Draft.objects.filter(workshop=request.workshop, user=request.user, page=page).delete()


def _of(request: MakerRequest, page: str) -> Draft | None:
    return Draft.objects.filter(workshop=request.workshop, user=request.user, page=page).first()
