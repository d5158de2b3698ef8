"""The catalogue at its edges: names in every form, bottles that age, strengths as labels say them, limits to a hair.

Limits of age and dryness: common practice, no source, as in materials.toml.
"""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import aged, find, materials, names_of_materials, out_of_usual, too_old, usual_share
from firkin.core.catalogue.hazards import dangers_in
from firkin.core.catalogue.materials import Material
from firkin.core.catalogue.rule_lines import Limit, Verdict, judge
from firkin.core.errors import CannotReckon
from firkin.core.measures import Strength

KEEPS_BADLY = [one for one in materials().values() if one.kept_in_six_months < 1.0]


@pytest.mark.parametrize("material", list(materials().values()), ids=lambda one: one.id)
def test_every_name_finds_its_material_whatever_its_case_and_number(material: Material) -> None:
    for name in (material.id, *material.names):
        for form in (name, name.upper(), f"  {name} ", f"{name}s"):
            assert find(form).id == material.id, form


def test_there_are_names_and_all_of_them_are_words() -> None:
    assert len(names_of_materials()) > 500
    assert all(isinstance(name, str) and name for name in names_of_materials())


@pytest.mark.parametrize("said", ["methylated spirits", "Denatured Alcohol", "meths", "white spirit"])
def test_alcohol_that_is_not_for_skin_is_heard_under_its_own_name(said: str) -> None:
    (heard,) = dangers_in(f"a cup of {said}")
    assert (heard.said, heard.material.name.lower()) == (said, find(said).name.lower())
    assert heard.material.known == find(said).known


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


@pytest.mark.parametrize(
    ("high", "higher", "verdict"),
    [
        (80.0, 80.0, Verdict.MEETS),
        (80.0049, 80.0, Verdict.MEETS),
        (80.0051, 80.0, Verdict.ON_THE_LINE),
        (80.2, 80.0049, Verdict.ON_THE_LINE),
        (80.2, 80.0051, Verdict.TOO_STRONG),
    ],
)
def test_what_is_shown_as_the_maximum_is_on_it(high: float, higher: float, verdict: Verdict) -> None:
    limit = Limit("ethanol", 60.0, 80.0)
    assert judge("a-line", limit, 70.0, higher, 69.0, high).verdict is verdict


@given(st.sampled_from(sorted(materials())), st.floats(0.0, 1.0))
def test_a_share_within_reason_is_in_both_ways_of_counting_or_in_one(key: str, share: float) -> None:
    material = find(key)
    low, high = usual_share(material)
    assert out_of_usual(material, "", (low + high) / 2.0, share) == 0
    assert out_of_usual(find("pond water"), "", share) == 0
