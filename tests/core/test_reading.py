"""Reading what people write."""

import contextlib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find, materials
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.numerals import figures, read_number
from firkin.core.quantities import read_quantity, read_temperature, read_volume_or_mass, units
from firkin.core.strengths import read_strength
from firkin.core.waits import hours_words, read_hours

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


STRENGTHS = [
    ("96 % v/v", 96, 96, 96, "v/v"),
    ("92.4 % w/w", 92.4, 92.4, 92.4, "w/w"),
    ("3 % w/v", 3, 3, 3, "w/v"),
    ("3%W/V", 3, 3, 3, "w/v"),
    ("190 proof", 95, 95, 95, "v/v"),
    ("100 proof_uk", 57.1, 57.1, 57.1, "v/v"),
    ("1000 ppm", 0.1, 0.1, 0.1, "v/v"),
    ("5 % available chlorine", 5, 5, 5, "v/v"),
    ("5 % w/v chlorine", 5, 5, 5, "w/v"),
    ("90-91 % v/v", 90.5, 90, 91, "v/v"),
    ("90–91 %", 90.5, 90, 91, "v/v"),
    ("90 % to 91 %", 90.5, 90, 91, "v/v"),
    ("70", None, None, None, "differ by half"),
    ("110 %", None, None, None, "110 proof"),
    ("210 proof", None, None, None, "above 100"),
    ("-5 %", None, None, None, "below 0"),
    ("91-90 %", None, None, None, "lower end"),
    ("90- %", None, None, None, "not a strength"),
    ("strong", None, None, None, "not a strength"),
    ("70 % x/y", None, None, None, "not a strength unit"),
    ("", None, None, None, "missing"),
]


@pytest.mark.parametrize(("text", "value", "low", "high", "basis"), STRENGTHS)
def test_a_strength_is_read_or_refused_with_a_sentence(text, value, low, high, basis) -> None:
    if value is None:
        with pytest.raises(CannotRead, match=basis):
            read_strength(text)
        return
    strength = read_strength(text)
    assert (strength.value, strength.low, strength.high) == pytest.approx((value, low, high))
    assert strength.basis == basis


@pytest.mark.parametrize(
    ("material", "basis"),
    [("ethanol", "v/v"), ("isopropanol", "v/v"), ("peroxide", "w/v"), ("bleach", "w/w"), ("sles", "w/w")],
)
def test_a_bare_percent_takes_the_usual_basis_of_the_material(material: str, basis: str) -> None:
    assert find(material).read_strength("5 %").basis == basis


NAMES = [
    ("isopropyl alcohol", "isopropanol"),
    ("Rubbing Alcohol", "isopropanol"),
    ("grain alcohol", "ethanol"),
    ("glycerin", "glycerol"),
    ("glycerine", "glycerol"),
    ("soda crystals", "washing-soda"),
    ("bleach", "sodium-hypochlorite"),
    ("sulfonic acid", "labsa"),
    ("Aloe Vera Gel", "aloe-gel"),
    ("hydrogen_peroxide", "hydrogen-peroxide"),
]


@pytest.mark.parametrize(("name", "key"), NAMES)
def test_usual_names_find_the_material(name: str, key: str) -> None:
    assert find(name).id == key


def test_every_value_of_the_data_files_has_a_source() -> None:
    assert all(material.source for material in materials().values())
    assert all(unit.factor > 0 for unit in units().values())
    assert all(m.instead in materials() for m in materials().values() if m.instead)


def test_plain_alcohol_is_not_taken_for_ethanol() -> None:
    """It may be either one, or drinking spirits: the cautious side counts it as inert and says so."""
    assert not find("alcohol").known
    assert not find("vodka").known


@given(st.text(max_size=60))
def test_no_text_breaks_the_readers(text: str) -> None:
    for reader in (read_number, read_quantity, read_strength, read_temperature, read_hours, find):
        with contextlib.suppress(CannotReckon):
            reader(text)


@given(st.floats(min_value=1e-6, max_value=1e8), st.sampled_from(["mL", "g", "cup", "part", "%"]))
def test_a_written_quantity_reads_back(value: float, unit: str) -> None:
    quantity = read_quantity(f"{value:.9f} {unit}") if value >= 1e-5 else read_quantity(f"1 {unit}")
    again = read_quantity(str(quantity))
    assert again.value == pytest.approx(quantity.value, rel=1e-8)
    assert again.unit == unit


@given(st.floats(min_value=1e-4, max_value=1e9))
def test_at_most_four_significant_figures(value: float) -> None:
    assert float(figures(value)) == pytest.approx(value, rel=6e-4)


@pytest.mark.parametrize(
    ("text", "hours"), [("72 h", 72), ("3 days", 72), ("12 weeks", 2016), ("30 min", 0.5), ("1,5 hours", 1.5)]
)
def test_a_wait_is_read_and_written(text: str, hours: float) -> None:
    assert read_hours(text) == pytest.approx(hours)
    assert read_hours(hours_words(hours)) == pytest.approx(hours, rel=1e-3)
