"""What comes due: answering it, the calendar by month and as a list, and its feed."""

import calendar as months
from collections.abc import Callable
from datetime import date, datetime, timedelta
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.batches.calendar import Event, events_of, folded, ics
from firkin.batches.models import CalendarFeed, Due
from firkin.batches.views.stages import find_batch, say
from firkin.ui.fields import whole_number


@require_POST
def settle(request: MakerRequest, pk: int) -> HttpResponse:
    """Answer something that came due, with one tap."""
    due = get_object_or_404(Due, pk=pk, batch__workshop=request.workshop)
    due.settle(request.user)
    say(request, due.batch, f"{due.batch.name}: {due.button.lower()}.")
    back = request.POST.get("back", "")
    return redirect(back if back in (reverse("bench"), reverse("batches:calendar")) else reverse("bench"))


def calendar(request: MakerRequest) -> HttpResponse:
    """A month of what comes due, all that a chosen day holds, and the list of what is ahead."""
    today = timezone.localdate()
    chosen = _day(request.GET.get("day", ""))
    first = _month(request.GET.get("month", ""), chosen or today)
    grid = months.Calendar(firstweekday=0).monthdatescalendar(first.year, first.month)
    start, end = grid[0][0], grid[-1][-1] + timedelta(days=1)
    zone = timezone.get_current_timezone()
    begin, until = (datetime(day.year, day.month, day.day, tzinfo=zone) for day in (start, end))
    by_day: dict[date, list[Event]] = {}
    for event in events_of(request.workshop, begin, until):
        by_day.setdefault(timezone.localtime(event.at).date(), []).append(event)
    context = {
        "weeks": [[_cell(day, first, by_day.get(day, [])) for day in week] for week in grid],
        "first": first,
        "before": (first - timedelta(days=1)).replace(day=1),
        "after": (first + timedelta(days=32)).replace(day=1),
        "today": today,
        "chosen": chosen if chosen and start <= chosen < end else None,
        "on_that_day": by_day.get(chosen, []) if chosen else [],
        "ahead": folded(events_of(request.workshop, None, timezone.now() + timedelta(days=120)))[:60],
        "now": timezone.now(),
        "feeds": CalendarFeed.objects.open().filter(workshop=request.workshop, owner=request.user),
    }
    context["feed_addresses"] = [
        (feed, request.build_absolute_uri(reverse("batches:feed", args=[feed.token])))
        for feed in context["feeds"]  # type: ignore[attr-defined]
    ]
    return render(request, "batches/calendar.html", context)


def _cell(day: date, first: date, events: list[Event]) -> dict[str, Any]:
    return {
        "day": day,
        "inside": day.month == first.month,
        "events": events,
        "late": any(event.late for event in events),
    }


def _day(text: str) -> date | None:
    try:
        found = date.fromisoformat(text)
    except ValueError:
        return None
    return found if 2000 <= found.year <= 2199 else None


def _month(text: str, today: date) -> date:
    try:
        year, month = (int(part) for part in text.split("-"))
        return date(year, month, 1) if 2000 <= year <= 2199 else today.replace(day=1)
    except ValueError:
        return today.replace(day=1)


@require_POST
@once
def feeds(request: MakerRequest) -> HttpResponse:
    """Make a private address for the calendar, or revoke one."""
    revoked = request.POST.get("revoke", "")
    if revoked:
        mine = CalendarFeed.objects.filter(workshop=request.workshop, owner=request.user)
        feed = get_object_or_404(mine, pk=whole_number(revoked))
        feed.revoked_at = timezone.now()
        feed.save(update_fields=["revoked_at"])
        messages.success(request, "That address no longer works.")
    else:
        CalendarFeed.objects.create(workshop=request.workshop, owner=request.user)
        messages.success(request, "Here is an address for your calendar program. Whoever has it can read the calendar.")
    return redirect("batches:calendar")


def _addresses(request: HttpRequest) -> Callable[[str], str]:
    return request.build_absolute_uri


@login_not_required
def feed(request: HttpRequest, token: str) -> HttpResponse:
    """The calendar as a file, to whoever has its address, until it is revoked."""
    found = CalendarFeed.objects.open().filter(token=token).first()
    if found is None:
        raise Http404
    events = events_of(found.workshop, None, timezone.now() + timedelta(days=400))
    return HttpResponse(
        ics(events, found.workshop.name, _addresses(request)), content_type="text/calendar; charset=utf-8"
    )


def batch_ics(request: MakerRequest, pk: int) -> HttpResponse:
    """What comes due for one batch, as a calendar file."""
    batch = find_batch(request, pk)
    events = events_of(request.workshop, None, None, batch)
    response = HttpResponse(ics(events, str(batch), _addresses(request)), content_type="text/calendar; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="batch-{batch.code}.ics"'
    return response
