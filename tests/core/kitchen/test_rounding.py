"""Rounding to a kitchen's measures moves nothing past what it bears, and says where it cannot."""

from pathlib import Path

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.audit import audit
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, house_formulas, reckon
from firkin.core.kitchen import Kitchen, in_kitchen, kitchens
from firkin.core.measures import Quantity
from formulas_at_random import can_be_reckoned, formulas
from kept import same_as_kept
from mixes import mix

#: 200 g of dish liquid: 14 g of LABSA 98 % take 1.73 g of 99 % caustic (by mole, 320 and 39.997 g/mol).
DISH = mix(
    ("water", "74.4 %"), ("caustic-soda", "0.87 %"), ("labsa", "7 %", "98 %"), ("sles", "17 %", "28 %"),
    ("phenoxyethanol", "0.73 %"), make="200 g", family="dish-liquid", basis="weight",
)  # fmt: skip

GUARDED = {
    "acid-left", "caustic-left", "neutraliser-off", "preservative-window", "phototoxic-over", "thickener-limit",
    "thickener-much", "line-short", "line-too-strong", "surface-weak",
}  # fmt: skip


def test_caustic_for_a_small_dish_liquid_is_not_rounded_to_a_gram() -> None:
    rounded = in_kitchen(reckon(DISH), kitchens()["scale"])
    assert rounded.lines[1].combination is None
    assert rounded.result.lines[1].mass_g == pytest.approx(1.74, abs=0.01)
    said = rounded.lines[1].finer
    assert "0.01 g" in said or "0.1 g" in said
    assert "dissolve 10 g in water to 100 mL, and take 17.4 mL" in said
    assert "a batch of" in said


def test_caustic_is_not_rounded_by_6_percent_where_its_acid_stays() -> None:
    """7.44 g of caustic for 60 g of acid: 7 g would leave acid, 8 g caustic; the rest is weighed all the same."""
    mixed = mix(
        ("water", "500 g"), ("caustic-soda", "7.44 g"), ("labsa", "60 g", "98 %"), family="dish-liquid", basis="weight"
    )
    rounded = in_kitchen(reckon(mixed), kitchens()["scale"])
    assert rounded.lines[1].finer and rounded.result.lines[1].mass_g == pytest.approx(7.44)
    assert rounded.lines[2].combination is not None


def test_a_larger_batch_of_it_is_weighed_in_grams() -> None:
    rounded = in_kitchen(reckon(DISH.scaled_to(mix(("water", "6 kg")).lines[0].amount)), kitchens()["scale"])
    assert all(line.combination is not None for line in rounded.lines)
    assert not any(line.finer for line in rounded.lines)


@given(formulas(), st.sampled_from(sorted(kitchens())))
def test_no_rounding_moves_anything_past_what_it_bears(formula: Formula, kitchen: str) -> None:
    assume(can_be_reckoned(formula))
    exact = reckon(formula)
    try:
        rounded = in_kitchen(exact, kitchens()[kitchen])
    except CannotReckon:
        return  # too coarse: it is said, and nothing is offered
    before = {one.rule for one in audit(exact)}
    brought = {one.rule for one in audit(rounded.result)} - before
    assert not brought & GUARDED, brought
    acid, base = formula.lines_with("acid"), formula.lines_with("base")
    if acid and base:
        ratio = [
            sum(result.lines[i].mass_g for i in acid) / sum(result.lines[i].mass_g for i in base)
            for result in (exact, rounded.result)
        ]
        assert abs(ratio[1] / ratio[0] - 1) <= 0.05


def rounded(formula: Formula, kitchen: Kitchen) -> str:
    """Each line in a kitchen's measures, and what it comes to."""
    try:
        found = in_kitchen(reckon(formula), kitchen)
    except CannotReckon as error:
        return str(error)
    lines = []
    for line in found.lines:
        together = line.combination
        words = f"{together.words} ± {together.error:.4g} {together.unit}, off {line.off:.4g}" if together else "-"
        lines.append(f"{words}{' weigh' * line.weigh}{' rinse' * line.rinse} {line.finer or ''}".strip())
    comes_to = [f"{one.verdict} {one.words}" for one in found.result.verdicts]
    return "\n  ".join([f"{found.result.total.volume_mL:.6g} mL {'; '.join(comes_to)}", *lines])


def test_small_and_large_batches_in_every_kitchen_are_as_kept() -> None:
    """An eighth of a house formula is near what a spoon can do, and four times is past it."""
    sections = {}
    for key, house in house_formulas().items():
        for times in (0.13, 3.7):
            make = reckon(house.formula).total
            size = Quantity(make.mass_g * times, "g") if house.formula.dry else Quantity(make.volume_mL * times, "mL")
            formula = house.formula.scaled_to(size)
            sections[f"{key} x {times:g}"] = "\n".join(
                f"{name}: {rounded(formula, kitchen)}" for name, kitchen in kitchens().items()
            )
    same_as_kept(Path(__file__).parent / "rounded.txt", sections)
