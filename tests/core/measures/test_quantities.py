"""Amounts as people write them, and measures against NIST and a general-purpose units library."""

from collections.abc import Callable
from pathlib import Path

import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

from checks.published import NIST, PINT_NAMES
from firkin.core.errors import CannotRead
from firkin.core.measures import (
    amount_words,
    figures,
    hours_words,
    plain_figures,
    read_error,
    read_heat,
    read_hours,
    read_number,
    read_quantity,
    read_strength,
    read_temperature,
    read_unit,
    read_volume_or_mass,
    units,
    weight_words,
)
from kept import same_as_kept, told

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


#: What every reader is asked: sound ones, what lies on either side of a bound, and what is refused.
ASKED: dict[Callable[[str], object], str] = {
    read_number: "2.5|2,5|2 1/2|½|1/2|3/4|1 ¾|11/2|1.500|1,500|1 500|1.234.567|1,234,567|1.2.3|1,2,3|1.234,5|1,234.5|.5|"
    "5.|0|-1|-0.5|1e3|1/0|two|nonsense|1e15|1e16|1e-12|1e-13|"
    + "9" * 50
    + "|half|1 1/2 3|²|  7  |0,5|0.50|12.500|1.5.0|1,500.0",
    read_quantity: "1 L|1.5 l|500ml|2 cups|½ cup|1 tsp|3 tbsp|2 fl oz|1 gal|1 pint|1 quart|12 g|1 kg|1 lb|8 oz|5 drops|2 parts|"
    "1 part|70 %|q.s.|qs|q.s|1 capful|2 scoops|3 bars|1 millilitr|1 furlong|5|0 mL|-1 mL|mL|1 mL mL|2 x 500 mL|"
    "2 x 1 L + 500 mL|two 500 mL bottles|3 bottles of 250 mL|1 L and 200 mL|1 L - 200 mL|2.500 L|1 shot|a pinch|a dash|"
    "1 " + "x" * 60,
    read_strength: "70 %|70|96 % v/v|96% w/w|3 % w/v|90-91 %|91-90 %|90 to 91 % v/v|190 proof|200 proof|201 proof|100 %|"
    "100.1 %|101 %|150 %|200 %|201 %|-1 %|0 %|5 ppm|1000 ppm|70 % x|proof|nonsense|99.5% v/v|12,5 %|0.5 % w/v|"
    + "7" * 50
    + " %",
    read_temperature: "20 °C|20|-20|-20.5|-21|40|40.5|41|68 °F|104 F|105 F|20 K|warm|-4 F|-5 F",
    read_heat: "20 °C|-20|-20.5|120|120.5|121|212 °F|248 F|249 F|hot",
    read_hours: "72 h|3 days|1 week|2 months|1 year|90 min|1.5 h|24|overnight|0 h|-1 h|5 years|6 years|1830 days|1831 days|soon",
    read_error: "5 %|5|0.5 %|0|0 %|100 %|49 %|50 %|51 %|cup|scale|syringe|spoon|by eye|-1 %|",
    read_unit: "mL|ml|ML|cups|tbsp|Tbsp|T|t|oz|fl oz|floz|fluid ounce|milliliters|litter|gramm|xyz|" + "q" * 40,
}
#: Amounts about the bounds of what is shown in which unit and with how many figures.
SHOWN = (0.0, -0.0, 0.00001, 0.0123456, 0.5, 1.0, 9.9949, 9.9951, 14.5, 99.994, 99.996, 999.94, 999.95, 999.96, 1000.0, 1000.95,
         1234.5, 12345.6, 123456.0, 1e7, -3.25)  # fmt: skip


def test_what_every_reader_makes_of_what_is_written_is_as_kept() -> None:
    sections = {}
    for reader, asked in ASKED.items():
        lines = []
        for text in asked.split("|"):
            try:
                said = told(reader(text))
            except CannotRead as refused:
                said = f"refused: {refused}"
            lines.append(f"{text!r}: {' / '.join(said.splitlines())}")
        sections[reader.__name__] = "\n".join(lines)
    for words in (amount_words, weight_words, figures, plain_figures, hours_words):
        sections[words.__name__] = "\n".join(
            f"{value}: {words(value)}" for value in SHOWN if value >= 0 or words is figures
        )
    same_as_kept(Path(__file__).parent / "read.txt", sections)


@pytest.mark.parametrize(("reader", "low", "high"), [(read_temperature, -20.0, 40.0), (read_heat, -20.0, 120.0)])
def test_a_temperature_is_taken_at_both_ends_and_not_beyond(reader, low: float, high: float) -> None:
    assert [reader(f"{end:g} °C") for end in (low, high)] == [low, high]
    assert [reader(f"{end * 1.8 + 32:g} F") for end in (low, high)] == pytest.approx([low, high])
    for beyond in (low - 0.1, high + 0.1):
        with pytest.raises(CannotRead, match="outside"):
            reader(f"{beyond:.1f} °C")
