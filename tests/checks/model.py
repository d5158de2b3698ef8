"""A second model of the questions about strength, for the product to be held against.

It shares no code with the product: densities come from the thermo package (electrolyte model of Laliberte, 2009), from
the general formula of OIML R 22 evaluated anew, and every fraction is found by root search (SciPy). Questions are drawn
at random by a seed; each comes with what is expected of it, or None where it is impossible.
"""

import random
import tomllib
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from scipy.optimize import brentq
from thermo.electrochem import Laliberte_density

import firkin

_OIML = Path(firkin.__file__).parent / "core" / "densities" / "oiml_r22.toml"
_CAS = {
    "caustic-soda": "1310-73-2",
    "salt": "7647-14-5",
    "washing-soda": "497-19-8",
    "hydrogen-peroxide": "7722-84-1",
    "raw-sugar": "57-50-1",
}
#: Up to which % w/w a solution is asked about, within what stays dissolved at 20 degC.
_REACH = {"caustic-soda": 45.0, "salt": 25.0, "washing-soda": 14.0, "hydrogen-peroxide": 32.0, "raw-sugar": 60.0}
WATER = 0.998201  # g/mL at 20 degC


@cache
def _coefficients() -> list[float]:
    return list(tomllib.loads(_OIML.read_text())["A"])


def density(material: str, fraction: float) -> float:
    """g/mL at 20 degC of a solution in water, by mass fraction."""
    if material == "ethanol":
        return sum(a * fraction**k for k, a in enumerate(_coefficients())) / 1000.0
    return float(Laliberte_density(293.15, [fraction], [_CAS[material]])) / 1000.0 if fraction else WATER


def fraction(material: str, pct: float, basis: str) -> float:
    """Mass fraction from per cent on a basis, by root search."""
    if basis == "w/w":
        return pct / 100.0
    pure = density("ethanol", 1.0) if basis == "v/v" else 1.0
    top = 1.0 if material == "ethanol" else 0.75
    wanted = pct / 100.0
    return float(brentq(lambda f: f * density(material, f) / pure - wanted, 0.0, top, xtol=1e-12))


def percent(material: str, share: float, basis: str) -> float:
    """Per cent on a basis from a mass fraction."""
    pure = density("ethanol", 1.0) if basis == "v/v" else 1.0
    return 100.0 * share * (1.0 if basis == "w/w" else density(material, share) / pure)


@dataclass(frozen=True)
class Case:
    """A question in its open format, what is expected by key (None: it cannot be), and how near, as a share."""

    question: dict[str, Any]
    expected: dict[str, float] | None
    within: float


def _strength(rng: random.Random, material: str, low: float, high: float) -> tuple[str, float]:
    """A strength as a label says it, on a basis by chance, and its mass fraction at the lower end."""
    share = rng.uniform(low, high) / 100.0
    basis = rng.choice(("v/v", "w/w", "w/v") if material == "ethanol" else ("w/w", "w/v"))
    pct = round(percent(material, share, basis), 2)
    if rng.random() < 0.3 and share < 0.9 * _reach(material) / 100.0:
        return f"{pct}-{round(pct * 1.03, 2)} % {basis}", fraction(material, pct, basis)
    return f"{pct} % {basis}", fraction(material, pct, basis)


def _convert(rng: random.Random, material: str) -> Case:
    text, share = _strength(rng, material, 5.0, _reach(material))
    text = text.split("-")[0] + " % " + text.split("% ")[1] if "-" in text else text
    basis = rng.choice(("v/v", "w/w", "w/v") if material == "ethanol" else ("w/w", "w/v"))
    question = {"ask": "convert", "active": material, "from": text.replace("  ", " "), "to": f"% {basis}"}
    return Case(question, {"value": percent(material, share, basis)}, _within(material))


def _dilute(rng: random.Random, material: str) -> Case:
    stock, strong = _strength(rng, material, 10.0, _reach(material))
    target, weak = _strength(rng, material, 1.0, _reach(material))
    target, weak = _exact(material, target)
    question = {"ask": "dilute", "active": material, "stock": stock, "target": target, "make": "1 L"}
    if weak > strong:
        return Case(question, None, 0.0)
    total = 1000.0 * density(material, weak)
    stock_g = total * weak / strong
    return Case(
        question,
        {
            "stock_g": stock_g,
            "stock_mL": stock_g / density(material, strong),
            "water_g": total - stock_g,
            "water_mL": (total - stock_g) / WATER,
        },
        _within(material),
    )


def _blend(rng: random.Random, material: str) -> Case:
    (one, first), (other, second) = (_strength(rng, material, 3.0, _reach(material)) for _ in range(2))
    target, wanted = _exact(material, _strength(rng, material, 3.0, _reach(material))[0])
    question = {"ask": "blend", "active": material, "stocks": [one, other], "target": target, "make": "2 L"}
    if not min(first, second) < wanted < max(first, second):
        return Case(question, None, 0.0)
    whole = 2000.0 * density(material, wanted)
    mass = whole * (wanted - second) / (first - second)
    volumes = [mass / density(material, first), (whole - mass) / density(material, second)]
    return Case(question, {"volumes_mL.0": volumes[0], "volumes_mL.1": volumes[1]}, _within(material))


def _adjust(rng: random.Random, material: str) -> Case:
    (now, has), (other, brings) = (_strength(rng, material, 3.0, _reach(material)) for _ in range(2))
    target, wants = _exact(material, _strength(rng, material, 3.0, _reach(material))[0])
    ask = rng.choice(("strengthen", "weaken"))
    question = {"ask": ask, "active": material, "batch": "1.5 L", "now": now, "with": other, "target": target}
    if not (has < wants < brings if ask == "strengthen" else has > wants > brings):
        return Case(question, None, 0.0)
    batch = 1500.0 * density(material, has)
    add = batch * (wants - has) / (brings - wants)
    size = (batch + add) / density(material, wants)
    return Case(question, {"add_mL": add / density(material, brings), "new_volume_mL": size}, _within(material))


_ACIDS = {"labsa": (320.0, 1), "citric-acid": (192.12, 3)}
_BASES = {"caustic-soda": (39.997, 1), "washing-soda": (105.99, 2)}


def _neutralise(rng: random.Random, _: str) -> Case:
    acid, base = rng.choice(list(_ACIDS)), rng.choice(list(_BASES))
    grams, pct = round(rng.uniform(5.0, 400.0), 1), round(rng.uniform(60.0, 99.0), 1) if acid == "labsa" else 100.0
    said = {"material": acid, "strength": f"{pct} % w/w", "amount": f"{grams} g"}
    strength, share = _exact(base, _strength(rng, base, 2.0, _REACH[base])[0])
    by_volume = rng.random() < 0.6
    amount = round(rng.uniform(5.0, 500.0), 1)
    weight = amount * density(base, share) if by_volume else amount
    molar, groups = _BASES[base]
    acid_molar, acid_groups = _ACIDS[acid]
    acid_h = grams * pct / 100.0 / acid_molar * acid_groups
    base_h = weight * share / molar * groups
    question = {
        "ask": "neutralise",
        "acid": said,
        "base": {"material": base, "strength": strength, "amount": f"{amount} {'mL' if by_volume else 'g'}"},
    }
    expected = {"acid_mol": acid_h / acid_groups, "acid_mol_h": acid_h, "base_mol": base_h / groups}
    gap = (base_h - acid_h) / groups * molar / share
    if abs(gap) > 0.02 * weight:
        expected["base_g_spare" if gap > 0 else "base_g_missing"] = abs(gap)
    return Case(question, expected, 0.006 if abs(gap) < weight * 0.3 else 0.01)


def _exact(material: str, text: str) -> tuple[str, float]:
    """The same strength without a range, and its mass fraction."""
    number, basis = text.split(" % ")
    low = number.split("-")[0]
    return f"{low} % {basis}", fraction(material, float(low), basis)


def _reach(material: str) -> float:
    return 96.0 if material == "ethanol" else _REACH[material]


def _within(material: str) -> float:
    """How near two sources of densities come: the electrolyte model is some 0.5 % off the handbook for strong lye."""
    return 2e-6 if material == "ethanol" else 0.008 if material == "caustic-soda" else 0.004


def case(seed: int) -> Case:
    """The question drawn by a seed."""
    rng = random.Random(seed)
    dissolved = rng.choice((_convert, _dilute, _neutralise))
    mixed = rng.choice((_convert, _dilute, _blend, _adjust))
    if rng.random() < 0.5:
        return mixed(rng, "ethanol")
    return dissolved(rng, rng.choice([key for key in _CAS if dissolved is not _dilute or key != "raw-sugar"]))
