"""Making it: the usual steps, amounts in kitchen measures, what comes due, what a reading means, and what helps a batch
that went wrong. The top room of core: imports any room below it, and none of them imports it.
"""

from firkin.core.bench.dues import DUE_KINDS, VENT_DAYS, DueThing, after_making, while_waiting
from firkin.core.bench.kitchen import MOST_FILLINGS, Kitchen, Measure, exactly, in_kitchen, kitchens, measure_out
from firkin.core.bench.method import cautions_for, gear_for, quarantined, steps_of
from firkin.core.bench.readings import ASPECTS, Judged, drifting, in_words, judge_ph
from firkin.core.bench.rescues import TROUBLES, Rescue, Seen, rescue

__all__ = [
    "ASPECTS",
    "DUE_KINDS",
    "MOST_FILLINGS",
    "TROUBLES",
    "VENT_DAYS",
    "DueThing",
    "Judged",
    "Kitchen",
    "Measure",
    "Rescue",
    "Seen",
    "after_making",
    "cautions_for",
    "drifting",
    "exactly",
    "gear_for",
    "in_kitchen",
    "in_words",
    "judge_ph",
    "kitchens",
    "measure_out",
    "quarantined",
    "rescue",
    "steps_of",
    "while_waiting",
]
