"""Working out formulas: sizes, ratios, topping up, and what is refused."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, reckon
from mixes import alcohols, line, mix


def amounts(formula: Formula) -> list[float]:
    return [round(worked.volume_mL, 1) for worked in reckon(formula).lines]


SIZES = [
    # parts alone: 1 part = 100 mL
    (mix(("castile-soap", "1 part"), ("water", "3 parts")), [100, 300]),
    # parts to a size, nothing shrinks
    (mix(("castile-soap", "1 part"), ("water", "3 parts"), make="2 L"), [500, 1500]),
    # amounts grow in proportion to the size
    (mix(("castile-soap", "100 mL"), ("water", "300 mL"), make="2 L"), [500, 1500]),
    # 1 % of 5 L is 50 mL
    (mix(("phenoxyethanol", "1 %"), ("water", "q.s."), make="5 L"), [50, 4950]),
    (mix(("phenoxyethanol", "1 %"), ("water", "99 %"), make="5 L"), [50, 4950]),
    # per cents that miss 100 stay per cents of the size
    (mix(("glycerol", "2 %"), ("water", "95 %"), make="1 L"), [20, 950]),
    # drops stay drops while the parts share the rest
    (mix(("castile-soap", "1 part"), ("water", "3 parts"), ("dye", "20 drops"), make="401 mL"), [100, 300, 1]),
    # amounts as the rest of per cents
    (mix(("glycerol", "10 %"), ("water", "90 mL")), [10, 90]),
]


@pytest.mark.parametrize(("formula", "volumes"), SIZES)
def test_lines_come_to_their_size(formula: Formula, volumes: list[float]) -> None:
    assert amounts(formula) == pytest.approx(volumes, abs=0.06)


volumes = st.floats(min_value=1, max_value=5000)


def masses(formula: Formula) -> list[float]:
    return [round(worked.mass_g, 1) for worked in reckon(formula).lines]


WEIGHTS = [
    (mix(("raw-sugar", "1 part"), ("citrus-peel", "3 parts"), ("water", "10 parts"), basis="weight",
         make="14 kg"), [1000, 3000, 10000]),
    # powders by volume turn to grams by bulk density: 0.88, 0.85, 1.0, 1.25 g/mL (common practice)
    (mix(("citric-acid", "1 part"), ("borax", "2 parts"), ("washing-soda", "2 parts"), ("salt", "1 part")),
     [88, 170, 200, 125]),
    (mix(("labsa", "10 %", "98 %"), ("water", "q.s."), basis="weight", make="5 kg"), [500, 4500]),
]  # fmt: skip


@pytest.mark.parametrize(("formula", "grams"), WEIGHTS)
def test_lines_come_to_their_weight(formula: Formula, grams: list[float]) -> None:
    assert masses(formula) == pytest.approx(grams, abs=0.1)


def test_a_percent_by_weight_of_a_volume_is_of_the_weight_of_that_volume() -> None:
    formula = mix(("glycerol", "50 %"), ("water", "q.s."), basis="weight", make="1 L")
    result = reckon(formula)
    assert result.total.volume_mL == pytest.approx(1000)
    assert result.lines[0].mass_g == pytest.approx(result.total.mass_g / 2)


REFUSED = [
    (mix(("ethanol", "800 mL", "96 %"), ("water", "q.s.")), ("make",), "say how much to make"),
    (mix(("ethanol", "1200 mL", "96 %"), ("water", "q.s."), make="1 L"), ("make",), "already come to 1200"),
    (mix(("ethanol", "q.s."), ("water", "q.s."), make="1 L"), ("lines", 0, "amount"), "Only one line"),
    (mix(("salt", "q.s."), ("water", "1 L"), make="2 L"), ("lines", 0, "amount"), "is a solid"),
    (mix(("ethanol", "2 parts"), ("water", "q.s."), make="1 L"), ("lines", 1, "amount"), "Parts and q.s."),
    (mix(("ethanol", "1 L", "90 % w/v")), ("lines", 0, "strength"), "more than pure"),
    (mix(("water", "2 parts"), ("dye", "2 L"), make="1 L"), ("make",), "already come to"),
    (mix(("water", "2 parts"), ("dye", "2 %")), ("make",), "how much to make"),
    (Formula("Nothing", ()), ("lines",), "Nothing goes in"),
]  # fmt: skip


@pytest.mark.parametrize(("formula", "path", "says"), REFUSED)
def test_what_cannot_be_worked_out_says_where_and_why(formula, path, says) -> None:
    with pytest.raises(CannotReckon, match=says) as caught:
        reckon(formula)
    assert caught.value.path == path


strengths = st.floats(min_value=1, max_value=100)


@given(alcohols, strengths, volumes, volumes, st.sampled_from(["2 L", "30 mL", "5 kg", "3 gal", "2 lb"]))
def test_scaling_leaves_every_strength_unchanged(alcohol, percent, stock, additive, make) -> None:
    formula = mix(
        (alcohol, f"{stock:.6f} mL", f"{percent:.6f} %"),
        ("aloe-gel", f"{additive:.6f} mL"),
        ("glycerol", "3 mL"),
    )
    size = line("water", make).amount
    before, after = reckon(formula), reckon(formula.scaled_to(size))
    got = after.total.volume_mL if size.kind == "volume" else after.total.mass_g
    assert got == pytest.approx(size.mL if size.kind == "volume" else size.g)
    for one, other in zip(before.actives, after.actives, strict=True):
        assert (one.label, one.true) == pytest.approx((other.label, other.true))
