"""Amounts as people write them, and measures against NIST and a general-purpose units library."""

import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

from checks.published import NIST, PINT_NAMES
from firkin.core.errors import CannotRead
from firkin.core.measures import (
    read_quantity,
    read_volume_or_mass,
    units,
)

AMOUNTS = [
    ("833.3 mL", 833.3, "mL"),
    ("2 1/4 cup", 2.25, "cup"),
    ("2¼ cups", 2.25, "cup"),
    ("2 ¼ cup", 2.25, "cup"),
    ("½ tsp", 0.5, "tsp"),
    ("1⁄2 tsp", 0.5, "tsp"),
    ("3,45 L", 3.45, "L"),
    ("0,125 litres", 0.125, "L"),
    ("1.000,5 ml", 1000.5, "mL"),
    ("1,000.5 ml", 1000.5, "mL"),
    (".5 kg", 0.5, "kg"),
    ("12 drops", 12, "drop"),
    ("2 parts", 2, "part"),
    ("69 %", 69, "%"),
    ("69 percent", 69, "%"),
    ("10 fl. oz.", 10, "floz"),
    ("3 Tablespoons", 3, "tbsp"),
    ("2 pts", 2, "pint"),
    ("5 lbs", 5, "lb"),
    ("1 imp_gal", 1, "imp_gal"),
    ("1 imperial gallon", 1, "imp_gal"),
    ("1 metric cup", 1, "cup_metric"),
    ("2 tbsp_au", 2, "tbsp_au"),
    ("250ml", 250, "mL"),
    ("q.s.", 0, "q.s."),
    ("QS", 0, "q.s."),
]


@pytest.mark.parametrize(("text", "value", "unit"), AMOUNTS)
def test_an_amount_is_read(text: str, value: float, unit: str) -> None:
    quantity = read_quantity(text)
    assert (quantity.value, quantity.unit) == (pytest.approx(value), unit)


BAD_AMOUNTS = [
    ("", "missing"),
    ("   ", "missing"),
    ("some", "not an amount"),
    ("5 zorkmids", "not a unit"),
    ("5", "Add a unit"),
    ("-5 mL", "more than 0"),
    ("0 mL", "more than 0"),
    ("1,500 mL", "without the comma"),
    ("1/0 cup", "divides by zero"),
    ("1.2.3 mL", "two decimal marks"),
    ("99999999999999 mL", "outside"),
    ("0.00000000001 mL", "outside"),
    ("9" * 200 + " mL", "more digits"),
    ("nan mL", "not an amount"),
    ("1e400 mL", "not a unit"),
    ("²³ mL", "not an amount"),
    ("٣ mL", "not an amount"),
]


@pytest.mark.parametrize(("text", "says"), BAD_AMOUNTS)
def test_a_bad_amount_gets_a_sentence(text: str, says: str) -> None:
    with pytest.raises(CannotRead, match=says):
        read_quantity(text)


@pytest.mark.parametrize("text", ["2 parts", "50 %", "q.s."])
def test_only_a_volume_or_a_weight_can_be_made(text: str) -> None:
    with pytest.raises(CannotRead, match="not a volume or a weight"):
        read_volume_or_mass(text)


@given(st.floats(min_value=1e-6, max_value=1e8), st.sampled_from(["mL", "g", "cup", "part", "%"]))
def test_a_written_quantity_reads_back(value: float, unit: str) -> None:
    quantity = read_quantity(f"{value:.9f} {unit}") if value >= 1e-5 else read_quantity(f"1 {unit}")
    again = read_quantity(str(quantity))
    assert again.value == pytest.approx(quantity.value, rel=1e-8)
    assert again.unit == unit


@pytest.mark.parametrize(("text", "size"), NIST)
def test_a_measure_has_its_nist_size(text: str, size: float) -> None:
    quantity = read_quantity(text)
    value = quantity.mL if quantity.kind == "volume" else quantity.g
    assert value == pytest.approx(size, rel=2e-5)


def test_every_published_unit_agrees_with_pint() -> None:
    """Pint's own definitions, after NIST HB 44. Metric spoons, cups, drops and parts are not in Pint."""
    registry: pint.UnitRegistry = pint.UnitRegistry()
    for key, name in PINT_NAMES.items():
        unit = units()[key]
        base = "mL" if unit.kind == "volume" else "g"
        assert registry(name).to(base).magnitude == pytest.approx(unit.factor, rel=1e-9), key
