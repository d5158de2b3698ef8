"""What is named and may not be meant: taken back whole further on ("scratch the borax"), another choice ("or 80 g of
flakes"), what something else stands in for ("instead of 50 g borax"). It is asked about.
"""

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace

from firkin.core.catalogue import find
from firkin.core.recipe.corrections import WELL, said_in
from firkin.core.recipe.recipe import HeardLine, Recipe

_NAME = r"(?:(?:the|that|my|your|any)\s+)?(?P<name>[^\W\d_][^\W_]*(?:[ -][^\W_]+){0,3}?)"
_ANY_MORE = r"any ?more|any longer|after all"
_END = r"(?=\s*(?:[.,;:!?)…\n–—-]|$))"
_AFTER_ALL = (
    rf"(?:\s+(?:{_ANY_MORE}|again|altogether|entirely|completely|this time|in this one|now|from now on|out))?{_END}"
)
_OUT = (
    r"(?:scratch|forget|drop|skip|leave out|leave off|omit|take out|ditch|lose|cut out|strike|ignore|never mind"
    r"|cross out|miss out)"
)
_I_DO_NOT = (
    r"(?:i|we)(?:'ve| have)? (?:since )?(?:(?:don't|do not|no longer|never)(?: actually)? "
    r"(?:use|put in|bother with|add|take)|stopped using|left out|dropped|gave up(?: on)?|took out|skip|leave out)"
)
_IT_IS_OUT = (
    r"(?:can go|is out|comes out|stays out|isn't needed|is not needed|isn't in it|doesn't go in|does not go in)"
)
_FORMS = tuple(
    re.compile(WELL + form + _AFTER_ALL, re.IGNORECASE)
    for form in (
        rf"(?:just |please )?{_OUT}(?: about)?\s+{_NAME}",
        rf"(?:(?:i|we) |just |please )?(?:take|cut|cross|leave)\s+{_NAME}\s+(?:back |off )?out",
        rf"{_I_DO_NOT}\s+{_NAME}",
        rf"(?:don't|do not|no need to) (?:use|put in|put|add|bother with)\s+{_NAME}(?:\s+in)?\s+(?:{_ANY_MORE})",
        rf"{_NAME}\s+{_IT_IS_OUT}",
    )
)
_NO = re.compile(
    rf"(?:(?:oh|and|but|so|sorry|edit|correction|actually|wait|no)[,:.!]*\s+){{1,4}}(?:no|without(?: the)?)\s+"
    rf"{_NAME}{_AFTER_ALL}",
    re.IGNORECASE,
)
#: Without one of these nothing is taken back.
_HINTS = (
    *("scratch", "forget", "drop", "skip", "leav", "left", "omit", "tak", "took", "ditch", "lose", "cut", "strike"),
    *(
        "ignore",
        "never",
        "cross",
        "miss out",
        "don't",
        "do not",
        "no longer",
        "stopped",
        "gave up",
        "no need",
        "can go",
    ),
    *("is out", "comes out", "stays out", "isn't", "is not", "doesn't", "does not", "no ", "without"),
)


def withdrawn(recipe: Recipe, plain: str) -> Recipe:
    """The recipe with what is taken back further on marked: whether it goes in, only its maker can say.

    >>> from firkin.core.recipe.reader import read_recipe
    >>> [line.claims.talked for line in read_recipe("Water 1 L, borax 50 g. Mix. Scratch the borax.").lines]
    [False, True]
    """
    taken = list(_taken_out(plain))
    doubtful = [_is_taken(line, taken) or _is_a_choice(recipe.lines, at, plain) for at, line in enumerate(recipe.lines)]
    if not any(doubtful):
        return recipe
    lines = (
        replace(line, claims=replace(line.claims, talked=True)) if doubt else line
        for line, doubt in zip(recipe.lines, doubtful, strict=True)
    )
    return replace(recipe, lines=tuple(lines))


def _taken_out(plain: str) -> Iterator[tuple[int, str]]:
    """Where what is taken back, and what it is."""
    for _, one in said_in(plain, _HINTS, (*_FORMS, _NO)):
        yield one.start(), find(one["name"]).written


def _is_taken(line: HeardLine, taken: list[tuple[int, str]]) -> bool:
    return any(line.at[0] < at and line.material.written == written for at, written in taken)


#: Right before a line that is another choice, and before one that something else stands in for.
_OR = re.compile(r"[,;(]?\s*\b(?:or(?: else)?|alternatively|otherwise|oder|ou)\b[,:]?\s*(?:(?:use|take|with)\s+)?$")
_INSTEAD = re.compile(r"\b(?:instead of|rather than|in place of)\s+(?:(?:the|my|your|a)\s+)?$")
_NEAR = 30


def _is_a_choice(lines: Sequence[HeardLine], at: int, plain: str) -> bool:
    """True for a measured line behind an "or" and another one, or behind "instead of"."""
    line = lines[at]
    if line.amount is None:
        return False
    before = plain[max(0, line.at[0] - _NEAR) : line.at[0]]
    if _INSTEAD.search(before):
        return True
    choice = _OR.search(before)
    if choice is None or not at or lines[at - 1].amount is None:
        return False
    gap = line.at[0] - len(before) + choice.start() - lines[at - 1].at[1]
    return gap <= 1 and lines[at - 1].material.written != line.material.written
