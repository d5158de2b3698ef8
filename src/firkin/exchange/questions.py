"""The open formats firkin-question/1 and firkin-answer/1: each ask runs one function of core."""

from collections.abc import Callable
from typing import Any

from firkin.core import dilution
from firkin.core.catalogue import Material, find
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.quantities import read_volume
from firkin.core.strengths import Strength, read_strength
from firkin.core.working import Working
from firkin.exchange.reckoning_format import rounded

FORMAT = "firkin-answer/1"

Question = dict[str, Any]
Answer = dict[str, Any]


def answer(question: Question) -> Answer:
    """Answer a question whose shape has been checked; CannotReckon when it is impossible."""
    values, working = ASKS[question["ask"]](question)
    return {
        "format": FORMAT,
        "ask": question["ask"],
        **{key: rounded(value) if isinstance(value, float) else value for key, value in values.items()},
        "working": [line.text for line in working],
    }


def _active(question: Question) -> Material:
    material = find(question["active"])
    if material.reports != "active" and material.strength is None:
        raise CannotRead(
            f"{question['active'][:40]}; expected an active such as ethanol, isopropanol or hydrogen-peroxide"
        ).at("active")
    return material


def _strength(question: Question, key: str, material: Material | None = None) -> Strength:
    try:
        text = question[key]
        return material.read_strength(text) if material else read_strength(text)
    except CannotReckon as error:
        raise error.at(key) from None


def _volume_mL(question: Question, key: str) -> float:
    try:
        return read_volume(question[key]).mL
    except CannotReckon as error:
        raise error.at(key) from None


def _convert(question: Question) -> tuple[Answer, Working]:
    active = _active(question)
    value, working = dilution.convert(active, _strength(question, "from", active), question["to"])
    return {"value": value}, working


def _dilute(question: Question) -> tuple[Answer, Working]:
    active = _active(question)
    thinned = dilution.dilute(
        active,
        _strength(question, "stock", active),
        _strength(question, "target", active),
        _volume_mL(question, "make"),
    )
    keys = ("stock_mL", "water_mL", "label_water_mL", "stock_g", "water_g")
    return {key: getattr(thinned, key) for key in keys}, thinned.working


def _max_additive(question: Question) -> tuple[Answer, Working]:
    room = dilution.max_additive(_strength(question, "stock"), _strength(question, "target"))
    values = {
        "additive_share_pct": room.additive_share_pct,
        "parts_stock_per_part_additive": room.parts_stock_per_part_additive,
    }
    return values, room.working


def _required_stock(question: Question) -> tuple[Answer, Working]:
    parts = question["parts"]
    needed, working = dilution.required_stock(
        _strength(question, "target"), float(parts["stock"]), float(parts["additive"])
    )
    return {"stock_pct_vv": needed}, working


ASKS: dict[str, Callable[[Question], tuple[Answer, Working]]] = {
    "convert": _convert,
    "dilute": _dilute,
    "max-additive": _max_additive,
    "required-stock": _required_stock,
}
