"""Chlorine and peroxide for surfaces."""

from typing import Any, ClassVar

from django import forms

from firkin.core.catalogue import cautions, find, rule_lines
from firkin.core.formula import Formula, Line
from firkin.core.measures import QS, Quantity, Strength, amount_words, figures, rounded_down
from firkin.core.questions import chlorine
from firkin.drawings.vessel import Layer, vessel
from firkin.reckoner.answers import Answer
from firkin.reckoner.questions.base import Question, strength_field
from firkin.shelf.forms import VolumeField, text_widget

_LINES = ("surface-chlorine-01", "surface-chlorine-05", "surface-peroxide")


class SurfaceSolution(Question):
    """Thin bleach or peroxide for surfaces."""

    slug, short = "surfaces", "Surfaces"
    title = "Chlorine or peroxide for surfaces"
    lead = "From the bottle’s label and age to parts of water. Made fresh, and poured away after a day."
    example: ClassVar = {
        "active": "sodium-hypochlorite", "stock": "5 %", "age_months": "0", "rule": "surface-chlorine-01", "target": "",
        "make": "1 L",
    }  # fmt: skip
    strengths = ("stock", "target")

    active = forms.ChoiceField(
        label="What",
        choices=[
            ("sodium-hypochlorite", "Bleach (sodium hypochlorite)"),
            ("hydrogen-peroxide", "Hydrogen peroxide"),
        ],
        widget=forms.Select(attrs={"class": "form-select"}),
    )
    stock = strength_field("Strength on the label", "5 %", "Per cent by weight or volume, available chlorine, or ppm.")
    age_months = forms.FloatField(
        label="Age of the bottle, months", required=False, min_value=0, max_value=1200,
        widget=text_widget("0", inputmode="decimal"),
    )  # fmt: skip
    rule = forms.ChoiceField(
        label="For",
        required=False,
        choices=lambda: [("", "a strength of my own"), *((key, rule_lines()[key].name) for key in _LINES)],
        widget=forms.Select(attrs={"class": "form-select"}),
    )
    target = strength_field("Strength of my own", "1000 ppm", required=False)
    make = VolumeField(label="Make", widget=text_widget("1 L"))

    def clean(self) -> dict[str, Any]:
        """The target comes from the rule line, or is typed; they must speak of the same active."""
        data = super().clean()
        rule = data.get("rule")
        if rule:
            limit = rule_lines()[rule].limits[0]
            if limit.active != self.material.id:
                self.add_error("rule", f"That line is for {find(limit.active).name.lower()}.")
            elif limit.minimum is not None:
                data["target"] = Strength.of(limit.minimum, self.material.basis)
        elif not data.get("target") and not self.errors.get("target"):
            self.add_error("target", "Choose what it is for, or write a strength such as 1000 ppm.")
        return data

    def answer(self, data: dict[str, Any]) -> Answer:
        """Parts of water, amounts, and when to pour it away."""
        bleach = self.material.id == "sodium-hypochlorite"
        age = (data["age_months"] or 0.0) if bleach else 0.0
        stock, target, make = data["stock"], data["target"], data["make"].mL
        made = chlorine.surface_solution(stock, target, make, age)
        rows = [
            (self.material.name, amount_words(made.bleach_mL)),
            ("Cold water", amount_words(made.water_mL)),
            ("It holds", f"{figures(target.high)} %, or {figures(target.high * 10_000)} ppm"),
        ]
        says, warns = [], [cautions()["bleach-mix" if bleach else "peroxide-acid"].text]
        if bleach:
            says.append("Pour it away 24 hours after making (WHO, May 2020). Keep it dark, closed and labelled.")
            says.append("Clean first: dirt uses chlorine up.")
            if age:
                rows.insert(0, ("Counted of the label", f"{figures(made.assumed_stock_pct)} %"))
                says.append("Fading is counted as a fifth lost in six months at room temperature (from memory).")
            if age > chlorine.OLDEST_MONTHS:
                warns.append("A bottle more than a year old cannot be trusted. Use a fresh one.")
        elif data["age_months"]:
            says.append("Age is counted for bleach only; an opened bottle of peroxide fades too, so use a fresh one.")
        if data.get("rule"):
            says.append(f"{rule_lines()[data['rule']].source}.")
        layers = [
            Layer(self.material.name, "mist", made.bleach_mL),
            Layer("Water", "water", make, top_up=True),
        ]
        counted = Strength.of(made.assumed_stock_pct, stock.basis)
        formula = Formula(
            "Unnamed",
            (
                Line(self.material, Quantity(made.bleach_mL, "mL"), counted),
                Line(find("water"), Quantity(0.0, QS)),
            ),
            "surface",
            make=Quantity(make, "mL"),
            guidelines=(data["rule"],) if data.get("rule") else (),
        )
        return Answer(
            f"1 : {figures(rounded_down(made.parts_water, 3), 3)}", "parts, stock to water",
            tuple(rows), tuple(says), tuple(warns),
            vessel(layers, make), made.working,
            ("bleach-fresh",) if bleach else ("peroxide-corrosive",), formula,
        )  # fmt: skip
