"""Units of water hardness, as calcium carbonate.

Sources: the units' definitions. 1 grain = 64.79891 mg and 1 US gallon = 3.785411784 L (NIST HB 44);
1 dH = 10 mg CaO per L; 1 fH = 10 mg CaCO3 per L; molar masses CaCO3 100.087 and CaO 56.077 g/mol.
"""

from firkin.core.errors import CannotReckon
from firkin.core.measures import Working, WorkLine, figures

#: mg CaCO3 per litre in one of each unit.
MG_PER_L = {
    "gpg": 64.79891 / 3.785411784,
    "mg/L": 1.0,
    "dH": 10.0 * 100.087 / 56.077,
    "fH": 10.0,
    "mmol/L": 100.087,
}


def convert(value: float, unit: str, to: str) -> tuple[float, Working]:
    """A hardness in another unit.

    Raises CannotReckon for a negative value or an unknown unit.

    >>> round(convert(1.0, "gpg", "mg/L")[0], 2), round(convert(1.0, "dH", "mg/L")[0], 2)
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
