"""What comes due as events: waits that end and dues, for the calendar and its iCalendar file."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from django.utils import timezone
from icalendar import Calendar
from icalendar import Event as CalendarEvent

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch, Due, State, Wait


@dataclass(frozen=True, slots=True)
class Event:
    """One thing that comes due; ``due`` is its id when one tap answers it."""

    at: datetime
    what: str
    batch: Batch
    text: str
    uid: str
    due: Due | None = None

    @property
    def late(self) -> bool:
        """True once its hour has come."""
        return self.at <= timezone.now()


def events_of(
    workshop: Workshop, begin: datetime | None, until: datetime | None, batch: Batch | None = None
) -> list[Event]:
    """Waits that end and what comes due, not answered yet, the soonest first."""
    waits = Wait.objects.filter(batch__workshop=workshop, batch__state=State.RESTING, ended_at=None)
    waits = waits.select_related("batch").order_by("free_at")
    dues = Due.objects.waiting(workshop)
    if batch is not None:
        waits, dues = waits.filter(batch=batch), dues.filter(batch=batch)
    if begin is not None:
        waits, dues = waits.filter(free_at__gte=begin), dues.filter(at__gte=begin)
    if until is not None:
        waits, dues = waits.filter(free_at__lt=until), dues.filter(at__lt=until)
    found = [
        Event(wait.free_at, f"{wait.get_kind_display()} is over", wait.batch, "", f"wait-{wait.pk}")
        for wait in waits[:500]
    ]
    found += [Event(due.at, due.get_kind_display(), due.batch, due.text, f"due-{due.pk}", due) for due in dues[:500]]
    return sorted(found, key=lambda event: event.at)


def ics(events: list[Event], name: str) -> bytes:
    """The events as an iCalendar file (RFC 5545), hours in UTC."""
    calendar = Calendar()
    calendar.add("prodid", "-//Firkin//bench calendar//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", f"Firkin: {name}")
    for event in events:
        entry = CalendarEvent()
        entry.add("uid", f"{event.uid}@firkin.invalid")
        entry.add("dtstamp", timezone.now())
        start = event.at.astimezone(UTC)
        entry.add("dtstart", start)
        entry.add("dtend", start + timedelta(minutes=15))
        entry.add("summary", f"{event.what}: {event.batch.name} ({event.batch.code})")
        if event.text:
            entry.add("description", event.text)
        calendar.add_component(entry)
    return bytes(calendar.to_ical())
