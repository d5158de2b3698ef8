"""The citrus ferment: 1 part sugar, 3 peel, 10 water by weight, in a container that holds 15 parts."""

from dataclasses import dataclass

from firkin.core.errors import CannotReckon
from firkin.core.measures import Working, WorkLine, amount_words, figures, weight_words
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Filled, Layer

SUGAR, PEEL, WATER, GAS = 1, 3, 10, 1  # common practice, no source: the free part is for gas
_WHOLE = SUGAR + PEEL + WATER + GAS


@dataclass(frozen=True, slots=True)
class Ferment:
    """What goes into a container: g, g, mL, and the space left for gas in mL."""

    sugar_g: float
    peel_g: float
    water_mL: float
    gas_space_mL: float
    working: Working


def ferment(container_mL: float) -> Ferment:
    """The amounts for a container of a brim volume, a part of each counting as 1 g or 1 mL.

    Raises CannotReckon for a container of nothing.

    >>> filled = ferment(2500.0)
    >>> round(filled.sugar_g), round(filled.peel_g), round(filled.water_mL)
    (167, 500, 1667)
    """
    if container_mL <= 0:
        raise CannotReckon("A container holds more than 0 mL.").at("container")
    part = container_mL / _WHOLE
    working = (
        WorkLine("One part of fifteen", f"{figures(container_mL)} mL ÷ {_WHOLE}", part, "mL, or g"),
        WorkLine("Sugar", f"{SUGAR} × {figures(part)}", SUGAR * part, "g"),
        WorkLine("Peel", f"{PEEL} × {figures(part)}", PEEL * part, "g"),
        WorkLine("Water", f"{WATER} × {figures(part)}", WATER * part, "mL"),
        WorkLine("Left free for gas", f"{GAS} × {figures(part)}", GAS * part, "mL"),
    )
    return Ferment(SUGAR * part, PEEL * part, WATER * part, GAS * part, working)


def _answer(asked: Asked) -> Answer:
    container = asked["container"].mL
    filled = ferment(container)
    level, layers = 0.0, []
    for name, kind, share in (("Sugar", "honey", SUGAR), ("Peel", "gel", PEEL), ("Water", "water", WATER)):
        level += share * container / _WHOLE
        layers.append(Layer(name, kind, level))
    return Answer(
        {
            "sugar_g": filled.sugar_g,
            "peel_g": filled.peel_g,
            "water_mL": filled.water_mL,
            "gas_space_mL": filled.gas_space_mL,
        },
        filled.working,
        figures(filled.peel_g),
        "g of peel",
        (
            ("Raw sugar", weight_words(filled.sugar_g)),
            ("Peel, mostly citrus", weight_words(filled.peel_g)),
            ("Water", amount_words(filled.water_mL)),
            ("Left free for gas", amount_words(filled.gas_space_mL)),
        ),
        (
            "Measure the container by filling it to the brim with a bottle you know.",
            "Plastic with a tight lid, never glass: the gas must be let out, daily in the first week.",
            "The marks count each gram as a millilitre; peel that floats stands higher.",
            "1 part sugar, 3 peel, 10 water, 1 free: common practice, no source.",
        ),
        picture=Filled(tuple(layers), level, container),
        cautions=("pressure",),
    )


FERMENT = Question(
    "ferment",
    "Ferment",
    "What goes into the ferment?",
    "From the container to sugar, peel and water by weight, with room left for the gas.",
    "Soap and bottles",
    (Field("container", Kind.VOLUME, "The container holds, to the brim", "2.5 L", hint="2.5 L"),),
    (
        Given("sugar_g", "raw sugar"),
        Given("peel_g", "peel, mostly citrus"),
        Given("water_mL", "water"),
        Given("gas_space_mL", "left free for gas"),
    ),
    _answer,
)
