"""Materials by their names, their usual basis, and where their values come from."""

from collections import Counter

import pytest

from firkin.core.catalogue import cautions, families, find, materials
from firkin.core.measures import names_of_units, units


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


def test_a_name_means_one_material_and_one_unit() -> None:
    materials_meant = [name for m in materials().values() for name in {m.id, m.name.lower(), *m.names}]
    units_meant = [name for names in names_of_units().values() for name in names]
    assert [name for name, times in Counter(materials_meant + units_meant).items() if times > 1] == []


def test_what_stands_with_a_material_is_known_elsewhere() -> None:
    """A role nobody else speaks of, or a caution that is not there, would be passed over in silence."""
    everyone = list(materials().values())
    roles = {role for m in everyone for role in m.roles}
    for m in everyone:
        assert set(m.cautions) <= set(cautions()), m.id
        assert {key for key, _ in m.hazards} <= roles | set(materials()), m.id
        assert m.only_with <= roles, m.id
        assert 0.5 < m.density < 3.5, f"{m.id}: no material of the trade is so light or so heavy"
        assert m.bulk is None or m.bulk <= m.density, f"{m.id}: loose, there is air between"
    for family in families().values():
        assert {sign for one in family.signs for sign in one["all"]} <= roles | set(materials()), family.id


def test_plain_alcohol_is_not_taken_for_ethanol() -> None:
    """It may be either one, or drinking spirits: the cautious side counts it as inert and says so."""
    assert not find("alcohol").known
    assert not find("vodka").known
