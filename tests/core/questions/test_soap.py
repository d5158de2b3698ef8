"""Soap in a litre: any two give the third, and it is said what the thickness rests on."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.questions.soap import THICKNESS, soap_per_litre


@given(st.floats(1, 5000), st.floats(10, 50_000))
def test_any_two_give_the_third(bar_g: float, volume_mL: float) -> None:
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
