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
    plain = [rf"\b{re.escape(word)}\b" for word in sorted(table.get("words", ()), key=len, reverse=True)]
    return re.compile("|".join([*plain, *table.get("expressions", ())]))


@cache
def phrases(kind: str, what: str) -> re.Pattern[str]:
    """The pattern of a list of phrases, whole words.

    >>> phrases("how", "dropwise").search("a drop at a time").group()
    'a drop at a time'
    """
    listed = sorted(datafiles.toml("plan/procedure.toml")[kind][what], key=len, reverse=True)
    return re.compile("|".join(rf"\b(?:{phrase})\b" for phrase in listed))


def kinds(table: str) -> dict[str, list[str]]:
    """A table of lists by its keys."""
    return dict(datafiles.toml("plan/procedure.toml")[table])
