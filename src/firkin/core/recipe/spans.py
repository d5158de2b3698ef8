"""Spans: the words and signs of a text, each with its place and what it may be."""

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cache
from itertools import chain
from typing import Any

from rapidfuzz import process
from rapidfuzz.distance import OSA, Levenshtein

from firkin.core import datafiles
from firkin.core.catalogue import Material, alcohol_names, harmless_phrases, names_of_materials
from firkin.core.measures import spellings

WORD = re.compile(r"[^\W\d_]+(?:'[^\W\d_]+)*|\d+(?:[.,]\d+)*|[½¼¾⅐⅑⅒⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞]|\.{2,}|…|-{2,}|\S")
#: What a span can be, the likeliest first: where a word does several things, what stands around it decides.
_LETTERS = re.compile(r"[^\W\d_]{4,}")
#: Spellings nearer than this are one slip of the hand apart, or two in a long word.
_NEAR = 0.79
#: A word of four letters is guessed at only where more of a name follows it: "aleo vera".
_SHORTEST_GUESS = 4
_NEAR_SHORT = 0.74
#: Single letters and short words that are units only behind a number.
_AFTER_NUMBER = frozenset(
    {
        "l",
        "g",
        "c",
        "t",
        "h",
        "d",
        "p",
        "f",
        "lt",
        "lit",
        "mil",
        "min",
        "sec",
        "gm",
        "tbl",
        "pt",
        "fg",
        "part",
        "parts",
        "el",
        "tl",
    }
)


#: What is set off with triethanolamine, "TEA" for short, and not with the leaves: acid polymers (common practice).
_OF_TEA = re.compile(r"[ -](?:strainer|towel|bag|light|cup|pot|lea[fv]|time|tree|cosy|spoon|urn|break|candle)")
_NEUTRALISED = re.compile(r"\bcarbomer|\bcrosspolymer|\bacrylate|\bneutrali[sz]")


@dataclass(frozen=True, slots=True)
class Span:
    """A piece of a text from ``start`` to ``end``: its kind, what it comes to, and what else it may be."""

    start: int
    end: int
    kind: str
    text: str
    value: Any = None
    also: Mapping[str, Any] = field(default_factory=dict)
    guessed: bool = False

    def may_be(self, kind: str) -> bool:
        """True where it is of a kind, or may be."""
        return kind == self.kind or kind in self.also

    def as_(self, kind: str) -> Any:
        """What it comes to as that kind."""
        return self.value if kind == self.kind else self.also.get(kind)


Phrases = dict[str, list[tuple[tuple[str, ...], str, Any]]]


def words_of(kind: str) -> tuple[str, ...]:
    """The words of a list in words.toml."""
    return tuple(datafiles.toml("recipe/words.toml")["language"][kind])


def _tokens(phrase: str) -> tuple[str, ...]:
    return tuple(word for word in WORD.findall(phrase.lower()) if word not in "-.") or (phrase,)


@cache
def _phrases() -> Phrases:
    """Every phrase by its first word, the longest first."""
    table = datafiles.toml("recipe/words.toml")
    names = alcohol_names()
    called = {*names_of_materials(), *names.spirits, *names.unnamed, *names.unfit, "soap", "soaps"} - {"tea", "teas"}
    meanings: Iterable[tuple[str, str, Any]] = chain(
        ((name, "material", name) for name in sorted(called)),
        ((word, "number", float(value)) for word, value in table["numbers"].items()),
        ((word, "fraction", float(value)) for word, value in table["fractions"].items()),
        ((name, "unit", unit) for name, unit in spellings().items() if unit[0] != "%"),
        ((word, kind, word) for kind, words in table["does"].items() for word in words),
        ((word, "qualifier", word) for word in (*words_of("qualifies"), *words_of("something_else"))),
        ((word, "plain", word) for word in (*words_of("plain"), *harmless_phrases())),
    )
    found: dict[tuple[str, ...], dict[str, Any]] = {}
    for phrase, kind, value in meanings:  # the first meaning of a kind is kept
        found.setdefault(_tokens(phrase), {}).setdefault(kind, value)
    phrases: Phrases = {}
    for words, kinds in found.items():
        (first, value), *others = sorted(kinds.items(), key=lambda kind: _RANK.get(kind[0], 50))
        phrases.setdefault(words[0], []).append((words, first, (value, dict(others))))
    for options in phrases.values():
        options.sort(key=lambda option: -len(option[0]))
    return phrases


_RANK = {
    kind: rank
    for rank, kind in enumerate(
        (
            "material",
            "number",
            "fraction",
            "unit",
            "ware",
            "product",
            "not",
            "have",
            "heat",
            "add",
            "top_up",
            "counted",
            "container",
        )
    )
} | {"qualifier": 90, "plain": 99}


@cache
def _words_known() -> frozenset[str]:
    return frozenset(word for phrase in _phrases().values() for words, *_ in phrase for word in words)


@cache
def _words_of_names() -> tuple[str, ...]:
    """Words of the names of materials and units, long enough to be misspelt."""
    shortest = {"material": 4, "unit": 6}
    named = ((words, kind) for options in _phrases().values() for words, kind, _ in options if kind in shortest)
    long = {word for words, kind in named for word in words if len(word) >= shortest[kind]}
    return tuple(sorted(word for word in long if _LETTERS.fullmatch(word)))


@cache
def ordinary_words() -> frozenset[str]:
    """Words of every day that only look like a misspelt name (ordinary.txt): alone they are never taken for one.

    >>> "alone" in ordinary_words(), "glycerinne" in ordinary_words()
    (True, False)
    """
    lines = datafiles.text("recipe/ordinary.txt").splitlines()
    return frozenset(word for line in lines if not line.startswith("#") for word in line.split())


@cache
def meant(word: str) -> str | None:
    """The word of a material's or a unit's name that a misspelt word is nearest to, if one is near.

    >>> meant("alchohol"), meant("glycerinne"), meant("neighbour")
    ('alcohol', 'glycerine', None)
    """
    if len(word) < _SHORTEST_GUESS or word in _words_known() or word.rstrip("s") in _words_known():
        return None
    cutoff = _NEAR if len(word) > _SHORTEST_GUESS else _NEAR_SHORT
    alike = _words_by_letter().get(word[0], ())
    if process.extractOne(word, alike, scorer=OSA.normalized_similarity, score_cutoff=cutoff) is None:
        return None  # as of most words: only where one begins alike, it may be the nearest of all
    near = process.extractOne(word, _words_of_names(), scorer=OSA.normalized_similarity, score_cutoff=cutoff)
    return near[0] if near is not None and near[0][0] == word[0] else None


@cache
def _words_by_letter() -> dict[str, tuple[str, ...]]:
    found: dict[str, list[str]] = {}
    for word in _words_of_names():
        found.setdefault(word[0], []).append(word)
    return {letter: tuple(words) for letter, words in found.items()}


def own_phrases(own: tuple[Material, ...]) -> Phrases:
    """The names of a workshop's own materials, as phrases."""
    phrases: Phrases = {}
    for material in own:
        words = _tokens(material.name)
        phrases.setdefault(words[0], []).append((words, "material", (material.name, {})))
    return phrases


def spans_of(text: str, written: str, start: int, end: int, own: Phrases | None = None) -> list[Span]:
    """The spans of a stretch of ``text``, which is ``written`` in small letters and plain signs, place for place.

    >>> [(span.kind, span.text) for span in spans_of("2 cups aloe gel", "2 cups aloe gel", 0, 15)]
    [('figure', '2'), ('unit', 'cups'), ('material', 'aloe gel')]
    """
    tokens = [(found.start(), found.end(), found.group()) for found in WORD.finditer(text, start, end)]
    return list(_read(tokens, text, written, own or {}))


def _read(tokens: list[tuple[int, int, str]], text: str, written: str, own: Phrases) -> Iterator[Span]:
    at, known = 0, _phrases()
    while at < len(tokens):
        begin, stop, word = tokens[at]
        found = _longest(tokens, at, own[word]) if word in own else None
        if found is None and word in known:
            found = _longest(tokens, at, known[word])
        guess = None
        if found is None and word[0].isalpha():
            guess = meant(word)
            found = _longest(tokens, at, known.get(guess, ()), guess) if guess else None
            everyday = len(word) == _SHORTEST_GUESS or word in ordinary_words()
            if found is not None and everyday and found[2] == at + 1:
                guess, found = None, None
        if found is None:
            kind = (
                "figure"
                if word[0].isdigit() or word[0] in "½¼¾⅐⅑⅒⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞"
                else ("word" if len(word) > 1 else "plain")
                if word[0].isalpha()
                else "sign"
            )
            yield Span(begin, stop, kind, word)
            at += 1
            continue
        kind, (value, others), after, slipped = found
        stop = tokens[after - 1][1]
        said = text[begin:stop]
        if kind == "who" and written[begin:stop].lower().split()[-1] == "who" and "WHO" not in written[begin:stop]:
            kind, value = "plain", "who"
        if word == "tea" and after == at + 1 and ("TEA" in written[begin:stop] or _neutralises(text, stop)):
            kind, value = "material", "tea"
        yield Span(begin, stop, kind, said, value, others, bool(guess) or slipped)
        at = after


def _neutralises(text: str, end: int) -> bool:
    """True where the "tea" that ends there is triethanolamine: beside an acid polymer, and no strainer or towel."""
    return _NEUTRALISED.search(text) is not None and _OF_TEA.match(text, end) is None


def _longest(
    tokens: list[tuple[int, int, str]], at: int, options: Any, first: str | None = None
) -> tuple[str, Any, int, bool] | None:
    """The longest phrase that begins at a token: its kind, its value, the token behind it; was a word misspelt?"""
    for words, kind, value in options:
        after, slipped = at + 1, first is not None
        for wanted in words[1:]:
            while after < len(tokens) and tokens[after][2] in "-." and tokens[after][0] == tokens[after - 1][1]:
                after += 1
            if after >= len(tokens):
                break
            word = tokens[after][2]
            if word != wanted:
                if (
                    kind != "material"
                    or len(word) < 4
                    or Levenshtein.distance(word, wanted) > 1
                    or word in _words_known()
                ):
                    break
                slipped = True
            after += 1
        else:
            if after > at + 1 or words[0] not in _AFTER_NUMBER or _behind_number(tokens, at):
                return kind, value, after, slipped
    return None


def _behind_number(tokens: list[tuple[int, int, str]], at: int) -> bool:
    before = next(
        (word for _, _, word in reversed(tokens[max(0, at - 3) : at]) if word not in ("-", ".", "(", ",", "|", "of")),
        "",
    )
    return bool(before) and (before[0].isdigit() or before[0] in "½¼¾⅓⅔⅛°" or before in NUMBER_WORDS)


#: Words that are numbers, or stand before what is counted.
NUMBER_WORDS = frozenset(
    {
        *datafiles.toml("recipe/words.toml")["numbers"],
        *datafiles.toml("recipe/words.toml")["fractions"],
        "a",
        "an",
        "per",
        "each",
        "every",
        "hundred",
        "more",
        "heaped",
        "level",
    }
)
