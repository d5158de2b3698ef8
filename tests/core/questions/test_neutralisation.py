"""Acid against base by mole: against atomic weights, and against itself."""

import pytest
from chemicals.elements import molecular_weight, simple_formula_parser
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find, materials
from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.measures import Quantity, Strength, read_quantity
from firkin.core.questions.neutralisation import GAS_L_PER_MOL, fizz, moles, neutralise, neutrality
from mixes import mix

#: by the chemicals library's table of atomic weights; groups by their structure
REAGENTS = {
    "caustic-soda": ("NaOH", 1),
    "washing-soda": ("Na2CO3", 2),
    "triethanolamine": ("C6H15NO3", 1),
    "citric-acid": ("C6H8O7", 3),
    "white-vinegar": ("C2H4O2", 1),
    "ammonia": ("NH3", 1),
    "hydrochloric-acid": ("HCl", 1),
    "sulfuric-acid": ("H2SO4", 2),
    "sulfamic-acid": ("H3NO3S", 1),
    "oxalic-acid": ("C2H6O6", 2),
}
ACIDS = [key for key, m in materials().items() if m.molar_mass and "acid" in m.roles]
BASES = [key for key, m in materials().items() if m.molar_mass and "base" in m.roles]


@pytest.mark.parametrize(("key", "formula", "groups"), [(key, *rest) for key, rest in REAGENTS.items()])
def test_molar_masses_agree_with_atomic_weights(key: str, formula: str, groups: int) -> None:
    assert find(key).molar_mass == pytest.approx(molecular_weight(simple_formula_parser(formula)), abs=0.01)
    assert find(key).groups == groups


def test_every_reagent_is_checked() -> None:
    """All but LABSA, a mixture, whose mean of 320 g/mol is from memory."""
    assert set(ACIDS + BASES) - {"labsa"} <= set(REAGENTS)


@given(st.sampled_from(ACIDS), st.sampled_from(BASES), st.floats(min_value=1, max_value=1e4))
def test_with_what_was_missing_it_ends_neutral(acid: str, base: str, grams: float) -> None:
    there = (find(acid), find(acid).usual_strength, Quantity(grams, "g"))
    short = neutralise(there, (find(base), find(base).usual_strength, Quantity(grams / 1e6, "g")))
    assert short.ends == "acid"
    whole = Quantity(grams / 1e6 + short.base_g_missing, "g")
    assert neutralise(there, (find(base), find(base).usual_strength, whole)).ends == "neutral"


def test_more_than_enough_is_alkaline_by_just_what_is_spare() -> None:
    """By hand: 192.12 g of citric acid are 3 mol of groups and take 119.99 g of NaOH."""
    acid = (find("citric-acid"), Strength.of(100.0, "w/w"), read_quantity("192.12 g"))
    ended = neutralise(acid, (find("caustic-soda"), Strength.of(100.0, "w/w"), read_quantity("129.99 g")))
    assert (ended.ends, round(ended.base_g_spare, 2)) == ("alkaline", 10.0)


def test_salt_is_neither() -> None:
    with pytest.raises(CannotReckon, match="not counted as an acid"):
        neutralise((find("salt"), None, read_quantity("1 g")), (find("caustic-soda"), None, read_quantity("1 g")))


@pytest.mark.parametrize(
    ("acid", "base", "acid_mol", "acid_mol_h", "base_mol", "ends"),
    [
        # densities 1.525 (50 % w/w lye), CRC handbook from memory; molar masses by atomic weights
        (("labsa", "98 %", "100 g"), ("caustic-soda", "50 % w/w", "20 mL"), 0.306, 0.306, 0.381, "alkaline"),
        (("labsa", "98 %", "100 g"), ("caustic-soda", "30 % w/v", "40 mL"), 0.306, 0.306, 0.300, "acid"),
        (("citric-acid", "10 % w/v", "100 mL"), ("caustic-soda", "", "6.24 g"), 0.052, 0.156, 0.154, "acid"),
        (("citric-acid", "", "10 g"), ("soda crystals", "", "22.34 g"), 0.052, 0.156, 0.0781, "neutral"),
    ],
)
def test_a_solution_is_counted_by_its_density_and_a_form_by_its_own_mass(
    acid, base, acid_mol, acid_mol_h, base_mol, ends
) -> None:
    ended = neutralise(*(_reagent(*one) for one in (acid, base)))
    assert ended.acid_mol == pytest.approx(acid_mol, abs=0.001)
    assert ended.acid_mol_h == pytest.approx(acid_mol_h, abs=0.001)
    assert ended.base_mol == pytest.approx(base_mol, abs=0.001)
    assert ended.ends == ends


def test_a_vinegar_and_baking_soda_volcano_makes_its_gas() -> None:
    """100 mL of 5 % vinegar holds 0.0833 mol (60.05 g/mol): with 7 g of bicarbonate that is 2.0 L at 20 degC and 1 atm."""
    acid, base = _reagent("white-vinegar", "5 % w/v", "100 mL"), _reagent("baking-soda", "", "7 g")
    sour, soda, ends, gas_L, _ = fizz(acid, base)
    assert (sour.protons, soda.mol) == (pytest.approx(0.0833, abs=2e-4), pytest.approx(0.0833, abs=2e-4))
    assert gas_L == pytest.approx(2.0, abs=0.01)
    assert ends == "neutral"


def test_a_little_acid_on_much_soda_makes_half_its_protons_of_gas() -> None:
    """10 g of citric acid give 0.156 mol of protons; soda takes two for each molecule of gas: 1.88 L."""
    sour, _, ends, gas_L, _ = fizz(_reagent("citric-acid", "", "10 g"), _reagent("washing-soda", "", "100 g"))
    assert (ends, gas_L) == ("alkaline", pytest.approx(sour.protons / 2 * GAS_L_PER_MOL))
    assert gas_L == pytest.approx(1.88, abs=0.01)


@given(st.sampled_from(["washing-soda", "soda crystals", "baking-soda"]), st.floats(1, 500), st.floats(1, 500))
def test_gas_is_bounded_by_either_side(soda: str, acid_g: float, soda_g: float) -> None:
    sour, salt, ends, gas_L, _ = fizz(
        (find("citric-acid"), None, Quantity(acid_g, "g")), (find(soda), None, Quantity(soda_g, "g"))
    )
    mol = gas_L / GAS_L_PER_MOL
    assert mol <= salt.mol * (1 + 1e-9) and mol <= sour.protons * (1 + 1e-9)
    if ends != "alkaline":  # acid enough for all of it
        assert mol == pytest.approx(salt.mol, rel=0.006)
    else:
        assert mol == pytest.approx(sour.protons / salt.material.groups)


def _reagent(material: str, strength: str, amount: str):
    found = find(material)
    return found, found.read_strength(strength) if strength else None, read_quantity(amount)


def test_a_carbonate_is_no_base_that_neutralises_a_wet_mix() -> None:
    """It fizzes instead, which is a stop of its own; moles by the question of one acid and one base."""
    lines = (("water", "1 L"), ("caustic-soda", "12 g"), ("labsa", "100 g"))
    plain = neutrality(reckon(mix(*lines, family="dish-liquid")))
    soda = neutrality(reckon(mix(*lines, ("washing-soda", "50 g"), family="dish-liquid")))
    assert plain is not None
    assert plain == soda
    asked = neutralise(
        (find("labsa"), None, read_quantity("100 g")), (find("caustic-soda"), None, read_quantity("12 g"))
    )
    assert (plain.acid_mol_h, plain.base_mol_h) == pytest.approx((asked.acid_mol_h, asked.base_mol_h))
    assert neutrality(reckon(mix(("water", "1 L"), ("labsa", "100 g"), family="dish-liquid"))) is None


def test_moles_say_what_they_count_and_where_they_cannot() -> None:
    """Citric acid, 192.12 g/mol, gives three protons; sodium hydroxide, 40.00 g/mol, takes up one (IUPAC weights)."""
    acid, worked = moles("acid", "acid", find("citric acid"), None, Quantity(192.12, "g"))
    assert acid.protons == pytest.approx(3.0 * acid.mol)
    assert [line.what for line in worked][-1] == "Protons it gives"
    base, worked = moles("base", "base", find("lye"), Strength.of(50.0, "w/w"), Quantity(80.0, "g"))
    assert (base.mol, base.protons) == pytest.approx((1.0, 1.0), rel=1e-3)
    assert [line.what for line in worked if "Protons" in line.what] == []  # one for one
    base, worked = moles("base", "carbonate", find("washing soda"), None, Quantity(105.99, "g"))
    assert base.protons == pytest.approx(2.0 * base.mol, rel=1e-3)  # a carbonate takes up two
    assert [line.what for line in worked][-1] == "Protons it takes up"
    for place, material, amount, path in (
        ("acid", "salt", Quantity(1.0, "g"), ("acid", "material")),
        ("acid", "citric acid", Quantity(1.0, "part"), ("acid", "amount")),
    ):
        with pytest.raises(CannotReckon) as refused:
            moles(place, "acid", find(material), None, amount)
        assert refused.value.path == path
    with pytest.raises(CannotReckon) as refused:
        moles("base", "base", find("lye"), Strength.of(0.0, "w/w"), Quantity(1.0, "g"))
    assert refused.value.path == ("base", "strength")
    with pytest.raises(CannotReckon) as refused:
        fizz((find("salt"), None, Quantity(1.0, "g")), (find("baking soda"), None, Quantity(1.0, "g")))
    assert refused.value.path == ("acid", "material")
