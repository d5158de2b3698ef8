"""What stands against a vessel: its size, what it is of, how the batch boils, foams or gasses."""

from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.audit import audit
from firkin.core.catalogue import families
from firkin.core.formula import Claims, house_formulas, reckon
from firkin.core.kitchen import against_vessel
from firkin.core.measures import Quantity

HOUSE = {key: reckon(one.formula) for key, one in house_formulas().items()}


@given(st.sampled_from(sorted(HOUSE)), st.floats(0.2, 3.0))
def test_what_overflows_is_stopped_and_a_vessel_with_room_and_of_plastic_is_not_spoken_against(key, share) -> None:
    result = HOUSE[key]
    whole = result.total.volume_mL
    if result.formula.family == "ferment":
        whole = max(whole, result.total.mass_g)
    headroom = families()[result.formula.family].headroom
    assume(min(abs(share - 1.0), abs(share - headroom)) > 0.01)  # as near as a brim is read
    found = against_vessel(result, "Vessel", share * whole, "plastic")
    assert any("larger one" in one.text for one in found) == (share < 1.0)
    assert bool(found) == (share < headroom)


@pytest.mark.parametrize(
    ("key", "made_of", "stops"),
    [
        ("citrus-ferment", "glass", True),
        ("citrus-ferment", "plastic", False),
        ("dish-classic", "aluminium", True),
        ("dish-classic", "steel", False),
        ("powder-soft", "aluminium", True),
        ("powder-soft", "glass", False),
        ("chlorine-surfaces", "steel", True),
        ("laundry-concentrate", "aluminium", True),
        ("who-one", "glass", False),
    ],
)
def test_what_eats_or_bursts_its_vessel_is_stopped(key: str, made_of: str, stops: bool) -> None:
    """Caustic and soda on aluminium, bleach on metal, a ferment in glass: common knowledge of the trade."""
    found = against_vessel(HOUSE[key], "Vessel", 100_000.0, made_of)
    assert any(one.stops for one in found) is stops


def test_a_vessel_of_which_it_is_not_said_what_it_is_of_is_not_passed_over_in_silence() -> None:
    (found,) = against_vessel(HOUSE["citrus-ferment"], "Jar", 100_000.0)
    assert (found.stops, "must not be glass" in found.text) == (False, True)
    assert against_vessel(HOUSE["who-one"], "Jug", 100_000.0) == ()


@given(st.floats(0.9, 1.3))
def test_bench_and_audit_ask_for_the_same_gas_space(share: float) -> None:
    result = HOUSE["citrus-ferment"]
    holds = share * result.total.mass_g
    claims = Claims(vessel=Quantity(holds, "mL"))
    audited = {one.rule for one in audit(reckon(replace(result.formula, claims=claims)))}
    stopped = any(one.stops for one in against_vessel(result, "Canister", holds, "plastic"))
    assert stopped == ("ferment-gas-space" in audited) or abs(share - 15 / 14) < 0.01
