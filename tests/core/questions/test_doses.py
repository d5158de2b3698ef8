"""Doses: as a formula says them, by its loads, or as is usual. Usual doses: common practice, no source."""

from dataclasses import replace

import pytest

from firkin.core.formula import house_formulas, reckon
from firkin.core.measures import Quantity
from firkin.core.questions.doses import dose_of, whole_mL


def test_a_dose_that_is_said_is_the_dose_with_its_word() -> None:
    wash = house_formulas()["laundry-concentrate"].formula
    usual = dose_of(wash)
    assert usual is not None
    assert not usual.said
    said = dose_of(replace(wash, dose=Quantity(20.0, "mL"), dose_of="wash"))
    assert said is not None
    assert (said.low, said.high, said.of, said.said) == (20.0, 20.0, "wash", True)


def test_so_many_loads_share_the_whole_batch() -> None:
    wash = replace(house_formulas()["laundry-concentrate"].formula, loads=40.0)
    result = reckon(wash)
    shared = dose_of(wash, result)
    assert shared is not None
    assert shared.said
    assert shared.low == shared.high == pytest.approx(whole_mL(result) / 40.0)


def test_a_dose_in_grams_is_the_volume_that_weighs_so_much() -> None:
    powder = replace(house_formulas()["powder-soft"].formula, dose=Quantity(20.0, "g"), dose_of="load")
    result = reckon(powder)
    dose = dose_of(powder, result)
    assert dose is not None
    assert dose.low * result.total.mass_g / whole_mL(result) == pytest.approx(20.0)
