"""Fixes: what puts a batch right that came out wrong, worked out for what is in the vessel, judged before it is
offered, and made part of its steps. The top room of core: imports any room below it, and none of them imports it.
"""

from firkin.core.mending.aims import Aim, aims_of, chosen, short_of_promise, what_to_do
from firkin.core.mending.help import Seen
from firkin.core.mending.offering import Offer, offer
from firkin.core.mending.replanning import as_read, put_in_late, rescued, with_extra
from firkin.core.mending.rescues import ANY_BATCH, TROUBLES, left_be, rescue

__all__ = [
    "ANY_BATCH",
    "TROUBLES",
    "Aim",
    "Offer",
    "Seen",
    "aims_of",
    "as_read",
    "chosen",
    "left_be",
    "offer",
    "put_in_late",
    "rescue",
    "rescued",
    "short_of_promise",
    "what_to_do",
    "with_extra",
]
