"""Another material or strength in a line: the strength of the batch stays."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.audit import audit
from firkin.core.catalogue import find, materials
from firkin.core.errors import CannotReckon
from firkin.core.formula import (
    Formula,
    house_formulas,
    reckon,
    substitute,
    substitutes,
)
from firkin.core.measures import Strength
from mixes import alcohols, mix, vv


@pytest.mark.parametrize(
    ("formula", "to", "strength", "amounts"),
    [
        # by hand: 833.3 x 96 / 99.8, topped up
        (house_formulas()["who-one"].formula, "isopropanol", 99.8, ["801.6 mL"]),
        # by hand: 2 x 91 / 3 = 60.67 % of 1 part gel: 60.67 / (99 - 60.67) = 1.583 parts
        (
            mix(("isopropanol", "2 parts", "91 %"), ("aloe-gel", "1 part")),
            "isopropanol",
            99.0,
            ["1.583 part", "1 part"],
        ),
        # by hand: 700 x 96 / 80 = 840 mL, and the water gives the 140 mL
        (mix(("ethanol", "700 mL", "96 %"), ("water", "300 mL")), "ethanol", 80.0, ["840 mL", "160 mL"]),
        (mix(("ethanol", "70 %", "96 %"), ("water", "30 %")), "ethanol", 80.0, ["84 %", "16 %"]),
    ],
)
def test_an_alcohol_keeps_its_strength_in_the_batch(formula: Formula, to, strength, amounts) -> None:
    swapped = substitute(formula, 0, to, vv(strength))
    assert [str(line.amount) for line in swapped.lines][: len(amounts)] == amounts
    before, after = reckon(formula).main, reckon(swapped).main
    assert after.label == pytest.approx(before.label, abs=0.05)


@given(stock=st.floats(70, 99), other=st.floats(70, 100), water=st.floats(10, 400))
def test_swapping_a_stock_never_changes_the_strength_by_label(stock: float, other: float, water: float) -> None:
    formula = mix(("ethanol", "600 mL", f"{stock:.5g} %"), ("water", f"{water:.5g} mL"), ("glycerol", "15 mL"))
    try:
        swapped = substitute(formula, 0, "ethanol", vv(round(other, 3)))
    except CannotReckon:
        assert other < stock
        return
    assert reckon(swapped).main.label == pytest.approx(reckon(formula).main.label, abs=0.1)  # four figures


def test_a_bottle_too_weak_says_so_and_what_it_would_come_to() -> None:
    rub = mix(("isopropanol", "2 parts", "91 %"), ("aloe-gel", "1 part"))
    with pytest.raises(CannotReckon, match=r"40 %"):  # 60 x 2 / 3
        substitute(rub, 0, "isopropanol", vv(60))
    with pytest.raises(CannotReckon, match="too weak"):
        substitute(mix(("ethanol", "900 mL", "96 %"), ("water", "20 mL")), 0, "ethanol", vv(70))


def test_who_formula_one_turned_to_isopropanol_is_judged_by_the_line_for_it() -> None:
    swapped = substitute(house_formulas()["who-one"].formula, 0, "isopropanol", vv(99.8))
    assert "who-isopropanol" in swapped.guidelines


def test_paste_of_another_strength_brings_the_same_active_matter() -> None:
    """12 % of a 70 % paste is as much as 33.6 % of a 25 % one."""
    dish = mix(("water", "q.s."), ("sles", "12 %", "70 %"), make="5 kg", family="dish-liquid", basis="weight")
    swapped = substitute(dish, 1, "sles", Strength.of(25, "w/w"))
    assert swapped.lines[1].amount.value == pytest.approx(33.6, rel=0.01)
    assert reckon(swapped).main.label == pytest.approx(reckon(dish).main.label, rel=0.01)


@pytest.mark.parametrize("key", ["powder-soft", "laundry-concentrate"])
def test_borax_free_leaves_no_borax_and_finds_nothing_worse(key: str) -> None:
    formula = house_formulas()[key].formula
    at = next(i for i, line in enumerate(formula.lines) if line.material.id == "borax")
    for other in substitutes(find("borax")):
        swapped = substitute(formula, at, other.to)
        assert all(line.material.id != "borax" for line in swapped.lines)
        assert not [found for found in audit(reckon(swapped)) if found.severity == "stop"]


def test_glycerol_and_its_substitutes_go_by_the_same_volume() -> None:
    rub = house_formulas()["who-one"].formula
    assert {str(substitute(rub, 2, other.to).lines[2].amount) for other in substitutes(find("glycerol"))} == {"14.5 mL"}


def test_every_substitute_names_a_material_and_works_in_every_house_formula() -> None:
    for house in house_formulas().values():
        for at, line in enumerate(house.formula.lines):
            for other in substitutes(line.material):
                assert other.to in materials()
                assert reckon(substitute(house.formula, at, other.to, line.counted_strength)).total.mass_g > 0


def test_a_weaker_stock_in_a_gel_by_weight_keeps_its_strength() -> None:
    """58 % w/w from 96 %: with 90 % in the same weights of pure alcohol it is 58 % still."""
    gel = mix(("ethanol", "61.8 %", "96 %"), ("xanthan", "0.8 %"), ("water", "37.4 %"), family="gel", basis="weight")
    weaker = reckon(substitute(gel, 0, "ethanol", Strength.of(90, "v/v")))
    assert weaker.main.pct_ww == pytest.approx(reckon(gel).main.pct_ww, abs=0.02)
    assert weaker.main.true >= reckon(gel).main.true - 1e-6


@given(
    st.sampled_from(["volume", "weight"]), st.floats(62, 90), alcohols, alcohols, st.floats(80, 99), st.floats(91, 99)
)
def test_a_substitute_keeps_the_strength_and_the_line(basis, share, one, other, old, new) -> None:
    assume(share * max(old, new) / min(old, new) < 97)
    batch = mix(
        (one, f"{share} %", f"{old} %"), ("water", f"{100 - share} %"), basis=basis, guidelines=("cdc-alcohol-60",)
    )
    before = reckon(batch)
    try:
        after = reckon(substitute(batch, 0, other, Strength.of(new, "v/v")))
    except CannotReckon:
        return
    if one == other:  # by volume label arithmetic stays, by weight the share of alcohol
        was, now = before.active(one), after.active(other)
        pair = (now.pct_ww, was.pct_ww) if basis == "weight" else (now.label, was.label)
        assert pair[0] >= pair[1] - 1e-6
    assert after.verdicts[0].verdict.fails <= before.verdicts[0].verdict.fails


@pytest.mark.parametrize("key", [key for key, house in house_formulas().items()])
def test_what_stands_in_comes_in_the_amount_its_table_says(key: str) -> None:
    """As much by volume or mass, times the factor of the table; or a share of the batch."""
    formula = house_formulas()[key].formula
    before = reckon(formula)
    for at, line in enumerate(formula.lines):
        for other in substitutes(line.material):
            if other.how not in ("volume", "mass", "share") or line.amount.kind == "qs":
                continue
            try:
                after = reckon(substitute(formula, at, other.to))
            except CannotReckon:
                continue
            old, new = before.lines[at], after.lines[at]
            if other.how == "share":
                assert new.mass_g == pytest.approx(before.total.mass_g * other.factor / 100.0, rel=0.03)
            elif line.amount.kind == "part":  # the others keep their parts, and the size is filled by all of them
                rest_before, rest_after = before.total.mass_g - old.mass_g, after.total.mass_g - new.mass_g
                assert new.mass_g / rest_after == pytest.approx(other.factor * old.mass_g / rest_before, rel=0.01)
            elif other.how == "mass":
                assert new.mass_g == pytest.approx(old.mass_g * other.factor, rel=0.03)
            elif line.amount.kind == "volume":
                assert new.volume_mL == pytest.approx(old.volume_mL * other.factor, rel=0.03)
