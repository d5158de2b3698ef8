"""Materials by their names, their usual basis, and where their values come from."""

from collections import Counter
from dataclasses import fields, replace

import pytest

from firkin.core import datafiles
from firkin.core.catalogue import (
    cautions,
    families,
    find,
    kinds_of,
    materials,
    meeting,
    names_of_materials,
)
from firkin.core.catalogue.materials import Material
from firkin.core.densities import ethanol
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.measures import Strength, names_of_units, units


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
        assert 0.5 < m.density < 3.5, f"{m.id}: no material of the trade is so light or so heavy"
        assert m.bulk is None or m.bulk <= m.density, f"{m.id}: loose, there is air between"
    for family in families().values():
        assert {sign for one in family.signs for sign in one["all"]} <= roles | set(materials()), family.id


def test_plain_alcohol_is_not_taken_for_ethanol() -> None:
    """It may be either one, or drinking spirits: the cautious side counts it as inert and says so."""
    assert not find("alcohol").known
    assert not find("vodka").known


@pytest.mark.parametrize(
    ("name", "strength", "pct_ww", "density"),
    [
        # CRC Handbook of Chemistry and Physics, concentrative properties of aqueous solutions, from memory
        ("lye", "10 % w/w", 10.0, 1.109),
        ("lye", "30 % w/v", 23.8, 1.261),
        ("lye", "99 % w/w", 99.0, 2.13),
        ("citric acid", "10 % w/v", 9.65, 1.038),
        ("glycerine", "86 % w/w", 86.0, 1.2245),
        ("glycerine", "50 % v/v", 55.3, 1.141),
        ("urea", "40 % w/w", 40.0, 1.111),
        ("vinegar", "5 % w/v", 4.97, 1.0055),
        ("salt", "20 % w/w", 20.0, 1.1478),
    ],
)
def test_a_strength_of_what_is_dissolved_goes_by_the_density_of_its_solution(name, strength, pct_ww, density) -> None:
    material = find(name)
    share = material.mass_fraction(material.read_strength(strength))
    assert 100.0 * share == pytest.approx(pct_ww, abs=0.1)
    assert material.density_at(share) == pytest.approx(density, abs=0.002)


def test_more_than_water_holds_is_no_solution() -> None:
    with pytest.raises(CannotReckon, match="more than water holds"):
        find("salt").mass_fraction(Strength.of(50.0, "w/v"))


def test_soda_crystals_are_the_decahydrate_and_powder_is_not() -> None:
    """286.14 and 105.99 g/mol: sums of atomic weights. Both are washing soda to the formats."""
    crystals, powder = find("soda crystals"), find("washing soda")
    assert crystals.id == powder.id == "washing-soda"
    assert (crystals.molar_mass, powder.molar_mass) == (286.14, 105.99)
    assert crystals.holds == pytest.approx(105.99 / 286.14, abs=1e-4)
    assert find(crystals.written) is crystals


@pytest.mark.parametrize(
    "key", [key for key, one in materials().items() if one.kind == "liquid" and one.strength and not one.alcohol]
)
def test_a_liquid_is_as_dense_as_it_is_sold_and_as_water_when_nothing_is_left_in_it(key: str) -> None:
    """Between the two its volume and that of water add, unless a table of its solution says otherwise."""
    material = find(key)
    assert material.density_at(None) == material.density
    water = ethanol.density(0.0)
    assert material.density_at(0.0) == pytest.approx(water, abs=0.002)
    if material.solution is None:
        sold = material.strength / 100.0
        assert material.density_at(sold) == pytest.approx(material.density)
        half = 2.0 / (1.0 / water + 1.0 / material.density)
        assert material.density_at(sold / 2.0) == pytest.approx(half)


@pytest.mark.parametrize("celsius", [5.0, 35.0])
def test_water_and_alcohols_follow_their_tables_at_every_warmth(celsius: float) -> None:
    assert find("water").density_at(None, celsius) == ethanol.density(0.0, celsius)
    assert find("ethanol").density_at(0.8, celsius) == ethanol.density(0.8, celsius)
    assert find("ethanol").density_at(0.8) == ethanol.density(0.8)


def as_written(value: object) -> object:
    """A value of a data file as a material holds it: tables as pairs, lists as tuples or as sets."""
    if isinstance(value, dict):
        return [list(one) for one in value.items()]
    if isinstance(value, tuple | list):
        return [as_written(one) for one in value]
    return sorted(value) if isinstance(value, frozenset) else value


def test_a_material_is_what_its_file_says_and_nothing_else() -> None:
    """Read anew, past what is kept of the first reading."""
    rows, read = datafiles.toml("catalogue/materials.toml"), materials.__wrapped__()
    assert list(rows) == list(read)
    for key, row in rows.items():
        sets = ("roles",)
        said = {name: as_written(frozenset(value) if name in sets else value) for name, value in row.items()}
        said.pop("forms", None)
        held = {one.name: getattr(read[key], one.name) for one in fields(read[key])}
        usual = {one.name: one.default for one in fields(read[key])}
        assert {name: as_written(held[name]) for name in said} == said
        assert {name: held[name] for name in held.keys() - row.keys() - {"id"}} == {
            name: usual[name] for name in held.keys() - row.keys() - {"id"}
        }
        assert held["id"] == key
        assert [(one.form, one.id) for one in read[key].forms] == [(form, key) for form in row.get("forms", {})]
        for one in read[key].forms:
            own = row["forms"][one.form]
            same = {name: getattr(one, name) for name in held.keys() - own.keys() - {"form", "forms", "names"}}
            assert same == {name: held[name] for name in same}
            assert {name: as_written(getattr(one, name)) for name in own} == {
                name: as_written(value) for name, value in own.items()
            }
            assert one.names == tuple(own.get("names", ()))


def test_crystals_in_water_are_so_much_of_the_powder_and_the_rest_is_water() -> None:
    """A share of crystals is a smaller share of what is dissolved: density and water follow that."""
    powder = find("washing soda")
    for sold in powder.forms:
        assert sold.density_at(0.2) == pytest.approx(powder.density_at(0.2 * sold.holds))
        assert sold.water_fraction(0.2) == pytest.approx(1.0 - 0.2 * sold.holds)
        assert sold.water_fraction(0.99) == 0.0
        grams = 0.2 * powder.density_at(0.2 * sold.holds)
        assert sold.mass_fraction(Strength.of(100.0 * grams, "w/v")) == pytest.approx(0.2, abs=1e-6)


@pytest.mark.parametrize(
    ("name", "strength", "share"),
    [
        ("glycerol", "126 % w/v", 0.9992),  # pure glycerol 1.261 g/mL: CRC Handbook, from memory
        ("glycerol", "126.1 % w/v", 1.0),
        ("glycerol", "128 % w/v", None),
        ("hydrogen peroxide", "200 % w/v", None),
        ("sles", "70 % w/w", 0.7),
    ],
)
def test_more_than_pure_is_refused_and_pure_is_not(name: str, strength: str, share: float | None) -> None:
    material = find(name)
    if share is None:
        with pytest.raises(CannotReckon, match="more than pure"):
            material.mass_fraction(Strength.of(float(strength.split(maxsplit=1)[0]), strength.rsplit(maxsplit=1)[-1]))
    else:
        assert material.mass_fraction(
            Strength.of(float(strength.split(maxsplit=1)[0]), strength.rsplit(maxsplit=1)[-1])
        ) == pytest.approx(share, abs=3e-4)


@pytest.mark.parametrize("text", ["20 vol", "20 VOL", "20 volumes", "20-vol.", "20 Volume"])
def test_peroxide_may_be_labelled_in_volumes_of_oxygen_and_nothing_else(text: str) -> None:
    """From memory: 10 volumes are 3 % w/v."""
    assert find("peroxide").read_strength(text) == Strength.of(6.0, "w/v")
    with pytest.raises(CannotRead):
        find("glycerol").read_strength(text)


def test_a_workshops_own_material_goes_before_the_catalogue_and_an_unknown_name_is_kept() -> None:
    own = replace(find("pond water"), id="Lye water", name="lye water")
    assert find("LYE water", [own]) is own
    assert find("glycerol", [own]).id == "glycerol"
    unknown = find(f"  {'x' * 100} ")
    assert (unknown.id, unknown.name, unknown.known) == ("x" * 80, "x" * 80, False)
    with pytest.raises(CannotRead, match="Say what this is"):
        find("  ")


@pytest.mark.parametrize(
    ("one", "other", "harm"),
    [
        ("bleach", "water", None),
        ("bleach", "mystery powder", ""),
        ("bleach", "toilet cleaner", "chlorine gas, which burns eyes and lungs"),
        ("bleach", "glycerol", ""),
        ("glycerol", "water", None),
        ("glycerol", "mystery powder", None),
        ("bleach", "bleach", None),
    ],
)
def test_what_a_material_must_not_meet(one: str, other: str, harm: str | None) -> None:
    """CDC, Cleaning and Disinfecting with Bleach: with nothing but water. What is not known of it is said as that."""
    met = meeting(find(one), find(other))
    assert (met.harm if met else None) == harm


def test_a_cup_of_powder_goes_by_its_heap_and_a_solution_of_it_does_not() -> None:
    soda = find("washing soda")
    assert soda.bulk_at(None) == soda.bulk
    assert soda.bulk_at(Strength.of(10.0, "w/w")) is None
    assert find("glycerol").bulk_at(None) is None


def test_the_table_of_what_must_not_meet_knows_its_kinds_materials_and_sources() -> None:
    table = datafiles.toml("catalogue/hazards.toml")
    everyone = [form for one in materials().values() for form in (one, *one.forms)]
    written, roles = {one.written for one in everyone}, {role for one in everyone for role in one.roles}
    for name, kind in table["kinds"].items():
        assert set(kind.get("materials", ())) <= written, name
        assert set(kind.get("roles", ())) <= roles | {"unfit"}, name
        assert any(name in kinds_of(one) for one in everyone), name
    for row in table["never"]:
        assert {row["one"], row["with"]} <= set(table["kinds"]) and row["rule"] in table["advice"] and row["source"]
    assert set(table["names"]) <= written


def test_a_strength_it_is_sold_in_is_one_of_its_own() -> None:
    """What is counted where nobody says a strength lies in the strengths it is sold in."""
    for one in (form for material in materials().values() for form in (material, *material.forms)):
        assert one.strength is None or not one.sold or one.sold_as(one.strength), one.written
        assert all(low < high for low, high in one.sold), one.written


@pytest.mark.parametrize("material", list(materials().values()), ids=lambda one: one.id)
def test_every_name_finds_its_material_whatever_its_case_and_number(material: Material) -> None:
    for name in (material.id, *material.names):
        for form in (name, name.upper(), f"  {name} ", f"{name}s"):
            assert find(form).id == material.id, form


def test_there_are_names_and_all_of_them_are_words() -> None:
    assert len(names_of_materials()) > 500
    assert all(isinstance(name, str) and name for name in names_of_materials())


@pytest.mark.parametrize(
    ("material", "said", "is_"),
    [
        ("bleach", "6 % SODIUM HYPOCHLORITE", "5.715 % w/w"),
        ("bleach", "Sodium Hypochlorite 6 %", "5.715 % w/w"),
        ("bleach", "5 % available chlorine", "5 % w/w"),
        ("peroxide", "10 Volumes", "3 % w/v"),
        ("peroxide", "20 vol.", "6 % w/v"),
        ("peroxide", "3 %", "3 % w/v"),
    ],
)
def test_a_label_may_say_what_its_per_cent_is_of(material: str, said: str, is_: str) -> None:
    assert str(find(material).read_strength(said)) == is_


def test_a_solution_holds_what_water_holds_and_what_is_nearly_all_there_is_dry() -> None:
    soda = find("washing soda")
    most = 100.0 * 0.85
    soda.check_dissolves(Strength.of(most, "w/w"))
    with pytest.raises(CannotReckon, match="will not dissolve"):
        soda.check_dissolves(Strength.of(most - 0.1, "w/w"))
    with pytest.raises(CannotReckon, match="will not dissolve"):
        find("lye").check_dissolves(Strength.of(60.0, "w/w"))
