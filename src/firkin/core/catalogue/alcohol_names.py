"""What alcohol is called where the name does not say which it is, how strong, or whether it is fit for skin."""

import re
import unicodedata
from dataclasses import dataclass
from functools import cache

from firkin.core import datafiles


@dataclass(frozen=True, slots=True)
class AlcoholNames:
    """Names of drinking spirits and their usual % v/v, of alcohol without saying which, and of what is unfit."""

    spirit_pct: float
    spirits: frozenset[str]
    unnamed: frozenset[str]
    unfit: frozenset[str]
    unfit_words: tuple[str, ...]
    unless: frozenset[str]
    harmless: tuple[str, ...]


@cache
def alcohol_names() -> AlcoholNames:
    """Every such name, in small letters.

    >>> "vodka" in alcohol_names().spirits
    True
    """
    row = datafiles.toml("catalogue/alcohol_names.toml")
    return AlcoholNames(
        row["spirit_pct"],
        frozenset(row["spirits"]),
        frozenset(row["unnamed"]),
        frozenset(row["unfit"]),
        tuple(row["unfit_words"]),
        frozenset(row["unless"]),
        tuple(row["harmless"]),
    )


def is_unfit(name: str) -> bool:
    """True for alcohol that is not for skin, by whole words of its name.

    Args:
        name: a name as written on a bottle.

    >>> is_unfit("Methylated spirits"), is_unfit("Surgical spirit"), is_unfit("undenatured alcohol")
    (True, True, False)
    """
    words, unless = ["", *_words(name)], alcohol_names().unless
    return any(
        words[at : at + len(sign)] == sign and words[at - 1] not in unless and not _harmless(words, at)
        for at, word in enumerate(words)
        for sign in _signs().get(word, ())
    )


def _harmless(words: list[str], at: int) -> bool:
    """True where the words around only sound like it: "thinner than", "my fuel bill"."""
    around = f" {' '.join(words[max(1, at - 1) : at + 2])} "
    return any(f" {phrase} " in around for phrase in alcohol_names().harmless)


_WORDS = re.compile("[a-z0-9]+")


def _words(name: str) -> list[str]:
    if name.isascii():
        return _WORDS.findall(name.lower())
    apart = unicodedata.normalize("NFKD", name.lower())
    return _WORDS.findall("".join(sign for sign in apart if not unicodedata.combining(sign)))


@cache
def _signs() -> dict[str, list[list[str]]]:
    """What tells unfit alcohol, word by word, by its first word."""
    found: dict[str, list[list[str]]] = {}
    for sign in map(_words, alcohol_names().unfit_words):
        found.setdefault(sign[0], []).append(sign)
    return found
