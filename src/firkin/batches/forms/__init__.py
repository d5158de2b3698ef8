"""Forms of a batch, by what they are for."""

from firkin.batches.forms.bottling import MOST_LABELS, FillForm, LabelForm, SheetForm, StarterForm
from firkin.batches.forms.making import (
    DoseForm,
    EmptyForm,
    ExtraForm,
    MeasuredForm,
    TickForm,
    TopUpByWeightForm,
    TopUpForm,
)
from firkin.batches.forms.readings import LogForm, LookForm, PhotoForm, ReadingForm, RescueForm
from firkin.batches.forms.slips import BottleForm, LateForm, LeaveOutForm, NeverForm
from firkin.batches.forms.stages import NoteForm, PrepareForm, ReleaseForm, StartForm

__all__ = [
    "MOST_LABELS",
    "BottleForm",
    "DoseForm",
    "EmptyForm",
    "ExtraForm",
    "FillForm",
    "LabelForm",
    "LateForm",
    "LeaveOutForm",
    "LogForm",
    "LookForm",
    "MeasuredForm",
    "NeverForm",
    "NoteForm",
    "PhotoForm",
    "PrepareForm",
    "ReadingForm",
    "ReleaseForm",
    "RescueForm",
    "SheetForm",
    "StartForm",
    "StarterForm",
    "TickForm",
    "TopUpByWeightForm",
    "TopUpForm",
]
