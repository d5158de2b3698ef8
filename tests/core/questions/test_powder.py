"""Powders: parts by volume, grams by bulk density or a weighed scoop, acid against soda by mole."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.measures import read_quantity
from firkin.core.questions import QUESTIONS, neutralise
from firkin.core.questions.neutralisation import fizz
from firkin.core.questions.powder import balance, doses, heap_of, powder


def balanced(portions):
    """Acid against soda of what is in a jar."""
    return balance(one.amount for one in portions)


PARTS = st.lists(
    st.tuples(st.sampled_from(["citric-acid", "borax", "washing-soda", "salt", "baking-soda"]), st.floats(0.2, 8.0)),
    min_size=1,
    max_size=6,
)


def answered(**written: object):
    rows = [
        {"material": name, "parts": parts}
        for name, parts in (("citric acid", 1), ("borax", 2), ("washing soda", 2), ("salt", 2))
    ]
    return QUESTIONS["powder"].solve(QUESTIONS["powder"].read({"jar": "1 L", "powders": rows, **written}))


@given(PARTS, st.floats(50, 20_000), st.floats(0.0, 50.0))
def test_the_jar_is_full_up_to_its_headspace_and_parts_keep_their_ratio(parts, jar: float, free: float) -> None:
    portions, _ = powder(jar, [heap_of(find(name), n) for name, n in parts], free)
    assert sum(one.volume_mL for one in portions) == pytest.approx(jar * (1 - free / 100))
    for one, (name, n) in zip(portions, parts, strict=True):
        assert one.volume_mL / portions[0].volume_mL == pytest.approx(n / parts[0][1])
        assert one.mass_g == pytest.approx(one.volume_mL * find(name).bulk)


def test_one_to_two_to_two_to_two_in_a_litre() -> None:
    """Bulk densities 0.88, 0.85, 1.0, 1.25 g/mL: common practice, no source. By hand: 1000 / 7 = 142.86 mL a part."""
    grams = [row["mass_g"] for row in answered().values["powders"]]
    assert grams == pytest.approx([125.7, 242.9, 285.7, 357.1], abs=0.1)


def test_a_weighed_scoop_comes_before_the_usual_bulk_density_and_a_light_grade_is_said() -> None:
    soda = heap_of(find("washing-soda"), 2.0, scoop_g=11.0, scoop_mL=20.0)
    assert (soda.bulk, soda.weighed) == (pytest.approx(0.55), True)
    rows = [{"material": "washing soda", "parts": 1, "scoop_g": 11.0}]
    light = QUESTIONS["powder"].solve(QUESTIONS["powder"].read({"jar": "1 L", "scoop": "20 mL", "powders": rows}))
    assert light.values["total_g"] == pytest.approx(550.0)
    assert any("0.55 g/mL by the scoop" in said for said in light.warns)


def test_citric_acid_takes_one_and_a_half_of_carbonate() -> None:
    """Three acid groups against two: 1 mol of citric acid (192.12 g/mol) takes 1.5 mol of soda (105.99 g/mol)."""
    scoop = 100.0
    acid = heap_of(find("citric-acid"), 1.0, scoop_g=0.88 * scoop, scoop_mL=scoop)
    even = 1.5 * 105.99 / 192.124 * 0.88  # volumes of soda at 1 g/mL for one of acid
    for more, left in ((0.98, "acid"), (1.02, "soda")):
        found = balanced(powder(1000.0, [acid, heap_of(find("washing-soda"), even * more)])[0])
        assert found is not None
        assert found.left == left
        assert found.acid_mol_h / found.carbonate_mol_h == pytest.approx(1 / more, rel=2e-3)


@given(PARTS)
def test_the_balance_agrees_with_the_question_of_acid_on_soda(parts) -> None:
    portions, _ = powder(1000.0, [heap_of(find(name), n) for name, n in parts])
    found = balanced(portions)
    acid = sum(one.mass_g for one in portions if one.heap.material.id == "citric-acid")
    soda = sum(one.mass_g for one in portions if one.heap.material.id == "washing-soda")
    assert (found is None) == (not acid or not any("carbonate" in one.heap.material.roles for one in portions))
    if found is not None and not any(name == "baking-soda" for name, _ in parts):
        said = neutralise(
            (find("citric-acid"), None, read_quantity(f"{acid} g")),
            (find("washing-soda"), None, read_quantity(f"{soda} g")),
        )
        assert found.acid_mol_h == pytest.approx(said.acid_mol_h)
        assert found.carbonate_mol_h == pytest.approx(said.base_mol_h)
        *_, gas_L, _ = fizz(
            (find("citric-acid"), None, read_quantity(f"{acid} g")),
            (find("washing-soda"), None, read_quantity(f"{soda} g")),
        )
        assert found.gas_L == pytest.approx(gas_L)


def test_hard_water_takes_a_second_scoop_and_what_was_not_said_is_said() -> None:
    assert doses(1000.0, 20.0, 60.0) == (50.0, 1)
    assert doses(1000.0, 20.0, 300.0) == (25.0, 2)
    assert any("hard water takes another" in said for said in answered().says)
    assert any("very hard" in said for said in answered(hardness="20 dH").says)
    assert answered(hardness="20 dH").values["washes"] == pytest.approx(25.0)
    assert any("is not baking soda" in said for said in answered().says)


def test_the_formula_kept_holds_the_same_grams() -> None:
    answer = answered(headspace_pct=10)
    assert answer.formula is not None
    assert [line.mass_g for line in reckon(answer.formula).lines] == pytest.approx(
        [row["mass_g"] for row in answer.values["powders"]]
    )


@pytest.mark.parametrize(
    ("rows", "says"),
    [
        ([{"material": "glycerol", "parts": 1}], "no powder"),
        ([{"material": "borax", "parts": 1, "scoop_g": 17}], "how much the scoop holds"),
        ([{"material": "marsh salt", "parts": 1}], "weigh a scoop"),
        ([{"material": "borax", "parts": 0}], "More than 0 parts"),
    ],
)
def test_what_is_no_powder_is_refused_at_its_row(rows, says: str) -> None:
    asked = QUESTIONS["powder"].read({"jar": "1 L", "powders": rows})
    with pytest.raises(CannotReckon, match=says) as refused:
        QUESTIONS["powder"].solve(asked)
    assert refused.value.path[:2] == ("powders", 0)
