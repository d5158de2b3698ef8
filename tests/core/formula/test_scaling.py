"""Ways to say how much to make."""

import pytest

from firkin.core.errors import CannotReckon
from firkin.core.formula import enough, house_formulas, reckon, scale
from mixes import mix

RUB = house_formulas()["who-one"].formula


WAYS = [
    ("size", "1,5 L", 1500.0),
    ("size", "2 quarts", 1892.7),
    ("bottles", "6 × 500 mL", 2850.0),
    ("bottles", "2 bottles of 1 L", 1900.0),
    ("vessel", "2.5 L", 2375.0),
    ("stock", "416.65 mL", 500.0),
    ("times", "1/20", 50.0),
    ("times", "3", 3000.0),
]


@pytest.mark.parametrize(("way", "text", "size"), WAYS)
def test_a_formula_is_scaled_in_the_ways_makers_speak(way: str, text: str, size: float) -> None:
    result = reckon(scale(RUB, way, text))
    assert result.total.volume_mL == pytest.approx(size, rel=1e-3)
    assert result.actives[0].label == pytest.approx(80.0, abs=0.01)


@pytest.mark.parametrize(
    ("way", "text"), [("bottles", "six"), ("bottles", "0 × 500 mL"), ("times", "-1"), ("times", "often"), ("vessel", "2 kg"), ("size", "2 parts"), ("stock", "")]
)  # fmt: skip
def test_a_size_that_says_nothing_is_refused(way: str, text: str) -> None:
    with pytest.raises(CannotReckon):
        scale(RUB, way, text)


def test_a_stock_is_counted_once_for_all_lines_of_its_material() -> None:
    """9 L of the laundry soap take 4 L of water and a top-up of some 4.7 L."""
    soap = reckon(house_formulas()["laundry-concentrate"].formula)
    water_g = sum(line.mass_g for line in soap.lines if line.material.id == "water")
    found = enough(soap, {"water": water_g / 2, "borax": 1000.0})
    assert found is not None
    assert found.make.mL == pytest.approx(4500, abs=1)
    assert [soap.lines[i].material.id for i in (found.limiting, *found.missing)] == [
        "water",
        "bar-soap",
        "washing-soda",
    ]


def test_using_up_a_measure_of_powder_counts_it_loose() -> None:
    """350 mL of fine salt weigh 437.5 g loose (1.25 g/mL, common practice), not 756 g as solid crystal."""
    brine = mix(("salt", "100 g"), ("water", "400 g"))
    scaled = reckon(scale(brine, "stock", "350 mL"))
    assert scaled.lines[0].mass_g == pytest.approx(437.5, rel=1e-3)


def test_a_shelf_with_nothing_of_it_cannot_say_how_much_to_make() -> None:
    rub = house_formulas()["who-one"].formula
    for shelf in ({}, {"sles": 500.0}, {"ethanol": 0.0}):
        with pytest.raises(CannotReckon):
            scale(rub, "shelf", "", shelf)
    assert scale(rub, "shelf", "", {"ethanol": 1000.0}).make is not None
