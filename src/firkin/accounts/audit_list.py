"""The list of what was done with accounts and data, for the keepers of a workshop."""

from typing import Any

from django.contrib.auth.signals import user_logged_in
from django.db.models import Q, QuerySet
from django.dispatch import receiver
from django.http import HttpRequest

from firkin.accounts.models import AuditLine, User, Workshop


def noted(request: HttpRequest, text: str, workshop: Workshop | None = None) -> None:
    """Write a line: who did it, from which address; of a workshop, or of the account alone."""
    by = request.user if isinstance(request.user, User) else None
    written(text, by, workshop, str(request.META.get("REMOTE_ADDR") or ""))


def written(text: str, by: User | None, workshop: Workshop | None, address: str = "") -> None:
    """Write a line of what was done, also where no page was asked."""
    AuditLine.objects.create(workshop=workshop, by=by, text=text[:300], address=address[:45])


def of_workshop(workshop: Workshop) -> QuerySet[AuditLine]:
    """What concerns a workshop, and the sign-ins of its members, the newest first."""
    of_members = Q(workshop=None, by__membership__workshop=workshop)
    return AuditLine.objects.filter(Q(workshop=workshop) | of_members).select_related("by")


@receiver(user_logged_in)
def _signed_in(sender: object, request: HttpRequest | None, user: User, **more: Any) -> None:
    if request is not None:
        written("Signed in.", user, None, str(request.META.get("REMOTE_ADDR") or ""))
