"""The usual way to make what has no steps: every line named once, in the order that its materials ask for."""

import tomllib
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import assume, given

from conftest import plain
from firkin.core.audit import audit
from firkin.core.catalogue import family_of
from firkin.core.formula import Formula, Line, house_formulas, pour_order, reckon, steps_of, vessel_order, with_steps
from firkin.core.recipe import read_recipe
from formulas_at_random import can_be_reckoned, formulas
from kept import same_as_kept, told
from mixes import mix

BARE = {key: replace(house.formula, steps=()) for key, house in house_formulas().items()}


def order(formula: Formula) -> list[str]:
    return [formula.lines[i].material.id for i in pour_order(formula)]


@pytest.mark.parametrize("key", BARE)
def test_every_house_formula_without_its_steps_is_made_much_the_same_way(key: str) -> None:
    """Each line once; the same waits in all; no step sets off a finding that the formula itself does not."""
    bare, own = BARE[key], house_formulas()[key].formula
    steps = steps_of(bare)
    named = [line for step in steps for line in step.lines]
    assert sorted(named) == list(range(len(bare.lines)))
    if own.steps:
        assert (
            sum(step.wait_h or 0 for step in steps) == sum(step.wait_h or 0 for step in own.steps)
            or key == "straight-wipes"
        )
    before = {finding.rule for finding in audit(reckon(bare))}
    assert {finding.rule for finding in audit(reckon(with_steps(bare)))} <= before
    assert all(step.text for step in steps)


@given(formulas())
def test_every_line_of_any_formula_is_named_once_and_it_still_reckons(formula: Formula) -> None:
    assume(can_be_reckoned(formula))
    formula = replace(formula, steps=())
    steps = steps_of(formula)
    assert sorted(line for step in steps for line in step.lines) == list(range(len(formula.lines)))
    assert reckon(with_steps(formula)).total.mass_g == pytest.approx(reckon(formula).total.mass_g)


#: common practice, no source: what goes in before what, whatever the order it is written in
ORDERS = [
    (BARE["xanthan-gel"], ["glycerol", "xanthan-gum", "water", "ethanol"]),
    (BARE["crosspolymer-gel"], ["water", "crosspolymer", "ethanol", "triethanolamine"]),
    (BARE["easy-gel"], ["ethanol", "polyacrylate-gel"]),
    (BARE["dish-classic"], ["water", "caustic-soda", "labsa", "sles", "fragrance", "salt"]),
    (BARE["chlorine-surfaces"], ["water", "sodium-hypochlorite"]),
    (BARE["bar-soap-liquid"], ["bar-soap", "water", "phenoxyethanol"]),
    (BARE["powder-soft"], ["borax", "citric-acid"]),
    (BARE["citrus-ferment"], ["raw-sugar", "water", "citrus-peel"]),
    (BARE["foam-oil"], ["castile-soap", "coconut-oil"]),
    (BARE["laundry-concentrate"], ["bar-soap", "water", "borax"]),
    (mix(("triethanolamine", "2 mL"), ("carbomer", "3 g"), ("ethanol", "700 mL", "96 %"), ("water", "q.s."), make="1 L", family="gel"),
     ["water", "carbomer", "ethanol", "triethanolamine"]),
]  # fmt: skip


@pytest.mark.parametrize(("formula", "first_to_last"), ORDERS)
def test_what_goes_in_before_what(formula: Formula, first_to_last: list[str]) -> None:
    for lines in (formula.lines, formula.lines[::-1]):
        made = order(replace(formula, lines=lines))
        assert [one for i, one in enumerate(made) if one in first_to_last and one not in made[:i]] == first_to_last


def test_a_solid_fat_is_melted_and_never_beside_alcohol() -> None:
    soap = mix(
        ("bar-soap", "80 g"), ("water", "1 L"), ("coconut-oil", "5 mL"), ("lavender-oil", "1 mL"), family="liquid-soap"
    )
    doing = [(step.do, [soap.lines[i].material.id for i in step.lines]) for step in steps_of(soap)]
    assert ("melt", ["coconut-oil"]) in doing
    assert doing.index(("melt", ["coconut-oil"])) < doing.index(("set", [])) < doing.index(("add", ["lavender-oil"]))
    rub = mix(("ethanol", "800 mL", "96 %"), ("coconut-oil", "5 mL"), family="liquid-rub")
    assert "melt" not in [step.do for step in steps_of(rub)]


def test_only_what_holds_alcohol_and_is_a_rub_rests_72_hours() -> None:
    """WHO, Guide to Local Production."""
    for key, formula in BARE.items():
        rests = any(step.do == "quarantine" for step in steps_of(formula))
        assert rests is (formula.family in ("liquid-rub", "aloe-rub", "gel")), key


HEARD_FILE = Path(__file__).with_name("orders.toml")
HEARD = tomllib.loads(HEARD_FILE.read_text())["recipe"]


@pytest.mark.parametrize("case", HEARD, ids=lambda case: plain(case["text"]))
def test_a_heard_recipe_is_made_in_the_order_its_materials_ask_for(case) -> None:
    read = [line for line in read_recipe(case["text"]).lines if line.amount]
    lines = tuple(Line(line.material, line.amount, line.strength) for line in read)
    formula = Formula("Heard", lines, family_of([line.material for line in lines]))
    order = [formula.lines[i].material.id for i in pour_order(formula)]
    for first, later in case["before"]:
        assert order.index(first) < order.index(later)
    assert any(step.do == "quarantine" for step in steps_of(formula)) is case["rests"]


#: Mixes for every way of making there is, beside the house formulas.
MIXES = [
    mix(("xanthan-gum", "8 g"), ("water", "300 mL"), ("ethanol", "670 mL", "96 %"), ("glycerol", "20 mL"), family="gel"),
    mix(("xanthan-gum", "8 g"), ("ethanol", "670 mL", "96 %"), ("water", "q.s."), make="1 L", family="gel"),
    mix(("xanthan-gum", "8 g"), ("water", "200 mL"), ("ethanol", "q.s.", "96 %"), make="1 L", family="gel"),
    mix(("carbomer", "4 g"), ("water", "200 mL"), ("ethanol", "800 mL", "96 %"), ("triethanolamine", "5 mL"), family="gel"),
    mix(("crosspolymer", "6 g"), ("ethanol", "800 mL", "96 %"), ("water", "200 mL"), ("aminomethyl-propanol", "2 mL"), family="gel"),
    mix(("bleach", "20 mL", "5 %"), ("water", "q.s."), make="1 L", family="surface"),
    mix(("peroxide", "170 mL", "3 %"), ("water", "830 mL"), family="surface"),
    mix(("bar-soap", "100 g"), ("water", "1 L"), ("glycerol", "20 mL"), ("lavender-oil", "2 mL"), family="liquid-soap"),
    mix(("bar-soap", "100 g"), ("water", "1 L"), ("phenoxyethanol", "9 g"), family="liquid-soap"),
    mix(("castile-soap", "1 part"), ("water", "3 parts"), ("fragrance", "1 mL"), ("phenoxyethanol", "2 g"), family="foaming-soap"),
    mix(("water", "60 %"), ("caustic-soda", "2 %"), ("labsa", "14 %"), ("sles", "10 %"), ("salt", "2 %"), ("fragrance", "1 %"),
        ("phenoxyethanol", "1 %"), ("water", "10 %"), family="dish-liquid"),
    mix(("labsa", "14 %"), ("water", "80 %"), ("triethanolamine", "6 %"), family="dish-liquid"),
    mix(("citric-acid", "1 part"), ("washing-soda", "2 parts"), ("salt", "1 part"), family="dishwasher-powder"),
    mix(("bar-soap", "140 g"), ("washing-soda", "200 g"), ("borax", "200 g"), ("water", "q.s."), make="9 L", family="laundry-soap"),
    mix(("raw-sugar", "100 g"), ("citrus-peel", "300 g"), ("water", "1 L"), ("ferment-starter", "50 mL"), family="ferment"),
    mix(("ethanol", "800 mL", "96 %"), ("aloe-gel", "200 mL"), ("lavender-oil", "1 mL"), family="aloe-rub"),
    mix(("isopropanol", "2 parts", "91 %"), ("aloe-gel", "1 part"), family="aloe-rub"),
    mix(("glycerol", "5 mL"), ("dye", "1 mL"), ("water", "1 L")),
]  # fmt: skip


def test_the_usual_ways_are_as_kept() -> None:
    every = {**BARE, **{f"mix {at}": formula for at, formula in enumerate(MIXES)}}
    same_as_kept(Path(__file__).parent / "usual_steps.txt", {key: told(steps_of(one)) for key, one in every.items()})


def test_a_slurry_reaches_the_vessel_behind_the_water_it_is_whisked_into() -> None:
    """By the house's steps and by the usual ones; common practice, no source."""
    for gel in (house_formulas()["xanthan-gel"].formula, BARE["xanthan-gel"]):
        names = [[gel.lines[i].material.id for i in together] for together in vessel_order(gel)]
        assert names == [["water"], ["glycerol", "xanthan-gum"], ["ethanol"], ["water"]]
        assert order(gel)[:2] == ["glycerol", "xanthan-gum"]  # and is measured before
