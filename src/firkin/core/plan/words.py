"""The words of procedure.toml as patterns."""

import re
from functools import cache

from firkin.core import datafiles


@cache
def words(kind: str) -> re.Pattern[str]:
    """The pattern of one kind of words: whole words, and expressions as they stand.

    >>> bool(words("doing").search("pour it slowly")), bool(words("doing").search("the pouring-can"))
    (True, True)
    """
    table = datafiles.toml("plan/procedure.toml")[kind]
    plain = "|".join(re.escape(word) for word in sorted(table.get("words", ()), key=len, reverse=True))
    whole = [rf"\b(?:{plain})\b"] if plain else []  # one boundary for all of them is looked for faster
    return re.compile("|".join([*whole, *table.get("expressions", ())]))


@cache
def phrases(kind: str, what: str) -> re.Pattern[str]:
    """The pattern of a list of phrases, whole words.

    >>> phrases("how", "dropwise").search("a drop at a time").group()
    'a drop at a time'
    """
    listed = sorted(datafiles.toml("plan/procedure.toml")[kind][what], key=len, reverse=True)
    return re.compile(rf"\b(?:{'|'.join(f'(?:{phrase})' for phrase in listed)})\b")


def kinds(table: str) -> dict[str, list[str]]:
    """A table of lists by its keys."""
    return dict(datafiles.toml("plan/procedure.toml")[table])
