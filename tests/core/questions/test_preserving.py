"""Preservatives by the weighed batch; windows from memory of Regulation (EC) 1223/2009 and supplier data."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find, materials
from firkin.core.errors import CannotReckon
from firkin.core.questions.preserving import preserve, stands_against

KEEPERS = [one for one in materials().values() if one.preserves_pct]


@given(st.sampled_from(KEEPERS), st.floats(1, 1e6))
def test_what_goes_in_is_its_share_of_the_whole_and_within_its_window(material, batch_g: float) -> None:
    kept = preserve(material, batch_g)
    low, high = material.preserves_pct
    assert low <= 100 * kept.mass_g / (kept.mass_g + batch_g) <= high
    assert kept.least_g <= kept.mass_g <= kept.most_g
    whole = kept.mass_g + batch_g  # per cent of total weight, itself in it
    assert 100 * kept.mass_g / whole == pytest.approx(material.usually_preserves_pct)
    assert (100 * kept.least_g / (kept.least_g + batch_g), 100 * kept.most_g / (kept.most_g + batch_g)) == (
        pytest.approx(low),
        pytest.approx(high),
    )


@pytest.mark.parametrize(
    ("name", "ph", "celsius", "against", "unsure"),
    [
        ("phenoxyethanol", 9.0, 25.0, 0, 0),
        ("phenoxyethanol", None, 25.0, 0, 0),  # works over the whole range of soap
        ("phenoxyethanol", 9.0, 60.0, 1, 0),
        ("phenoxyethanol", 9.0, 40.0, 0, 0),
        ("phenoxyethanol", 9.0, 41.0, 1, 0),
        ("phenoxyethanol", 11.0, 25.0, 1, 0),
        ("potassium-sorbate", 9.0, 25.0, 1, 0),
        ("potassium-sorbate", 5.0, 25.0, 0, 0),
        ("sodium-benzoate", None, None, 0, 2),
        ("sodium-benzoate", 5.5, 25.0, 1, 0),
    ],
)
def test_what_was_read_stands_for_or_against_it_and_what_was_not_is_said(name, ph, celsius, against, unsure) -> None:
    said = stands_against(find(name), ph, celsius)
    assert (len(said[0]), len(said[1])) == (against, unsure)


@pytest.mark.parametrize("pct", [0.01, 5.0])
def test_a_share_outside_its_window_is_refused(pct: float) -> None:
    with pytest.raises(CannotReckon, match="by weight"):
        preserve(find("phenoxyethanol"), 1000.0, pct)


def test_salt_is_no_preservative_here() -> None:
    with pytest.raises(CannotReckon):
        preserve(find("salt"), 1000.0)
