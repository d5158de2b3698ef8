"""Whole mixes against published formulas and the arithmetic of the trade."""

import pytest

from firkin.core.catalogue import find
from firkin.core.dilution import dilute, max_additive, required_stock
from firkin.core.reckoning import reckon
from firkin.core.strengths import read_strength
from mixes import mix

# WHO, Guide to Local Production: WHO-recommended Handrub Formulations; amounts for 10 L.
WHO_I = mix(
    ("ethanol", "8333 mL", "96 %"),
    ("hydrogen-peroxide", "417 mL", "3 %"),
    ("glycerol", "145 mL"),
    ("water", "q.s."),
    make="10 L",
    guidelines=("who-ethanol",),
)
WHO_II = mix(
    ("isopropanol", "7515 mL", "99.8 %"),
    ("hydrogen-peroxide", "417 mL", "3 %"),
    ("glycerol", "145 mL"),
    ("water", "q.s."),
    make="10 L",
    guidelines=("who-isopropanol",),
)


@pytest.mark.parametrize(("formula", "alcohol", "strength"), [(WHO_I, "ethanol", 80.0), (WHO_II, "isopropanol", 75.0)])
def test_the_who_amounts_give_the_who_strengths(formula, alcohol: str, strength: float) -> None:
    """WHO, Guide to Local Production: 80 or 75 % v/v, glycerol 1.45 % v/v, peroxide 0.125 % w/v."""
    result = reckon(formula)
    assert result.active(alcohol).label == pytest.approx(strength, abs=0.05)
    assert result.active(alcohol).true == pytest.approx(strength, abs=0.05)
    assert result.active("glycerol").label == pytest.approx(1.45, abs=0.005)
    assert result.active("hydrogen-peroxide").label == pytest.approx(0.125, abs=0.0005)
    assert result.total.volume_mL == pytest.approx(10_000, abs=0.001)
    assert [verdict.verdict for verdict in result.verdicts] == ["meets"]


# Label arithmetic is common practice; true strength and volume follow from OIML R 22 for ethanol, and
# from the handbook table recalled from memory for 2-propanol (hence the wider slack).
TRUE_STRENGTHS = [
    ([("ethanol", "700 mL", "100 %"), ("water", "300 mL")], 70.0, 72.3, 968),
    ([("ethanol", "700 mL", "96 %"), ("water", "300 mL")], 67.2, 69.0, 974),
    ([("ethanol", "2 parts", "95 %"), ("water", "1 part")], 63.3, 65.1, None),
    ([("isopropanol", "3 parts", "70 %"), ("aloe-gel", "1 part")], 52.5, 53.1, None),
    ([("isopropanol", "9 parts", "70 %"), ("aloe-gel", "1 part")], 63.0, 63.3, None),
]


@pytest.mark.parametrize(("lines", "label", "true", "volume"), TRUE_STRENGTHS)
def test_label_arithmetic_and_true_strength(lines, label, true, volume) -> None:
    result = reckon(mix(*lines))
    active = result.actives[0]
    slack = 0.05 if active.active == "ethanol" else 0.15
    assert active.label == pytest.approx(label, abs=0.05)
    assert active.true == pytest.approx(true, abs=slack)
    if volume:
        assert result.total.volume_mL == pytest.approx(volume, abs=0.5)


def test_three_parts_of_70_percent_to_one_of_gel_falls_short() -> None:
    """CDC hand-hygiene guidance: at least 60 % alcohol."""
    result = reckon(mix(("isopropanol", "3 parts", "70 %"), ("aloe-gel", "1 part"), guidelines=("cdc-alcohol-60",)))
    assert result.verdicts[0].verdict == "short"
    assert result.verdicts[0].margin_points == pytest.approx(-7.5)


def test_one_litre_of_70_percent_takes_297_mL_of_water_not_271() -> None:
    """OIML R 22; label arithmetic is common practice, no source."""
    thin = dilute(find("ethanol"), read_strength("96 %"), read_strength("70 %"), 1000.0)
    assert thin.stock_mL == pytest.approx(729.2, abs=0.05)
    assert thin.water_mL == pytest.approx(297.4, abs=0.1)
    assert thin.label_water_mL == pytest.approx(270.8, abs=0.05)


def test_70_percent_stock_leaves_one_part_in_seven_for_gel() -> None:
    """Common practice, no source: share at most 1 - line / stock."""
    room = max_additive(read_strength("70 %"), read_strength("60 %"))
    assert room.additive_share_pct == pytest.approx(14.29, abs=0.005)
    assert room.parts_stock_per_part_additive == pytest.approx(6.0)


def test_two_to_one_at_60_percent_needs_90_percent_stock() -> None:
    """Common practice, no source."""
    assert required_stock(read_strength("60 %"), 2, 1)[0] == pytest.approx(90.0)
