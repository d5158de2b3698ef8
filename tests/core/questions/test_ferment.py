"""A ferment is 1 : 3 : 10 in a container of 15, whatever its size (common practice, no source)."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.audit import audit
from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.questions.ferment import FERMENT, ferment


@given(st.floats(min_value=1, max_value=1e6))
def test_the_parts_keep_their_ratio_and_fill_the_container(container: float) -> None:
    made = ferment(container)
    parts = [made.sugar_g, made.peel_g, made.water_mL, made.gas_space_mL]
    assert [part / made.sugar_g for part in parts] == pytest.approx([1, 3, 10, 1])
    assert sum(parts) == pytest.approx(container)


def test_nothing_ferments_in_nothing() -> None:
    with pytest.raises(CannotReckon):
        ferment(0.0)


@given(st.floats(100, 1e5), st.floats(0.001, 0.2), st.floats(0.01, 3.0))
def test_a_starter_stands_in_for_water_and_less_peel_leaves_more_free(
    container: float, share: float, there: float
) -> None:
    peel = there * 3 * container / 15
    starter = share * min(1.0, there) * 10 * container / 15
    made = ferment(container, starter, peel)
    assert made.mass_g + made.gas_space_mL == pytest.approx(container)
    assert made.gas_space_mL >= container / 15 * (1 - 1e-9)
    assert (made.water_mL + made.starter_mL) / made.sugar_g == pytest.approx(10)
    assert made.peel_g / made.sugar_g == pytest.approx(3)
    assert made.peel_g + made.peel_left_g == pytest.approx(peel) or there > 1
    answer = FERMENT.solve(FERMENT.read({"container": f"{container} mL", "peel": peel, "starter": f"{starter} mL"}))
    assert answer.formula is not None
    rules = {found.rule for found in audit(reckon(answer.formula))}
    assert not rules & {"ferment-ratio", "ferment-gas-space", "ferment-glass"}


def test_glass_and_a_starter_that_is_no_splash_are_refused_and_an_unsaid_container_is_said() -> None:
    with pytest.raises(CannotReckon, match="glass bursts"):
        FERMENT.solve(FERMENT.read({"container": "2.5 L", "container_is": "glass"}))
    with pytest.raises(CannotReckon, match="A splash"):
        ferment(2500.0, 500.0)
    assert any("Glass bursts" in said for said in FERMENT.solve(FERMENT.read({"container": "2.5 L"})).warns)


def test_other_peel_counts_in_the_three_parts_and_mostly_citrus_is_asked_for() -> None:
    some, much = (
        FERMENT.solve(FERMENT.read({"container": "2 x 1 L + 500 mL", "container_is": "plastic", "others": grams}))
        for grams in ("100", "300 g")
    )
    assert some.values == much.values
    assert not some.warns
    assert any("Less than half" in said for said in much.warns)
    assert dict(some.rows)["Citrus peel"] == "400 g"
