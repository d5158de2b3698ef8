"""What the usual way does otherwise: each rule where it holds and beside it. Common practice, no source."""

import pytest

from firkin.core.catalogue import find
from firkin.core.plan import Act, otherwise

MATERIALS = tuple(
    find(name)
    for name in (
        "water", "xanthan gum", "glycerol", "ethanol", "carbomer", "triethanolamine", "bleach", "castile soap", "sles",
        "polyacrylate", "salt",
    )
)  # fmt: skip
NAMES = ("water", "gum", "glycerol", "alcohol", "carbomer", "tea", "bleach", "soap", "sles", "polyacrylate", "salt")


def acts(told: str) -> list[Act]:
    """ "gum>cup cup> water": what goes in, with the cup it goes into, and cups poured out."""
    made = []
    for one in told.split():
        name, mark, cup = one.partition(">")
        if mark and not cup:
            made.append(Act("pour", "Pour the cup in.", source=name))
        else:
            made.append(Act("pour", "Add it.", (NAMES.index(name),), vessel=cup))
    return made


@pytest.mark.parametrize(
    ("told", "usual", "rules"),
    [
        ("gum water alcohol", "water gum alcohol", ["thickener-dry"]),
        ("water gum alcohol", "water gum alcohol", []),
        ("glycerol gum water", "water gum glycerol", []),  # stirred into glycerol it does not clump
        ("gum glycerol water", "gum glycerol water", []),  # the usual way does it too
        ("gum>cup glycerol>cup water cup>", "water gum glycerol", ["thickener-dry"]),
        ("gum>cup water cup>", "water gum", []),  # dry into the water, out of a dry cup
        ("alcohol gum water", "water gum alcohol", ["thickener-in-alcohol"]),
        ("alcohol water gum", "water gum alcohol", []),
        ("alcohol polyacrylate water", "water alcohol polyacrylate", []),  # a grade that disperses in alcohol
        ("water tea carbomer alcohol", "water carbomer alcohol tea", ["neutraliser-first"]),
        ("water carbomer alcohol tea", "water carbomer alcohol tea", []),
        ("bleach water", "water bleach", ["water-onto-bleach"]),
        ("water bleach water", "water bleach", []),
        ("soap water glycerol salt", "water soap glycerol salt", ["water-onto-soap"]),
        ("sles water", "water sles", ["water-onto-soap"]),
        ("water soap", "water soap", []),
        ("alcohol water glycerol", "alcohol glycerol water", ["clings-last"]),
        ("alcohol glycerol water", "alcohol glycerol water", []),
        ("alcohol glycerol", "glycerol alcohol", []),  # two pours have no order to speak of
    ],
)
def test_a_pour_at_a_place_that_the_usual_way_avoids_is_said(told: str, usual: str, rules: list[str]) -> None:
    found = otherwise(acts(told), acts(usual), MATERIALS)
    assert [one.rule for one in found] == rules
    assert all(one.why.endswith(".") and one.why[0].isupper() for one in found)


def test_what_tops_up_last_clings_to_nothing() -> None:
    plan = [*acts("alcohol water"), Act("top", "Top up.", (NAMES.index("glycerol"),))]
    assert otherwise(plan, acts("alcohol glycerol water"), MATERIALS) == ()


def test_a_line_that_is_not_there_is_passed_over() -> None:
    assert otherwise([Act("pour", "Add it.", (99,))], [], MATERIALS) == ()
