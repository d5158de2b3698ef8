"""Reading a glass alcoholmeter calibrated in % v/v at 20 degC, at other temperatures.

Source: OIML R 22 (1975). The reading gives the density of the liquid at its temperature; from density and
temperature follows the composition, and from that the strength at 20 degC. The glass grows too, by 25e-6 of its
volume per degC (OIML R 44, from memory): a warm stem displaces more and shows a little too weak. The figure given
leaves that out, so it errs low in the warm; a row beside it says what it comes to with the glass counted.
"""

from firkin.core.densities import ethanol
from firkin.core.errors import CannotReckon
from firkin.core.measures import Working, WorkLine, figures
from firkin.core.questions.declaration import Answer, Asked, Field, Given, Kind, Question
from firkin.core.questions.pictures import Stem

#: Growth of a glass stem's volume per degC: OIML R 44, from memory.
GLASS_PER_C = 25e-6


def true_strength(reading_pct: float, celsius: float) -> tuple[float, Working]:
    """True % v/v at 20 degC of ethanol and water from a reading at a temperature.

    reading_pct: 0 to 100; celsius: -20 to 40.

    Args:
        reading_pct: what the alcoholmeter shows, 0 to 100 % v/v.
        celsius: temperature of the liquid, -20 to 40 degC.

    Raises:
        CannotReckon: outside the tables.

    >>> round(true_strength(78.0, 27.0)[0], 1), round(true_strength(50.0, 30.0)[0], 1)
    (75.8, 46.1)
    """
    if not 0.0 <= reading_pct <= 100.0:
        raise CannotReckon("A reading is between 0 and 100 % v/v.").at("reading")
    _check(celsius)
    density = ethanol.density(ethanol.mass_fraction(reading_pct / 100.0))
    mass = _mass_fraction(density, celsius)
    value = 100.0 * ethanol.volume_fraction(mass)
    working = (
        WorkLine(f"The reading of {figures(reading_pct)} means a density of", "", 1000.0 * density, "kg/m³"),
        WorkLine(f"Ethanol that has this density at {figures(celsius)} °C", "", 100.0 * mass, "% w/w"),
        WorkLine("That is, at 20 °C", "", value, "% v/v"),
    )
    return value, working


def with_glass(reading_pct: float, celsius: float) -> float:
    """True % v/v at 20 degC with the growth of the stem's own glass counted, 25e-6 per degC (OIML R 44, from memory).

    Raises CannotReckon outside the tables.

    >>> round(with_glass(50.0, 30.0), 1), round(with_glass(50.0, 20.0), 1)
    (46.2, 50.0)
    """
    marked = ethanol.density(ethanol.mass_fraction(reading_pct / 100.0))
    return 100.0 * ethanol.volume_fraction(_mass_fraction(marked / (1.0 + GLASS_PER_C * (celsius - 20.0)), celsius))


def expected_reading(true_pct: float, celsius: float) -> tuple[float, Working]:
    """What the alcoholmeter should show at a temperature when the liquid is ``true_pct`` at 20 degC.

    The inverse of true_strength.

    Args:
        true_pct: % v/v at 20 degC, 0 to 100.
        celsius: temperature of the liquid, -20 to 40 degC.

    Raises:
        CannotReckon: when that is off the stem.

    >>> round(expected_reading(75.8, 27.0)[0], 1)
    78.0
    """
    if not 0.0 <= true_pct <= 100.0:
        raise CannotReckon("A strength is between 0 and 100 % v/v.").at("true")
    _check(celsius)
    density = ethanol.density(ethanol.mass_fraction(true_pct / 100.0), celsius)
    mass = _mass_fraction(density, 20.0)
    value = 100.0 * ethanol.volume_fraction(mass)
    working = (
        WorkLine(f"Density of {figures(true_pct)} % at {figures(celsius)} °C", "", 1000.0 * density, "kg/m³"),
        WorkLine("The stem is marked for 20 °C, where this density is", "", value, "% v/v"),
    )
    return value, working


def _check(celsius: float) -> None:
    if not -20.0 <= celsius <= 40.0:
        raise CannotReckon("The OIML tables run from -20 to 40 °C.").at("temperature")


def _mass_fraction(density: float, celsius: float) -> float:
    """The mass fraction with a density in g/mL at a temperature, by halving; density falls with it."""
    if density > ethanol.density(0.0, celsius) + 2e-4 or density < ethanol.density(1.0, celsius) - 1e-6:
        raise CannotReckon(
            f"No mixture of ethanol and water reads so at {figures(celsius)} °C: it would lie outside 0 to 100 %."
        ).at("reading")
    low, high = 0.0, 1.0
    for _ in range(50):
        middle = (low + high) / 2.0
        if ethanol.density(middle, celsius) > density:
            low = middle
        else:
            high = middle
    return (low + high) / 2.0


_SAYS = (
    "For ethanol and water only. Glycerol, sugar or gel make it read too low a strength; in a gel the stem "
    "cannot float free at all. Isopropanol needs its own instrument.",
    "By density and temperature, OIML R 22, the glass taken as it is at 20 °C.",
)
_LEAD = "A stem marked in % v/v at 20 °C shows too much in a warm liquid and too little in a cold one."


def _only_ethanol(asked: Asked) -> None:
    if asked.active.id != "ethanol":
        raise CannotReckon(f"{asked.active.id}; expected ethanol, for which alcoholmeters are made").at("active")


def _shown(value: float, unit: str, reading: float, true: float, celsius: float, working: Working, key: str) -> Answer:
    off = round(true - reading, 2)
    correction = f"{'+' if off > 0 else '−'}{figures(abs(off), 2)} points" if off else "none"
    rows = [("Correction to the reading", correction)]
    if key == "true_pct_vv":
        rows.append(("With the glass’s own growth counted", _glass_words(reading, celsius)))
    return Answer(
        {key: value},
        working,
        figures(value, 3),
        unit,
        tuple(rows),
        _SAYS,
        picture=Stem(reading, true, celsius),
        cautions=("flammable",),
    )


def _glass_words(reading: float, celsius: float) -> str:
    try:
        return f"{figures(with_glass(reading, celsius), 3)} % v/v (25 millionths per °C: OIML R 44, from memory)"
    except CannotReckon:
        return "off the stem"


def _true(asked: Asked) -> Answer:
    _only_ethanol(asked)
    reading, celsius = asked["reading"].value, asked["temperature"]
    value, working = true_strength(reading, celsius)
    return _shown(value, "% v/v at 20 °C", reading, value, celsius, working, "true_pct_vv")


def _expected(asked: Asked) -> Answer:
    _only_ethanol(asked)
    true, celsius = asked["true"].value, asked["temperature"]
    value, working = expected_reading(true, celsius)
    return _shown(value, f"on the stem at {figures(celsius)} °C", value, true, celsius, working, "reading_pct_vv")


_ETHANOL = Field("active", Kind.ACTIVE, "What", "ethanol", fallback="ethanol", on_page=False)
_TEMPERATURE = Field("temperature", Kind.TEMPERATURE, "Temperature of the liquid", "27 °C", hint="27 °C")

ALCOHOLMETER = Question(
    "alcoholmeter",
    "Alcoholmeter",
    "What does my alcoholmeter reading mean?",
    _LEAD,
    "Measuring",
    (
        _ETHANOL,
        Field("reading", Kind.READING, "Reading, % v/v", "78", hint="78", least=0.0, most=100.0),
        _TEMPERATURE,
    ),
    (Given("true_pct_vv", "true strength at 20 degC"),),
    _true,
)

EXPECTED_READING = Question(
    "expected-reading",
    "Expected reading",
    "What should the alcoholmeter read?",
    "To check a stem, or a batch that should be right: what it shows in a liquid of a known strength.",
    "Measuring",
    (
        _ETHANOL,
        Field("true", Kind.READING, "Strength at 20 °C, % v/v", "75.8", hint="75.8", least=0.0, most=100.0),
        _TEMPERATURE,
    ),
    (Given("reading_pct_vv", "what the stem should show"),),
    _expected,
)
