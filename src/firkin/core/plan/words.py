"""The words of procedure.toml as patterns."""

import re
from functools import cache

from firkin.core import datafiles

#: Verbs that do not take "-ed".
_IRREGULAR = {
    "beat": "beats?|beaten", "bring": "brings?|brought", "let": "lets?", "put": "puts?", "sling": "slings?|slung",
    "shake": "shakes?|shook|shaken", "throw": "throws?|threw|thrown", "wet": "wets?|wetted",
}  # fmt: skip
#: What a thing is stirred in; and what all of it is made, kept or boiled in.
CUPS = (
    r"cup|teacup|bowl|jar|jug|mug|glass|beaker|vessel|container|pan|pot|bucket|dish|saucer|saucepan|bottle|flask|basin"
    r"|tub"
)
VESSELS = rf"{CUPS}|drum|pail|cylinder|kettle|barrel|can|canister|crock|demijohn"
_HISSES = ("s", "x", "z", "ch", "sh")
_DOUBLED = re.compile(r"[^aeiou][aeiou][bgmnpt]$|^[aeiou][dt]$")


def any_form(*verbs: str) -> str:
    """The pattern of verbs as they are said now, by somebody else, and afterwards: "stir", "stirs", "stirred".

    >>> [bool(re.fullmatch(any_form("stir", "tip", "dust"), said)) for said in ("stirred", "tips", "dusted", "tiping")]
    [True, True, True, False]
    """
    return "|".join(_form(verb) for verb in verbs)


def _form(verb: str) -> str:
    if verb in _IRREGULAR:
        return _IRREGULAR[verb]
    if verb.endswith("e"):
        return rf"{verb}[sd]?"
    if verb.endswith("y") and verb[-2] not in "aeiou":
        return rf"{verb[:-1]}(?:y|ies|ied)"
    more = verb[-1] if _DOUBLED.search(verb) or verb == "stir" else ""
    return rf"{verb}(?:{'es' if verb.endswith(_HISSES) else 's'}|{more}ed)?"


def _written(word: str) -> str:
    return any_form(word[:-1]) if word.endswith("*") else re.escape(word)


@cache
def words(kind: str) -> re.Pattern[str]:
    """The pattern of one kind of words: whole words, and expressions as they stand; "stir*" is a verb in any form.

    >>> bool(words("doing").search("pour it slowly")), bool(words("doing").search("the pouring-can"))
    (True, True)
    """
    table = datafiles.toml("plan/procedure.toml")[kind]
    plain = "|".join(_written(word) for word in sorted(table.get("words", ()), key=len, reverse=True))
    whole = [rf"\b(?:{plain})\b"] if plain else []  # one boundary for all of them is looked for faster
    expressions = (one.replace("<vessel>", VESSELS) for one in table.get("expressions", ()))
    return re.compile("|".join([*whole, *expressions]))


@cache
def phrases(kind: str, what: str) -> re.Pattern[str]:
    """The pattern of a list of phrases, whole words.

    >>> phrases("how", "dropwise").search("a drop at a time").group()
    'a drop at a time'
    """
    listed = sorted(datafiles.toml("plan/procedure.toml")[kind][what], key=len, reverse=True)
    ways = (any_form(phrase[:-1]) if phrase.endswith("*") else phrase for phrase in listed)
    return re.compile(rf"\b(?:{'|'.join(f'(?:{way})' for way in ways)})\b")


def kinds(table: str) -> dict[str, list[str]]:
    """A table of lists by its keys."""
    return dict(datafiles.toml("plan/procedure.toml")[table])
