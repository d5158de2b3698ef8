"""Families: each is told by its signs, bottled in what suits it, and holds what pages rely on."""

import pytest

from firkin.core.catalogue import cautions, families, family_of, find, rule_lines, suits

#: What a mix is, by what is in it: common practice, no source.
TOLD = [
    (["ethanol", "water"], "liquid-rub"),
    (["isopropanol", "aloe-gel"], "aloe-rub"),
    (["ethanol", "carbomer", "water"], "gel"),
    (["castile-soap", "water"], "foaming-soap"),
    (["bar-soap", "water"], "liquid-soap"),
    (["bar-soap", "washing-soda", "water"], "laundry-soap"),
    (["raw-sugar", "citrus-peel", "water"], "ferment"),
    (["bleach", "water"], "surface"),
    (["pond water"], "other"),
]


@pytest.mark.parametrize(("names", "family"), TOLD)
def test_a_family_is_told_by_what_is_in_the_mix(names: list[str], family: str) -> None:
    assert family_of([find(name) for name in names]) == family


def test_only_a_foaming_pump_foams_and_it_does_nothing_else() -> None:
    assert [key for key in families() if suits(key, "foaming")] == ["foaming-soap"]
    assert all(suits(key, "") for key in families())


@pytest.mark.parametrize("family", families().values(), ids=families())
def test_what_a_family_names_is_there(family) -> None:
    assert set(family.lines) <= set(rule_lines())
    assert set(family.cautions) <= set(cautions())
    assert family.basis in ("volume", "weight")
    assert family.keep_days > 0
    assert 0 <= family.headspace_pct < 50
    assert family.source
    assert not family.ph or (0 < family.ph[0] < family.ph[1] < 14 and family.ph_low and family.ph_high)
