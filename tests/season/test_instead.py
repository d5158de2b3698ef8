"""What would do where something is not to be had: each product is judged by its own formula."""

import pytest

from addresses import whole_demo
from firkin.season import instead
from firkin.season.asking import Material
from firkin.season.instead import Substitution
from often import often

pytestmark = pytest.mark.django_db


def _missing(material: str) -> Material:
    return Material(material, material, None, "mL")


@pytest.mark.parametrize("material", often(["ethanol", "isopropanol", "glycerol", "aloe-gel"], "glycerol"))
def test_what_is_offered_does_not_hang_on_what_was_tried_before(material: str) -> None:
    """Of several products that take a stock each is offered what it would be alone."""
    workshop = whole_demo()
    missing = _missing(material)
    together = Substitution(workshop)
    alone = []
    for pair in together.products:
        one = Substitution(workshop)
        one.products = [pair]
        alone += one.of(missing)
    assert together.of(missing) == alone
    assert together.of(missing) == alone, "and again"
    if material == "ethanol":
        assert alone


def test_each_formula_is_compared_with_itself(monkeypatch: pytest.MonkeyPatch) -> None:
    """What a swap is held against was reckoned once, and of the same formula."""
    workshop, held, swap = whole_demo(), [], instead.swap

    def seen(formula, at, to, strength, before):
        held.append((formula.name, before.result.formula.name))
        return swap(formula, at, to, strength, before)

    monkeypatch.setattr(instead, "swap", seen)
    together = Substitution(workshop)
    for material in ("ethanol", "isopropanol", "glycerol"):
        together.of(_missing(material))
    assert len({name for name, _ in held}) > 1
    assert all(name == before for name, before in held), held
