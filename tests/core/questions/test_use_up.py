"""Using up a bottle comes to the target, and to the size, by the mixture model."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from firkin.core.catalogue import Stock, find
from firkin.core.errors import CannotReckon
from firkin.core.questions.use_up import use_up
from mixes import alcohols, mixed, percents, sizes, vv


def shelf(alcohol: str, *strengths: float) -> list[Stock]:
    return [Stock(f"bottle {i}", alcohol, vv(strength)) for i, strength in enumerate(strengths)]


@given(alcohols, percents, percents, percents, sizes)
def test_what_is_left_of_a_bottle_and_the_farthest_other_come_to_the_target(alcohol, left, target, other, used) -> None:
    assume(target < 99)
    stocks = shelf(alcohol, left, other, 0.0, 100.0)
    made = use_up(find(alcohol), stocks, vv(target), 0, used)
    pairs = [(volume, stock.strength.value) for volume, stock in zip(made.volumes_mL, stocks, strict=True)]
    result = mixed(alcohol, *(pair for pair in pairs if pair[1]), water_mL=pairs[2][0])
    assert made.volumes_mL[0] == pytest.approx(used)
    assert result.actives[0].true == pytest.approx(target, abs=2e-3)
    assert result.total.volume_mL == pytest.approx(made.make_mL, rel=1e-5)
    assert sum(volume > 0 for volume in made.volumes_mL) <= 2
    assert made.volumes_mL[1] == 0 or other in (0.0, 100.0)  # water and pure alcohol are always farther


@given(alcohols, percents, percents, st.floats(0.01, 0.3), sizes)
def test_with_a_size_the_strongest_and_the_weakest_of_the_others_make_it_up(alcohol, left, target, part, size) -> None:
    assume(target < 95)
    stocks = shelf(alcohol, left, 0.0, 100.0)
    try:
        made = use_up(find(alcohol), stocks, vv(target), 0, size * part, size)
    except CannotReckon:
        assert left * part > target * 0.9 or (100 - left) * part > (100 - target) * 0.7
        return
    result = mixed(alcohol, (size * part, left), (made.volumes_mL[2], 100.0), water_mL=made.volumes_mL[1])
    assert result.actives[0].true == pytest.approx(target, abs=2e-3)
    assert result.total.volume_mL == pytest.approx(size, rel=1e-5)


IMPOSSIBLE = [
    ((90.0, 96.0, 0.0), 70.0, 900.0, 1000.0, "use at most"),
    ((10.0, 40.0, 0.0), 35.0, 900.0, 1000.0, "something stronger than 40 %"),
    ((50.0, 0.0), 20.0, 200.0, 1000.0, "two bottles of different strengths"),
    ((50.0, 40.0), 60.0, 200.0, None, "something stronger"),
    ((50.0, 60.0), 40.0, 200.0, None, "Water, 0 %, always is"),
    ((50.0, 60.0), 0.0, 200.0, None, "plain water"),
]


@pytest.mark.parametrize(("strengths", "target", "used", "make", "says"), IMPOSSIBLE)
def test_what_cannot_be_used_up_says_what_would_be_possible(strengths, target, used, make, says) -> None:
    with pytest.raises(CannotReckon, match=says):
        use_up(find("ethanol"), shelf("ethanol", *strengths), vv(target), 0, used, make)


def test_the_most_that_can_be_used_up_is_possible() -> None:
    stocks = shelf("ethanol", 90.0, 96.0, 0.0)
    with pytest.raises(CannotReckon) as refused:
        use_up(find("ethanol"), stocks, vv(70.0), 0, 900.0, 1000.0)
    most = float(str(refused.value).split("use at most ")[1].split(" mL")[0])
    assert use_up(find("ethanol"), stocks, vv(70.0), 0, most, 1000.0).make_mL == pytest.approx(1000.0)
