"""Water hardness: its units, as calcium carbonate, and what a wash takes because of it.

Sources: the units' definitions. 1 grain = 64.79891 mg and 1 US gallon = 3.785411784 L (NIST HB 44);
1 dH = 10 mg CaO per L; 1 fH = 10 mg CaCO3 per L; molar masses CaCO3 100.087 and CaO 56.077 g/mol.
"""

import re
from dataclasses import dataclass

from firkin.core.catalogue import find
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.measures import Quantity, Working, WorkLine, amount_words, figures, read_number, weight_words
from firkin.core.questions.declaration import Answer, Asked, Choices, Field, Given, Kind, Question
from firkin.core.questions.loads import USUAL_DOSE_ML
from firkin.core.questions.pictures import Scale, Zone
from firkin.core.texts import quoted

#: mg CaCO3 per litre in one of each unit.
MG_PER_L = {
    "gpg": 64.79891 / 3.785411784,
    "mg/L": 1.0,
    "dH": 10.0 * 100.087 / 56.077,
    "fH": 10.0,
    "mmol/L": 100.087,
}


def convert_hardness(value: float, unit: str, to: str) -> tuple[float, Working]:
    """A hardness in another unit.

    Raises CannotReckon for a negative value or an unknown unit.

    >>> round(convert_hardness(1.0, "gpg", "mg/L")[0], 2), round(convert_hardness(1.0, "dH", "mg/L")[0], 2)
    (17.12, 17.85)
    """
    for key, name in (("from", unit), ("to", to)):
        if name not in MG_PER_L:
            raise CannotReckon(f"{quoted(name)} is not a unit of hardness. Write {', '.join(MG_PER_L)}.").at(key)
    if value < 0:
        raise CannotReckon("Hardness is 0 or more.").at("value")
    milligrams = value * MG_PER_L[unit]
    result = milligrams / MG_PER_L[to]
    working = (
        WorkLine("As calcium carbonate", f"{figures(value)} × {figures(MG_PER_L[unit])}", milligrams, "mg/L"),
        WorkLine(f"In {to}", f"{figures(milligrams)} ÷ {figures(MG_PER_L[to])}", result, to),
    )
    return result, working


#: How hard a water is called, up to so many mg/L as calcium carbonate (US Geological Survey, Water Science School,
#: from memory).
CALLED = (Zone("soft", 60.0), Zone("moderately hard", 120.0), Zone("hard", 180.0), Zone("very hard", 500.0))


def called(mg_per_L: float) -> str:
    """How hard a water is called, by mg/L as calcium carbonate.

    >>> called(50.0), called(200.0)
    ('soft', 'very hard')
    """
    return next((zone.name for zone in CALLED if mg_per_L <= zone.until), CALLED[-1].name)


def _units() -> Choices:
    words = {"mg/L": "mg/L as CaCO₃", "dH": "°dH (German)", "fH": "°fH (French)", "gpg": "gpg (grains a US gallon)"}
    return [(unit, words.get(unit, unit)) for unit in MG_PER_L]


def _answer(asked: Asked) -> Answer:
    value, unit = asked["value"], asked["from"]
    result, working = convert_hardness(value, unit, asked["to"])
    milligrams = working[0].result
    rows = [(label, f"{figures(convert_hardness(value, unit, key)[0])} {key}") for key, label in _units()]
    return Answer(
        {"value": result},
        working,
        figures(result),
        asked["to"],
        tuple(rows),
        (
            f"That is {called(milligrams)} water (US Geological Survey, from memory). Hard water takes more soap and "
            "leaves scum with it.",
        ),
        picture=Scale(CALLED, milligrams, f"{figures(milligrams)} mg/L"),
    )


HARDNESS = Question(
    "hardness",
    "Hardness",
    "How hard is the water?",
    "From the strip, the kettle’s manual or the water company, in any of the usual units.",
    "Measuring",
    (
        Field("value", Kind.NUMBER, "It says", "7", hint="7", least=0.0, most=1e6),
        Field("from", Kind.CHOICE, "In", "gpg", choices=_units),
        Field("to", Kind.CHOICE, "I want it in", "mg/L", choices=_units),
    ),
    (Given("value", "the hardness in the unit asked for"),),
    _answer,
)


#: Litres of water that wash a kilogram of dry laundry, main wash of a front loader (common practice, no source).
WATER_L_PER_KG = 4.0
#: Litres of wash water in which a usual dose of laundry soap goes (common practice, no source).
USUAL_WASH_L = 20.0
#: By how much the dose is more for the soil, and for how hard the water is called (common practice, no source).
SOIL = {"light": 0.75, "normal": 1.0, "heavy": 1.5}
MORE_WHEN = {"soft": 1.0, "moderately hard": 1.15, "hard": 1.3, "very hard": 1.5}
_SODA, _CRYSTALS, _SALT_G_PER_MOL = find("washing-soda"), find("soda-crystals"), 58.443
_DOSE_SOURCE = (
    "soda: 1 mol of carbonate takes 1 mol of calcium; salt: 2 mol of sodium chloride for 1 mol of calcium in a "
    "softener; detergent: common practice, no source"
)


@dataclass(frozen=True, slots=True)
class HardnessDose:
    """What a wash takes: g of water-free soda, g of salt a softener uses instead, mL of laundry soap."""

    soda_g: float
    salt_g: float
    detergent_mL: float
    water_L: float
    working: Working


def read_hardness(text: str) -> float:
    """A hardness with its unit, in mg/L as calcium carbonate; CannotRead without one that is known.

    >>> round(read_hardness("15 °dH"), 1), round(read_hardness("7 gpg"), 1)
    (267.7, 119.8)
    """
    match = re.fullmatch(r"\s*([0-9.,]+)\s*°?\s*([A-Za-z/]+)\s*", text)
    unit = next((known for known in MG_PER_L if match and known.lower() == match[2].lower()), None)
    unit = "mg/L" if match and match[2].lower() == "ppm" else unit
    if match is None or unit is None:
        raise CannotRead(f"{quoted(text)} is not a hardness. Write one such as 15 dH; units: {', '.join(MG_PER_L)}.")
    return read_number(match[1]) * MG_PER_L[unit]


def hardness_dose(mg_per_L: float, load: Quantity, soil: str = "normal") -> HardnessDose:
    """What a wash takes in water of a hardness, in mg/L as calcium carbonate; ``load`` is dry laundry or wash water.

    >>> dose = hardness_dose(200.174, Quantity(20.0, "L"))
    >>> round(dose.soda_g, 2), round(dose.salt_g, 2), round(dose.detergent_mL)
    (4.24, 4.68, 171)
    """
    water_L = load.mL / 1000.0 if load.kind == "volume" else load.g / 1000.0 * WATER_L_PER_KG
    if not water_L:
        raise CannotReckon("A load is more than 0.").at("load")
    mol = mg_per_L / MG_PER_L["mmol/L"] * water_L / 1000.0
    soda_g, salt_g = mol * (_SODA.molar_mass or 0.0), mol * 2.0 * _SALT_G_PER_MOL
    usual = sum(USUAL_DOSE_ML) / 2.0
    more = MORE_WHEN[called(mg_per_L)]
    detergent = usual * water_L / USUAL_WASH_L * SOIL[soil] * more
    working = (
        WorkLine(
            "Calcium in the wash", f"{figures(mg_per_L)} mg/L ÷ 100.1 mg/mmol × {figures(water_L)} L ÷ 1000", mol, "mol"
        ),
        WorkLine(
            "Soda that takes it, water-free",
            f"{figures(mol)} mol × {figures(_SODA.molar_mass or 0.0)} g/mol",
            soda_g,
            "g",
        ),
        WorkLine("Salt of a softener", f"{figures(mol)} mol × 2 × {figures(_SALT_G_PER_MOL)} g/mol", salt_g, "g"),
        WorkLine(
            "Laundry soap",
            f"{figures(usual)} mL × {figures(water_L)} ÷ {figures(USUAL_WASH_L)} L × {figures(SOIL[soil])} (soil) × "
            f"{figures(more)} (water)",
            detergent,
            "mL",
        ),
    )
    return HardnessDose(soda_g, salt_g, detergent, water_L, working)


def _dosed(asked: Asked) -> Answer:
    try:
        milligrams = read_hardness(str(asked["hardness"]))
    except CannotReckon as error:
        raise error.at("hardness") from None
    dose = hardness_dose(milligrams, asked["load"], asked["soil"])
    crystals = dose.soda_g / _CRYSTALS.holds
    rows = (
        ("Wash water counted", amount_words(dose.water_L * 1000.0)),
        ("Washing soda, water-free powder", weight_words(dose.soda_g)),
        ("or soda crystals", weight_words(crystals)),
        ("or salt, in a softener, at least", weight_words(dose.salt_g)),
        ("Laundry soap", amount_words(dose.detergent_mL)),
    )
    low, high = USUAL_DOSE_ML
    return Answer(
        {
            "soda_g": dose.soda_g,
            "salt_g": dose.salt_g,
            "detergent_mL": dose.detergent_mL,
            "source": _DOSE_SOURCE,
        },
        dose.working,
        figures(dose.soda_g),
        "g of washing soda",
        rows,
        (
            f"That is {called(milligrams)} water (US Geological Survey, from memory). "
            "Soda goes in before the soap and takes the lime, which would spoil the soap.",
            f"The dose of soap is a guess from the usual {low:g} to {high:g} mL a load (common practice, no source). "
            "Start with it, and look at the rinse.",
        ),
        picture=Scale(CALLED, milligrams, f"{figures(milligrams)} mg/L"),
        cautions=("dust",),
    )


HARDNESS_DOSE = Question(
    "hardness-dose",
    "Hard water",
    "What does a wash take in hard water?",
    "Soda against the lime, or the salt of a softener, and how much more soap.",
    "Soap and bottles",
    (
        Field("hardness", Kind.NAME, "Hardness, with its unit", "15 dH", hint="15 dH"),
        Field("load", Kind.SIZE, "Dry laundry, or wash water", "5 kg", hint="5 kg, or 20 L"),
        Field("soil", Kind.CHOICE, "Soil", "normal", choices=lambda: [(key, key) for key in SOIL], fallback="normal"),
    ),
    (
        Given("soda_g", "water-free washing soda that takes the hardness of the wash"),
        Given("salt_g", "salt a softener uses up to take it"),
        Given("detergent_mL", "laundry soap to start with"),
        Given("source", "what they rest on", "text"),
    ),
    _dosed,
)
