"""Lifting and thinning a batch come to their target by the mixture model."""

import pytest
from hypothesis import assume, given

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.measures import Strength
from firkin.core.questions.adjustment import strengthen, weaken
from firkin.core.questions.blending import WATER
from mixes import alcohols, mix, mixed, percents, sizes, vv


@given(alcohols, sizes, percents, percents, percents)
def test_a_lifted_batch_is_at_its_target(alcohol, size, one, two, three) -> None:
    now, target, stock = sorted((one, two, three))
    assume(target - now > 0.1)
    assume(stock - target > 0.1)
    lifted = strengthen(find(alcohol), size, vv(now), vv(stock), vv(target))
    result = mixed(alcohol, (size, now), (lifted.add_mL, stock))
    assert result.actives[0].true == pytest.approx(target, abs=2e-3)
    assert result.total.volume_mL == pytest.approx(lifted.new_volume_mL, rel=1e-5)
    back = weaken(find(alcohol), size, vv(stock), vv(now), vv(target))
    assert back.add_mL > 0


def test_what_is_poured_off_makes_room_for_the_whole_adjustment() -> None:
    lifted = strengthen(find("ethanol"), 900.0, vv(50.0), vv(96.0), vv(60.0))
    off = lifted.pour_off(900.0, 1000.0)
    again = strengthen(find("ethanol"), 900.0 - off, vv(50.0), vv(96.0), vv(60.0))
    assert again.new_volume_mL == pytest.approx(1000.0)
    assert lifted.pour_off(900.0, 5000.0) == 0


def test_a_batch_by_weight_is_held_against_a_target_by_volume() -> None:
    """60 % w/w ethanol is 67.7 % v/v, 80 % w/w is 85.5 (OIML R 22)."""
    ethanol = find("ethanol")
    with pytest.raises(CannotReckon, match=r"67\.74 % v/v.*needs nothing"):
        strengthen(ethanol, 1000.0, Strength.of(60.0, "w/w"), vv(96.0), vv(65.0))
    with pytest.raises(CannotReckon, match="already"):
        weaken(ethanol, 1000.0, vv(85.0), WATER, Strength.of(80.0, "w/w"))
    thinned = weaken(ethanol, 1000.0, Strength.of(80.0, "w/w"), WATER, vv(82.0))
    mixed = reckon(mix(("ethanol", "1000 mL", "80 % w/w"), ("water", f"{thinned.add_mL} mL")))
    assert mixed.main.true == pytest.approx(82.0, abs=1e-3)


def test_what_is_at_its_target_needs_nothing_and_a_hair_beside_it_does() -> None:
    ethanol = find("ethanol")
    with pytest.raises(CannotReckon, match="already"):
        strengthen(ethanol, 1000.0, vv(70.0), vv(96.0), vv(70.0))
    assert strengthen(ethanol, 1000.0, vv(69.9), vv(96.0), vv(70.0)).add_mL > 0.0
    with pytest.raises(CannotReckon) as refused:
        weaken(ethanol, 1000.0, vv(70.0), WATER, vv(70.0))
    assert refused.value.path == ("target",)
    assert weaken(ethanol, 1000.0, vv(70.1), WATER, vv(70.0)).add_mL > 0.0
