"""Units of hardness, there and back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity
from firkin.core.questions.hardness import MG_PER_L, called, convert_hardness, hardness_dose, read_hardness


@given(st.floats(min_value=0, max_value=1e4), st.sampled_from(sorted(MG_PER_L)), st.sampled_from(sorted(MG_PER_L)))
def test_hardness_there_and_back_is_the_same(value: float, unit: str, to: str) -> None:
    there, _ = convert_hardness(value, unit, to)
    assert convert_hardness(there, to, unit)[0] == pytest.approx(value)


def test_soda_takes_a_mole_of_calcium_a_mole() -> None:
    """20 L at 20 dH: 71.3 mmol as calcium carbonate (unit definition), so 7.56 g of soda (105.99 g/mol)."""
    dose = hardness_dose(read_hardness("20 dH"), Quantity(20.0, "L"))
    assert dose.soda_g == pytest.approx(7.56, abs=0.01)
    assert dose.salt_g == pytest.approx(2 * 58.44 / 105.99 * dose.soda_g, rel=1e-3)
    assert hardness_dose(read_hardness("20 dH"), Quantity(5.0, "kg")).soda_g == pytest.approx(dose.soda_g)


@pytest.mark.parametrize("text", ["hard", "15", "15 furlongs", "-3 dH"])
def test_a_hardness_without_a_unit_is_refused(text: str) -> None:
    with pytest.raises(CannotReckon):
        read_hardness(text)


@pytest.mark.parametrize(
    ("mg_per_L", "is_called"),
    [
        *((0.0, "soft"), (60.0, "soft"), (60.1, "moderately hard"), (120.0, "moderately hard"), (120.1, "hard")),
        *((180.0, "hard"), (180.1, "very hard"), (500.0, "very hard"), (5000.0, "very hard")),
    ],
)
def test_water_is_called_by_the_usual_bounds(mg_per_L: float, is_called: str) -> None:
    """USGS Water Science School: 60, 120 and 180 mg/L as calcium carbonate, from memory."""
    assert called(mg_per_L) == is_called
