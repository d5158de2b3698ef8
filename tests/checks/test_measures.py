"""Household measures against NIST and against a general-purpose units library."""

import pint
import pytest

from firkin.core.quantities import read_quantity, units

# NIST SP 811 appendix B and NIST HB 44 appendix C, in mL or g.
NIST = [
    ("1 cup", 236.588),
    ("1 tbsp", 14.787),
    ("1 tsp", 4.929),
    ("1 floz", 29.574),
    ("1 pint", 473.18),
    ("1 quart", 946.35),
    ("1 gal", 3785.41),
    ("1 imp_floz", 28.413),
    ("1 imp_pint", 568.26),
    ("1 imp_gal", 4546.09),
    ("1 oz", 28.350),
    ("1 lb", 453.59),
]


@pytest.mark.parametrize(("text", "size"), NIST)
def test_a_measure_has_its_nist_size(text: str, size: float) -> None:
    quantity = read_quantity(text)
    value = quantity.mL if quantity.kind == "volume" else quantity.g
    assert value == pytest.approx(size, rel=2e-5)


PINT_NAMES = {
    "mL": "mL",
    "L": "L",
    "g": "g",
    "kg": "kg",
    "mg": "mg",
    "oz": "oz",
    "lb": "lb",
    "tsp": "teaspoon",
    "tbsp": "tablespoon",
    "cup": "cup",
    "floz": "fluid_ounce",
    "pint": "pint",
    "quart": "quart",
    "gal": "gallon",
    "imp_floz": "imperial_fluid_ounce",
    "imp_pint": "imperial_pint",
    "imp_quart": "imperial_quart",
    "imp_gal": "imperial_gallon",
}


def test_every_published_unit_agrees_with_pint() -> None:
    """Pint's own definitions, after NIST HB 44. Metric spoons, cups, drops and parts are not in Pint."""
    registry: pint.UnitRegistry = pint.UnitRegistry()
    for key, name in PINT_NAMES.items():
        unit = units()[key]
        base = "mL" if unit.kind == "volume" else "g"
        assert registry(name).to(base).magnitude == pytest.approx(unit.factor, rel=1e-9), key
