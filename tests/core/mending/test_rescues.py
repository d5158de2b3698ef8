"""What a rescue adds: amounts worked by hand or by other core functions."""

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import house_formulas, reckon
from firkin.core.mending import TROUBLES, Seen, rescue
from kept import same_as_kept, told
from mixes import line, mix, vv

RUB: dict[str, Any] = {"family": "liquid-rub", "guidelines": ("cdc-alcohol-60",)}


@given(st.floats(40, 74), st.floats(80, 99))
def test_lifting_a_weak_rub_brings_it_over_its_line(now: float, stock: float) -> None:
    made = mix(("ethanol", "500 mL", f"{now:.2f} %"), ("glycerol", "1 mL"), **RUB)
    result = reckon(made)
    if result.main.lower >= 60.4:
        return
    found = rescue("weak", result, Seen(stock=(find("ethanol"), vv(round(stock, 2)))))
    more = line("ethanol", f"{found.additions[0].amount.mL:.5g} mL", f"{stock:.2f} %")
    assert reckon(_with(made, more)).main.lower >= 60


def _with(formula, more):
    return replace(formula, lines=(*formula.lines, more))


def added(found) -> list[tuple[str, float]]:
    return [
        (one.material.id, round(one.amount.mL if one.amount.kind == "volume" else one.amount.g, 1))
        for one in found.additions
    ]


RESCUES = [
    # by hand: 6 L at 50 g a litre to 80: 30 g x 6
    ("watery", mix(("bar-soap", "300 g"), ("water", "q.s."), make="6 L", family="liquid-soap"), Seen(soap_g_per_L=80), [("bar-soap", 180.0)]),
    # by hand: 1 L at 120 g a litre to 60 is another litre
    ("thick", mix(("bar-soap", "120 g"), ("water", "q.s."), make="1 L", family="liquid-soap"), Seen(), [("water", 1000.0)]),
    # common practice: 1.25 mL of triethanolamine for a gram: 5 mL for 4 g, 2 mL are in
    ("acid", mix(("carbomer", "4 g"), ("water", "1 L"), ("triethanolamine", "2 mL"), family="gel"), Seen(), [("triethanolamine", 3.0)]),
    # by mole, LABSA 320 g/mol from memory: 100 g of 98 % take 12.37 g of 99 % caustic; 10 are in
    ("acid", mix(("water", "1 L"), ("caustic-soda", "10 g", "99 %"), ("labsa", "100 g", "98 %"), family="dish-liquid"), Seen(), [("caustic-soda", 2.4)]),
    # by mole: 15 g of caustic are 2.63 too many for it; 21.3 g of LABSA take them up
    ("alkaline", mix(("water", "1 L"), ("caustic-soda", "15 g", "99 %"), ("labsa", "100 g", "98 %"), family="dish-liquid"), Seen(), [("labsa", 21.3)]),
    # by hand: 100 g of 1100 g are gone
    ("boiled-over", mix(("water", "1 kg"), ("bar-soap", "100 g"), family="liquid-soap"), Seen(mass_g=1000.0), [("water", 100.2)]),
]  # fmt: skip


@pytest.mark.parametrize(("trouble", "formula", "seen", "amounts"), RESCUES)
def test_a_rescue_adds_what_it_says(trouble: str, formula, seen: Seen, amounts) -> None:
    found = rescue(trouble, reckon(formula), seen)
    assert [(name, pytest.approx(value, rel=0.02)) for name, value in amounts] == added(found)


def test_a_collapsed_gel_is_thinned_to_what_its_thickener_stands_or_given_up() -> None:
    """Common practice, no source: xanthan stands 60 % alcohol by weight."""
    strong = mix(
        ("ethanol", "800 mL", "96 %"),
        ("xanthan-gum", "8 g"),
        ("water", "150 mL"),
        family="gel",
        guidelines=("cdc-alcohol-60",),
    )
    found = rescue("collapsed", reckon(strong))
    water = line("water", f"{found.additions[0].amount.mL} mL")
    after = reckon(_with(strong, water))
    assert after.main.pct_ww == pytest.approx(60, abs=0.1)
    assert after.main.lower >= 60
    strict = mix(
        ("ethanol", "800 mL", "96 %"),
        ("xanthan-gum", "8 g"),
        ("water", "150 mL"),
        family="gel",
        guidelines=("who-ethanol",),
    )
    assert not rescue("collapsed", reckon(strict)).additions


@pytest.mark.parametrize("trouble", TROUBLES)
@pytest.mark.parametrize("key", house_formulas())
def test_every_trouble_of_every_formula_gets_amounts_advice_or_a_reason(trouble: str, key: str) -> None:
    result = reckon(house_formulas()[key].formula)
    try:
        found = rescue(trouble, result, Seen(stock=(find("ethanol"), vv(96.0))))
    except CannotReckon as error:
        reason = str(error)
        assert reason.endswith(".")
        return
    assert found.advice
    assert all(sentence.endswith(".") for sentence in found.advice)
    assert all(one.amount.value > 0 for one in found.additions)


def test_acid_is_never_proposed_for_soap() -> None:
    assert not rescue("alkaline", reckon(house_formulas()["foam-plain"].formula)).additions


@pytest.mark.parametrize(
    ("key", "trouble", "says", "never"),
    [
        ("foam-plain", "weak", "has a strength to check", "Bleach"),
        ("powder-hard", "strong", "has a strength to check", "Bleach"),
        ("chlorine-surfaces", "weak", "thinned bleach and peroxide can't be fixed", "larger dose"),
        ("foam-plain", "watery", "meant to be like water", "rub"),
        ("castile-spray", "watery", "meant to be thin", "rub"),
        ("who-one", "watery", "A rub is thin by nature", "soap"),
    ],
)
def test_advice_speaks_of_what_is_in_the_batch(key: str, trouble: str, says: str, never: str) -> None:
    advice = " ".join(rescue(trouble, reckon(house_formulas()[key].formula)).advice)
    assert says.lower() in advice.lower()
    assert never not in advice


def known(trouble: str, formula) -> Iterator[tuple[str, Seen]]:
    """What a maker may know of a batch with a trouble, in words and as it is asked."""
    yield "nothing known", Seen()
    result = reckon(formula)
    stock = (result.main.active, 96.0) if result.main is not None and result.main.is_alcohol else ("ethanol", 96.0)
    bottle = (find(stock[0]), vv(stock[1]))
    match trouble:
        case "weak":
            yield "a stock", Seen(stock=bottle)
            yield "a stock, measured 48 %", Seen(now=vv(48.0), stock=bottle)
            yield "another alcohol", Seen(stock=(find("ethanol" if stock[0] != "ethanol" else "isopropanol"), vv(99.0)))
        case "strong":
            yield "measured 92 %", Seen(now=vv(92.0))
        case "watery" | "thick":
            yield "20 g a litre worked", Seen(soap_g_per_L=20.0)
            yield "75 g a litre worked", Seen(soap_g_per_L=75.0)
        case "boiled-over":
            yield "a seventh gone", Seen(mass_g=result.total.mass_g * 6 / 7)
            yield "nothing gone", Seen(mass_g=result.total.mass_g)
        case "alkaline":
            yield "3.21 g of citric acid takes it back", Seen(citric_g=3.21)


def helped(formula) -> dict[str, object]:
    found: dict[str, object] = {}
    for trouble in TROUBLES:
        for words, seen in known(trouble, formula):
            try:
                found[f"{trouble}, {words}"] = rescue(trouble, reckon(formula), seen)
            except CannotReckon as error:
                found[f"{trouble}, {words}"] = str(error)
    return found


def told_once(name: str, found: dict[str, object], before: dict[str, str]) -> str:
    """What was told in another section already is not told again."""
    said = []
    for case, one in found.items():
        text = told(one, "  ")
        first = before.setdefault(text, f"{name}: {case}")
        said.append(f"{case}:\n{text}" if first == f"{name}: {case}" else f"{case}: as for {first}")
    return "\n".join(said)


def test_what_helps_is_as_kept() -> None:
    """Of the house's formulas, and of what none of them is."""
    of_the_house = {key: house.formula for key, house in house_formulas().items()}
    mixes = {
        f"{trouble}: {' + '.join(f'{one.amount} {one.material.name}' for one in formula.lines)}": formula
        for trouble, formula, _, _ in RESCUES
    } | {
        "thin bar soap": mix(("bar-soap", "40 g"), ("water", "q.s."), make="2 L", family="liquid-soap"),
        "middling bar soap": mix(("bar-soap", "70 g"), ("water", "q.s."), make="1 L", family="liquid-soap"),
        "soap with alcohol": mix(("bar-soap", "40 g"), ("ethanol", "50 mL", "96 %"), ("water", "q.s."), make="1 L", family="liquid-soap"),
        "gel past its polymer": mix(("carbomer", "4 g"), ("ethanol", "900 mL", "96 %"), ("water", "80 mL"), family="gel"),
        "gel that cannot be mended": mix(("xanthan-gum", "8 g"), ("ethanol", "750 mL", "96 %"), ("water", "240 mL"), family="gel", guidelines=("cdc-alcohol-60",)),
        "rub with two ends": mix(("isopropanol", "900 mL", "99.8 %"), ("water", "100 mL"), family="liquid-rub", guidelines=("who-isopropanol",)),
        "soap that is all but right": mix(("bar-soap", "99.99 g"), ("water", "q.s."), make="1 L", family="liquid-soap"),
        "caustic that is all but right": mix(("water", "1 L"), ("caustic-soda", "12.4 g", "99 %"), ("labsa", "100 g", "98 %"), family="dish-liquid"),
        "polymer neutralised": mix(("carbomer", "4 g"), ("water", "1 L"), ("triethanolamine", "6 mL"), family="gel"),
    }  # fmt: skip
    before: dict[str, str] = {}
    sections = {name: told_once(name, helped(formula), before) for name, formula in (of_the_house | mixes).items()}
    same_as_kept(Path(__file__).parent / "helps.txt", sections)


@pytest.mark.parametrize("soap", ["99.9 g", "99.999 g", "100 g"])
def test_what_no_scale_can_weigh_is_not_asked_for(soap: str) -> None:
    """A ten-thousandth of what is in is less than a kitchen scale shows."""
    made = reckon(mix(("bar-soap", soap), ("water", "q.s."), make="1 L", family="liquid-soap"))
    for wanted in (100.0, 99.9):
        try:
            found = rescue("watery", made, Seen(soap_g_per_L=wanted))
        except CannotReckon:
            continue
        assert found.additions[0].amount.g > 0.05
