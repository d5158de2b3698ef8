"""Alcohol that is not for skin, told by its name on the cautious side."""

import pytest

from firkin.core.catalogue import is_unfit

NAMES = [
    ("denatured alcohol", True),
    ("Alcohol, denatured", True),
    ("not denatured alcohol", False),
    ("non-denatured ethanol", False),
    ("undenatured", False),
    ("was not denatured, but then denatured", True),  # one that is not denied is enough
    ("not for skin: denatured", True),
    ("methylated spirit", True),
    ("METHS", True),
    ("surgical spirit", True),
    ("spirit level", False),
    ("", False),
]


@pytest.mark.parametrize(("name", "unfit"), NAMES)
def test_what_a_name_denies_is_not_held_against_it_and_all_else_is(name: str, unfit: bool) -> None:
    assert is_unfit(name) is unfit
