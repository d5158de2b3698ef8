"""Amounts and names as people write and say them, for what rewrites a text before it is read."""

import re
from functools import cache

from firkin.core.catalogue import alcohol_names, find, names_of_materials
from firkin.core.measures import spellings

SMALL = "one|two|three|four|five|six|seven|eight|nine|ten|hundred|thousand|quarter"
NUMBER = (
    rf"(?:\d[\d.,/½¼¾]{{0,14}}|(?:an?|half|eleven|twelve|fifteen|twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety|{SMALL})"
    rf"(?:[ -](?:and|an?|of|half|{SMALL}))*)"
)

#: No name is longer, in letters.
_LONGEST_NAME = 60


@cache
def amounts() -> re.Pattern[str]:
    """An amount: a number in figures or words, and its unit.

    >>> amounts().search("about twenty grams all told").group()
    'twenty grams'
    """
    units = "|".join(
        sorted((re.escape(name) for name in spellings() if len(name) > 1 or name in "gl"), key=len, reverse=True)
    )
    return re.compile(
        rf"\b{NUMBER}\s*(?:(?:level|heaped|heaping|scant|good|full|big)\s+)?(?:{units}|mil|mils)\b", re.IGNORECASE
    )


@cache
def names() -> re.Pattern[str]:
    """A name of a material.

    >>> names().search("some rubbing alcohol, then").group()
    'rubbing alcohol'
    """
    listed = sorted(map(re.escape, _known()), key=len, reverse=True)
    return re.compile(rf"\b(?:{'|'.join(listed)})\b", re.IGNORECASE)


def names_of(name: str) -> re.Pattern[str]:
    """Any name of the material that goes by this one.

    >>> names_of("glycerin").search("a little glycerol in it").group()
    'glycerol'
    """
    return _names_of(find(name).written)


@cache
def _names_of(written: str) -> re.Pattern[str]:
    listed = sorted(map(re.escape, _by_material().get(written, ["(?!)"])), key=len, reverse=True)
    return re.compile(rf"\b(?:{'|'.join(listed)})\b", re.IGNORECASE)


@cache
def _by_material() -> dict[str, list[str]]:
    found: dict[str, list[str]] = {}
    for name in _known():
        found.setdefault(find(name).written, []).append(name)
    return found


def name_before(text: str, end: int) -> int | None:
    """Where the longest name of a material begins that ends at a place of the text; None where none does.

    >>> name_before("a bar of soap it's heavy", 13)
    2
    """
    start = max(0, end - _LONGEST_NAME)
    for at in (found.start() for found in re.finditer(r"\b(?=\w)", text[start:end])):
        if text[start + at : end].lower() in _known():
            return start + at
    return None


@cache
def _known() -> frozenset[str]:
    alcohols = alcohol_names()
    known = {*names_of_materials(), *alcohols.unnamed, *alcohols.spirits, *alcohols.unfit}
    return frozenset(name.lower() for name in known if len(name) > 2)
