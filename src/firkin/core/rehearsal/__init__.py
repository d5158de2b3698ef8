"""Rehearsal: a formula played through by a simulated maker with simulated tools, bottles and slips, seeded, ending in
events, a record, what really went in and a label. The top room of core beside season; the text commands and the site
import it, and it stands on bench and mending as a real batch does.
"""

from firkin.core.rehearsal.care import Care, cares
from firkin.core.rehearsal.player import Event
from firkin.core.rehearsal.rehearsal import REHEARSED, Rehearsal, RehearsedLabel, rehearse

__all__ = ["REHEARSED", "Care", "Event", "Rehearsal", "RehearsedLabel", "cares", "rehearse"]
