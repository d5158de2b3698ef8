"""The Bench, and the pages for what cannot be shown."""

import secrets
import shutil
import sys
from collections.abc import Iterable
from pathlib import Path

from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.core.exceptions import ValidationError
from django.db import DatabaseError, transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.utils import timezone

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.models import Role, Workshop
from firkin.accounts.unsent import sign_in_first, unsent
from firkin.batches.models import Batch, Bottle, Due, Recall
from firkin.batches.views.stages import ready_words
from firkin.core.bench import left_standing
from firkin.core.errors import CannotReckon
from firkin.core.formula import HouseFormula, house_formulas
from firkin.drawings.timeline import Rest, time_line
from firkin.formulas.models import Formula
from firkin.season.picture import soon_of
from firkin.shelf.notices import notices
from firkin.site import backup
from firkin.site.first_steps import FirstSteps, first_steps
from firkin.site.folder import LEAST_FREE_BYTES
from firkin.use.standing import standings

#: So many remarks about the shelf stand on the Bench at a time.
MOST_NOTICES = 4
#: So many open bottles stand on the Bench, those opened longest.
MOST_IN_USE = 6
#: What runs out within so many days is said: long enough to make more, a rest of 72 hours counted.
RUNS_OUT_D = 14.0
#: So many formulas stand on the Bench; a shorter book is filled up with house formulas.
MOST_FORMULAS = 6


def bench(request: MakerRequest) -> HttpResponse:
    """What needs the maker now, what is at rest, what to make again."""
    now = timezone.now()
    first = first_steps(request.workshop)
    mine = Batch.objects.filter(workshop=request.workshop)
    resting = [(batch, batch.current_wait()) for batch in mine.resting()]
    due = [(batch, wait) for batch, wait in resting if wait and wait.is_over(now)]
    staves = [
        Rest(
            f"{batch.code} {batch.name}",
            wait.get_kind_display(),
            (wait.started_at - now).total_seconds() / 3600,
            (wait.free_at - now).total_seconds() / 3600,
            ready_words(wait.free_at),
        )
        for batch, wait in resting
        if wait
    ]
    formulas = Formula.objects.filter(workshop=request.workshop).made_last_first()[:MOST_FORMULAS]
    return render(
        request,
        "site/bench.html",
        {
            "first": first,
            "due": due,
            "making": [(one, left_standing(one.progress(), now)) for one in mine.being_made().whole()[:10]],
            "to_fill": mine.to_fill()[:10],
            "dues": newest_of_each(Due.objects.now_due(request.workshop, now)[:200]),
            "soon": Due.objects.waiting(request.workshop).filter(at__gt=now)[:4],
            "resting": len(resting),
            "time_line": time_line(staves) if staves else "",
            "time_line_narrow": time_line(staves, narrow=True) if staves else "",
            "formulas": formulas,
            "notices": notices(request.workshop)[:MOST_NOTICES],
            "season": soon_of(request.workshop),
            "recalls": Recall.objects.filter(workshop=request.workshop, closed_at=None),
            "runs_out": [one for one in standings(request.workshop) if one.days and one.days[1] <= RUNS_OUT_D],
            "in_use": Bottle.objects.of_workshop(request.workshop).in_use()[:MOST_IN_USE],
            "house": _to_begin_with(first) if len(formulas) < MOST_FORMULAS else [],
            "now": now,
        },
    )


def _to_begin_with(steps: FirstSteps | None) -> list[HouseFormula]:
    """A house formula of each family, for whoever has no book yet; none that is offered already."""
    offered = set() if steps is None else {offer.house.id for offer in steps.offers}
    first: dict[str, HouseFormula] = {}
    for house in house_formulas().values():
        if house.id not in offered:
            first.setdefault(house.formula.family, house)
    return list(first.values())


def newest_of_each(dues: Iterable[Due]) -> list[tuple[Due, int]]:
    """Of several of one kind of a batch, the newest, and how many there are: one tap answers them all."""
    found: dict[tuple[int, str], tuple[Due, int]] = {}
    for due in dues:
        key = (due.batch_id, due.kind)
        found[key] = (due, found[key][1] + 1 if key in found else 1)
    return list(found.values())


@login_not_required
def health(request: HttpRequest) -> HttpResponse:
    """For whoever watches over the server: that it answers and something can be stored; nothing about anybody."""
    trouble = _stores_nothing()
    return HttpResponse(f"{trouble or 'ok'}\n", status=503 if trouble else 200, content_type="text/plain")


def _stores_nothing() -> str:
    """Why nothing could be stored, in a few words; empty where it could."""
    probe = Path(settings.DATA) / f".health-{secrets.token_hex(4)}"
    try:
        if shutil.disk_usage(settings.DATA).free < LEAST_FREE_BYTES:
            return "the disk is full"
        probe.write_bytes(b"x")
        probe.unlink()
    except OSError as error:
        return f"the data folder cannot be written to ({error.strerror})"
    try:
        with transaction.atomic():  # takes the write lock, and gives it back
            Workshop.objects.exists()
            transaction.set_rollback(True)
    except DatabaseError as error:
        return "" if "locked" in str(error) else "the database cannot be written to"
    return ""


def copies(request: MakerRequest) -> HttpResponse:
    """The nightly copies that are kept, and how to put one back: for keepers, since it tells paths of the machine."""
    if request.role != Role.KEEPER:
        words = {"title": "For a keeper of the workshop", "advice": "Keepers look after the copies. Ask one of them."}
        return render(request, "site/sorry.html", words, status=403)
    there = backup.copies(settings.DATA)
    newest = there[0].day if there else None
    stale = newest is None or (timezone.localdate() - newest).days > 1
    context = {"copies": there, "folder": settings.DATA / "backups", "stale": stale, "demo": settings.DEMO}
    return render(request, "site/copies.html", context)


def not_found(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """No such page."""
    return _sorry(request, 404, "Nothing stands here", "The address may be old, or it belongs to another workshop.")


def refused(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """Not allowed."""
    return _sorry(request, 403, "Not from here", "Go back, reload the page and try again.")


def bad_request(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """A request that is no request."""
    return _sorry(request, 400, "That could not be read", "Go back and try again.")


def csrf_failed(request: HttpRequest, reason: str = "") -> HttpResponse:
    """A form whose token has run out, shown to be sent again; without one of ours, only what may be the matter.

    Only a browser says where a form came from, and it says it truly: what another site sent is not shown.
    """
    ours = "Origin" in request.headers and not reason.startswith("Origin checking failed")
    form = unsent(request) if ours and "HX-Request" not in request.headers else None
    if form is not None and not request.user.is_authenticated and (page := sign_in_first(request)):
        return page
    if form is not None:
        return render(request, "accounts/unsent.html", {"unsent": form, "stale": True}, status=403)
    advice = "The page was open too long, or this browser keeps no cookies. Go back, reload it and press again."
    return _sorry(request, 403, "That page is out of date", advice)


def too_much(request: HttpRequest) -> HttpResponse:
    """More was sent than is taken."""
    return _sorry(request, 413, "That is too much at once", "A photo may have 15 MB. Go back and send a smaller one.")


#: What a fault of the machine is called, by words of its message, and what helps.
_FAULTS = (
    ("is full", "The disk is full", "Nothing of this was stored. Make room on the disk, go back and press again."),
    ("No space left", "The disk is full", "Nothing of this was stored. Make room on the disk, and press again."),
    ("locked", "The database is busy", "Nothing of this was stored. Wait a moment, go back and press again."),
    ("readonly", "Nothing can be stored", "The data folder is read-only. What was confirmed before is still there."),
    ("unable to open", "Nothing can be stored", "The data folder cannot be reached. Is its disk there?"),
    ("malformed", "The database is damaged", "Stop Firkin, and restore a backup into an empty folder."),
    ("not a database", "The database is damaged", "Stop Firkin, and restore a backup into an empty folder."),
    ("disk I/O", "The disk does not answer", "Nothing of this was stored. Look at the disk before you go on."),
)


def went_wrong(request: HttpRequest) -> HttpResponse:
    """A fault: of the machine, said as what it is; a value no table takes; or else of ours."""
    fault = sys.exc_info()[1]
    if isinstance(fault, ValidationError):  # it came past a form, and nothing of it was stored
        by_column = fault.message_dict.items() if hasattr(fault, "error_dict") else [("it", fault.messages)]
        said = " ".join(f"{place.replace('_', ' ')}: {' '.join(words)}" for place, words in by_column)
        return _sorry(request, 422, "That cannot be stored", f"{said} Nothing of it was stored. Go back and change it.")
    if isinstance(fault, CannotReckon):  # a record that forms would not have taken, from elsewhere
        return _sorry(
            request,
            422,
            "Something kept here cannot be worked out",
            f"{fault} Nothing was changed: the file of Settings, Out and in, holds all of it.",
        )
    if isinstance(fault, DatabaseError | OSError):
        for words, title, advice in _FAULTS:
            if words in str(fault):  # shown without asking the database who is signed in
                page = render_to_string("site/sorry.html", {"title": title, "advice": advice})
                return HttpResponse(page, status=503)
    return _sorry(request, 500, "Something broke", "What was confirmed is stored. Go back and try again.")


def _sorry(request: HttpRequest, status: int, title: str, advice: str) -> HttpResponse:
    return render(request, "site/sorry.html", {"title": title, "advice": advice}, status=status)
