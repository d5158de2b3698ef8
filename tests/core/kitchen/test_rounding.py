"""Rounding to a kitchen's measures moves nothing past what it bears, and says where it cannot."""

from dataclasses import replace
from functools import partial
from pathlib import Path

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.audit import audit
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, house_formulas, reckon
from firkin.core.kitchen import Kitchen, Measure, against_vessel, in_kitchen, kitchens, measure_out, placed
from firkin.core.kitchen.kitchen import exactly
from firkin.core.measures import Quantity, read_quantity
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


def in_every_kitchen(formula: Formula) -> str:
    return "\n".join(f"{name}: {rounded(formula, kitchen)}" for name, kitchen in kitchens().items())


def test_small_and_large_batches_in_every_kitchen_are_as_kept() -> None:
    """An eighth of a house formula is near what a spoon can do, and four times is past it."""
    sections = {}
    for key, house in house_formulas().items():
        for times in (0.13, 3.7):
            make = reckon(house.formula).total
            size = Quantity(make.mass_g * times, "g") if house.formula.dry else Quantity(make.volume_mL * times, "mL")
            formula = house.formula.scaled_to(size)
            sections[f"{key} x {times:g}"] = partial(in_every_kitchen, formula)
    same_as_kept(Path(__file__).parent / "rounded.txt", sections)


US, METRIC, SCALE = kitchens()["us"], kitchens()["metric"], kitchens()["scale"]
DRAWER = tuple(
    Measure(f"m{size}", float(size), 2.0 + size % 3)
    for size in (1, 2, 3, 5, 7, 11, 15, 23, 40, 60, 95, 130, 210, 340, 500, 900)
)
KITCHENS = {
    **kitchens(),
    "cups and scale": replace(US, scale=SCALE.measures[-1]),
    "jug and scale": replace(METRIC, scale=SCALE.measures[0]),
    "drawer": Kitchen("drawer", "Drawer", DRAWER),
    "twelve": Kitchen("twelve", "Twelve", DRAWER[:12]),
    "coarse": Kitchen("coarse", "Coarse", (Measure("bucket", 1000.0, 10.0), Measure("mug", 300.0, 10.0))),
}  # fmt: skip
AMOUNTS = (0.4, 2.5, 7.0, 14.79, 33.3, 59.0, 118.3, 187.8, 236.588, 250.0, 418.0, 751.5, 850.0, 1310.0, 4800.0)


def words(find) -> str:
    try:
        found = find()
    except CannotReckon as error:
        return str(error)
    if found is None or isinstance(found, str):
        return found or "-"
    return f"{found.words} = {found.total:.6g} ± {found.error:.4g}"


@pytest.mark.long
def test_amounts_in_every_kitchen_are_as_kept() -> None:
    sections = {}
    for name, kitchen in KITCHENS.items():
        rows = []
        for amount in AMOUNTS:
            grams = 0.81 * amount
            rows.append(
                f"{amount:g}: {words(lambda a=amount, k=kitchen, g=grams: placed(a, g, k))}"
                f" | {words(lambda a=amount, k=kitchen, g=grams: exactly(a, g, k))}"
                f" | up {words(lambda a=amount, k=kitchen: measure_out(a, k.measures, 'up'))}"
                f" | down {words(lambda a=amount, k=kitchen: measure_out(a, k.measures, 'down', slack=0.25))}"
            )
        sections[name] = "\n".join(rows)
    same_as_kept(Path(__file__).parent / "amounts.txt", sections)


MIXES = {
    **{key: one.formula for key, one in house_formulas().items()},
    "acid and base": mix(("water", "744 g"), ("caustic-soda", "8.7 g"), ("labsa", "70 g", "98 %"), ("sles", "170 g", "28 %"), family="dish-liquid", basis="weight"),
    "gel": mix(("carbomer", "4 g"), ("water", "300 mL"), ("ethanol", "700 mL", "96 %"), ("triethanolamine", "6 mL"), family="gel", guidelines=("cdc-alcohol-60",)),
    "two oils": mix(("castile-soap", "200 mL"), ("water", "800 mL"), ("lemon-oil", "1 mL"), ("lavender-oil", "3 mL"), family="foaming-soap"),
    "on its line": mix(("ethanol", "630 mL", "96 %"), ("aloe-gel", "370 mL"), family="aloe-rub", guidelines=("cdc-alcohol-60",)),
    "in a window": mix(("isopropanol", "752 mL", "99.8 %"), ("water", "q.s."), make="1 L", family="liquid-rub", guidelines=("who-isopropanol",)),
    "small": mix(("ethanol", "83 mL", "96 %"), ("water", "q.s."), make="100 mL", family="liquid-rub", guidelines=("who-ethanol",)),
}  # fmt: skip


def in_one_line(formula: Formula, kitchen: Kitchen) -> str:
    try:
        found = in_kitchen(reckon(formula), kitchen)
    except CannotReckon as error:
        return str(error)[:60]
    lines = []
    for line in found.lines:
        said = line.combination.words if line.combination is not None else "-"
        lines.append(f"{said} ({100 * line.off:.2f}){'w' * line.weigh}{'r' * line.rinse}{'f' * bool(line.finer)}")
    errors = ",".join(f"{one.error:.3f}" for one in found.result.formula.lines)
    verdicts = ",".join(f"{one.verdict} {one.margin_points:.2f}" for one in found.result.verdicts)
    return f"{'; '.join(lines)} | worst {found.worst} | guarded {found.guarded} | {errors} | {verdicts}"


@pytest.mark.long
def test_formulas_in_every_kitchen_are_as_kept() -> None:
    """Each in the kitchens that treat it differently; of two alike the first is told."""
    sections = {}
    for key, formula in MIXES.items():
        said: dict[str, str] = {}
        for times in (0.3, 1.0):
            total = reckon(formula).total
            size = Quantity(total.mass_g * times, "g") if formula.dry else Quantity(total.volume_mL * times, "mL")
            sized = formula if times == 1.0 else formula.scaled_to(size)
            for name in ("us", "scale", "cups and scale", "jug and scale", "drawer", "coarse"):
                said[f"x {times:g} {name}"] = in_one_line(sized, KITCHENS[name])
        told = {
            name: one
            for name, one in said.items()
            if one not in [said[b] for b in list(said)[: list(said).index(name)]]
        }
        sections[key] = "\n".join(f"{name}: {one}" for name, one in told.items())
    same_as_kept(Path(__file__).parent / "formulas.txt", sections)


def test_what_each_vessel_holds_of_it_is_as_kept() -> None:
    sections = {}
    for key in ("who-one", "foam-plain", "citrus-ferment", "dish-gentle", "bar-soap-liquid", "laundry-bottle"):
        result = reckon(MIXES[key])
        made = result.total.volume_mL
        rows = []
        for times in (0.5, 0.95, 1.0, 1.05, 1.3, 2.0):
            volume = made * times
            rows.append(f"x {times:g}: {told(lambda r=result, v=volume: against_vessel(r, 'Jug', v, 'glass'))}")
        sections[key] = "\n".join(rows)
    same_as_kept(Path(__file__).parent / "vessels.txt", sections)


def told(find) -> str:
    try:
        return repr(find())
    except CannotReckon as error:
        return str(error)


def test_a_size_that_is_read_is_a_size_that_is_tried() -> None:
    """A jug's marks and a bucket: an amount between two marks goes to the nearer one, and to the side that is asked."""
    for written, near, up, down in (("333 mL", 350.0, 350.0, 300.0), ("501 mL", 500.0, 550.0, 500.0)):
        amount = read_quantity(written).mL
        jug = (Measure("jug", 1000.0, 0.1, 50.0),)
        found = [measure_out(amount, jug, side).total for side in ("near", "up", "down")]
        assert found == [near, up, down]


# Limits on either side, and the last of a kind.


@pytest.mark.parametrize(("oil", "share", "limit"), [("lemon-oil", 0.9, 2.0), ("lemon-oil", 0.5, 2.0)])
def test_an_oil_that_burns_skin_in_the_sun_is_not_rounded_past_its_limit(oil: str, share: float, limit: float) -> None:
    """IFRA on phototoxic oils, as the catalogue has it: at 0.9 of its limit a spoon may not take it over."""
    pct = share * (house_oil(oil) or limit)
    mixed = mix(("castile-soap", "200 g"), ("water", "800 g"), (oil, f"{10.0 * pct:g} g"), family="foaming-soap")
    exact = reckon(mixed)
    for kitchen in KITCHENS.values():
        try:
            found = in_kitchen(exact, kitchen)
        except CannotReckon:
            continue
        assert found.result.lines[2].pure_share_w_pct <= (house_oil(oil) or limit) * 1.0001


def house_oil(oil: str) -> float | None:
    from firkin.core.catalogue import find

    return find(oil).phototoxic_pct


def test_two_such_oils_count_together() -> None:
    """Half of each limit and a little over the other half: together they may not pass one."""
    from firkin.core.catalogue import find

    oils = [one for one in ("lemon-oil", "bergamot-oil", "lime-oil", "grapefruit-oil") if find(one).phototoxic_pct]
    assert oils
    grams = [10.0 * 0.46 * (find(one).phototoxic_pct or 0.0) for one in (oils * 2)[:2]]
    mixed = mix(
        ("castile-soap", "200 g"), ("water", "800 g"), (oils[0], f"{grams[0]:g} g"), ((oils * 2)[1], f"{grams[1]:g} g"),
        family="foaming-soap",
    )  # fmt: skip
    for kitchen in KITCHENS.values():
        try:
            found = in_kitchen(reckon(mixed), kitchen)
        except CannotReckon:
            continue
        together = sum(one.pure_share_w_pct / (one.material.phototoxic_pct or 1.0) for one in found.result.lines[2:])
        assert together <= 1.0001


@pytest.mark.parametrize(("grams", "taken"), [(1.2345, "12.3 mL"), (0.98765, "9.88 mL"), (9.99, "99.9 mL")])
def test_a_solution_is_told_in_figures_a_syringe_has(grams: float, taken: str) -> None:
    mixed = mix(
        ("water", "100 g"), ("caustic-soda", f"{grams} g"), ("labsa", f"{grams * 320.0 / 40.0 / 0.99:.4f} g", "98 %"),
        family="dish-liquid", basis="weight",
    )  # fmt: skip
    said = [line.finer for line in in_kitchen(reckon(mixed), SCALE).lines if "solution" in line.finer]
    assert not said or f"take {taken} of it" in said[0]


def test_what_ten_grams_and_more_take_is_no_solution() -> None:
    mixed = mix(
        ("water", "1 kg"), ("caustic-soda", "10.04 g"), ("labsa", "81.1 g", "98 %"), family="dish-liquid", basis="weight"
    )  # fmt: skip
    assert not any("solution" in line.finer for line in in_kitchen(reckon(mixed), SCALE).lines)


def test_what_only_the_scale_beside_the_cups_can_place_is_weighed_exactly() -> None:
    kit = replace(US, scale=Measure("scale", 2000.0, 1.0, 1.0))
    assert exactly(5.93, 7.0, US) is None
    found = exactly(5.93, 7.0, kit)
    assert found is not None
    assert (found.total, found.unit) == (7.0, "g")


@pytest.mark.parametrize(("count", "tried"), [(11, 11), (12, 12), (13, 12), (16, 12)])
def test_of_a_drawer_full_of_measures_twelve_are_tried(count: int, tried: int) -> None:
    from firkin.core.kitchen.kitchen import _candidates

    found = _candidates(8.0, DRAWER[:count])
    assert (len(found) if count <= 12 else min(len(found), 12)) <= tried
    sizes = [one.size for one in found]
    assert sizes == sorted(sizes, reverse=True)
    if count <= 12:
        assert len(found) == count


def test_an_amount_that_is_there_exactly_is_on_no_wrong_side() -> None:
    """A cup is a cup, upward and downward, with as few fillings as there are."""
    for side in ("near", "up", "down"):
        found = measure_out(US.measures[2].size, US.measures, side)
        assert (pytest.approx(found.total), found.fillings) == (236.588, 1)
    jug = (Measure("jug", 1000.0, 4.0, 50.0),)
    assert measure_out(50.0, jug).total == 50.0
    assert measure_out(10.0, jug, "up").total == 50.0
