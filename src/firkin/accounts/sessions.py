"""Where an account is signed in, and ending it there."""

import hashlib
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.contrib.auth import SESSION_KEY
from django.contrib.auth.signals import user_logged_in
from django.contrib.sessions.models import Session
from django.dispatch import receiver
from django.http import HttpRequest
from django.utils import timezone

from firkin.accounts.models import User

_HERE = "signed_in_here"


@dataclass(frozen=True, slots=True)
class SignedIn:
    """One place an account is signed in: on what, since when, from where, and whether it is this one."""

    which: str
    on: str
    since: datetime | None
    address: str
    here: bool


@receiver(user_logged_in)
def _told_apart(sender: object, request: HttpRequest | None, user: User, **more: Any) -> None:
    """Keep with a session what its list tells it apart by."""
    if request is not None:
        agent = request.META.get("HTTP_USER_AGENT", "")
        on = "a telephone or tablet" if "Mobi" in agent or "Tablet" in agent else "a computer"
        address = str(request.META.get("REMOTE_ADDR") or "")
        request.session[_HERE] = {"on": on, "since": timezone.now().isoformat(), "address": address}


def of_account(user_pk: int, here: str | None) -> list[SignedIn]:
    """Every session of an account that goes on, this one first."""
    found = []
    for session, told in _sessions(user_pk):
        since = datetime.fromisoformat(told["since"]) if "since" in told else None
        mine = session.session_key == here
        found.append(SignedIn(_word(session), told.get("on", "a browser"), since, told.get("address", ""), mine))
    return sorted(found, key=lambda one: (not one.here, -(one.since.timestamp() if one.since else 0.0)))


def end(user_pk: int, which: str = "", but: str | None = None) -> int:
    """End one session of an account, or all of them but one; how many there were."""
    ended = 0
    for session, _ in list(_sessions(user_pk)):
        if session.session_key != but and which in ("", _word(session)):
            session.delete()
            ended += 1
    return ended


def _sessions(user_pk: int) -> Iterator[tuple[Session, dict[str, Any]]]:
    for session in Session.objects.filter(expire_date__gt=timezone.now()):
        held = session.get_decoded()
        if held.get(SESSION_KEY) == str(user_pk):
            yield session, held.get(_HERE, {})


def _word(session: Session) -> str:
    """A word for a session that lets nobody into it."""
    return hashlib.sha256(session.session_key.encode()).hexdigest()[:16]
