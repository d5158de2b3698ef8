"""Small changes to a formula: they do what they say and nothing else."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import (
    Formula,
    Line,
    added,
    house_formulas,
    moved,
    percent_total,
    reckon,
    reordered,
    scaled_lines,
    swapped,
    with_mass,
    without,
)
from firkin.core.measures import Quantity
from mixes import mix

HOUSE = [house.formula for house in house_formulas().values()]


def named(formula: Formula) -> list[list[str]]:
    """The materials each step names."""
    return [[formula.lines[line].material.id for line in step.lines] for step in formula.steps]


@given(st.data())
def test_steps_go_on_naming_the_same_materials_however_lines_are_moved(data: st.DataObject) -> None:
    formula = data.draw(st.sampled_from(HOUSE))
    places = list(range(len(formula.lines)))
    order = data.draw(st.permutations(places))
    turned = reordered(formula, order)
    assert named(turned) == named(formula)
    back = reordered(turned, [order.index(place) for place in places])
    assert back == formula
    at, to = data.draw(st.sampled_from(places)), data.draw(st.sampled_from(places))
    assert moved(formula, at, to).lines[to] == formula.lines[at]
    assert named(moved(formula, at, to)) == named(formula)


@given(st.data())
def test_a_line_taken_out_is_named_by_no_step(data: st.DataObject) -> None:
    formula = data.draw(st.sampled_from([one for one in HOUSE if len(one.lines) > 1]))
    gone = data.draw(st.integers(0, len(formula.lines) - 1))
    left = without(formula, gone)
    assert len(left.lines) == len(formula.lines) - 1
    assert named(left) == [
        [name for line, name in zip(step.lines, names, strict=True) if line != gone]
        for step, names in zip(formula.steps, named(formula), strict=True)
    ]


def test_nothing_is_left_of_a_formula_without_its_only_line() -> None:
    assert without(mix(("water", "1 L")), 0) is None


ADDED_TO = [
    mix(("castile-soap", "1 part"), ("water", "3 parts")),
    mix(("castile-soap", "1 part"), ("water", "3 parts"), make="2 L"),
    mix(("castile-soap", "250 mL"), ("water", "750 mL")),
    mix(("castile-soap", "250 mL"), ("water", "750 mL"), make="5 L"),
    mix(("castile-soap", "250 mL"), ("water", "q.s."), make="1 L"),
    mix(("sles", "20 %"), ("water", "80 %"), basis="weight", make="5 kg"),
    mix(("sles", "20 %"), ("water", "80 %"), basis="weight"),
]


@pytest.mark.parametrize("formula", ADDED_TO)
@pytest.mark.parametrize("material", ["phenoxyethanol", "citric-acid", "glycerol"])
def test_what_is_added_comes_to_the_share_asked_for(formula: Formula, material: str) -> None:
    """0.8 % of the batch by weight, in whatever manner the formula gives its amounts."""
    before = reckon(formula)
    after = reckon(added(before, material, before.total.mass_g * 0.008))
    share = next(line for line in after.lines if line.material.id == material).share_w_pct
    assert share == pytest.approx(0.8, rel=0.03)  # 0.8 of 100.8, or of 100


@given(st.sampled_from(HOUSE), st.floats(0.2, 5))
def test_a_line_brought_to_a_mass_has_it_in_proportion_to_the_others(formula: Formula, factor: float) -> None:
    result = reckon(formula)
    at = next(i for i, line in enumerate(formula.lines) if line.amount.kind != "qs")
    try:
        after = reckon(with_mass(result, at, result.lines[at].mass_g * factor))
    except CannotReckon:
        assert formula.topped_up is not None  # no room for more
        return
    others = [
        i for i, line in enumerate(formula.lines) if i != at and line.amount.kind == formula.lines[at].amount.kind
    ]
    for other in others:
        was = result.lines[at].mass_g / result.lines[other].mass_g
        now = after.lines[at].mass_g / after.lines[other].mass_g
        assert now / was == pytest.approx(factor, rel=2e-3)


@given(st.lists(st.floats(1, 60), min_size=2, max_size=6), st.floats(0.1, 4))
def test_per_cents_scaled_still_add_up_to_a_hundred(shares: list[float], factor: float) -> None:
    whole = sum(shares)
    formula = mix(*(("glycerol", f"{100 * share / whole:.6f} %") for share in shares))
    scaled = scaled_lines(formula, [0], factor)
    assert sum(line.amount.value for line in scaled.lines) == pytest.approx(100)


def test_a_swapped_line_keeps_its_amount_and_takes_the_usual_strength() -> None:
    formula = mix(("lemon-oil", "2 mL"), ("ethanol", "1 L", "96 %"))
    turned = swapped(formula, 0, "lavender-oil")
    assert (turned.lines[0].material, turned.lines[0].amount) == (find("lavender-oil"), formula.lines[0].amount)
    assert swapped(formula, 1, "isopropanol").lines[1].strength is None


@pytest.mark.parametrize("basis", ["volume", "weight"])
def test_what_is_added_to_per_cents_has_its_share_by_what_they_count(basis: str) -> None:
    """28 g of borax in 100 g or mL of something else: by weight and by volume it is another share."""
    lines = (Line(find("water"), Quantity(90.0, "%")), Line(find("glycerol"), Quantity(10.0, "%")))
    mix = Formula("Mix", lines, "other", basis, make=Quantity(1.0, "L"))
    before = reckon(mix)
    after = added(before, "glycerol", 100.0)
    per_mL = find("glycerol").density
    share = 100.0 * (100.0 / per_mL / before.total.volume_mL if basis == "volume" else 100.0 / before.total.mass_g)
    assert after.lines[-1].amount.unit == "%"
    assert after.lines[-1].amount.value == pytest.approx(share, rel=0.02)
    assert percent_total(after) == pytest.approx(100.0, abs=0.01)
