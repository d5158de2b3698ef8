"""Swapping one material of a formula for another: what may stand in, and what changes."""

from dataclasses import dataclass
from typing import Any

from django import forms

from firkin.core.audit import Finding, audit
from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Reckoning, Substitute, reckon, substitute, substitutes
from firkin.core.measures import Strength
from firkin.shelf.on_hand import Shelf
from firkin.ui.fields import text_widget


@dataclass(frozen=True)
class Choice:
    """One thing to put in its place: a material of a strength, or a bottle on the shelf."""

    material: Material
    strength: Strength | None
    note: str
    bottle: str = ""


def choices(material: Material, strength: Strength | None, shelf: Shelf) -> list[Choice]:
    """What may stand in for a material of a strength: bottles at hand first, then every substitute known."""
    found: list[Choice] = []
    for other in substitutes(material):
        found += _bottles(other, material, strength, shelf)
    known = [other for other in substitutes(material) if other.to != material.id]
    return found + [Choice(find(other.to), find(other.to).usual_strength, other.note) for other in known]


def _bottles(other: Substitute, material: Material, strength: Strength | None, shelf: Shelf) -> list[Choice]:
    return [
        Choice(find(other.to), stock.strength, other.note, stock.name)
        for stock in shelf.of_material(other.to)
        if (other.to, str(stock.strength)) != (material.id, str(strength))
    ]


class SwapForm(forms.Form):
    """What to put in, and how strong it is."""

    to = forms.CharField(max_length=80, label="Put in", widget=forms.HiddenInput)
    strength = forms.CharField(
        max_length=60, required=False, label="Strength on the label", widget=text_widget("70 %", autocomplete="off")
    )

    def clean(self) -> dict[str, Any]:
        """The material, and its strength on its usual basis."""
        data = super().clean() or {}
        material = find(data.get("to") or "unknown")
        data["material"] = material
        data["read"] = None
        if data.get("strength"):
            try:
                data["read"] = material.read_strength(data["strength"])
                material.mass_fraction(data["read"])
            except CannotReckon as error:
                self.add_error("strength", str(error))
        return data


@dataclass(frozen=True)
class Swap:
    """A formula before and after, both reckoned, and the findings that go and come."""

    before: Reckoning
    after: Reckoning
    gone: tuple[Finding, ...]
    come: tuple[Finding, ...]

    @property
    def rows(self) -> list[dict[str, object]]:
        """The lines before and after, side by side."""
        pairs = zip(
            self.before.formula.lines, self.before.lines, self.after.formula.lines, self.after.lines, strict=True
        )
        return [
            {
                "old": old,
                "was": was,
                "new": new,
                "now": now,
                "changed": (old.material.id, round(was.mass_g, 3)) != (new.material.id, round(now.mass_g, 3)),
            }
            for old, was, new, now in pairs
        ]


@dataclass(frozen=True)
class Before:
    """A formula as it stands, reckoned and audited once for all that may be tried in it."""

    result: Reckoning
    findings: tuple[Finding, ...]

    @classmethod
    def of(cls, formula: Formula) -> "Before":
        """The formula reckoned and audited. Raises CannotReckon where it cannot be."""
        result = reckon(formula)
        return cls(result, audit(result))


def swap(formula: Formula, at: int, to: str, strength: Strength | None, before: Before | None = None) -> Swap:
    """The formula with line ``at`` swapped, and what changes. Raises CannotReckon where it cannot be."""
    before = before or Before.of(formula)
    after = reckon(substitute(formula, at, to, strength))
    old, new = before.findings, audit(after)
    return Swap(
        before.result,
        after,
        tuple(finding for finding in old if (finding.rule, finding.lines) not in {(f.rule, f.lines) for f in new}),
        tuple(finding for finding in new if (finding.rule, finding.lines) not in {(f.rule, f.lines) for f in old}),
    )
