"""The task at hand as its page shows it: one model for each kind of task, each with what that kind asks for."""

import uuid
from dataclasses import dataclass, fields
from datetime import datetime
from typing import Any

from firkin.batches.forms import (
    DoseForm,
    LeaveOutForm,
    MeasuredForm,
    ReadingForm,
    TickForm,
    TopUpByWeightForm,
    TopUpForm,
)
from firkin.batches.making import Making
from firkin.batches.models import Batch, BatchLine
from firkin.core.bench import (
    ASPECTS,
    READINGS,
    Approach,
    BeforePreserving,
    Progress,
    Reads,
    Task,
    TaskKind,
    approach_of,
    asked_at,
    before_preserving,
    in_measures,
    in_own_unit,
    not_in_yet,
    readings_of,
    units_for,
)
from firkin.core.formula import Line, levels
from firkin.core.kitchen import Kitchen
from firkin.core.measures import Quantity, figures
from firkin.drawings.approach import approach_curve
from firkin.shelf.models import kitchens_of

Form = MeasuredForm | TickForm


@dataclass(frozen=True)
class AtHand:
    """What every kind of task shows: its form, what is to be read at it, and how it is left out."""

    task: Task
    form: Form | None
    out_form: LeaveOutForm
    to_read: list[dict[str, object]]
    timer_end: datetime | None

    @property
    def shown(self) -> dict[str, Any]:
        """What its page is given."""
        return {one.name: getattr(self, one.name) for one in fields(self)}


@dataclass(frozen=True)
class Doing(AtHand):
    """Something to do: ``unready`` are the lines it speaks of that were left out."""

    unready: tuple[int, ...]


@dataclass(frozen=True)
class Resting(AtHand):
    """A wait to begin."""


@dataclass(frozen=True)
class Measuring(AtHand):
    """A line to measure or to top up with: how much, in the maker's own unit too, and what the scale then shows."""

    line: Line
    row: BatchLine
    target: Quantity
    own: Quantity | None
    scale_g: float | None


@dataclass(frozen=True)
class Pouring(Measuring):
    """A line that is measured at once or in so many additions; ``mark`` is where it then stands on its bottle, mL."""

    kitchen: Kitchen | None
    in_measures: str
    portion: Quantity | None
    portion_g: float
    portions_in: int
    mark: float | None
    preserving: BeforePreserving | None


@dataclass(frozen=True)
class Dosing(Measuring):
    """A line that goes in by small doses until a reading says enough."""

    approach: Approach
    approach_drawn: str
    dose: DoseForm
    preserving: BeforePreserving | None


def at_hand(making: Making, task: Task, form: Form | None, dose: DoseForm | None = None) -> AtHand:
    """The task at hand, with its forms as they were filled in."""
    progress = making.progress
    approach = approach_of(progress, task)
    out_form = LeaveOutForm(initial={"key": uuid.uuid4(), "task": progress.turn}, auto_id="out_%s")
    to_read = _to_read(progress, task) if approach is None else []
    shared = (task, form, out_form, to_read, progress.timer_end(task))
    if task.line is None:
        done = task.kind is TaskKind.DO
        return Doing(*shared, not_in_yet(progress, task)) if done else Resting(*shared)
    line, row, target = progress.formula.lines[task.line], making.lines[task.line], progress.target(task)
    measured = (*shared, line, row, target, in_own_unit(progress, task), _scale_shows(making, task))
    if task.kind is TaskKind.TOP_UP:
        return Measuring(*measured)
    preserving = before_preserving(progress, task)
    if approach is not None:
        return Dosing(*measured, approach, _drawn(approach), dose or dose_form(making, approach, None), preserving)
    kitchen = kitchens_of(making.batch.workshop).get(making.batch.kitchen)
    return Pouring(
        *measured,
        kitchen,
        in_measures(progress, task, kitchen) if kitchen is not None else "",
        progress.portion_target(task) if task.portions > 1 else None,
        progress.target_g(task) / task.portions,
        progress.portions_in(task),
        _mark(making.batch, progress, task),
        preserving,
    )


def form_for(making: Making, data: Any) -> MeasuredForm | TickForm | None:
    """The form of the task at hand; None when ``data`` answers another one (a second tab, a double press)."""
    task = making.progress.task
    if task is None or (data is not None and data.get("task") != str(making.progress.turn)):
        return None
    initial: dict[str, Any] = {"key": uuid.uuid4(), "task": making.progress.turn}
    if task.line is None:
        out = [making.progress.formula.lines[i].material.name for i in not_in_yet(making.progress, task)]
        return TickForm(data, initial=initial, not_in=out)
    approach = approach_of(making.progress, task)
    asked = in_own_unit(making.progress, task) or making.progress.target(task)
    if approach is not None and approach.doses:
        asked = Quantity(approach.so_far, approach.unit)
    initial |= {"amount": figures(asked.value), "unit": asked.unit}
    units = units_for(making.progress, task)
    if task.kind is not TaskKind.TOP_UP:
        return MeasuredForm(data, initial=initial, units=units)
    by_weight = making.progress.target(task).kind == "mass"
    return (TopUpByWeightForm if by_weight else TopUpForm)(data, initial=initial, units=units)


def dose_form(making: Making, approach: Approach, data: Any) -> DoseForm:
    initial = {
        "key": uuid.uuid4(),
        "task": making.progress.turn,
        "amount": figures(approach.next_dose, 3) if approach.next_dose else "",
    }
    return DoseForm(data, initial=initial, approach=approach, auto_id="dose_%s")


def _scale_shows(making: Making, task: Task | None) -> float | None:
    """What the scale shows, the vessel on it, once this line is in; None where the vessel's own weight is not known."""
    vessel = making.batch.vessel
    if task is None or vessel is None or vessel.empty_g is None:
        return None
    there = making.progress.weighs_after_g(task)
    return None if there is None else there + vessel.empty_g


def _mark(batch: Batch, progress: Progress, task: Task | None) -> float | None:
    """Where it stands on its bottle once the line at hand is in, mL; None for what goes into another vessel."""
    in_bottle = batch.vessel is not None and batch.vessel.kind == "bottle"
    if not in_bottle or task is None or task.line is None or task.vessel or progress.left_out or progress.overfull:
        return None
    liquid = not progress.formula.lines[task.line].solid
    return levels(progress.result.formula)[task.line] if liquid and task.kind is TaskKind.POUR else None


def _to_read(progress: Progress, task: Task) -> list[dict[str, object]]:
    """What this task asks to be read, each with its form and the last of it."""
    last = {one.what: one for one in readings_of(progress)}
    asked: list[dict[str, object]] = []
    for what in asked_at(progress, task):
        form = ReadingForm(initial={"what": what, "key": uuid.uuid4()}, auto_id=f"{what}_%s", strained=True)
        form.fields["value"].widget.attrs["placeholder"] = READINGS[what].example
        asked.append({"name": READINGS[what].name, "last": last.get(what), "unit": READINGS[what].unit, "form": form})
    return asked


def _drawn(approach: Approach) -> str:
    points = [(dose.total, dose.reading) for dose in approach.read if dose.reading is not None]
    levels = ASPECTS["thickness"][1] if approach.reads is Reads.THICKNESS else ()
    name = "Thickness" if levels else "pH"
    return approach_curve(points, approach.window, approach.planned, approach.unit, name, levels)
