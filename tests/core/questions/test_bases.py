"""Questions at their limits: what is refused, just on either side, and what is not known said as that."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find, materials
from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.measures import Strength
from firkin.core.questions import QUESTIONS
from firkin.core.questions.bases import fraction, percent
from mixes import mix


def solved(ask: str, **values: object) -> dict:
    question = next(one for one in QUESTIONS.values() if ask in one.asks)
    return dict(question.solve(question.read({"ask": ask, **values}, ask=ask)).values)


@pytest.mark.parametrize(
    ("ask", "values", "place"),
    [
        ("dilute", {"active": "caustic-soda", "stock": "99 %", "target": "60 %", "make": "1 L"}, "target"),
        ("dilute", {"active": "salt", "stock": "99 %", "target": "30 %", "make": "1 L"}, "target"),
        ("dilute", {"active": "ethanol", "stock": "96 %", "target": "10 %", "make": "1 L", "temperature": "-15 degC"}, "temperature"),
        ("chlorine", {"active": "ethanol", "stock": "5 %", "target": "0.5 %", "make": "1 L"}, "active"),
        ("chlorine", {"stock": "70 %", "target": "0.5 %", "make": "1 L"}, "stock"),
        ("soap-per-litre", {"bar_g": 501, "volume": "1 L"}, "bar_g"),
        ("soap-per-litre", {"volume": "1 L", "g_per_L": 501}, "g_per_L"),
    ],
)  # fmt: skip
def test_what_no_bench_ever_held_is_refused_at_its_field(ask: str, values: dict, place: str) -> None:
    with pytest.raises(CannotReckon) as error:
        solved(ask, **values)
    assert error.value.path[0] == place


@pytest.mark.parametrize(
    ("ask", "values"),
    [
        ("dilute", {"active": "caustic-soda", "stock": "99 %", "target": "51 %", "make": "1 L"}),
        ("dilute", {"active": "ethanol", "stock": "96 %", "target": "40 %", "make": "1 L", "temperature": "-15 degC"}),
        ("chlorine", {"stock": "15 %", "target": "0.5 %", "make": "1 L"}),
        ("soap-per-litre", {"bar_g": 499, "volume": "1 L"}),
    ],
)
def test_what_lies_just_within_is_answered(ask: str, values: dict) -> None:
    assert solved(ask, **values)


def test_caustic_of_51_per_cent_has_its_own_density_and_not_the_flakes() -> None:
    """CRC Handbook, from memory: 100 mL of 50 % hold 1.907 mol, of 51 % about 1.96."""
    there = {"material": "labsa", "strength": "98 %", "amount": "100 g"}
    mol = [
        solved("neutralise", acid=there, base={"material": "caustic-soda", "strength": f"{pct} %", "amount": "100 mL"})["base_mol"]
        for pct in (50, 51)
    ]  # fmt: skip
    assert mol == [pytest.approx(1.907, abs=0.002), pytest.approx(1.957, abs=0.005)]


def test_a_target_of_one_s_own_goes_before_the_rule() -> None:
    made = solved("chlorine", stock="5 %", rule="surface-chlorine-01", target="0.2 %", make="1 L")
    assert made["parts_water_per_part_bleach"] == pytest.approx(24.0)


@pytest.mark.parametrize(
    ("read", "works"), [({"temperature": 25}, None), ({"ph": 5, "temperature": 25}, True), ({"ph": 9}, False)]
)
def test_a_preservative_whose_ph_was_not_read_is_unknown_and_not_bad(read: dict, works: bool | None) -> None:
    assert solved("preserve", material="potassium-sorbate", batch_g=1000, **read)["works"] is works


@given(st.sampled_from(sorted(key for key, one in materials().items() if one.solution is not None or one.alcohol)), st.floats(0.5, 4.0), st.sampled_from(["w/w", "w/v", "v/v"]))  # fmt: skip
def test_a_strength_said_on_a_basis_comes_back_on_it(key: str, pct: float, basis: str) -> None:
    material = find(key)
    if basis == "v/v" and (material.solid or material.reports == "active") and material.alcohol is None:
        return
    share = fraction(material, Strength.of(pct, basis))
    assert percent(material, share, basis) == pytest.approx(pct, rel=1e-6)


def test_low_and_high_of_glycerol_are_on_the_basis_asked() -> None:
    thin = solved("dilute", active="glycerol", stock="98-99 % v/v", target="50 % v/v", make="1 L")
    assert thin["low"] == pytest.approx(50.0, abs=0.01)
    assert thin["high"] == pytest.approx(50.0 * 99 / 98, abs=0.3)


def test_what_freezes_is_no_batch() -> None:
    cold = mix(("ethanol", "100 mL", "96 %"), ("water", "900 mL"))
    with pytest.raises(CannotReckon, match="freezes"):
        reckon(mix(("water", "1 L"), temperature=-1.0))
    assert reckon(mix(("ethanol", "800 mL", "96 %"), ("water", "200 mL"), temperature=-15.0))
    assert reckon(cold)


@pytest.mark.parametrize(("target", "more"), [("65 %", False), ("85 %", True)])
def test_more_than_the_batch_itself_is_not_added_without_a_word(target: str, more: bool) -> None:
    question = next(one for one in QUESTIONS.values() if "strengthen" in one.asks)
    asked = {"ask": "strengthen", "active": "ethanol", "batch": "1 L", "now": "60 %", "with": "96 %", "target": target}
    answer = question.solve(question.read(asked, ask="strengthen"))
    assert any("more than the batch itself" in said for said in answer.warns) is more
