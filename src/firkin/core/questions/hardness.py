"""Units of water hardness, as calcium carbonate.

Sources: the units' definitions. 1 grain = 64.79891 mg and 1 US gallon = 3.785411784 L (NIST HB 44);
1 dH = 10 mg CaO per L; 1 fH = 10 mg CaCO3 per L; molar masses CaCO3 100.087 and CaO 56.077 g/mol.
"""

from firkin.core.errors import CannotReckon
from firkin.core.measures import Working, WorkLine, figures
from firkin.core.questions.declaration import Answer, Asked, Choices, Field, Given, Kind, Question
from firkin.core.questions.pictures import Scale, Zone

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
            raise CannotReckon(f"“{name[:20]}” is not a unit of hardness. Write {', '.join(MG_PER_L)}.").at(key)
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
