"""Bottles that age. What is left after six months, and how long it is trusted: common practice, no source."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import aged, find, materials, too_old
from firkin.core.catalogue.materials import Material
from firkin.core.measures import Strength

KEEPS_BADLY = [one for one in materials().values() if one.kept_in_six_months < 1.0]


@given(st.sampled_from(KEEPS_BADLY), st.floats(0.0, 60.0), st.floats(1.0, 30.0))
def test_a_bottle_only_loses_and_the_later_the_more(material: Material, months: float, pct: float) -> None:
    label = Strength.of(pct, material.basis)
    now, later = aged(material, label, months), aged(material, label, months + 6.0)
    assert now is not None
    assert later is not None
    assert now.high == later.high == pct
    assert later.low <= now.low <= now.value <= pct
    assert now.value == pytest.approx((now.low + now.high) / 2.0)
    if now.low < pct:
        assert later.low == pytest.approx(now.low * material.kept_in_six_months)


def test_what_keeps_or_has_no_age_or_no_strength_is_as_its_label_says() -> None:
    label = Strength.of(5.0, "w/w")
    assert aged(find("bleach"), label, None) is label
    assert aged(find("bleach"), None, 24.0) is None
    assert aged(find("citric acid"), label, 600.0) is label
    assert not too_old(find("bleach"), None)


@pytest.mark.parametrize(
    "material", [one for one in materials().values() if one.trusted_months], ids=lambda one: one.id
)
def test_a_bottle_is_trusted_up_to_its_last_month(material: Material) -> None:
    assert material.trusted_months is not None
    assert not too_old(material, material.trusted_months)
    assert too_old(material, material.trusted_months + 0.01)
