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
from firkin.batches.forms.stages import NoteForm, PrepareForm, ReleaseForm, StartForm

__all__ = [
    "MOST_LABELS",
    "DoseForm",
    "EmptyForm",
    "ExtraForm",
    "FillForm",
    "LabelForm",
    "LogForm",
    "LookForm",
    "MeasuredForm",
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
