"""Checking a recipe: what was read of a text as chips the maker corrects, and the formula they make.

Chips travel as parallel lists of fields, like the editor's rows; the fix of a finding is a press that writes the
fixed formula back into them.
"""

import re
from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from django import forms
from django.http import QueryDict

from firkin.core.audit import Finding, Severity, audit, audit_materials
from firkin.core.catalogue import Material, families, find, materials
from firkin.core.errors import CannotReckon
from firkin.core.formula import UNCLAIMED, Claim, Claims, Formula, Line, LineClaims, Reckoning, claim_for, reckon
from firkin.core.measures import Strength, figures
from firkin.core.recipe import Recipe, measures, read_recipe
from firkin.shelf.on_hand import Shelf
from firkin.ui.fields import (
    BasisField,
    FamilyField,
    MakeField,
    NumberField,
    RuleField,
    ShareField,
    StrengthField,
    VolumeField,
    text_widget,
)
from firkin.ui.rows import Act, LineForm, fix_asked, marks, place, reordered, rows_from

EXAMPLE = (
    "Three parts 70% rubbing alcohol to one part aloe vera gel, 10 drops of lavender oil, makes 70% hand sanitizer."
)
#: So many pieces that were not understood are carried along.
MOST_UNREAD = 200
CHIPS = ("material", "strength", "amount", "share", "on_hand", "heard", "misread")


class ChipForm(LineForm):
    """One line as read, with what the recipe says of it."""

    error = None  # type: ignore[assignment]
    share = ShareField(required=False, label="Said to be, of the batch", widget=text_widget("1 %"))
    on_hand = StrengthField(required=False, label="The bottle here says", widget=text_widget("70 %"))
    heard = forms.CharField(max_length=80, required=False, widget=forms.HiddenInput)
    misread = forms.CharField(max_length=20, required=False, widget=forms.HiddenInput)

    def clean(self) -> dict[str, Any]:
        """The line with its claims; words heard count only while they still name the material."""
        data = super().clean()
        if self.line is not None:
            misread = data.get("misread", "")
            claims = LineClaims(
                data.get("heard", ""),
                data.get("share"),
                data.get("on_hand"),
                float(misread) if re.fullmatch(r"\d{1,3}(?:\.\d+)?", misread, re.ASCII) else None,
            )
            self.line = replace(self.line, claims=claims)
        return data


class RecipeForm(forms.Form):
    """What a recipe says of the whole, and what it is to be judged by."""

    family = FamilyField()
    rule = RuleField()
    basis = BasisField()
    make = MakeField(required=False, label="Made up to", widget=text_widget("1 L"))
    size = MakeField(required=False, label="Said to make", widget=text_widget("1 L"))
    claim = forms.CharField(max_length=60, required=False, label="Said to be", widget=text_widget("70 %"))
    vessel = VolumeField(required=False, label="Goes in", widget=text_widget("1 L"))
    loads = NumberField(required=False, label="Loads", widget=text_widget("60"))
    dose = MakeField(required=False, label="A load takes", widget=text_widget("120 mL"))
    cost = NumberField(required=False, label="Cost", widget=text_widget("3.50"))
    cost_per_load = NumberField(required=False, label="Cost of a load", widget=text_widget("0.05"))
    kills = forms.ChoiceField(
        required=False, choices=lambda: [("", ""), *((key, key) for key in materials())], widget=forms.HiddenInput
    )
    glass = forms.BooleanField(required=False, widget=forms.HiddenInput)

    use_required_attribute = False
    CLAIMED = ("claim", "make", "size", "vessel", "loads", "dose", "cost", "cost_per_load")

    def claimed(self) -> list[forms.BoundField]:
        """The fields of claims that say something."""
        return [self[name] for name in self.CLAIMED if self[name].value()]

    def unclaimed(self) -> list[forms.BoundField]:
        """The fields of claims that are empty."""
        return [self[name] for name in self.CLAIMED if not self[name].value()]


class Check:
    """A recipe being checked: its chips, the formula they make, and the findings."""

    def __init__(self, data: QueryDict, own: tuple[Material, ...], shelf: Shelf) -> None:
        self.own, self.shelf = own, shelf
        self.text = data.get("text", "")[:100_000]
        self.whose = data.get("whose", "us") if data.get("whose") in measures() else "us"
        self.recipe: Recipe | None = None
        if data.get("act") == "example":
            self.text = EXAMPLE
        if data.get("act") in ("read", "example"):
            self.recipe = read_recipe(self.text, self.whose, own)
            data = chips_of(self.recipe)
        self.unread = tuple(self.recipe.unread if self.recipe else data.getlist("unread")[:MOST_UNREAD])
        self._fill(data)
        fixed = fix_asked(data, self.findings)
        if fixed is not None:
            self._fill(chips_of_formula(fixed))

    def _fill(self, data: QueryDict) -> None:
        rows = rows_from(data, CHIPS)
        act = Act.read(data)
        if act is not None and act.kind == "chip":
            rows = reordered(rows, act.order(len(rows)), CHIPS)
        self.head = RecipeForm(data, label_suffix="")
        self.chips = [ChipForm(row, i, self.own, self.shelf) for i, row in enumerate(rows)]
        self.trouble = ""
        self.result: Reckoning | None = None
        self.findings: tuple[Finding, ...] = ()
        formula = self._formula()
        if formula is not None:
            try:
                self.result = reckon(formula)
            except CannotReckon as error:
                self.trouble = place(error, self.chips, self.head)
        self.findings = self._findings()

    def _findings(self) -> tuple[Finding, ...]:
        """What is wrong; by the materials alone where amounts are missing, and with what unread words name besides."""
        whole = audit(self.result) if self.result is not None else ()
        named = list(self._named())
        there = [(material, strength) for _, material, strength in named]
        by_name = audit_materials(there, self._family(), self._said(), self.unread)
        said = {finding.rule for finding in whole}  # what the chips hold has been audited with its amounts
        more = (
            replace(finding, lines=tuple(named[at][0] for at in finding.lines))
            for finding in by_name
            if finding.rule not in said
        )
        return tuple(sorted((*whole, *more), key=lambda finding: list(Severity).index(finding.severity)))

    def _named(self) -> Iterator[tuple[int, Material, Strength | None]]:
        """The materials of the chips by their places, whether or not their amounts can be read."""
        for at, form in enumerate(self.chips):
            written = (form.data.get("material") or "").strip()
            if form.line is not None:
                yield at, form.line.material, form.line.strength
            elif written:
                stock = self.shelf.find(written)
                yield at, find(stock.material if stock else written, self.own), None

    def _family(self) -> str:
        family = self.head.data.get("family", "")
        return family if family in families() else "other"

    def _said(self) -> Claims:
        return replace(UNCLAIMED, glass=self.head.data.get("glass") == "on")

    @property
    def counted(self) -> int:
        """How many lines were looked at."""
        return len(self.chips)

    @property
    def settings(self) -> list[forms.BoundField]:
        """How it is counted and judged."""
        return [self.head[name] for name in ("rule", "family", "basis")]

    @property
    def read(self) -> bool:
        """True once there is something to show of the recipe."""
        return bool(self.chips) or self.recipe is not None

    @property
    def marks(self) -> str:
        """Where the findings of each chip are marked."""
        return marks(self.chips)

    def _formula(self) -> Formula | None:
        checked = [self.head.is_valid(), *(form.is_valid() for form in self.chips)]
        lines: list[Line] = [form.line for form in self.chips if form.line is not None]
        if not all(checked) or not lines or len(lines) < len(self.chips):
            return None
        data = self.head.cleaned_data
        claims = Claims(
            data["size"],
            data["vessel"],
            data["loads"],
            data["dose"],
            data["cost"],
            data["cost_per_load"],
            data["kills"],
            data["glass"],
        )
        formula = Formula(
            "A recipe heard",
            tuple(lines),
            data["family"],
            data["basis"],
            data["make"],
            guidelines=(data["rule"],) if data["rule"] else (),
            claims=claims,
        )
        return replace(formula, claim=self._claim(lines, data["claim"])) if data["claim"] else formula

    def _claim(self, lines: list[Line], written: str) -> Claim | None:
        try:
            return claim_for(lines, written)
        except CannotReckon as error:
            self.head.add_error("claim", str(error))
            return None


def chips_of(recipe: Recipe) -> QueryDict:
    """What was read, as the fields of the chips."""
    data = _head(recipe.family, recipe.basis, recipe.make, recipe.claim, recipe.claims)
    data["rule"] = families()[recipe.family].line
    for line in recipe.lines:
        name, strength, amount = line.words()
        _chip(data, find(name).name if line.material.known else name, strength, amount, line.claims)
    return data


def chips_of_formula(formula: Formula) -> QueryDict:
    """A formula with its claims, as the fields of the chips."""
    data = _head(formula.family, formula.basis, formula.make, formula.claim, formula.claims)
    data["rule"] = next(iter(formula.guidelines), "")
    for line in formula.lines:
        _chip(data, line.material.name, str(line.strength or ""), str(line.amount), line.claims)
    return data


def _head(family: str, basis: str, make: object, claim: Claim | None, claims: Claims) -> QueryDict:
    data = QueryDict(mutable=True)
    data.update({"family": family, "basis": basis, "kills": claims.kills, "glass": "on" if claims.glass else ""})
    data["make"] = str(make or "")
    data["claim"] = str(claim.strength) if claim else ""
    for name in ("size", "vessel", "dose"):
        data[name] = str(getattr(claims, name) or "")
    for name in ("loads", "cost", "cost_per_load"):
        value = getattr(claims, name)
        data[name] = "" if value is None else figures(value)
    return data


def _chip(data: QueryDict, name: str, strength: str, amount: str, claims: LineClaims) -> None:
    share = "" if claims.share_pct is None else f"{figures(claims.share_pct)} %"
    misread = "" if claims.misread_pct is None else f"{claims.misread_pct:g}"
    values = (name, strength, amount, share, str(claims.on_hand or ""), claims.words, misread)
    for field, value in zip(CHIPS, values, strict=True):
        data.appendlist(field, value)
