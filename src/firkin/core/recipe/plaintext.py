"""A text written anew, sign by sign with its place in the given one; and slips of copying, read as what was meant."""

import re
from dataclasses import dataclass, field
from functools import cache

from firkin.core.catalogue import names_of_materials


@dataclass
class PlainText:
    """A text written anew, with the place in the given text of each of its signs; -1 for a sign that was put in.

    ``left`` is where something stands that is not written, and why, ``slips`` are the places of signs that were read as
    another, ``unitless`` those of figures that were given a unit by others.
    """

    text: str = ""
    places: list[int] = field(default_factory=list)
    left: list[tuple[int, int, str]] = field(default_factory=list)
    slips: frozenset[int] = frozenset()
    unitless: frozenset[int] = frozenset()

    def put(self, words: str, start: int = -1, end: int = -1) -> None:
        """Words that stand from ``start`` to ``end`` of the given text, or nowhere."""
        self.text += words
        there = 0 if start < 0 else min(len(words), end - start)
        self.places += range(start, start + there)
        self.places += [-1 if start < 0 else end - 1] * (len(words) - there)

    def of(self, other: "PlainText") -> "PlainText":
        """This text, which was written from another one, with its places in what that one was written from."""
        places = [other.places[place] if place >= 0 else -1 for place in self.places]
        left = [(*other.span(start, end), why) for start, end, why in self.left]
        slips = {other.places[at] for at in self.slips} | other.slips
        unitless = {other.places[at] for at in self.unitless} | other.unitless
        return PlainText(self.text, places, [*other.left, *left], frozenset(slips), frozenset(unitless))

    def span(self, start: int, end: int) -> tuple[int, int]:
        """The place in the given text of a stretch of this one."""
        there = [place for place in self.places[start:end] if place >= 0]
        if there:
            return min(there), max(there) + 1
        before = next((place + 1 for place in reversed(self.places[:start]) if place >= 0), 0)
        return before, before


_SLIPPED_NUMBER = re.compile(
    r"(?<![\w.,])(?=[\dOoIl.,]*\d|[lI][.,]|[lI][O0])([OoIl\d][OoIl\d.,]*?)(?=\s?(?:ml|l|g|kg|mL|L|%|cups?|oz|parts?|tsp|tbsp)\b|%)"
)
_SLIPPED_WORD = re.compile(r"\b(?=[A-Za-z01]*[01])(?=(?:[01]*[A-Za-z]){3})[A-Za-z01]{5,}\b")


@cache
def words_of_names() -> frozenset[str]:
    """Each word of each name of a material."""
    return frozenset(word for name in names_of_materials() for word in name.split())


def _as_known(found: re.Match[str]) -> str:
    """A word with 0 for o and 1 for l, where that makes it a word of a material's name."""
    word = found.group().translate(str.maketrans("01", "ol"))
    return word if word.lower() in words_of_names() else found.group()


def without_slips(given: str) -> tuple[str, bool]:
    """A text without slips of copying, as long as before: O for 0 and l for 1 in figures, and the other way in words.

    True beside it where there was one.

    >>> without_slips("Thin b1each 5 % .... 25Oml, l.5 L water")
    ('Thin bleach 5 % .... 250ml, 1.5 L water', True)
    """
    figures = _SLIPPED_NUMBER.sub(lambda m: m[1].translate(str.maketrans("OoIl", "0011")), given)
    words = _SLIPPED_WORD.sub(_as_known, figures)
    return words, words != given
