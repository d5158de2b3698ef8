"""Looking for a pattern only in a text that holds a word it cannot do without: most of them are rare.

Python's own engine tries a pattern without regard to case at each place of a text. Whether a word is in it is known
a hundred times as fast.
"""

import re
from collections.abc import Iterator
from functools import cache, lru_cache
from re import _constants, _parser  # type: ignore[attr-defined]  # the standard library's reader of patterns
from typing import Any

#: A word shorter than this is in nearly every text.
_SHORTEST = 2


def seek(pattern: re.Pattern[str], text: str) -> Iterator[re.Match[str]]:
    """Every place of a text where a pattern is, as ``pattern.finditer``.

    >>> [one.group() for one in seek(re.compile("drop(?:wise|s)", re.IGNORECASE), "Add it Dropwise, 5 drops a time.")]
    ['Dropwise', 'drops']
    >>> list(seek(re.compile("drop(?:wise|s)", re.IGNORECASE), "All at once."))
    []
    """
    words = needed(pattern)
    if words is not None:
        lowered = _lowered(text)
        if not any(word in lowered for word in words):
            return iter(())
    return pattern.finditer(text)


@cache
def needed(pattern: re.Pattern[str]) -> frozenset[str] | None:
    """Words in small letters of which one is in all that a pattern finds; None where no such words are known.

    >>> sorted(needed(re.compile("(?:overnight|all night),?$")))
    ['all night', 'overnight']
    >>> needed(re.compile(r"[a-z]+")) is None
    True
    """
    return _of(_parser.parse(pattern.pattern, pattern.flags))


def _of(parts: Any) -> frozenset[str] | None:
    """Of a sequence: its surest part, the one whose shortest word is longest."""
    found: list[frozenset[str]] = []
    run = ""
    for does, what in [*parts, (None, None)]:
        if does is _constants.LITERAL:
            run += chr(what).lower()
            continue
        if len(run) >= _SHORTEST:
            found.append(frozenset({run}))
        run = ""
        inner = _inside(does, what)
        if inner is not None:
            found.append(inner)
    return max(found, key=lambda words: (min(map(len, words)), -len(words)), default=None)


def _inside(does: Any, what: Any) -> frozenset[str] | None:
    """Of a part that holds others."""
    if does is _constants.SUBPATTERN:
        return _of(what[-1])
    if does in (_constants.MAX_REPEAT, _constants.MIN_REPEAT, _constants.POSSESSIVE_REPEAT):
        return _of(what[2]) if what[0] else None
    if does is _constants.ATOMIC_GROUP:
        return _of(what)
    if does in (_constants.ASSERT,):
        return _of(what[1])
    if does is _constants.BRANCH:
        ways = [_of(way) for way in what[1]]
        return None if any(way is None for way in ways) else frozenset().union(*(way for way in ways if way))
    return None


@lru_cache(maxsize=2)
def _lowered(text: str) -> str:
    return text.lower()
