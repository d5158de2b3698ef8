"""Every limit of the audit, a hair on either side of it. The table names the limit and says where it stands.

A limit that moves turns its row red: the figures are written here again, from their source, and not taken from the code.
"""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest

from firkin.core.audit import audit
from firkin.core.formula import Claim, Claims, Formula, reckon
from firkin.core.measures import Quantity, Strength
from mixes import mix

RUB: dict[str, Any] = {"family": "liquid-rub", "guidelines": ("cdc-alcohol-60",)}
ETHANOL = ("ethanol", "800 mL", "96 %")


def _claimed(pct: float) -> Formula:
    return replace(mix(("ethanol", "1 L", "70 %")), claim=Claim("ethanol", Strength.of(pct, "v/v")))


def _sized(mL: float) -> Formula:
    parts = (("glycerol", "500 mL"), ("propanediol", "500 mL"))
    return replace(mix(*parts), claims=Claims(size=Quantity(mL, "mL")))


def _soap(pct: float) -> Formula:
    return mix(("castile-soap", f"{10 * pct} mL"), ("water", f"{1000 - 10 * pct} mL"), family="foaming-soap")


def _kept(pct: float) -> Formula:
    parts = (("castile-soap", "250 g"), ("water", f"{750 - 10 * pct} g"), ("phenoxyethanol", f"{10 * pct} g"))
    return mix(*parts, family="liquid-soap")


def _ferment(peel: float = 1.0, water: float = 1.0) -> Formula:
    parts = (("raw-sugar", "100 g"), ("citrus-peel", f"{300 * peel} g"), ("water", f"{1000 * water} g"))
    return mix(*parts, family="ferment")


def _gel(tea_mL: float) -> Formula:
    return mix(("water", "1 L"), ("carbomer", "10 g"), ("triethanolamine", f"{10 * tea_mL} mL"), family="gel")


def _bleach(pct: float, family: str = "other") -> Formula:
    return mix(("bleach", f"{200 * pct} mL", "5 %"), ("water", f"{1000 - 200 * pct} mL"), family=family)


Made = Callable[[float], Formula]
#: what is tried, its rule, its limit, whether the rule speaks above it (else below), how it is made, where the limit is from
LIMITS: list[tuple[str, str, float, bool, Made, str]] = [
    ("litres of alcohol in one place", "too-much-alcohol", 50.0, True, lambda x: mix(("ethanol", f"{x * 0.8} L", "96 %"), ("water", "q.s."), make=f"{x} L"), "WHO, Guide to Local Production: 50 L"),
    ("peroxide, %", "peroxide-strong", 6.0, True, lambda x: mix(("peroxide", "100 mL", f"{x} %")), "WHO, Guide to Local Production: concentrates are corrosive"),
    ("chlorine, %", "chlorine-strong", 1.0, True, _bleach, "twice WHO's 0.5 % for large spills, May 2020"),
    ("chlorine on surfaces, %", "surface-weak", 0.1, False, lambda x: _bleach(x, "surface"), "WHO, May 2020: 0.1 %"),
    ("spirit, % v/v", "spirit-too-weak", 50.0, False, lambda x: mix(("ethanol", "1 L", f"{x} %"), **RUB), "common practice: drinking spirits are below"),
    ("alcohol for hands, % v/v", "line-short", 60.0, False, lambda x: mix(("ethanol", "1 L", f"{x:.4f} %"), guidelines=("cdc-alcohol-60",)), "CDC: at least 60 %"),
    ("alcohol for hands at most, % v/v", "line-too-strong", 95.0, True, lambda x: mix(("ethanol", "1 L", f"{x:.4f} %"), guidelines=("hicpac-60-95",)), "HICPAC: 60 to 95 %"),
    ("glycerol in a rub, % v/v", "glycerol-sticky", 5.0, True, lambda x: mix(ETHANOL, ("glycerol", f"{10 * x} mL"), ("water", "q.s."), make="1 L", **RUB), "common practice"),
    ("soap in a foaming pump at most, %", "foam-ratio", 28.0, True, _soap, "common practice: 1 part to 3, with slack"),
    ("soap in a foaming pump at least, %", "foam-ratio", 15.0, False, _soap, "common practice: 1 part to 5, with slack"),
    ("peel of a ferment, times 3 to 1", "ferment-ratio", 1.25, True, lambda x: _ferment(peel=x), "common practice: 1 to 3 to 10"),
    ("peel of a ferment at least", "ferment-ratio", 0.75, False, lambda x: _ferment(peel=x), "common practice"),
    ("water of a ferment at most", "ferment-ratio", 1.25, True, lambda x: _ferment(water=x), "common practice"),
    ("water of a ferment at least", "ferment-ratio", 0.75, False, lambda x: _ferment(water=x), "common practice"),
    ("phenoxyethanol at most, %", "preservative-window", 1.0, True, _kept, "Regulation (EC) 1223/2009: 1 %"),
    ("phenoxyethanol at least, %", "preservative-window", 0.5, False, _kept, "common practice"),
    ("xanthan, %", "thickener-much", 2.0, True, lambda x: mix(("water", f"{1000 - 10 * x} g"), ("xanthan-gum", f"{10 * x} g")), "common practice"),
    ("alcohol xanthan stands, % w/w", "thickener-limit", 60.0, True, lambda x: mix(("ethanol", f"{10 * x} g", "100 % w/w"), ("water", f"{995 - 10 * x} g"), ("xanthan-gum", "5 g")), "common practice"),
    ("triethanolamine at most, mL a gram", "neutraliser-off", 1.755, True, _gel, "common practice: 1.3, with a third of slack"),
    ("triethanolamine at least, mL a gram", "neutraliser-off", 0.78, False, _gel, "common practice: 1.2, with a third of slack"),
    ("a claim above what is made, points", "claim-differs", 70.5, True, _claimed, "finer than a kitchen measures"),
    ("a claim below what is made, points", "claim-differs", 69.5, False, _claimed, "finer than a kitchen measures"),
    ("a size above what the parts come to", "amounts-miss-size", 1000 / 0.97, True, _sized, "common practice: 3 %"),
    ("a size below what the parts come to", "amounts-miss-size", 1000 / 1.03, False, _sized, "common practice: 3 %"),
    ("per cents above 100", "percent-sum", 100.05, True, lambda x: mix(("glycerol", f"{x - 90} %"), ("water", "90 %")), "rounded to a tenth"),
    ("per cents below 100", "percent-sum", 99.95, False, lambda x: mix(("glycerol", f"{x - 90} %"), ("water", "90 %")), "rounded to a tenth"),
    ("borax in a kilogram of water, g", "will-not-dissolve", 47.0 * 1.05, True, lambda x: mix(("water", "1 kg"), ("borax", f"{x} g")), "CRC Handbook, from memory: 4.7 g in 100 g at 20 °C, rounded"),
    ("essential oil in a rub, %", "essential-oil-much", 2.0, True, lambda x: mix(("ethanol", "800 g", "96 %"), ("lavender-oil", f"{10 * x} g"), ("water", f"{200 - 10 * x} g"), **RUB), "common practice"),
]  # fmt: skip
_HAIR = 0.0008


@pytest.mark.parametrize(("what", "rule", "limit", "above", "made", "source"), LIMITS, ids=[row[0] for row in LIMITS])
def test_a_hair_on_either_side(what: str, rule: str, limit: float, above: bool, made: Made, source: str) -> None:
    def speaks(value: float) -> bool:
        return rule in {finding.rule for finding in audit(reckon(made(value)))}

    assert (speaks(limit * (1 - _HAIR)), speaks(limit * (1 + _HAIR))) == (not above, above), what
    assert source


def test_no_limit_is_named_twice() -> None:
    assert len({what for what, *_ in LIMITS}) == len(LIMITS)
