"""Shares of a batch at their limits: just within reason, and just not."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core import datafiles
from firkin.core.catalogue import (
    families,
    find,
    materials,
    out_of_usual,
    usual_share,
)
from firkin.core.catalogue.usual_shares import LITTLE, MUCH

TABLE = datafiles.toml("catalogue/usual_shares.toml")


def test_every_family_and_only_families_have_a_table() -> None:
    assert set(TABLE) == {"usual", *families()}


@pytest.mark.parametrize("family", sorted(families()))
def test_a_hair_on_either_side_of_each_limit(family: str) -> None:
    """Of every known material in every family: the factors are those that are told, and no others."""
    for material in materials().values():
        low, high = usual_share(material, family)
        assert 0.0 <= low < high <= 1.0
        most, least = min(high * MUCH, 1.0), low / LITTLE
        assert out_of_usual(material, family, most, 1.0) == 0
        assert (out_of_usual(material, family, most * 1.0001) == 1) == (most < 1.0 or material.known)
        assert out_of_usual(material, family, least) == 0
        if least > 0.0:
            assert out_of_usual(material, family, least * 0.9999) == -1


def test_one_of_weight_and_volume_within_reason_is_enough() -> None:
    preservative = materials()["phenoxyethanol"]
    assert out_of_usual(preservative, "dish-liquid", 0.08, 0.02) == 0
    assert out_of_usual(preservative, "dish-liquid", 0.08, 0.03) == 1
    assert out_of_usual(preservative, "dish-liquid", 0.0001, 0.001) == 0


@given(st.sampled_from(sorted(materials())), st.floats(0.0, 1.0))
def test_a_share_within_reason_is_in_both_ways_of_counting_or_in_one(key: str, share: float) -> None:
    material = find(key)
    low, high = usual_share(material)
    assert out_of_usual(material, "", (low + high) / 2.0, share) == 0
    assert out_of_usual(find("pond water"), "", share) == 0
