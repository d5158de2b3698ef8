"""Materials by their names, their usual basis, and where their values come from."""

import pytest

from firkin.core.catalogue import find, materials
from firkin.core.measures import (
    units,
)


@pytest.mark.parametrize(
    ("material", "basis"),
    [("ethanol", "v/v"), ("isopropanol", "v/v"), ("peroxide", "w/v"), ("bleach", "w/w"), ("sles", "w/w")],
)
def test_a_bare_percent_takes_the_usual_basis_of_the_material(material: str, basis: str) -> None:
    assert find(material).read_strength("5 %").basis == basis


NAMES = [
    ("isopropyl alcohol", "isopropanol"),
    ("Rubbing Alcohol", "isopropanol"),
    ("grain alcohol", "ethanol"),
    ("glycerin", "glycerol"),
    ("glycerine", "glycerol"),
    ("soda crystals", "washing-soda"),
    ("bleach", "sodium-hypochlorite"),
    ("sulfonic acid", "labsa"),
    ("Aloe Vera Gel", "aloe-gel"),
    ("hydrogen_peroxide", "hydrogen-peroxide"),
]


@pytest.mark.parametrize(("name", "key"), NAMES)
def test_usual_names_find_the_material(name: str, key: str) -> None:
    assert find(name).id == key


def test_every_value_of_the_data_files_has_a_source() -> None:
    assert all(material.source for material in materials().values())
    assert all(unit.factor > 0 for unit in units().values())
    assert all(m.instead in materials() for m in materials().values() if m.instead)


def test_plain_alcohol_is_not_taken_for_ethanol() -> None:
    """It may be either one, or drinking spirits: the cautious side counts it as inert and says so."""
    assert not find("alcohol").known
    assert not find("vodka").known
