"""Soap in a litre: any two give the third, and it is said what the thickness rests on."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.questions.soap import MOST_G_PER_L, SOAP_PER_LITRE, THICKNESS, soap_per_litre


@given(st.floats(1, 5000), st.floats(10, 50_000))
def test_any_two_give_the_third(bar_g: float, volume_mL: float) -> None:
    if 1000.0 * bar_g / volume_mL > MOST_G_PER_L:
        with pytest.raises(CannotReckon, match="no liquid soap"):
            soap_per_litre(bar_g, volume_mL, None)
        return
    made = soap_per_litre(bar_g, volume_mL, None)
    assert soap_per_litre(bar_g, None, made.g_per_L).volume_mL == pytest.approx(volume_mL)
    assert soap_per_litre(None, volume_mL, made.g_per_L).bar_g == pytest.approx(bar_g)
    assert made.thickness in {zone.name for zone in THICKNESS}


def test_more_soap_is_never_called_thinner() -> None:
    order = [zone.name for zone in THICKNESS]
    said = [order.index(soap_per_litre(None, 1000.0, float(grams)).thickness) for grams in range(1, 400)]
    assert said == sorted(said)


@pytest.mark.parametrize("given_", [(1.0, None, None), (1.0, 2.0, 3.0), (0.0, 1.0, None), (None, None, None)])
def test_one_three_or_none_of_them_is_refused(given_) -> None:
    with pytest.raises(CannotReckon):
        soap_per_litre(*given_)


def test_bars_are_read_off_the_wrapper_and_a_small_pot_is_said() -> None:
    ask = {"bar_g": "3 bars of 100 g", "volume": "4 L"}
    answer = SOAP_PER_LITRE.solve(SOAP_PER_LITRE.read(ask))
    assert answer.values["g_per_L"] == pytest.approx(75.0)
    small, large = (SOAP_PER_LITRE.solve(SOAP_PER_LITRE.read(ask | {"vessel": f"{litres} L"})) for litres in (7, 8))
    assert "too small for 4 L" in small.warns[0]
    assert large.warns == answer.warns
    assert answer.formula is not None
    assert reckon(answer.formula).total.volume_mL == pytest.approx(4000.0)
