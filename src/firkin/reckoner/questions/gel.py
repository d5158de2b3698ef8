"""How much gel can this bottle take, and which stock would be needed."""

from dataclasses import replace
from typing import Any, ClassVar

from django import forms

from firkin.core.catalogue import find, rule_lines
from firkin.core.formula import Formula, Line, reckon
from firkin.core.measures import Quantity, Strength, amount_words, figures, rounded_down, rounded_up
from firkin.core.questions import dilution
from firkin.drawings.curve import StockLine, additive_curve
from firkin.drawings.rail import Mark, Window, strength_rail
from firkin.reckoner.answers import Answer
from firkin.reckoner.questions.base import Question, active_field, strength_field
from firkin.shelf.forms import VolumeField, text_widget

_US_CUP_ML = Quantity(1.0, "cup").mL
RUB_CAUTIONS = ("flammable", "soap-first", "alcohol-grade")


def lines_at(active: str, target: Strength) -> tuple[str, ...]:
    """Rule lines that ask for just this, with their sources; empty when none does."""
    return tuple(
        f"{rule.name}: {rule.source}."
        for rule in rule_lines().values()
        if (limit := rule.limit_for(active)) and limit.minimum == target.high and limit.maximum is None
    )


def with_gel(active: str, stock: Strength, parts: float, target: Strength) -> Formula:
    """Stock and aloe gel by parts, judged by the plain line the target stands for, if any."""
    guideline = {60.0: "cdc-alcohol-60", 70.0: "hospital-70"}.get(target.high)
    lines = (
        Line(find(active), Quantity(rounded_up(parts), "part"), stock),
        Line(find("aloe-gel"), Quantity(1.0, "part")),
    )
    return Formula("Unnamed", lines, "aloe-rub", guidelines=(guideline,) if guideline else ())


class AdditiveRoom(Question):
    """How much gel can this bottle take?"""

    slug, short = "gel", "Gel in a bottle"
    title = "How much gel can this bottle take?"
    lead = (
        "Everything that is not alcohol counts: gel, water, glycerol, oil. By label arithmetic, the lower of the two."
    )
    example: ClassVar = {"active": "isopropanol", "stock": "70 %", "target": "60 %", "bottle": "500 mL"}
    strengths = ("stock", "target")

    active = active_field()
    stock = strength_field("Strength on the label", "70 %", "Or the name of a stock on your shelf.")
    target = strength_field("Line to hold", "60 %", "60 % is CDC’s line, 70 % a stricter house line.")
    bottle = VolumeField(label="What is in the bottle", required=False, widget=text_widget("500 mL"))

    def answer(self, data: dict[str, Any]) -> Answer:
        """The share, the parts, and what that is for this bottle."""
        stock, target = data["stock"], data["target"]
        room = dilution.max_additive(stock, target)
        share, parts = room.additive_share_pct, room.parts_stock_per_part_additive
        drawing = additive_curve(self._stock_lines(stock), [(f"{figures(target.high)} % line", target.high)], share)
        sources = lines_at(self.material.id, target)
        if parts is None:
            return Answer(
                "0", "% additive", says=("Use it straight: this stock can take none.", *sources), drawing=drawing,
                working=room.working, cautions=RUB_CAUTIONS,
            )  # fmt: skip
        rows = [("Parts of stock to 1 of additive", f"at least {figures(rounded_up(parts))}")]
        if data["bottle"] is not None:
            take = rounded_down(data["bottle"].mL / parts)
            rows.append(
                (
                    "For this bottle, at most",
                    f"{amount_words(take)}, or {figures(rounded_down(take / _US_CUP_ML, 3), 3)} US cups",
                )
            )
            rows.append(("It comes to, poured", amount_words(data["bottle"].mL + take)))
        formula = with_gel(self.material.id, stock, parts, target)
        mixed = reckon(
            replace(formula, lines=(replace(formula.lines[0], amount=Quantity(parts, "part")), formula.lines[1]))
        )
        rows.append(("True strength with aloe gel", f"{figures(mixed.actives[0].true)} % v/v"))
        return Answer(
            figures(rounded_down(share, 3), 3),
            "% additive at most",
            tuple(rows),
            sources,
            (),
            drawing,
            room.working,
            RUB_CAUTIONS,
            formula,
        )

    def _stock_lines(self, stock: Strength) -> list[StockLine]:
        owned = [
            StockLine(name, strength.low)
            for name, _, strength in self.shelf.of_material(self.material.id)
            if strength.basis == "v/v" and strength != stock
        ]
        return [*owned, StockLine("this one", stock.low, chosen=True)]


class RequiredStock(Question):
    """Which stock do I need?"""

    slug, short = "stock", "Which stock"
    title = "Which stock do I need?"
    lead = "For a ratio somebody told you, and the line it must hold."
    example: ClassVar = {"active": "isopropanol", "target": "60 %", "stock_parts": "2", "additive_parts": "1"}
    strengths = ("target",)
    places: ClassVar = {"parts": "additive_parts"}

    active = active_field()
    target = strength_field("Line to hold", "60 %", "60 % is CDC’s line, 70 % a stricter house line.")
    stock_parts = forms.FloatField(
        label="Parts of stock", min_value=0.001, max_value=1e6, widget=text_widget("2", inputmode="decimal")
    )
    additive_parts = forms.FloatField(
        label="Parts of everything else",
        min_value=0,
        max_value=1e6,
        widget=text_widget("1", inputmode="decimal"),
    )

    def answer(self, data: dict[str, Any]) -> Answer:
        """The weakest stock that does, and which bottles on the shelf do."""
        target = data["target"]
        needed, working = dilution.required_stock(target, data["stock_parts"], data["additive_parts"])
        owned = self.shelf.of_material(self.material.id)
        fit = [f"{name}, {strength}" for name, _, strength in owned if strength.low >= needed - 1e-9]
        short = [f"{name}, {strength}" for name, _, strength in owned if strength.low < needed - 1e-9]
        rows = [("On your shelf and strong enough", "; ".join(fit) or "none")]
        if short:
            rows.append(("Too weak for this ratio", "; ".join(short)))
        window = Window(f"{figures(target.high)} % line", target.high, None)
        mark = Mark(f"{self.material.name} needed", needed, needed, needed, needed)
        stock = Strength.of(rounded_up(needed), "v/v")
        return Answer(
            figures(rounded_up(needed)), "% v/v at least", tuple(rows), lines_at(self.material.id, target), (),
            strength_rail([window], [mark]), working, RUB_CAUTIONS,
            with_gel(self.material.id, stock, data["stock_parts"] / data["additive_parts"], target)
            if data["additive_parts"] else None,
        )  # fmt: skip
