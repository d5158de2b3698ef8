"""Editing a formula: rows of lines and steps that can be moved, and the formula they make.

Rows travel as parallel lists of fields; a button press is an act on them. Steps name their lines by the
numbers the maker sees, so moving a line renumbers them.
"""

import re
from dataclasses import replace
from typing import Any

from django import forms
from django.http import QueryDict

from firkin.core.audit import Finding, audit
from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.formula import (
    Formula,
    Line,
    Reckoning,
    Step,
    claim_for,
    dose_words,
    percent_words,
    reckon,
    steps_of,
)
from firkin.core.measures import error_words, hours_words
from firkin.core.plan import act_of, cups_astray
from firkin.formulas.following import SHOWN, SPOKEN, followed
from firkin.shelf.on_hand import Shelf
from firkin.ui.fields import (
    BasisField,
    DoseField,
    FamilyField,
    HeatField,
    KeepField,
    MakeField,
    RulesField,
    TemperatureField,
    WaitField,
    text_widget,
    whole_number,
)
from firkin.ui.rows import Act, LineForm, fix_asked, marks, reordered, rows_from, say_at_field

LINE_FIELDS = ("material", "strength", "amount", "error", "phase", "note")
STEP_FIELDS = ("do", "text", "lines", "wait", "portions", "timer", "temperature", "vessel", "source", "caution")


class EditLineForm(LineForm):
    """A line in the editor: with its phase and a note."""

    phase = forms.CharField(max_length=40, required=False, label="Phase", widget=text_widget("A"))
    note = forms.CharField(max_length=2000, required=False, label="Note", widget=text_widget("note"))

    def clean(self) -> dict[str, Any]:
        """The line with its phase and note."""
        data = super().clean()
        if self.line is not None:
            self.line = replace(self.line, phase=data.get("phase", ""), note=data.get("note", ""))
        return data


class StepForm(forms.Form):
    """One step: what to do, with which lines, in how many additions, and how long to wait after."""

    do = forms.CharField(max_length=40, label="Do", widget=text_widget("pour, mix, rest ..."))
    text = forms.CharField(max_length=2000, required=False, label="In words", widget=text_widget("how it is done"))
    lines = forms.CharField(max_length=60, required=False, label="Lines", widget=text_widget("1, 2"))
    wait = WaitField(required=False, label="Wait", widget=text_widget("72 h"))
    portions = forms.IntegerField(
        required=False, min_value=1, max_value=1000, label="Additions", widget=text_widget("1", inputmode="numeric")
    )

    timer = WaitField(required=False, label="Timer", widget=text_widget("10 min"))
    temperature = HeatField(required=False, label="At", widget=text_widget("70 °C"))
    vessel = forms.CharField(max_length=40, required=False, label="In a cup", widget=text_widget("cup"))
    source = forms.CharField(max_length=40, required=False, label="Pours out", widget=text_widget("cup"))
    caution = forms.CharField(max_length=300, required=False, label="Caution", widget=text_widget("caution"))

    use_required_attribute = False

    def __init__(self, row: dict[str, str], index: int, line_count: int) -> None:
        super().__init__(row, auto_id=f"id_step_%s_{index}")
        self.line_count = line_count

    def clean_lines(self) -> tuple[int, ...]:
        """Positions from the numbers the maker sees."""
        numbers = [part for part in re.split(r"[\s,;]+", self.cleaned_data["lines"]) if part]
        for number in numbers:
            if not 1 <= whole_number(number) <= self.line_count:
                raise forms.ValidationError(f"There is no line {number[:10]}; they run from 1 to {self.line_count}.")
        return tuple(whole_number(number) - 1 for number in numbers)


class HeadForm(forms.Form):
    """What concerns the whole formula."""

    name = forms.CharField(
        max_length=200,
        label="Name",
        error_messages={"required": "Give the formula a name to find it by."},
        widget=text_widget("a name of your own"),
    )
    tags = forms.CharField(max_length=200, required=False, label="Tags", widget=text_widget("spray, winter"))
    family = FamilyField()
    make = MakeField(required=False, label="Make", widget=text_widget("1 L"))
    basis = BasisField()
    temperature = TemperatureField(required=False, label="Bench temperature", widget=text_widget("20 °C"))
    claim = forms.CharField(max_length=60, required=False, label="Said to be", widget=text_widget("70 %"))
    keep = KeepField(required=False, label="Keeps", widget=text_widget("as the family does"))
    cut = forms.FloatField(
        required=False,
        min_value=0,
        max_value=100,
        label="Cut with water while bottling, parts",
        widget=text_widget("0", inputmode="decimal"),
    )
    dose = DoseField(
        required=False,
        label="One load or wash takes",
        widget=text_widget("as usual in its family"),
    )
    loads = forms.FloatField(
        required=False,
        min_value=1,
        max_value=1_000_000,
        label="Said to make so many",
        widget=text_widget("", inputmode="decimal"),
    )
    change = forms.CharField(
        max_length=300, required=False, label="What changed", widget=text_widget("a word for the version list")
    )
    rule = RulesField()

    use_required_attribute = False


def rows_of(formula: Formula, name: str, tags: str, change: str = "") -> QueryDict:
    """A formula as the editor's fields."""
    data = QueryDict(mutable=True)
    data.update({"name": name, "tags": tags, "family": formula.family, "basis": formula.basis, "change": change})
    data["claim"] = str(formula.claim.strength) if formula.claim else ""
    data["make"] = str(formula.make) if formula.make else ""
    data["temperature"] = "" if formula.temperature == 20.0 else f"{formula.temperature:g} degC"
    data["keep"] = f"{formula.keep_days:g} days" if formula.keep_days is not None else ""
    data["cut"] = f"{formula.cut:g}" if formula.cut else ""
    data["dose"] = dose_words(formula)
    data["loads"] = f"{formula.loads:g}" if formula.loads else ""
    data.setlist("rule", list(formula.guidelines))
    for line in formula.lines:
        good_to = error_words(line.error)
        values = (line.material.name, str(line.strength or ""), str(line.amount), good_to, line.phase, line.note)
        for field, value in zip(LINE_FIELDS, values, strict=True):
            data.appendlist(field, value)
    for step in formula.steps:
        numbers = ", ".join(str(line + 1) for line in step.lines)
        wait = hours_words(step.wait_h) if step.wait_h is not None else ""
        timer = hours_words(step.timer_h) if step.timer_h is not None else ""
        heat = f"{step.temperature:g} °C" if step.temperature is not None else ""
        cups = (step.vessel, step.source)
        details = (step.do, step.text, numbers, wait, str(step.portions), timer, heat, *cups, step.caution)
        for field, value in zip(STEP_FIELDS, details, strict=True):
            data.appendlist(f"step_{field}", value)
    return data


class Editor:
    """The editor's rows as forms, after an act on them, and the formula they make."""

    def __init__(
        self, data: QueryDict, own: tuple[Material, ...], shelf: Shelf, *, saving: bool = False, fresh: bool = False
    ) -> None:
        """``saving`` asks for what only what is kept must have; a ``fresh`` page has nothing to complain of yet."""
        self.own, self.shelf, self.saving, self.fresh = own, shelf, saving, fresh
        self._fill(data)
        fixed = fix_asked(data, self.findings, self.result)
        if data.get("act") == "usual-steps" and self.formula is not None:
            fixed = replace(self.formula, steps=steps_of(replace(self.formula, steps=())))
        if fixed is not None:
            self._fill(rows_of(fixed, data.get("name", ""), data.get("tags", ""), data.get("change", "")))

    def _fill(self, data: QueryDict) -> None:
        lines = rows_from(data, LINE_FIELDS)
        steps = rows_from(data, STEP_FIELDS, "step_")
        act = Act.read(data)
        if act is not None and act.kind == "line":
            order = act.order(len(lines))
            steps = [{**row, "lines": _renumbered(row["lines"], order)} for row in steps]
            lines = reordered(lines, order, LINE_FIELDS)
        elif act is not None and act.kind == "step":
            steps = reordered(steps, act.order(len(steps)), STEP_FIELDS)
        data = followed(data, self.shelf.materials_of(lines, self.own))
        self.follows = {name: data.get(name, "") for name in (SHOWN, SPOKEN)}
        self.head = HeadForm(data, label_suffix="")
        self.head.fields["name"].required = self.saving
        self.lines = [EditLineForm(row, i, self.own, self.shelf) for i, row in enumerate(lines)]
        self.steps = [StepForm(row, i, len(lines)) for i, row in enumerate(steps)]
        self.trouble = ""
        self.formula = self._formula()
        self.result: Reckoning | None = None
        self.findings: tuple[Finding, ...] = ()
        if self.formula is not None:
            try:
                self.result = reckon(self.formula)
                self.findings = audit(self.result)
            except CannotReckon as error:
                self.trouble = say_at_field(error, self.lines, self.head)

    @property
    def percents(self) -> tuple[str, bool] | None:
        """What the per cents typed so far add up to, and whether that is right; None where there are none.

        It is there while other lines cannot be read yet.
        """
        lines = [form.line for form in self.lines if form.line is not None]
        return percent_words(Formula("As typed", tuple(lines))) if lines else None

    @property
    def astray(self) -> list[str]:
        """What is wrong with the cups of the steps; a formula is kept all the same."""
        return cups_astray([act_of(step) for step in self.formula.steps]) if self.formula is not None else []

    @property
    def marks(self) -> str:
        """Where the findings of each line are marked."""
        return marks(self.lines)

    def _formula(self) -> Formula | None:
        checked = [self.head.is_valid(), *(form.is_valid() for form in (*self.lines, *self.steps))]
        lines: list[Line] = [form.line for form in self.lines if form.line is not None]
        if not all(checked) or not lines:
            if not self.lines and not self.fresh:
                self.trouble = "Nothing goes in yet. Add a line."
            return None
        data = self.head.cleaned_data
        claim = None
        try:
            claim = claim_for(lines, data["claim"]) if data["claim"] else None
        except CannotReckon as error:
            self.head.add_error("claim", str(error))
            return None
        steps = tuple(
            Step(
                row["do"],
                row["text"],
                row["lines"],
                row["wait"],
                row["portions"] or 1,
                row["timer"],
                row["temperature"],
                row["caution"],
                row["vessel"].strip(),
                row["source"].strip(),
            )
            for row in (form.cleaned_data for form in self.steps)
        )
        return Formula(
            name=data["name"] or "Unnamed",
            lines=tuple(lines),
            family=data["family"],
            basis=data["basis"],
            make=data["make"],
            temperature=20.0 if data["temperature"] is None else data["temperature"],
            guidelines=tuple(data["rule"]),
            steps=steps,
            claim=claim,
            keep_days=data["keep"],
            cut=data["cut"] or 0.0,
            dose=data["dose"][0] if data["dose"] else None,
            dose_of=data["dose"][1] if data["dose"] else "",
            loads=data["loads"],
        )


def _renumbered(lines: str, order: list[int | None]) -> str:
    """A step's line numbers after lines moved; a dropped line is no longer named."""
    places = {old + 1: new + 1 for new, old in enumerate(order) if old is not None}
    numbers = [int(part) for part in re.findall(r"\d{1,4}", lines, re.ASCII)]
    return ", ".join(str(places[number]) for number in numbers if number in places)
