"""A text cut into sentences and clauses, each with its place."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from firkin.core.plan.words import words

#: Words that are cut short and end no sentence with their full stop.
_SHORT = frozenset(
    {
        *("c", "tbsp", "tsp", "oz", "fl", "ml", "l", "g", "kg", "lb", "lbs", "pt", "qt", "gal", "hr", "hrs", "sec"),
        *("approx", "sep", "ca", "no", "nr", "vol", "max", "min", "dist", "dest", "aq", "glyc", "incl", "st", "z", "b"),
        "bzw",
    }
)
_LAST_WORD, _LONGEST_SHORT = re.compile(r"(\w+)$"), 12
_STOP = re.compile(r"[.!?;\n]+")
#: Where one thing to do ends and the next begins within a sentence.
_BETWEEN = re.compile(
    r"(?:,\s*)?\b(?:and\s+)?then\b|\bok(?:ay)?,? so\b|\bright,? so\b|\bwright\b|→|;|\bonly then\b"
    r"|\bbut (?=then|first)|\s[-–—]\s(?=[^\W\d])"
    r"|,?\s+\band (?=(?:let|leave|give|cover|close|bottle|mix|shake|walk|melt|put|pour|add|top|fill|rest|stand|store"
    r"|stir|whisk|the \w+(?: \w+)? (?:last|first|goes|go))\b)"
)


@dataclass(frozen=True, slots=True)
class Clause:
    """A clause from ``start`` to ``end``, in the sentence of that number, which runs from ``first`` to ``last``."""

    start: int
    end: int
    sentence: int
    first: int
    last: int


#: A sentence longer than this is dictation without a stop, and is cut at a comma or between words.
_LONGEST = 900


def _in_lengths(plain: str, start: int, end: int) -> Iterator[tuple[int, int]]:
    """A stretch in pieces that are not too long."""
    while end - start > _LONGEST:
        cut = max(
            plain.rfind(",", start + _LONGEST // 2, start + _LONGEST),
            plain.rfind(" ", start + _LONGEST // 2, start + _LONGEST),
        )
        cut = cut + 1 if cut > 0 else start + _LONGEST
        yield start, cut
        start = cut
    yield start, end


def sentences_of(plain: str) -> Iterator[tuple[int, int]]:
    """Where each sentence of a text begins and ends, its stop included.

    >>> [("Add 1.5 c. water. Stir!")[a:b] for a, b in sentences_of("add 1.5 c. water. stir!")]
    ['Add 1.5 c. water.', ' Stir!']
    """
    start = 0
    for stop in _STOP.finditer(plain):
        if stop.group() == ".":
            after = plain[stop.end() : stop.end() + 1]
            before = _LAST_WORD.search(plain, max(start, stop.start() - _LONGEST_SHORT), stop.start())
            if (after and not after.isspace()) or (before is not None and before[1] in _SHORT):
                continue
        if plain[start : stop.end()].strip(" .!?;\n"):
            yield from _in_lengths(plain, start, stop.end())
        start = stop.end()
    if plain[start:].strip():
        yield from _in_lengths(plain, start, len(plain))


@lru_cache(maxsize=4)
def clauses_of(plain: str) -> tuple[Clause, ...]:
    """The clauses of a text in small letters.

    Args:
        plain: the text in small letters, sign for sign as long as what was written.

    >>> text = "the gel goes in first then pour the alcohol in, slowly. leave it overnight."
    >>> [text[one.start:one.end].strip() for one in clauses_of(text)]
    ['the gel goes in first', 'then pour the alcohol in, slowly.', 'leave it overnight.']
    """
    found = []
    for number, (first, last) in enumerate(sentences_of(plain)):
        start = first
        for between in _BETWEEN.finditer(plain, first, last):
            if plain[start : between.start()].strip(" ,"):
                found.append(Clause(start, between.start(), number, first, last))
            start = between.start()
        if plain[start:last].strip(" ,.") or not found:
            found.append(Clause(start, last, number, first, last))
    return tuple(found)


#: "The gum goes in, and mixing, you see?" asks nothing.
_ONLY_TAGGED = re.compile(
    r",\s*(?:and\s+)?(?:you see|see(?: that| it)?|right|ok(?:ay)?|huh|eh|yes|no|yeah|you know|isn.?t it|all right)"
    r"\s*\?\s*$"
)


def told_of(plain: str, clause: Clause) -> bool:
    """True for a question, and for what is told of other times and people: nothing is done by it.

    Args:
        plain: the text in small letters, sign for sign as long as what was written.
        clause: one of clauses_of(plain).

    >>> text = "last time i let it stand four days."
    >>> told_of(text, clauses_of(text)[0])
    True
    """
    return _told(plain[clause.first : clause.last])


@lru_cache(maxsize=512)
def _told(sentence: str) -> bool:
    asked = sentence.rstrip().endswith("?") and _ONLY_TAGGED.search(sentence) is None
    return asked or words("story").search(sentence) is not None


#: "When they are gone put in the soap": behind two words or more, and not "once you put in ...".
_DONE_THEN = re.compile(
    r"(?P<before>\w+ (?!(?:you|i|we|they|he|she|it|to|and|or|not|before|who|is|are|can|must|should|will) )\w+) "
    r"(?:put|add|pour|tip|throw|drop|stir|whisk|mix)(?: in(?:to)?)? (?:the|your|a|an|all|half|one|two|\d)"
)


#: "After the soda comes the borax": the borax goes in then.
_AFTER_IT = re.compile(
    r"after (?:the |your |my )?(?:\w+ ){1,3}?(?=(?:comes?|goes) (?:in )?(?:the|your|my|\d|an?|half)\b)"
)


def conditions_of(plain: str, clause: Clause) -> list[tuple[int, int]]:
    """The parts of a clause that say when, from "once" or "until" to the next comma, or to what is done then."""
    found = []
    for one in words("condition").finditer(plain, clause.start, clause.end):
        comma = plain.find(",", one.end(), clause.end)
        end = comma if comma >= 0 else clause.end
        done = _DONE_THEN.search(plain, one.end(), end)
        after = _AFTER_IT.match(plain, one.start(), end)
        end = after.end() if after is not None else end if done is None else done.end("before")
        found.append((one.start(), end))
    return found
