"""Liquid soap from bars: grams of soap in a litre, and how thick that usually comes out."""

from dataclasses import dataclass

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line
from firkin.core.measures import QS, Quantity, Working, WorkLine, amount_words, figures, rounded_down, weight_words
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Scale, Zone

#: Grams of grated bar soap in a litre that is a good start (common practice, no source).
SOAP_G_PER_L = (60.0, 100.0)
#: How it usually is the next day, up to so many grams a litre (common practice, no source; it depends on the bar).
THICKNESS = (
    Zone("like water", 40.0),
    Zone("thin", SOAP_G_PER_L[0]),
    Zone("pours like cream", SOAP_G_PER_L[1]),
    Zone("a gel", 150.0),
    Zone("sets solid", 250.0),
)
#: More soap than this in a litre, g, is no liquid any more (common practice, no source).
MOST_G_PER_L = 500.0
#: A pot holds so many times what is melted in it: soap rises as it boils (common practice, no source).
BOILS_UP = 2.0
#: Share of the finished volume that is water to melt the soap in; the rest tops it up (common practice, no source).
_MELTED_IN = 0.6
_BASIS = "common practice, no source; it depends on the bar, the water and the night: weigh, look and write it down"


@dataclass(frozen=True, slots=True)
class SoapInWater:
    """Soap and what it makes: g of bar soap, mL, g in a litre, the thickness to expect, and the arithmetic."""

    bar_g: float
    volume_mL: float
    g_per_L: float
    thickness: str
    working: Working


def soap_per_litre(bar_g: float | None, volume_mL: float | None, g_per_L: float | None) -> SoapInWater:
    """The third of bar soap (g), volume (mL) and strength (g in a litre of finished soap) from the other two.

    Raises CannotReckon unless just two are given, each above 0.

    >>> soap_per_litre(150.0, 2000.0, None).g_per_L, soap_per_litre(150.0, None, 75.0).volume_mL
    (75.0, 2000.0)
    """
    given = [value for value in (bar_g, volume_mL, g_per_L) if value is not None]
    if len(given) != 2:
        raise CannotReckon("Give two of the three: the soap, the volume, the grams per litre.").at(
            "g_per_L" if len(given) == 3 else "volume" if bar_g is not None else "bar_g"
        )
    if min(given) <= 0.0:
        raise CannotReckon("More than 0 is needed.").at(
            "bar_g" if bar_g is not None and bar_g <= 0 else "volume" if volume_mL is not None else "g_per_L"
        )
    too_much_of = "bar_g" if g_per_L is None else "g_per_L"
    if g_per_L is None and bar_g is not None and volume_mL is not None:
        g_per_L = 1000.0 * bar_g / volume_mL
        line = WorkLine("Soap in a litre", f"{figures(bar_g)} g ÷ {figures(volume_mL / 1000)} L", g_per_L, "g/L")
    elif volume_mL is None and bar_g is not None and g_per_L is not None:
        volume_mL = 1000.0 * bar_g / g_per_L
        line = WorkLine("It makes", f"{figures(bar_g)} g ÷ {figures(g_per_L)} g/L × 1000", volume_mL, "mL")
    else:
        assert volume_mL is not None and g_per_L is not None
        bar_g = volume_mL / 1000.0 * g_per_L
        line = WorkLine("Soap to grate", f"{figures(volume_mL / 1000)} L × {figures(g_per_L)} g/L", bar_g, "g")
    if g_per_L > MOST_G_PER_L:
        raise CannotReckon(
            f"{figures(g_per_L)} g of soap in a litre is no liquid soap: from {figures(MOST_G_PER_L)} g it is a paste. "
            "Usual are 60 to 100 g."
        ).at(too_much_of)
    return SoapInWater(bar_g, volume_mL, g_per_L, soap_thickness(g_per_L), (line,))


def soap_thickness(g_per_L: float) -> str:
    """How liquid soap of so many grams of bar in a litre usually is the next day.

    Args:
        g_per_L: grams of bar soap in a litre.

    >>> soap_thickness(75.0), soap_thickness(120.0)
    ('pours like cream', 'a gel')
    """
    return next((zone.name for zone in THICKNESS if g_per_L <= zone.until), THICKNESS[-1].name)


def _answer(asked: Asked) -> Answer:
    volume = None if asked["volume"] is None else asked["volume"].mL
    made = soap_per_litre(asked["bar_g"], volume, asked["g_per_L"])
    if asked["g_per_L"] is None:
        big, unit = made.g_per_L, "g of soap in a litre"
    elif asked["bar_g"] is None:
        big, unit = made.bar_g, "g of soap to grate"
    else:
        big, unit = made.volume_mL, "mL of liquid soap"
    low, high = SOAP_G_PER_L
    warns = ["It boils over quickly: warm it gently, in a pot twice its size, and stay with it."]
    if asked["vessel"] is not None and asked["vessel"].mL < made.volume_mL * BOILS_UP * (1 - 1e-9):
        fits = amount_words(rounded_down(asked["vessel"].mL / BOILS_UP, 3))
        warns.insert(
            0,
            f"A pot of {amount_words(asked['vessel'].mL)} is too small for {amount_words(made.volume_mL)}: it boils "
            f"over. Melt it in {fits} at a time, or take a pot of {amount_words(made.volume_mL * BOILS_UP)}.",
        )
    rows = (
        ("Bar soap, grated", weight_words(made.bar_g)),
        ("Finished liquid soap", amount_words(made.volume_mL)),
        ("Soap in a litre", f"{figures(made.g_per_L)} g"),
        ("Next day, usually", made.thickness),
    )
    return Answer(
        {
            "bar_g": made.bar_g,
            "volume_mL": made.volume_mL,
            "g_per_L": made.g_per_L,
            "thickness": made.thickness,
            "basis": _BASIS,
        },
        made.working,
        figures(big),
        unit,
        rows,
        (
            f"{low:g} to {high:g} g in a litre is a good start. What to expect is {_BASIS}.",
            "With water and no preservative it keeps weeks, not months.",
        ),
        tuple(warns),
        Scale(THICKNESS, made.g_per_L, f"{figures(made.g_per_L)} g/L"),
        formula=_formula(made),
    )


def _formula(made: SoapInWater) -> Formula:
    """The soap as a formula: half the water to melt it in, topped up with the rest."""
    first = Quantity(made.volume_mL * _MELTED_IN, "mL")
    lines = (
        Line(find("bar-soap"), Quantity(made.bar_g, "g"), note="grated"),
        Line(find("water"), first, note="hot"),
        Line(find("water"), Quantity(0.0, QS), note="hot"),
    )
    return Formula("Unnamed", lines, "liquid-soap", make=Quantity(made.volume_mL, "mL"))


SOAP_PER_LITRE = Question(
    "soap-per-litre",
    "Soap from bars",
    "How much bar soap for a litre?",
    "Two of the three: the soap there is, the volume wanted, how strong it should be.",
    "Soap and bottles",
    (
        Field(
            "bar_g",
            Kind.GRAMS,
            "Bar soap, g",
            "150",
            hint="150, or 3 bars of 100 g",
            help="By the scale, or off the wrapper: 3 bars of 100 g.",
            optional=True,
            most=1e6,
        ),
        Field("volume", Kind.VOLUME, "Finished soap", "2 L", hint="2 L", optional=True),
        Field("g_per_L", Kind.NUMBER, "Grams in a litre", hint="80", optional=True, most=1e4),
        Field("vessel", Kind.VOLUME, "The pot holds", hint="5 L", optional=True),
    ),
    (
        Given("bar_g", "soap to grate"),
        Given("volume_mL", "what it makes"),
        Given("g_per_L", "soap in a litre"),
        Given("thickness", "how it usually is the next day", "text", choices=tuple(zone.name for zone in THICKNESS)),
        Given("basis", "what that rests on", "text"),
    ),
    _answer,
)
