"""What comes due as events: waits that end and dues, for the calendar and its iCalendar file."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from django.urls import reverse
from django.utils import timezone
from icalendar import Alarm, Calendar
from icalendar import Event as CalendarEvent

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch, Due, State, Wait


@dataclass(frozen=True, slots=True)
class Event:
    """One thing that comes due, of a batch or of what another room plans; ``due`` is its id when one tap answers it.

    What is of no batch yet has a name and a page of its own.
    """

    at: datetime
    what: str
    batch: Batch | None
    text: str
    uid: str
    due: Due | None = None
    planned: str = ""
    page: str = ""

    @property
    def name(self) -> str:
        """What it is of."""
        return self.planned if self.batch is None else self.batch.name

    @property
    def code(self) -> str:
        """The number of its batch; empty where there is none yet."""
        return "" if self.batch is None else self.batch.code

    @property
    def path(self) -> str:
        """Where it leads."""
        return self.page if self.batch is None else reverse("batches:batch", args=[self.batch.pk])

    @property
    def late(self) -> bool:
        """True once its hour has come."""
        return self.at <= timezone.now()


#: What other rooms have for the calendar of a workshop, between two hours: they register themselves as they start.
PLANNED: list[Callable[[Workshop, datetime | None, datetime | None], list[Event]]] = []


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
    if batch is None:
        found += [event for planned in PLANNED for event in planned(workshop, begin, until)]
    return sorted(found, key=lambda event: event.at)


@dataclass(frozen=True, slots=True)
class Fold:
    """What comes due again and again, in one row: the next of it, how many more, and until when."""

    next: Event
    more: int
    until: datetime


def folded(events: Iterable[Event]) -> list[Fold]:
    """Events ahead, those of one kind of a batch in one row; what is late stays by itself."""
    rows: list[Fold] = []
    places: dict[tuple[str, str], int] = {}
    for event in events:
        key = (event.path if event.batch is not None else event.uid, event.what)
        if event.late or key not in places:
            if not event.late:
                places[key] = len(rows)
            rows.append(Fold(event, 0, event.at))
        else:
            before = rows[places[key]]
            rows[places[key]] = Fold(before.next, before.more + 1, event.at)
    return rows


def ics(events: list[Event], name: str, address: Callable[[str], str]) -> bytes:
    """The events as an iCalendar file (RFC 5545), hours in UTC, each with an alarm and the address of its page."""
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
        entry.add("summary", f"{event.what}: {event.name}{f' ({event.code})' if event.code else ''}")
        entry.add("url", address(event.path))
        entry.add("description", f"{event.text} {address(event.path)}".strip())
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", f"{event.what}: {event.name}")
        alarm.add("trigger", timedelta())
        entry.add_component(alarm)
        calendar.add_component(entry)
    return bytes(calendar.to_ical())
