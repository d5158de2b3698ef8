"""Kitchen measures: the search, and the active guarded while rounding."""

import math
from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.errors import CannotReckon
from firkin.core.formula import house_formulas, reckon
from firkin.core.kitchen import MOST_FILLINGS, Kitchen, Measure, in_kitchen, kitchens, measure_out
from mixes import mix
from often import tries

SMALL = (Measure("cup", 240.0, 5.0), Measure("half", 120.0, 5.0), Measure("spoon", 15.0, 6.0), Measure("tea", 5.0, 6.0))


def brute_force(amount: float, measures: tuple[Measure, ...]) -> int | None:
    """The fewest fillings within the measures' own error, by trying every number of each."""
    best = None
    for counts in product(range(9), repeat=len(measures)):
        if not any(counts) or sum(1 for count in counts if count) > 3:
            continue
        total = sum(count * measure.size for count, measure in zip(counts, measures, strict=True))
        error = sum(c * m.size * m.error_pct / 100 for c, m in zip(counts, measures, strict=True))
        if abs(total - amount) <= error and (best is None or sum(counts) < best):
            best = sum(counts)
    return best


@given(st.floats(min_value=4, max_value=900))
def test_the_search_finds_as_few_fillings_as_brute_force(amount: float) -> None:
    wanted = brute_force(amount, SMALL)
    found = measure_out(amount, SMALL)
    fillings = sum(round(poured / measure.size) for poured, measure in found.parts)
    if wanted is not None:
        assert abs(found.total - amount) <= found.error
        assert fillings <= wanted


@given(
    st.floats(min_value=0.2, max_value=20_000),
    st.sampled_from(sorted(kitchens())),
    st.sampled_from(["near", "up", "down"]),
)
def test_a_combination_adds_up_and_keeps_to_its_side(amount: float, kitchen: str, side: str) -> None:
    try:
        found = measure_out(amount, kitchens()[kitchen].measures, side)
    except CannotReckon:
        assert side == "down" or amount > 3000 or amount < 1
        return
    assert found.total == pytest.approx(sum(poured for poured, _ in found.parts))
    if side == "up":
        assert found.total >= amount - 1e-6
    if side == "down":
        assert found.total <= amount + 1e-6
    assert all(poured / measure.size <= MOST_FILLINGS + 1e-9 for poured, measure in found.parts)


def test_rounding_never_lets_the_active_fall_below_a_line_it_holds() -> None:
    coarse = Kitchen("coarse", "Coarse", (Measure("mug", 200.0, 10.0), Measure("egg cup", 40.0, 10.0)))
    exact = reckon(mix(("ethanol", "430 mL", "91 %"), ("aloe-gel", "190 mL"), guidelines=("cdc-alcohol-60",)))
    assert exact.verdicts[0].verdict == "meets"
    for kitchen in (coarse, *kitchens().values()):
        assert in_kitchen(exact, kitchen).result.verdicts[0].verdict != "short"


@pytest.mark.parametrize("key", house_formulas())
def test_every_house_formula_keeps_its_line_in_every_kitchen(key: str) -> None:
    exact = reckon(house_formulas()[key].formula)
    for kitchen in kitchens().values():
        rounded = in_kitchen(exact, kitchen)
        assert "short" not in [verdict.verdict for verdict in rounded.result.verdicts], kitchen.name
        assert len(rounded.lines) == len(exact.lines)


def test_the_line_that_hurts_most_is_named_and_a_hopeless_one_is_weighed() -> None:
    exact = reckon(mix(("ethanol", "833.3 mL", "96 %"), ("dye", "0.2 mL"), ("water", "q.s."), make="1 L"))
    rounded = in_kitchen(exact, kitchens()["metric"])
    assert rounded.worst == 0
    assert rounded.lines[1].weigh
    assert rounded.lines[2].combination is None


def test_a_powder_is_measured_by_its_loose_volume() -> None:
    """236.6 mL of salt at 1.25 g/mL, common practice: 295.7 g."""
    rounded = in_kitchen(reckon(mix(("salt", "295.7 g"), ("borax", "201 g"))), kitchens()["us"])
    assert [line.combination.words for line in rounded.lines] == ["1 × cup", "1 × cup"]


RUB = house_formulas()["who-one"].formula


def test_the_verdict_after_rounding_counts_how_well_cups_measure() -> None:
    """By hand: 2 : 1 of 91 % is 60.67 %; cups 5 % off either way 1.9 : 1.05, 58.6 %; a scale 1 % off, 60.3 %."""
    rub = mix(("isopropanol", "4 cups", "91 %"), ("aloe-gel", "2 cups"), guidelines=("cdc-alcohol-60",))
    exact = reckon(rub)
    verdicts = {name: in_kitchen(exact, kitchens()[name]).result.verdicts[0].verdict for name in ("us", "scale")}
    assert exact.verdicts[0].verdict == "meets"
    assert verdicts == {"us": "on-the-line", "scale": "meets"}


@tries(40)
@given(
    stock=st.integers(62, 99),
    alcohol=st.floats(20, 4000),
    gel=st.floats(5, 1500),
    glycerol=st.floats(0.5, 60),
    topped=st.booleans(),
    kitchen=st.sampled_from(sorted(kitchens())),
)
def test_no_rounding_in_any_kitchen_takes_a_rub_below_a_line_it_held(
    stock: int, alcohol: float, gel: float, glycerol: float, topped: bool, kitchen: str
) -> None:
    lines = [("ethanol", f"{alcohol:.5g} mL", f"{stock} %"), ("aloe-gel", f"{gel:.5g} mL"), ("glycerol", f"{glycerol:.5g} mL")]  # fmt: skip
    size = f"{alcohol + gel + glycerol:.5g} mL" if topped else ""
    exact = reckon(mix(*lines, *([("water", "q.s.")] if topped else []), make=size, guidelines=("cdc-alcohol-60",)))
    try:
        rounded = in_kitchen(exact, kitchens()[kitchen])
    except CannotReckon:  # too coarse for this size: nothing is shown
        return
    if exact.verdicts[0].verdict != "short":
        assert rounded.result.verdicts[0].verdict != "short"


@given(
    st.floats(3.0, 700.0),
    st.sampled_from([(240.0, 60.0), (60.0, 15.0), (250.0, 20.0), (100.0, 5.0)]),
    st.sampled_from(["near", "up", "down"]),
    st.sampled_from([1.0, 0.25]),
    st.sampled_from([(0.0, math.inf), (0.97, 1.03), (1.0, 1.2)]),
)
def test_of_all_fillings_of_two_cups_the_fewest_that_will_do(
    amount: float, sizes: tuple[float, float], side: str, slack: float, share: tuple[float, float]
) -> None:
    """Against every number of each of two cups tried one by one: the fewest fillings within what they err by, then the
    fewest kinds, then the nearest; where none is, the nearest of all.
    """
    large, small = (Measure(f"{size:g}", size, 4.0) for size in sizes)
    band = (share[0] * amount, share[1] * amount)
    every = []
    for a in range(MOST_FILLINGS + 1):
        for b in range(MOST_FILLINGS + 1 - a):
            total = a * large.size + b * small.size
            wrong = (side == "up" and total < amount - 1e-9) or (side == "down" and total > amount + 1e-9)
            if a + b and not wrong and band[0] <= total <= band[1]:
                every.append((a + b, (a > 0) + (b > 0), abs(total - amount), 0.04 * total))
    fit = [one for one in every if one[2] <= slack * one[3]]
    if not fit:
        return
    found = measure_out(amount, (large, small), side, "mL", slack, band)
    best = min(fit, key=lambda one: one[:3])
    assert (found.fillings, len(found.parts)) == best[:2]
    assert abs(found.total - amount) == pytest.approx(best[2], abs=1e-6)
    assert found.error == pytest.approx(0.04 * found.total)
