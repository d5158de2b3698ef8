"""Converting strengths, measures and hardness; volumes at other temperatures."""

from typing import Any, ClassVar

from django import forms

from firkin.core.errors import CannotReckon
from firkin.core.formula import nature
from firkin.core.measures import Quantity, Working, amount_words, figures, units, weight_words
from firkin.core.questions import dilution, hardness
from firkin.core.questions import temperature as warmth
from firkin.drawings.rail import Mark, strength_rail
from firkin.drawings.vessel import Layer, vessel
from firkin.reckoner.answers import Answer
from firkin.reckoner.questions.base import Question, active_field, strength_field
from firkin.reckoner.questions.thinning import doubts
from firkin.shelf.forms import MakeField, TemperatureField, VolumeField, text_widget

_MEASURES = ("cup", "tbsp", "tsp", "floz", "cup_metric", "tbsp_metric", "imp_floz", "imp_pint", "drop")

_BASIS_WORDS = {
    "% v/v": "By volume, at 20 °C",
    "% w/w": "By weight",
    "% w/v": "Weight in volume",
    "proof": "US proof",
    "proof_uk": "UK degrees proof",
}


class Convert(Question):
    """Convert strengths, household measures, mass and volume, hardness."""

    slug, short = "convert", "Convert"
    title = "Convert"
    lead = "A strength on every basis; an amount in millilitres, grams and kitchen measures; the hardness of water."
    example: ClassVar = {
        "active": "Ethanol", "strength": "60 % w/w", "amount": "1 cup", "hard": "", "hard_unit": "gpg"
    }  # fmt: skip
    strengths = ("strength",)

    active = forms.CharField(
        label="What", max_length=80, widget=text_widget("ethanol", list="materials", autocomplete="off")
    )
    strength = strength_field("Strength", "60 % w/w", required=False)
    amount = MakeField(label="Amount", required=False, widget=text_widget("1 cup"))
    hard = forms.FloatField(
        label="Water hardness",
        required=False,
        min_value=0,
        max_value=1e6,
        widget=text_widget("7", inputmode="decimal"),
    )
    hard_unit = forms.ChoiceField(
        label="in",
        required=False,
        choices=[("gpg", "gpg"), ("mg/L", "mg/L as CaCO₃"), ("dH", "dH"), ("fH", "fH"), ("mmol/L", "mmol/L")],
        widget=forms.Select(attrs={"class": "form-select"}),
    )  # fmt: skip

    def answer(self, data: dict[str, Any]) -> Answer:
        """One table of everything that was asked."""
        rows: list[tuple[str, str]] = []
        working: list[Any] = []
        drawing, big, unit = "", "", ""
        says = list(doubts(self.material) if data["strength"] else ())
        if data["strength"]:
            values, lines = self._strengths(data["strength"])
            rows += values
            working += lines
            big, unit = values[0][1].split(" ", 1)
            if self.material.alcohol is not None:
                volume = self.material.alcohol.as_volume(data["strength"])
                drawing = strength_rail(
                    [], [Mark(self.material.name, volume.value, volume.value, volume.low, volume.high)]
                )
        if data["amount"] is not None:
            values = self._amounts(data["amount"], data["strength"])
            rows += values
            if not big:
                big, unit = values[0][1].split(" ", 1)
        if data["hard"] is not None:
            for to in hardness.MG_PER_L:
                value, lines = hardness.convert(data["hard"], data["hard_unit"] or "gpg", to)
                rows.append(("Hardness", f"{figures(value)} {to}"))
                working += lines[-1:]
            if not big:
                big, unit = figures(data["hard"]), data["hard_unit"]
        if not rows:
            raise CannotReckon("Give a strength, an amount or a hardness to convert.").at("strength")
        if not self.material.known:
            says.append(f"Firkin does not know “{self.material.name}”; it is counted with a density of 1.")
        return Answer(big, unit, tuple(rows), tuple(says), (), drawing, tuple(working))

    def _strengths(self, strength: Any) -> tuple[list[tuple[str, str]], Working]:
        rows: list[tuple[str, str]] = []
        working: Working = ()
        for to in dilution.CONVERT_TO:
            try:
                value, lines = dilution.convert(self.material, strength, to)
            except CannotReckon:
                continue
            rows.append((_BASIS_WORDS[to], f"{figures(value)} {to.removesuffix('_uk')}"))
            working = max(working, lines, key=len)
        if self.material.alcohol is None and strength.value < 100:
            rows.append(("Parts per million", f"{figures(strength.value * 10_000)} ppm {strength.basis}"))
        return rows, working

    def _amounts(self, amount: Quantity, strength: Any) -> list[tuple[str, str]]:
        material = self.material
        density = nature(material, material.mass_fraction(strength or material.usual_strength)).measured
        volume = amount.mL if amount.kind == "volume" else amount.g / density
        rows = [("Volume", amount_words(volume)), ("Weight", weight_words(volume * density))]
        for key in _MEASURES:
            size = volume / units()[key].factor
            if 0.2 <= size < 1000:
                rows.append(("In the kitchen", f"{figures(size, 3)} {units()[key].label}"))
        return rows


class Warmth(Question):
    """A volume at another temperature, and what evaporates."""

    slug, short = "warmth", "Warmth"
    title = "A warm bench, an open jug"
    lead = "Alcohol grows when warm: the same measure holds less of it. Left open, it also loses strength."
    example: ClassVar = {
        "active": "ethanol", "strength": "96 %", "volume": "1 L", "temperature": "28 °C", "allowance": "2"
    }  # fmt: skip
    strengths = ("strength",)

    active = active_field()
    strength = strength_field("Strength on the label", "96 %")
    volume = VolumeField(label="Measured", widget=text_widget("1 L"))
    temperature = TemperatureField(label="At", widget=text_widget("28 °C"))
    allowance = forms.FloatField(
        label="Allow for the open jug, %",
        required=False,
        min_value=0,
        max_value=49,
        help_text="2 % is usual; common practice, no source.",
        widget=text_widget("2", inputmode="decimal"),
    )

    def answer(self, data: dict[str, Any]) -> Answer:
        """The volume at 20 °C, what to measure instead, and with the allowance."""
        material, strength, volume, celsius = (
            self.material,
            data["strength"],
            data["volume"].mL,
            data["temperature"],
        )
        at_20, working = warmth.at_20(material, strength, volume, celsius)
        instead, _ = warmth.at_bench(material, strength, volume, celsius)
        allowance = warmth.USUAL_ALLOWANCE_PCT if data["allowance"] is None else data["allowance"]
        rows = (
            (f"To have {amount_words(volume)} at 20 °C, measure", amount_words(instead)),
            (
                f"with {figures(allowance)} % for the open jug",
                amount_words(warmth.with_allowance(instead, allowance)),
            ),
        )
        says = (
            "Measure alcohol last, keep it covered, and close the vessel at once: a lid is worth more than this.",
            *doubts(material),
        )
        layers = [
            Layer("at 20 °C", "alcohol", at_20),
            Layer(f"at {figures(celsius)} °C", "mist", volume),
        ]
        if at_20 > volume:
            layers.reverse()
        return Answer(
            figures(at_20), f"mL at 20 °C are {amount_words(volume)} at {figures(celsius)} °C", rows, says, (),
            vessel(layers, max(at_20, volume)), working, ("flammable",),
        )  # fmt: skip
