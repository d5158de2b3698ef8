"""Making it: the usual steps and tasks, amounts in kitchen measures, how far a batch is by its journal, what comes due,
what is read and seen of it, and what helps a batch that went wrong. No database: a journal is a list of entries. The
top room of core: imports any room below it, and none of them imports it.
"""

from firkin.core.bench.approach import Approach, Dose, Reads, Stand, approach_of, last_excess
from firkin.core.bench.deviations import Choice, Deviation, Vessel, choices, decided, deviation_of
from firkin.core.bench.dues import DUE_KINDS, VENT_DAYS, DueThing, after_making, keeps_days, while_waiting
from firkin.core.bench.ferments import HELD_DAYS, Fermenting, began, fermenting
from firkin.core.bench.filling import can_be_filled, left_to_fill
from firkin.core.bench.help import Rescue, Seen
from firkin.core.bench.insights import NEUTRALISED, Held, Insight, insights, so_far
from firkin.core.bench.journal import ENTRY_WORDS, UNDOABLE_AFTERWARDS, Entry, EntryKind
from firkin.core.bench.kitchen import (
    MOST_FILLINGS,
    Kitchen,
    Measure,
    exactly,
    kitchens,
    measure_out,
)
from firkin.core.bench.label_words import below_its_line, fails_a_line, usual_label_words
from firkin.core.bench.looks import ASPECTS, Series, drifting, in_words, looked_at, seen_words, series_of, worries
from firkin.core.bench.mending import Offer, offer
from firkin.core.bench.method import cautions_for, cautions_of, gear_for, taken_up
from firkin.core.bench.own_curve import Made, OwnCurve, next_day_level, own_curve, soap_g_per_L
from firkin.core.bench.own_units import in_own_unit, units_for
from firkin.core.bench.planned import Planned, Recorded, plan_of
from firkin.core.bench.progress import TOLERANCE, Progress
from firkin.core.bench.readings import (
    BY_MOLE,
    READINGS,
    BeforePreserving,
    Judged,
    Reading,
    Stands,
    asked_at,
    before_preserving,
    judge_ph,
    judge_reading,
    measured_of,
    ph_within,
    read_shown,
    reading_words,
    readings_of,
)
from firkin.core.bench.replanning import rescued, with_extra
from firkin.core.bench.rescues import TROUBLES, left_be, rescue
from firkin.core.bench.rounding import in_kitchen, in_measures
from firkin.core.bench.tasks import Task, TaskKind, tasks_of
from firkin.core.bench.vessels import Against, against_vessel

__all__ = [
    "ASPECTS",
    "BY_MOLE",
    "DUE_KINDS",
    "ENTRY_WORDS",
    "HELD_DAYS",
    "MOST_FILLINGS",
    "NEUTRALISED",
    "READINGS",
    "TOLERANCE",
    "TROUBLES",
    "UNDOABLE_AFTERWARDS",
    "VENT_DAYS",
    "Against",
    "Approach",
    "BeforePreserving",
    "Choice",
    "Deviation",
    "Dose",
    "DueThing",
    "Entry",
    "EntryKind",
    "Fermenting",
    "Held",
    "Insight",
    "Judged",
    "Kitchen",
    "Made",
    "Measure",
    "Offer",
    "OwnCurve",
    "Planned",
    "Progress",
    "Reading",
    "Reads",
    "Recorded",
    "Rescue",
    "Seen",
    "Series",
    "Stand",
    "Stands",
    "Task",
    "TaskKind",
    "Vessel",
    "after_making",
    "against_vessel",
    "approach_of",
    "asked_at",
    "before_preserving",
    "began",
    "below_its_line",
    "can_be_filled",
    "cautions_for",
    "cautions_of",
    "choices",
    "decided",
    "deviation_of",
    "drifting",
    "exactly",
    "fails_a_line",
    "fermenting",
    "gear_for",
    "in_kitchen",
    "in_measures",
    "in_own_unit",
    "in_words",
    "insights",
    "judge_ph",
    "judge_reading",
    "keeps_days",
    "kitchens",
    "last_excess",
    "left_be",
    "left_to_fill",
    "looked_at",
    "measure_out",
    "measured_of",
    "next_day_level",
    "offer",
    "own_curve",
    "ph_within",
    "plan_of",
    "read_shown",
    "reading_words",
    "readings_of",
    "rescue",
    "rescued",
    "seen_words",
    "series_of",
    "so_far",
    "soap_g_per_L",
    "taken_up",
    "tasks_of",
    "units_for",
    "usual_label_words",
    "while_waiting",
    "with_extra",
    "worries",
]
