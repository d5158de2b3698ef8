"""Loads and what one costs: all of the batch is used, and all of its cost is paid."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity, read_quantity
from firkin.core.questions.loads import LOADS, loads

SIZES = st.floats(min_value=1, max_value=1e5)


@given(SIZES, SIZES, st.floats(min_value=0.01, max_value=1e4), st.floats(min_value=0, max_value=20))
def test_all_of_it_is_used_and_paid(batch: float, dose: float, cost: float, water: float) -> None:
    for unit in ("mL", "g"):
        washed = loads(Quantity(batch, unit), Quantity(dose, unit), cost, water)
        assert washed.loads * dose == pytest.approx(batch * (1 + water))
        assert washed.loads * washed.cost_per_load == pytest.approx(cost)


def test_a_cost_that_is_not_known_stays_unknown_and_a_weight_has_no_dose_in_spoons() -> None:
    assert loads(read_quantity("6 L"), read_quantity("120 mL")).cost_per_load is None
    with pytest.raises(CannotReckon, match="both as volumes, or both as weights"):
        loads(read_quantity("2 kg"), read_quantity("1 tbsp"))


def test_ten_gallons_at_108_mL_are_350_loads_and_a_bought_one_is_held_beside_it() -> None:
    """10 US gallons are 37.85 L (NIST HB 44): 37 854 / 108 = 350.5."""
    ask = {"batch": "5 gal", "dose": "108 mL", "dilute_parts_water": 1, "cost": 7.0}
    answer = LOADS.solve(LOADS.read(ask | {"bought_price": 9.0, "bought_loads": 40}))
    assert answer.values["loads"] == pytest.approx(350.5, abs=0.1)
    assert answer.values["bought_per_load"] == pytest.approx(0.225)
    assert dict(answer.rows)["Saved on the batch"].startswith("71.8")  # (0.225 - 7 / 350.5) x 350.5
    assert any("not compared" in said for said in LOADS.solve(LOADS.read(ask | {"bought_price": 9.0})).warns)
