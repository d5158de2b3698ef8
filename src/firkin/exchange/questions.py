"""The open formats firkin-question/1 and firkin-answer/1: each ask runs one function of core."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

from firkin.core.catalogue import USUAL_HEADSPACE_PCT, Material, find
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.measures import (
    Quantity,
    Strength,
    Working,
    read_quantity,
    read_strength,
    read_temperature,
    read_volume,
    read_volume_or_mass,
)
from firkin.core.questions import (
    alcoholmeter,
    blending,
    chlorine,
    dilution,
    hardness,
    packing,
)
from firkin.core.questions import (
    ferment as fermenting,
)
from firkin.core.questions import loads as washing
from firkin.core.questions import (
    neutralisation as neutralising,
)
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


@contextmanager
def _at(*path: str | int) -> Iterator[None]:
    """Name the place in the question that an error inside is about."""
    try:
        yield
    except CannotReckon as error:
        raise error.at(*path) from None


def _active(question: Question) -> Material:
    material = find(question["active"])
    if material.reports != "active" and material.strength is None:
        raise CannotRead(
            f"{question['active'][:40]}; expected an active such as ethanol, isopropanol or hydrogen-peroxide"
        ).at("active")
    return material


def _strength(question: Question, key: str, material: Material | None = None) -> Strength:
    with _at(key):
        text = question[key]
        return material.read_strength(text) if material else read_strength(text)


def _volume_mL(question: Question, key: str) -> float:
    with _at(key):
        return read_volume(question[key]).mL


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


def _blend(question: Question) -> tuple[Answer, Working]:
    active = _active(question)
    stocks = []
    for position, text in enumerate(question["stocks"]):
        with _at("stocks", position):
            stocks.append(active.read_strength(text))
    mixed = blending.blend(
        active, (stocks[0], stocks[1]), _strength(question, "target", active), _volume_mL(question, "make")
    )
    values = {
        "parts": [rounded(part) for part in mixed.parts],
        "volumes_mL": [rounded(volume) for volume in mixed.volumes_mL],
        "true": mixed.true,
    }
    return values, mixed.working


def _adjust(question: Question) -> tuple[Answer, Working]:
    active = _active(question)
    change = blending.strengthen if question["ask"] == "strengthen" else blending.weaken
    changed = change(
        active,
        _volume_mL(question, "batch"),
        _strength(question, "now", active),
        _strength(question, "with", active),
        _strength(question, "target", active),
    )
    keys = ("add_mL", "label_add_mL", "new_volume_mL")
    return {key: getattr(changed, key) for key in keys}, changed.working


def _chlorine(question: Question) -> tuple[Answer, Working]:
    bleach = find("sodium-hypochlorite")
    made = chlorine.surface_solution(
        _strength(question, "stock", bleach),
        _strength(question, "target", bleach),
        _volume_mL(question, "make"),
        float(question.get("age_months", 0.0)),
    )
    values = {
        "bleach_mL": made.bleach_mL,
        "water_mL": made.water_mL,
        "parts_water_per_part_bleach": made.parts_water,
        "assumed_stock_pct": made.assumed_stock_pct,
    }
    return values, made.working


def _alcoholmeter(question: Question) -> tuple[Answer, Working]:
    if _active(question).id != "ethanol":
        raise CannotRead(f"{question['active'][:40]}; expected ethanol, for which alcoholmeters are made").at("active")
    with _at("reading"):
        reading = question["reading"]
        shown = read_strength(reading) if isinstance(reading, str) else Strength.of(float(reading), "v/v")
        if shown.basis != "v/v":
            raise CannotRead(f"{shown}; expected a reading in % v/v")
    with _at("temperature"):
        temperature = question["temperature"]
        celsius = read_temperature(temperature) if isinstance(temperature, str) else float(temperature)
    value, working = alcoholmeter.true_strength(shown.value, celsius)
    return {"true_pct_vv": value}, working


def _reagent(question: Question, place: str) -> tuple[Material, Strength | None, Quantity]:
    row = question[place]
    with _at(place, "material"):
        material = find(row["material"])
    with _at(place, "strength"):
        strength = material.read_strength(row["strength"]) if "strength" in row else None
    with _at(place, "amount"):
        amount = read_quantity(row["amount"])
    return material, strength, amount


def _neutralise(question: Question) -> tuple[Answer, Working]:
    ended = neutralising.neutralise(_reagent(question, "acid"), _reagent(question, "base"))
    spare = ended.ends == "alkaline" or (ended.ends == "neutral" and ended.base_g_spare > 0)
    key = "base_g_spare" if spare else "base_g_missing"
    values = {"acid_mol": ended.acid_mol, "base_mol": ended.base_mol, "ends": ended.ends}
    return {**values, key: getattr(ended, key)}, ended.working


def _ferment(question: Question) -> tuple[Answer, Working]:
    filled = fermenting.ferment(_volume_mL(question, "container"))
    keys = ("sugar_g", "peel_g", "water_mL", "gas_space_mL")
    return {key: getattr(filled, key) for key in keys}, filled.working


def _pack(question: Question) -> tuple[Answer, Working]:
    containers = []
    for position, row in enumerate(question["containers"]):
        with _at("containers", position, "volume"):
            containers.append(packing.Container(row["name"], read_volume(row["volume"]).mL, row["count"]))
    packed = packing.pack(
        _volume_mL(question, "batch"),
        containers,
        float(question.get("headspace_pct", USUAL_HEADSPACE_PCT)),
    )
    fills = [{"name": f.name, "count": f.count, "fill_mL": rounded(f.fill_mL)} for f in packed.fills]
    values = {"fills": fills, "left_mL": packed.left_mL, "short_of_containers": packed.short_of_containers}
    return values, packed.working


def _loads(question: Question) -> tuple[Answer, Working]:
    with _at("batch"):
        batch = read_volume_or_mass(question["batch"])
    with _at("dose"):
        dose = read_volume_or_mass(question["dose"], "110 mL")
    cost = question.get("cost")
    washed = washing.loads(
        batch, dose, None if cost is None else float(cost), float(question.get("dilute_parts_water", 0.0))
    )
    values: Answer = {"loads": washed.loads}
    if washed.cost_per_load is not None:
        values["cost_per_load"] = washed.cost_per_load
    return values, washed.working


def _hardness(question: Question) -> tuple[Answer, Working]:
    value, working = hardness.convert(float(question["value"]), question["from"], question["to"])
    return {"value": value}, working


ASKS: dict[str, Callable[[Question], tuple[Answer, Working]]] = {
    "convert": _convert,
    "dilute": _dilute,
    "max-additive": _max_additive,
    "required-stock": _required_stock,
    "blend": _blend,
    "strengthen": _adjust,
    "weaken": _adjust,
    "chlorine": _chlorine,
    "alcoholmeter": _alcoholmeter,
    "neutralise": _neutralise,
    "ferment": _ferment,
    "pack": _pack,
    "loads": _loads,
    "hardness": _hardness,
}
