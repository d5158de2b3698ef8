"""Reading an alcoholmeter."""

from typing import Any, ClassVar

from django import forms

from firkin.core.measures import figures
from firkin.core.questions import alcoholmeter
from firkin.drawings.stem import alcoholmeter_stem
from firkin.reckoner.answers import Answer
from firkin.reckoner.questions.base import Question
from firkin.shelf.forms import TemperatureField, text_widget


class Alcoholmeter(Question):
    """Read an alcoholmeter at another temperature than 20 °C."""

    slug, short = "alcoholmeter", "Alcoholmeter"
    title = "Read an alcoholmeter"
    lead = "A stem marked in % v/v at 20 °C shows too much in a warm liquid and too little in a cold one."
    example: ClassVar = {"way": "true", "reading": "78", "temperature": "27 °C"}

    way = forms.ChoiceField(
        label="I want to know",
        choices=[("true", "how strong it is, from a reading"), ("read", "what it should read, if it is right")],
        widget=forms.Select(attrs={"class": "form-select"}),
    )
    reading = forms.FloatField(
        label="Reading, or strength at 20 °C, % v/v",
        min_value=0,
        max_value=100,
        widget=text_widget("78", inputmode="decimal"),
    )
    temperature = TemperatureField(label="Temperature of the liquid", widget=text_widget("27 °C"))

    def answer(self, data: dict[str, Any]) -> Answer:
        """The strength or the reading, by OIML R 22."""
        given, celsius = data["reading"], data["temperature"]
        if data["way"] == "true":
            value, working = alcoholmeter.true_strength(given, celsius)
            reading, true, unit = given, value, "% v/v at 20 °C"
        else:
            value, working = alcoholmeter.expected_reading(given, celsius)
            reading, true, unit = value, given, f"on the stem at {figures(celsius)} °C"
        says = (
            "For ethanol and water only. Glycerol, sugar or gel make it read too low a strength; in a gel the stem "
            "cannot float free at all. Isopropanol needs its own instrument.",
            "By density and temperature, OIML R 22. The glass’s own expansion is left out; at 30 °C it moves the "
            "result by about 0.1.",
        )
        rows = (
            ("Correction to the reading", f"{'+' if true >= reading else '−'}{figures(abs(true - reading), 2)} points"),
        )
        return Answer(
            figures(value, 3),
            unit,
            rows,
            says,
            (),
            alcoholmeter_stem(reading, true, celsius),
            working,
            ("flammable",),
        )
