"""The lines of a recipe as chips: fields that say what was read, and can be put right."""

import json
import re
from contextlib import suppress
from dataclasses import replace
from typing import Any

from django import forms
from django.http import QueryDict

from firkin.core.catalogue import find, materials
from firkin.core.errors import CannotRead
from firkin.core.formula import (
    Claim,
    Claims,
    Formula,
    LineClaims,
)
from firkin.core.measures import Quantity, figures, read_quantity
from firkin.core.plan import Act, acts_of, acts_to_list
from firkin.core.recipe import (
    Recipe,
)
from firkin.formulas.recipe_answers import BESIDE
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
from firkin.ui.rows import LineForm

CHIPS = (
    *("material", "strength", "amount", "share", "on_hand"),
    *("heard", "misread", "guessed", "heaped", "assumed", "talked", "twice", "beside", "unitless", "another"),
)


class ChipForm(LineForm):
    """One line as read, with what the recipe says of it."""

    error = None  # type: ignore[assignment]
    share = ShareField(required=False, label="Said to be, of the batch", widget=text_widget("1 %"))
    on_hand = StrengthField(required=False, label="The bottle here says", widget=text_widget("70 %"))
    heard = forms.CharField(max_length=80, required=False, widget=forms.HiddenInput)
    misread = forms.CharField(max_length=20, required=False, widget=forms.HiddenInput)
    guessed = forms.CharField(max_length=80, required=False, widget=forms.HiddenInput)
    heaped = forms.CharField(max_length=2, required=False, widget=forms.HiddenInput)
    assumed = forms.CharField(max_length=20, required=False, widget=forms.HiddenInput)
    talked = forms.CharField(max_length=2, required=False, widget=forms.HiddenInput)
    twice = forms.CharField(max_length=2, required=False, widget=forms.HiddenInput)
    beside = StrengthField(required=False, widget=forms.HiddenInput)
    unitless = forms.CharField(max_length=80, required=False, widget=forms.HiddenInput)
    another = forms.CharField(max_length=100, required=False, widget=forms.HiddenInput)

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
                data.get("guessed", ""),
                data.get("heaped") == "on",
                bool(data.get("assumed")) and data.get("assumed") == str(self.line.strength or ""),
                data.get("talked") == "on",
                data.get("twice") == "on",
                data.get("beside"),
                bool(data.get("unitless")) and data.get("unitless") == self.data.get("amount"),
                self._another(*data.get("another", "").partition(BESIDE)),
            )
            self.line = replace(self.line, claims=claims)
        return data

    def _another(self, read: str, _: str, other: str) -> Quantity | None:
        """Another amount near the one that was read, while that one stands."""
        if not other or read != self.data.get("amount"):
            return None
        with suppress(CannotRead):
            return read_quantity(other)
        return None


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
    cut = NumberField(required=False, label="Cut with water, parts", widget=text_widget("1"))

    use_required_attribute = False
    CLAIMED = ("claim", "make", "size", "vessel", "loads", "dose", "cost", "cost_per_load", "cut")

    def claimed(self) -> list[forms.BoundField]:
        """The fields of claims that say something."""
        return [self[name] for name in self.CLAIMED if self[name].value()]

    def unclaimed(self) -> list[forms.BoundField]:
        """The fields of claims that are empty."""
        return [self[name] for name in self.CLAIMED if not self[name].value()]


def chips_of(recipe: Recipe) -> QueryDict:
    """What was read, as the fields of the chips."""
    data = _head(recipe.family, recipe.basis, recipe.make, recipe.claim, recipe.claims)
    data["rule"] = next(iter(recipe.guidelines), "")
    data["steps"] = json.dumps(acts_to_list(recipe.plan))
    data["cut"] = figures(recipe.cut) if recipe.cut else ""
    for line in recipe.lines:
        name, strength, amount = line.words()
        _chip(data, find(name).name if line.material.known else name, strength, amount, line.claims)
    return data


def chips_of_formula(formula: Formula, told: tuple[Act, ...] = ()) -> QueryDict:
    """A formula with its claims, as the fields of the chips; ``told`` is the plan that it had before it was changed."""
    data = _head(formula.family, formula.basis, formula.make, formula.claim, formula.claims)
    data["rule"] = next(iter(formula.guidelines), "")
    data["steps"] = json.dumps(acts_to_list(acts_of(formula.steps, told)))
    data["cut"] = figures(formula.cut) if formula.cut else ""
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
    values = (
        name,
        strength,
        amount,
        share,
        str(claims.on_hand or ""),
        claims.words,
        misread,
        claims.guessed,
        "on" if claims.heaped else "",
        strength if claims.assumed else "",
        "on" if claims.talked else "",
        "on" if claims.twice else "",
        str(claims.beside or ""),
        amount if claims.unitless else "",
        f"{amount}{BESIDE}{claims.another}" if claims.another is not None else "",
    )
    for field, value in zip(CHIPS, values, strict=True):
        data.appendlist(field, value)
