"""Where the pieces of a vessel are: whoever keeps records of them says it, the shelf knows only how many there are."""

from typing import Any

from django.dispatch import Signal

from firkin.shelf.models import Vessel

#: Sent with ``vessel``; whoever has some of it answers with rows of how many, where, and an address or "".
where_are = Signal()
Place = tuple[int, str, str]


def places_of(vessel: Vessel) -> list[Place]:
    """How many of a vessel are where; the rest, if any, stands here empty."""
    answers: list[tuple[Any, Any]] = where_are.send(Vessel, vessel=vessel)
    found: list[Place] = [place for _, places in answers for place in places or ()]
    empty = vessel.count - sum(count for count, _, _ in found)
    dirty = max(0, min(vessel.to_wash, empty))
    here = [(dirty, "here, to be washed", ""), (empty - dirty, "here, empty" if not dirty else "here, clean", "")]
    return [*found, *(one for one in here if one[0] > 0)]
