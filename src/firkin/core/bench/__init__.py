"""A batch by its journal: tasks, targets and deviations, how far it is, what is read and seen of it, what comes due.
No database: a journal is a list of entries. Imports the rooms below it; only mending stands above.
"""

from firkin.core.bench.approach import Approach, Dose, Reads, Stand, approach_of, last_excess
from firkin.core.bench.deviations import Choice, Deviation, Vessel, choices, decided, deviation_of
from firkin.core.bench.dues import (
    DAY_H,
    DUE_KINDS,
    VENT_DAYS,
    DueThing,
    after_making,
    keeps_days,
    keeps_of,
    while_waiting,
)
from firkin.core.bench.ferments import HELD_DAYS, Fermenting, began, fermenting
from firkin.core.bench.filling import DREGS_ML, can_be_filled, left_to_fill
from firkin.core.bench.insights import NEUTRALISED, Held, Insight, insights, so_far
from firkin.core.bench.journal import ENTRY_WORDS, UNDOABLE_AFTERWARDS, Entry, EntryKind
from firkin.core.bench.label_words import below_its_line, usual_label_words
from firkin.core.bench.looks import ASPECTS, drifting, looked_at, seen_words, series_of, worries
from firkin.core.bench.method import cautions_for, cautions_of, gear_for, taken_up
from firkin.core.bench.own_curve import FEW, THICKNESS, WANTED, Made, OwnCurve, next_day_level, own_curve, soap_g_per_L
from firkin.core.bench.own_units import in_measures, in_own_unit, units_for
from firkin.core.bench.planned import Planned, Recorded, plan_of
from firkin.core.bench.progress import Progress
from firkin.core.bench.readings import (
    BY_MOLE,
    READINGS,
    Stands,
    asked_at,
    before_preserving,
    judge_mass,
    judge_ph,
    judge_reading,
    judge_stem,
    judge_yield,
    measured_of,
    ph_within,
    read_shown,
    reading_words,
    readings_of,
)
from firkin.core.bench.slips import LeftOut, follows, left_out, not_in_yet
from firkin.core.bench.tasks import Task, TaskKind, tasks_of

__all__ = [
    "ASPECTS",
    "BY_MOLE",
    "DAY_H",
    "DREGS_ML",
    "DUE_KINDS",
    "ENTRY_WORDS",
    "FEW",
    "HELD_DAYS",
    "NEUTRALISED",
    "READINGS",
    "THICKNESS",
    "UNDOABLE_AFTERWARDS",
    "VENT_DAYS",
    "WANTED",
    "Approach",
    "Choice",
    "Deviation",
    "Dose",
    "DueThing",
    "Entry",
    "EntryKind",
    "Fermenting",
    "Held",
    "Insight",
    "LeftOut",
    "Made",
    "OwnCurve",
    "Planned",
    "Progress",
    "Reads",
    "Recorded",
    "Stand",
    "Stands",
    "Task",
    "TaskKind",
    "Vessel",
    "after_making",
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
    "fermenting",
    "follows",
    "gear_for",
    "in_measures",
    "in_own_unit",
    "insights",
    "judge_mass",
    "judge_ph",
    "judge_reading",
    "judge_stem",
    "judge_yield",
    "keeps_days",
    "keeps_of",
    "last_excess",
    "left_out",
    "left_to_fill",
    "looked_at",
    "measured_of",
    "next_day_level",
    "not_in_yet",
    "own_curve",
    "ph_within",
    "plan_of",
    "read_shown",
    "reading_words",
    "readings_of",
    "seen_words",
    "series_of",
    "so_far",
    "soap_g_per_L",
    "taken_up",
    "tasks_of",
    "units_for",
    "usual_label_words",
    "while_waiting",
    "worries",
]
