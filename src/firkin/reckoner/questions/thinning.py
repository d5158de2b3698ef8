"""Thinning a stock, blending two bottles, lifting or thinning a batch."""

from typing import Any, ClassVar

from django import forms

from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line
from firkin.core.measures import QS, Quantity, Strength, amount_words, figures, rounded_down, rounded_up, weight_words
from firkin.core.questions import blending, dilution
from firkin.drawings.levelling import Block, levelling
from firkin.drawings.vessel import Layer, vessel
from firkin.reckoner.answers import Answer
from firkin.reckoner.questions.base import Question, active_field, strength_field
from firkin.shelf.forms import TemperatureField, VolumeField, text_widget

ALCOHOL_CAUTIONS = ("flammable", "eyes", "children")
_TABLE_DOUBT = (
    "The isopropanol table is less sure than the ethanol one: good to 0.002 g/mL. Topping up to the mark avoids "
    "the doubt."
)


def doubts(material: Material) -> tuple[str, ...]:
    """What to say of a table that is less sure."""
    return (_TABLE_DOUBT,) if material.id == "isopropanol" else ()


def doubt_rows(material: Material, size_mL: float, mass_g: float) -> tuple[tuple[str, str], ...]:
    """How far a volume from a less sure density table may be off, as a row of the answer."""
    alcohol = material.alcohol
    if alcohol is None or not alcohol.density_uncertainty:
        return ()
    off = size_mL * alcohol.density_uncertainty * size_mL / mass_g
    return (("May be off by, for the density table", f"± {figures(off, 2)} mL"),)


class Thin(Question):
    """Thin a stock with water."""

    slug, short = "thin", "Thin"
    title = "Thin a stock with water"
    lead = (
        "To a size, or from all that is left. Alcohol and water shrink: more water goes in than label arithmetic says."
    )
    example: ClassVar = {
        "active": "ethanol",
        "stock": "96 %",
        "target": "70 %",
        "make": "1 L",
        "left": "",
        "temperature": "",
    }
    strengths = ("stock", "target")

    active = active_field(("hydrogen-peroxide", "Hydrogen peroxide"))
    stock = strength_field("Strength on the label", "96 %", "Or the name of a stock on your shelf.")
    target = strength_field("Thin it to", "70 %")
    make = VolumeField(label="Make", required=False, widget=text_widget("1 L"))
    left = VolumeField(
        label="Or use up", required=False, help_text="What is left of the stock; then “Make” is not counted.",
        widget=text_widget("350 mL"),
    )  # fmt: skip
    temperature = TemperatureField(label="Bench temperature", required=False, widget=text_widget("20 °C"))

    def answer(self, data: dict[str, Any]) -> Answer:
        """Stock and water by volume and weight, and how to do it by topping up."""
        celsius = 20.0 if data["temperature"] is None else data["temperature"]
        stock, target, material = data["stock"], data["target"], self.material
        if data["left"] is None and data["make"] is None:
            raise CannotReckon("Say how much to make, or what is left of the stock.").at("make")
        make = data["make"].mL if data["left"] is None else 0.0
        if data["left"] is not None:
            per_mL = dilution.dilute(material, stock, target, 1000.0, celsius).stock_mL / 1000.0
            make = data["left"].mL / per_mL
        thin = dilution.dilute(material, stock, target, make, celsius)
        rows = (
            ("Stock", f"{amount_words(thin.stock_mL)}, or {weight_words(thin.stock_g)}"),
            ("Water that really goes in", f"{amount_words(thin.water_mL)}, or {weight_words(thin.water_g)}"),
            ("Water by label arithmetic", amount_words(thin.label_water_mL)),
            ("It comes to", amount_words(make)),
            *doubt_rows(material, make, thin.stock_g + thin.water_g),
        )
        says = [
            f"By topping up: pour {amount_words(thin.stock_mL)} of stock, then water to the {amount_words(make)} mark, "
            "let it cool, and top up again.",
            *doubts(material),
        ]
        if celsius != 20.0:
            says.append(f"Measured at {figures(celsius)} °C; strengths are at 20 °C.")
        layers = [
            Layer(material.name, "alcohol", thin.stock_mL),
            Layer("Water", "water", make, top_up=True),
        ]
        formula = Formula(
            "Unnamed",
            (
                Line(material, Quantity(thin.stock_mL, "mL"), stock),
                Line(find("water"), Quantity(0.0, QS)),
            ),
            "liquid-rub" if material.alcohol else "surface",
            make=Quantity(make, "mL"),
            temperature=celsius,
        )
        return Answer(
            figures(thin.water_mL), "mL of water", rows, tuple(says), (), vessel(layers, make), thin.working,
            material.cautions, formula,
        )  # fmt: skip


class Blend(Question):
    """Blend two bottles."""

    slug, short = "blend", "Blend"
    title = "Blend two bottles to a strength"
    lead = "What stands above the level in the strong bottle fills what is missing in the weak one."
    example: ClassVar = {
        "active": "ethanol", "first": "95 %", "second": "50 %", "target": "70 %", "make": "1 L", "use_up": ""
    }  # fmt: skip
    strengths = ("first", "second", "target")
    places: ClassVar = {"first": "use_up"}

    active = active_field()
    first = strength_field("First bottle", "95 %")
    second = strength_field("Second bottle", "50 %")
    target = strength_field("Blend them to", "70 %")
    make = VolumeField(label="Make", widget=text_widget("1 L"))
    use_up = VolumeField(
        label="Use up the first bottle",
        required=False,
        help_text="What is left of it. Water is then the third bottle.",
        widget=text_widget("200 mL"),
    )

    def answer(self, data: dict[str, Any]) -> Answer:
        """The parts by label, the volumes with contraction."""
        if data["use_up"] is not None:
            return self._three(data)
        material, make = self.material, data["make"].mL
        stocks = (data["first"], data["second"])
        blended = blending.blend(material, stocks, data["target"], make)
        blocks = [
            Block(name, strength.value, parts, volume)
            for name, strength, parts, volume in zip(
                ("first", "second"), stocks, blended.parts, blended.volumes_mL, strict=True
            )
        ]
        rows = [
            (f"{word} bottle, {strength}", f"{amount_words(volume)}, or {weight_words(mass)}")
            for word, strength, volume, mass in zip(
                ("First", "Second"), stocks, blended.volumes_mL, blended.masses_g, strict=True
            )
        ]
        rows.append(("Poured together", amount_words(sum(blended.volumes_mL))))
        rows.append(("It comes to", amount_words(make)))
        rows += doubt_rows(material, make, sum(blended.masses_g))
        lines = tuple(
            Line(material, Quantity(volume, "mL"), strength)
            for volume, strength in zip(blended.volumes_mL, stocks, strict=True)
            if volume > 0
        )
        return Answer(
            f"{figures(blended.parts[0])} : {figures(blended.parts[1])}",
            "parts, first to second",
            tuple(rows),
            doubts(material),
            (),
            levelling(blocks[0], blocks[1], data["target"].value),
            blended.working,
            ALCOHOL_CAUTIONS,
            Formula("Unnamed", lines, "liquid-rub"),
        )

    def _three(self, data: dict[str, Any]) -> Answer:
        material, make = self.material, data["make"].mL
        three = blending.blend_with_water(
            material, data["first"], data["use_up"].mL, data["second"], data["target"], make
        )
        rows = (
            (f"First bottle, {data['first']}", amount_words(three.first_mL)),
            (f"Second bottle, {data['second']}", amount_words(three.second_mL)),
            ("Water", amount_words(three.water_mL)),
            ("It comes to", amount_words(make)),
        )
        lines = [
            Line(material, Quantity(three.first_mL, "mL"), data["first"]),
            Line(material, Quantity(three.second_mL, "mL"), data["second"]),
            Line(find("water"), Quantity(0.0, QS)),
        ]
        layers = [
            Layer("First bottle", "alcohol", three.first_mL),
            Layer("Second bottle", "honey", three.first_mL + three.second_mL),
            Layer("Water", "water", make, top_up=True),
        ]
        formula = Formula(
            "Unnamed",
            tuple(line for line in lines if line.amount.unit == QS or line.amount.value > 0),
            "liquid-rub",
            make=Quantity(make, "mL"),
        )
        return Answer(
            figures(three.second_mL), "mL of the second bottle", rows, doubts(material), (), vessel(layers, make),
            three.working, ALCOHOL_CAUTIONS, formula,
        )  # fmt: skip


class Lift(Question):
    """Lift a weak batch, or thin a strong one."""

    slug, short = "lift", "Lift a batch"
    title = "Lift a weak batch, or thin a strong one"
    lead = "What to add, what it becomes, and whether the vessel holds it."
    example: ClassVar = {
        "active": "isopropanol", "batch": "750 mL", "now": "52.5 %", "target": "60 %", "other": "91 %", "room": "1 L",
        "thickener": "",
    }  # fmt: skip
    strengths = ("now", "target", "other")
    places: ClassVar = {"with": "other"}

    active = active_field()
    batch = VolumeField(label="The batch is", widget=text_widget("750 mL"))
    now = strength_field("It holds now", "52.5 %")
    target = strength_field("It should hold", "60 %")
    other = strength_field("Add this", "91 %", "A stock to lift it; water is 0 %. Or a stock on your shelf.")
    room = VolumeField(label="The vessel holds", required=False, widget=text_widget("1 L"))
    thickener = forms.ChoiceField(
        label="Thickener in it",
        required=False,
        choices=[
            ("", "none"),
            ("xanthan-gum", "Xanthan gum"),
            ("carbomer", "Carbomer or crosspolymer"),
            ("polyacrylate-gel", "Polyacrylate"),
        ],
        widget=forms.Select(attrs={"class": "form-select"}),
    )

    def answer(self, data: dict[str, Any]) -> Answer:
        """How much to add, by density and by label; the larger is shown when lifting."""
        material, batch = self.material, data["batch"].mL
        lifting = data["target"].value > data["now"].value
        change = blending.strengthen if lifting else blending.weaken
        changed = change(material, batch, data["now"], data["other"], data["target"])
        add = max(changed.add_mL, changed.label_add_mL) if lifting else min(changed.add_mL, changed.label_add_mL)
        rows = [
            ("By density", f"{amount_words(changed.add_mL)}, or {weight_words(changed.add_g)}"),
            ("By label arithmetic", amount_words(changed.label_add_mL)),
            ("The batch becomes about", amount_words(changed.new_volume_mL)),
            *doubt_rows(material, changed.new_volume_mL, changed.new_mass_g),
        ]
        warns = []
        if data["room"] is not None and changed.new_volume_mL > data["room"].mL:
            off = changed.pour_off(batch, data["room"].mL)
            share = 1.0 - off / batch
            warns.append(
                f"The vessel holds {amount_words(data['room'].mL)}: take {amount_words(off)} of the batch out first, "
                f"then add {amount_words(add * share)}."
            )
        warns += self._gel_warnings(data["thickener"], data["target"])
        says = ["The cautious one of the two is shown large: it holds the line both ways." if lifting else
                "The cautious one of the two is shown large: it does not fall below the target either way.",
                *doubts(material)]  # fmt: skip
        layers = [
            Layer("The batch", "alcohol", batch),
            Layer("Added", "honey" if data["other"].value else "water", changed.new_volume_mL),
        ]
        capacity = data["room"].mL if data["room"] is not None else None
        added = material if data["other"].value else find("water")
        formula = Formula(
            "Unnamed",
            (
                Line(material, Quantity(batch, "mL"), data["now"], note="the batch as it was"),
                Line(added, Quantity(add, "mL"), data["other"] if data["other"].value else None),
            ),
            "liquid-rub",
        )
        return Answer(
            figures(rounded_up(add) if lifting else rounded_down(add)),
            "mL to add",
            tuple(rows),
            tuple(says),
            tuple(warns),
            vessel(layers, changed.new_volume_mL, capacity),
            changed.working,
            ALCOHOL_CAUTIONS,
            formula,
        )

    def _gel_warnings(self, thickener: str, target: Strength) -> list[str]:
        if not thickener:
            return []
        limit = find(thickener).alcohol_limit_ww
        weight = 100.0 * blending.fraction(self.material, target)
        if limit is None:
            return [
                f"{find(thickener).name}: grades differ in how much alcohol they stand; ask the supplier before "
                f"going to {figures(weight, 3)} % by weight."
            ]
        if weight > limit:
            return [
                f"{find(thickener).name} stands {figures(limit)} % alcohol by weight, no more; this would be "
                f"{figures(weight, 3)} %. The gel would collapse."
            ]
        return []
