"""Loads and what one costs: all of the batch is used, and all of its cost is paid."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity, read_quantity
from firkin.core.questions.loads import loads

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
