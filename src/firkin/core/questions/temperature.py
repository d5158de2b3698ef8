"""Volumes at other temperatures than 20 degC, and the allowance for mixing in the open."""

from firkin.core.catalogue import Material
from firkin.core.densities import freezes_at
from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength, Working, WorkLine, amount_words, figures
from firkin.core.questions.bases import fraction
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Filled, Layer
from firkin.core.questions.wording import active_field, doubts, strength_field
from firkin.core.texts import uncapped

#: Extra stock for what evaporates while mixing in an open jug, per cent (common practice, no source).
USUAL_ALLOWANCE_PCT = 2.0


def at_temperature(
    active: Material, strength: Strength, volume_mL: float, measured: float, wanted: float = 20.0
) -> tuple[float, Working]:
    """What a volume measured at one temperature is at another, in mL: the same mass, another density.

    measured, wanted: -20 to 40 degC. Raises CannotReckon outside the density tables.

    >>> from firkin.core.catalogue import find
    >>> round(at_temperature(find("ethanol"), Strength.of(96.0, "v/v"), 1000.0, 28.0)[0], 1)
    991.4
    """
    for place, celsius in (("measured_at", measured), ("wanted_at", wanted)):
        if not -20.0 <= celsius <= 40.0:
            raise CannotReckon("The density tables run from -20 to 40 °C.").at(place)
    share = fraction(active, strength)
    for place, celsius in (("measured_at", measured), ("wanted_at", wanted)):
        check_liquid(active, share, celsius, place)
    there, here = active.density_at(share, measured), active.density_at(share, wanted)
    mass = volume_mL * there
    result = mass / here
    working = (
        WorkLine(f"Weight, at {figures(measured)} °C", f"{figures(volume_mL)} mL × {figures(there)} g/mL", mass, "g"),
        WorkLine(f"Volume at {figures(wanted)} °C", f"{figures(mass)} g ÷ {figures(here)} g/mL", result, "mL"),
    )
    return result, working


def check_liquid(active: Material, mass_fraction: float, celsius: float, place: str) -> None:
    """Refuse to measure what is frozen at a temperature. Raises CannotReckon at ``place``."""
    freezes = freezes_at(active.id, mass_fraction)
    if active.alcohol is not None and celsius < freezes:
        raise CannotReckon(f"At {figures(celsius)} °C it is frozen: ice forms from {figures(freezes, 2)} °C.").at(place)


def with_allowance(volume_mL: float, allowance_pct: float = USUAL_ALLOWANCE_PCT) -> float:
    """The stock to measure when ``allowance_pct`` of it may evaporate while mixing.

    >>> round(with_allowance(980.0, 2.0), 1)
    1000.0
    """
    if not 0.0 <= allowance_pct < 50.0:
        raise CannotReckon("An allowance is from 0 to below 50 %.").at("allowance")
    return volume_mL / (1.0 - allowance_pct / 100.0)


def _answer(asked: Asked) -> Answer:
    active, strength, volume = asked.active, asked["strength"], asked["volume"].mL
    measured = asked["measured_at"]
    wanted = 20.0 if asked["wanted_at"] is None else asked["wanted_at"]
    there, working = at_temperature(active, strength, volume, measured, wanted)
    instead, _ = at_temperature(active, strength, volume, wanted, measured)
    allowance = USUAL_ALLOWANCE_PCT if asked["allowance"] is None else asked["allowance"]
    by_volume = active.alcohol.as_volume(strength).value if active.alcohol else strength.value
    rows = (
        (f"To have {amount_words(volume)} at {figures(wanted)} °C, measure", amount_words(instead)),
        (f"with {figures(allowance)} % for the open jug", amount_words(with_allowance(instead, allowance))),
    )
    says = (
        "Measure alcohol last, keep it covered, and close the vessel at once: a lid is worth more than this."
        if active.alcohol
        else f"Firkin does not know how much {uncapped(active.name)} grows with warmth: it is counted as at 20 °C.",
        *doubts(active),
    )
    layers = [Layer(f"at {figures(wanted)} °C", "alcohol", there), Layer(f"at {figures(measured)} °C", "mist", volume)]
    layers.sort(key=lambda layer: layer.level_mL)
    unchanged = WorkLine("Strength, at 20 °C whatever the liquid's temperature", "", by_volume, "% v/v")
    return Answer(
        {"volume_mL": there, "strength_pct_vv": by_volume},
        (*working, unchanged),
        figures(there),
        f"mL at {figures(wanted)} °C are {amount_words(volume)} at {figures(measured)} °C",
        rows,
        says,
        picture=Filled(tuple(layers), max(there, volume)),
        cautions=("flammable",) if active.alcohol else active.cautions,
    )


TEMPERATURE = Question(
    "temperature",
    "Temperature",
    "What does a warm bench or an open jug change?",
    "Alcohol grows when warm: the same measure holds less of it. Left open, it also loses strength.",
    "Measuring",
    (
        active_field(),
        strength_field("strength", "Strength on the label", "96 %"),
        Field("volume", Kind.VOLUME, "Measured", "1 L", hint="1 L"),
        Field("measured_at", Kind.TEMPERATURE, "At", "28 °C", hint="28 °C"),
        Field("wanted_at", Kind.TEMPERATURE, "Wanted at", hint="20 °C", optional=True),
        Field(
            "allowance",
            Kind.NUMBER,
            "Allow for the open jug, %",
            "2",
            hint="2",
            help="2 % is usual; common practice, no source.",
            optional=True,
            least=0.0,
            most=49.0,
        ),
    ),
    (
        Given("volume_mL", "the volume at the temperature wanted"),
        Given("strength_pct_vv", "the strength at 20 degC, which warmth does not change"),
    ),
    _answer,
)
