"""Converting a strength to every basis, and an amount to millilitres, grams and kitchen measures."""

from typing import Any

from firkin.core.catalogue import Material
from firkin.core.densities import ALCOHOLS
from firkin.core.errors import CannotReckon
from firkin.core.formula import nature
from firkin.core.measures import (
    UK_PROOF_PER_PCT,
    US_PROOF_PER_PCT,
    Quantity,
    Strength,
    Working,
    WorkLine,
    amount_words,
    figures,
    units,
    weight_words,
)
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Mark, Rail
from firkin.core.questions.wording import doubts
from firkin.core.texts import quoted

CONVERT_TO = ("% v/v", "% w/w", "% w/v", "proof", "proof_uk")


def convert(active: Material, strength: Strength, to: str) -> tuple[float, Working]:
    """The nominal strength in another unit of CONVERT_TO, per cent or degrees.

    Alcohols go by their density tables, hydrogen peroxide by its densities; others only where their
    density is known. Raises CannotReckon for proof of what is no alcohol, and for unknown units.

    >>> from firkin.core.catalogue import find
    >>> round(convert(find("ethanol"), Strength.of(60.0, "w/w"), "% v/v")[0], 2)
    67.74
    """
    if to not in CONVERT_TO:
        raise CannotReckon(f"{quoted(to)} is not a strength unit. Write one of {', '.join(CONVERT_TO)}.").at("to")
    alcohol = ALCOHOLS.get(active.id)
    fraction = active.mass_fraction(strength)
    assert fraction is not None
    density = active.density_at(fraction)
    lines = [
        WorkLine(f"{active.name}, share by weight of {strength}", "", 100.0 * fraction, "% w/w"),
        WorkLine("Density of that mixture at 20 °C", "", density, "g/mL"),
    ]
    if to == "% w/w":
        return 100.0 * fraction, (lines[0],)
    if to == "% w/v":
        value = 100.0 * fraction * density
        lines.append(WorkLine("Grams in 100 mL", f"{figures(100 * fraction)} × {figures(density)}", value, "% w/v"))
        return value, tuple(lines)
    if alcohol is None:
        raise CannotReckon(f"{active.name} is not measured in {to}; write % w/w or % w/v.").at("to")
    volume = 100.0 * alcohol.volume_fraction(fraction)
    lines.append(
        WorkLine(
            "Share by volume",
            f"{figures(100 * fraction)} × {figures(density)} ÷ {figures(alcohol.pure_density)}",
            volume,
            "% v/v",
        )
    )
    if to == "% v/v":
        return volume, tuple(lines)
    factor = US_PROOF_PER_PCT if to == "proof" else UK_PROOF_PER_PCT
    lines.append(WorkLine("Proof", f"{figures(volume)} × {figures(factor)}", volume * factor, to))
    return volume * factor, tuple(lines)


_MEASURES = ("cup", "tbsp", "tsp", "floz", "cup_metric", "tbsp_metric", "imp_floz", "imp_pint", "drop")
_BASIS_WORDS = {
    "% v/v": "By volume, at 20 °C",
    "% w/w": "By weight",
    "% w/v": "Weight in volume",
    "proof": "US proof",
    "proof_uk": "UK degrees proof",
}


def weigh(material: Material, amount: Quantity, strength: Strength | None = None) -> tuple[float, float]:
    """An amount of a material in mL and in g; of a powder, its loose volume.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> [round(value, 1) for value in weigh(find("salt"), read_quantity("1 cup"))]
    [236.6, 295.7]
    """
    density = nature(material, material.mass_fraction(strength or material.usual_strength)).measured
    volume = amount.mL if amount.kind == "volume" else amount.g / density
    return volume, volume * density


def _answer(asked: Asked) -> Answer:
    material, strength, amount = asked.active, asked["from"], asked["amount"]
    if strength is None and amount is None:
        raise CannotReckon("Give a strength or an amount to convert.").at("from")
    values: dict[str, Any] = {}
    rows: list[tuple[str, str]] = []
    working: Working = ()
    picture = None
    if strength is not None:
        if asked.ask and asked["to"] is None:
            raise CannotReckon(f"missing; expected one of {', '.join(CONVERT_TO)}").at("to")
        if asked["to"] is not None:
            values["value"], working = convert(material, strength, asked["to"])
        else:
            rows, working = _every_basis(material, strength)
        if material.alcohol is not None:
            volume = material.alcohol.as_volume(strength)
            picture = Rail((), (Mark(material.name, volume.value, volume.value, volume.low, volume.high),))
    if amount is not None:
        values["volume_mL"], values["mass_g"] = weigh(material, amount, strength)
        said, lines = _in_measures(material, amount, values["volume_mL"], values["mass_g"])
        rows, working = rows + said, (*working, *lines)
    big, unit = (rows or [("", f"{figures(values.get('value', 0.0))} {asked['to']}")])[0][1].split(" ", 1)
    says = list(doubts(material) if strength is not None else ())
    if not material.known:
        says.append(f"Firkin does not know “{material.name}”; it is counted with a density of 1.")
    return Answer(values, working, big, unit, tuple(rows), tuple(says), picture=picture)


def _every_basis(material: Material, strength: Strength) -> tuple[list[tuple[str, str]], Working]:
    rows: list[tuple[str, str]] = []
    working: Working = ()
    for to in CONVERT_TO:
        try:
            value, lines = convert(material, strength, to)
        except CannotReckon:
            continue
        rows.append((_BASIS_WORDS[to], f"{figures(value)} {to.removesuffix('_uk')}"))
        working = max(working, lines, key=len)
    if material.alcohol is None and strength.value < 100:
        rows.append(("Parts per million", f"{figures(strength.value * 10_000)} ppm {strength.basis}"))
    return rows, working


def _in_measures(
    material: Material, amount: Quantity, volume_mL: float, mass_g: float
) -> tuple[list[tuple[str, str]], Working]:
    rows = [("Volume", amount_words(volume_mL)), ("Weight", weight_words(mass_g))]
    for key in _MEASURES:
        size = volume_mL / units()[key].factor
        if 0.2 <= size < 1000:
            rows.append(("In the kitchen", f"{figures(size, 3)} {units()[key].label}"))
    density = mass_g / volume_mL
    if amount.kind == "volume":
        line = WorkLine(f"{material.name}, weight", f"{figures(volume_mL)} mL × {figures(density)} g/mL", mass_g, "g")
    else:
        line = WorkLine(f"{material.name}, volume", f"{figures(mass_g)} g ÷ {figures(density)} g/mL", volume_mL, "mL")
    return rows, (line,)


CONVERT = Question(
    "convert",
    "Convert",
    "What is it in another unit?",
    "A strength on every basis; an amount in millilitres, grams and kitchen measures.",
    "Measuring",
    (
        Field("active", Kind.MATERIAL, "What", "Ethanol", hint="ethanol"),
        Field("from", Kind.STRENGTH, "Strength", "60 % w/w", hint="60 % w/w", optional=True),
        Field("to", Kind.CHOICE, "To", choices=lambda: [(to, to) for to in CONVERT_TO], optional=True, on_page=False),
        Field("amount", Kind.SIZE, "Amount", "1 cup", hint="1 cup", optional=True),
    ),
    (
        Given("value", "the strength in the unit asked for", optional=True),
        Given("volume_mL", "the amount in mL; of a powder, loose", optional=True),
        Given("mass_g", "the amount in g", optional=True),
    ),
    _answer,
)
