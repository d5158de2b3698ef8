"""The usual steps, what to wear, and the cautions of what is in the mix."""

import pytest

from firkin.core.bench import cautions_for, gear_for
from firkin.core.catalogue import materials
from firkin.core.formula import house_formulas, quarantined, steps_of
from journals import RUB
from mixes import mix


def test_an_alcohol_rub_rests_72_hours() -> None:
    """WHO, Guide to Local Production: quarantine until any spores are destroyed."""
    assert quarantined(RUB)
    assert [step.wait_h for step in steps_of(RUB) if step.wait_h] == [72.0]
    assert not quarantined(mix(("castile-soap", "1 part"), ("water", "3 parts"), family="foaming-soap"))


@pytest.mark.parametrize("key", materials())
def test_a_material_brings_its_cautions_and_what_to_wear(key: str) -> None:
    formula = mix((key, "10 g"), ("water", "1 L"))
    assert set(materials()[key].cautions) <= {caution.id for caution in cautions_for(formula)}
    worn = " ".join(gear_for(formula)).lower()
    assert materials()[key].gear.lower() in worn


def test_signal_words_come_first() -> None:
    for house in house_formulas().values():
        signals = [bool(caution.signal) for caution in cautions_for(house.formula)]
        assert signals == sorted(signals, reverse=True)
