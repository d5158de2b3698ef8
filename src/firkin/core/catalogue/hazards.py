"""Hazards: dangerous things under the names people give them, and what must never meet what (hazards.toml)."""

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cache, lru_cache

from rapidfuzz import process
from rapidfuzz.distance import OSA

from firkin.core import datafiles
from firkin.core.catalogue.alcohol_names import alcohol_names, is_unfit
from firkin.core.catalogue.materials import Material, danger_names, find, folded, materials

_WORD = re.compile(r"[^\W_]+")
#: A word shorter than this is not guessed at; from the second length on, two slips of the hand are heard too.
_SHORTEST_GUESS, _LONG = 6, 10
#: Figures that a scanner puts for letters.
_SCANNED = str.maketrans("01358", "olesb")
#: Kinds that are listened for in a text. A scent is only a danger once it is a line.
_NOT_HEARD = frozenset({"essential-oil", "hydrosol"})
#: Names of materials that are everyday words: the cup of tea, the labs.
_EVERYDAY = frozenset({"tea", "labs", "las", "bac", "iso", "acetic", "labsa", "kitchen foil"})


@dataclass(frozen=True, slots=True)
class Meeting:
    """Two things that must never meet: the finding's rule id, what comes of it, a sentence more, and what to do.

    ``harm`` is empty where it is only not known to be harmless.
    """

    rule: str
    harm: str
    more: str
    fix: str


@dataclass(frozen=True, slots=True)
class Danger:
    """A dangerous thing named in a text from ``start`` to ``end``, and the material it stands for.

    ``guessed`` says that the word was only near to a name.
    """

    start: int
    end: int
    said: str
    material: Material
    guessed: bool = False


def kinds_of(material: Material) -> frozenset[str]:
    """The kinds of danger a material is, such as chlorine or acid; of an unknown one, by the words of its name.

    Args:
        material: a material of the catalogue or the workshop, known or not.

    >>> sorted(kinds_of(find("vinegar"))), sorted(kinds_of(find("grandad's chlorine stuff")))
    (['acid', 'peracid', 'vinegar'], ['chlorine', 'oxidiser'])
    >>> kinds_of(find("rice"))
    frozenset()
    """
    if not material.known:
        return frozenset(kind for one in _dangers_named(material.name) for kind in _kinds_by_table(one))
    return _kinds_by_table(material)


def _kinds_by_table(material: Material) -> frozenset[str]:
    if not material.known and is_unfit(material.name):
        return frozenset({"alcohol", "unfit"})
    return _kinds(material.roles, frozenset({material.id, material.written}))


@lru_cache(maxsize=1024)
def _kinds(roles: frozenset[str], ids: frozenset[str]) -> frozenset[str]:
    return frozenset(
        kind
        for kind, sign in datafiles.toml("catalogue/hazards.toml")["kinds"].items()
        if roles & set(sign.get("roles", ())) or ids & set(sign.get("materials", ()))
    )


@lru_cache(maxsize=4096)
def _dangers_named(name: str) -> tuple[Material, ...]:
    return tuple(danger.material for danger in dangers_in(name))


def meeting(one: Material, other: Material) -> Meeting | None:
    """What is known of two materials that must never meet, in either order; None where nothing speaks against it.

    Args:
        one: a material.
        other: another; the order does not matter.

    >>> meeting(find("javel"), find("spirits of salt")).harm
    'chlorine gas, which burns eyes and lungs'
    >>> meeting(find("bleach"), find("salt")).rule, meeting(find("salt"), find("water"))
    ('bleach-mixed', None)
    """
    if one.written == other.written:
        return None
    kinds, others = kinds_of(one), kinds_of(other)
    table = datafiles.toml("catalogue/hazards.toml")
    for row in table["never"]:
        if (row["one"] in kinds and row["with"] in others) or (row["one"] in others and row["with"] in kinds):
            return _meeting(row["rule"], row["harm"])
    for rule, advice in table["advice"].items():
        alone = [there for has, there in ((kinds, other), (others, one)) if advice.get("of") in has]
        if any(there.id not in advice["only_with"] for there in alone):
            return _meeting(rule, "")
    return None


def _meeting(rule: str, harm: str) -> Meeting:
    advice = datafiles.toml("catalogue/hazards.toml")["advice"][rule]
    return Meeting(rule, harm, advice.get("more", ""), advice["fix"])


def must_not_meet(one: Material, other: Material) -> bool:
    """True for two things that the table names as a danger together.

    Args:
        one: a material.
        other: another; the order does not matter.

    >>> must_not_meet(find("bleach"), find("vinegar")), must_not_meet(find("bleach"), find("salt"))
    (True, False)
    """
    found = meeting(one, other)
    return found is not None and bool(found.harm)


def harmless_phrases() -> tuple[str, ...]:
    """Words and phrases that look like a danger and are none.

    >>> "spirit level" in harmless_phrases()
    True
    """
    return tuple(datafiles.toml("catalogue/hazards.toml")["harmless"])


def dangers_in(text: str) -> list[Danger]:
    """Every dangerous thing that a text names, in order, in linear time; near misses of long names count.

    Args:
        text: any text, of any length.

    >>> [(one.said, one.material.written) for one in dangers_in("Javel, esprit de sel; a spirit level, chlorophyll")]
    [('Javel', 'sodium-hypochlorite'), ('esprit de sel', 'hydrochloric-acid')]
    """
    tokens = [(found.start(), found.end(), folded(found.group())) for found in _WORD.finditer(text)]
    return list(_dangers(tokens, text))


def _dangers(tokens: list[tuple[int, int, str]], text: str) -> Iterator[Danger]:
    at = 0
    known = _phrases()
    while at < len(tokens):
        words, name = _longest(tokens, at) if tokens[at][2] in known else (0, None)
        guessed = not words
        if not words:
            name = _like(tokens[at][2])
            words = 1
        if name is not None:
            start, end = tokens[at][0], tokens[at + words - 1][1]
            said = text[start:end]
            material = find(said) if name == _UNFIT else find(name)
            yield Danger(start, end, said, material, guessed)
        at += words


_UNFIT = "unfit alcohol"


def _longest(tokens: list[tuple[int, int, str]], at: int) -> tuple[int, str | None]:
    """How many words the longest phrase of the table takes here, and what it names: None for what is harmless."""
    for words, name in _phrases().get(tokens[at][2], ()):
        if len(words) <= len(tokens) - at and all(tokens[at + ahead][2] == word for ahead, word in enumerate(words)):
            return len(words), name
    return 0, None


@cache
def _phrases() -> dict[str, list[tuple[tuple[str, ...], str | None]]]:
    """Every phrase by its first word, the longest first; of two of a length the harmless one."""
    found: dict[tuple[str, ...], str | None] = {}

    def put(phrase: str, name: str | None) -> None:
        words = tuple(folded(word) for word in _WORD.findall(phrase))
        for form in (words, (*words[:-1], words[-1] + "s")):
            found.setdefault(form, name)

    for phrase in (*harmless_phrases(), *_harmless_names()):
        put(phrase, None)
    names = alcohol_names()
    for phrase in (*names.unfit, *names.unfit_words):
        put(phrase, _UNFIT)
    for phrase, name in danger_names().items():
        put(phrase, name)
    for material in _dangerous():
        for one in (material, *material.forms):
            for phrase in {one.name.partition("(")[0].strip(), *one.names} - _EVERYDAY:
                put(phrase, one.written)
    for phrase in (*names.spirits, *names.unnamed):
        put(phrase, "ethanol")
    phrases: dict[str, list[tuple[tuple[str, ...], str | None]]] = {}
    for words, meant in found.items():
        phrases.setdefault(words[0], []).append((words, meant))
    for options in phrases.values():
        options.sort(key=lambda option: -len(option[0]))
    return phrases


def _dangerous() -> list[Material]:
    return [material for material in materials().values() if _kinds_by_table(material) - _NOT_HEARD]


def _harmless_names() -> Iterable[str]:
    """Names of materials that are no danger, though a word of them is one: "boric acid", "bleached" flour."""
    for material in materials().values():
        for one in (material, *material.forms):
            if not _kinds_by_table(one) - _NOT_HEARD:
                yield from (name for name in (one.name, *one.names) if " " in name)


@cache
def _like(word: str) -> str | None:
    """What a single word is by how it begins or ends, or by a name that it is one slip of the hand from."""
    for key, begins, ends in _beginnings_and_ends():
        if word.startswith(begins) or (word.endswith(ends) and any(word.endswith(end) and word != end for end in ends)):
            return key
    if any(sign.isdigit() for sign in word) and any(sign.isalpha() for sign in word):
        plain = word.translate(_SCANNED)  # "b1each" of a scanner
        exact = next((name for words, name in _phrases().get(plain, ()) if words == (plain,)), None)
        return exact or (_like(plain) if plain.isalpha() else None)
    if len(word) < _SHORTEST_GUESS or not word.isalpha():
        return None
    slips = 2 if len(word) >= _LONG else 1
    near = process.extractOne(word, _guessable().get(word[0], ()), scorer=OSA.distance, score_cutoff=slips)
    return None if near is None else _phrases()[near[0]][-1][1]


@cache
def _beginnings_and_ends() -> list[tuple[str, tuple[str, ...], tuple[str, ...]]]:
    """Of each dangerous material how its names begin and how they end."""
    return [
        (str(key), tuple(map(folded, row.get("begins", ()))), tuple(map(folded, row.get("ends", ()))))
        for key, row in datafiles.toml("catalogue/hazards.toml")["names"].items()
    ]


@cache
def _guessable() -> dict[str, tuple[str, ...]]:
    """Names of one word, long enough to be misspelt, by their first letter; drinks and fuels are not guessed at."""
    names = {folded(name) for name in danger_names(heard_only=False)}
    names |= {name for key in _dangerous() for one in (key, *key.forms) for name in (one.name.lower(), *one.names)}
    found: dict[str, list[str]] = {}
    for name in sorted(names):
        options = _phrases().get(name, ())
        if len(name) >= _SHORTEST_GUESS and options and options[-1][0] == (name,) and options[-1][1] is not None:
            found.setdefault(name[0], []).append(name)
    return {letter: tuple(names) for letter, names in found.items()}
