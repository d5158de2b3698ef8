"""Where a long account is done: of list, talk, trial and recap, the stretch where most is poured one after another."""

import re
from collections.abc import Sequence
from dataclasses import dataclass

#: What is done within so many characters of where it begins is one doing, and each so many cost it a point.
_STRETCH, _POINT = 2_500, 700
#: So many characters before a name may stand what says that it comes now.
_BEFORE = 60
#: So many other things named within so many characters are a list, and not a doing.
_MANY, _CLOSE = 3, 90
#: A text that names its things more often than this is no account of anything.
_MOST = 300
#: What somebody says who is at it: "now the alcohol", "so here's the first cup", "and in goes the salt".
_NOW = re.compile(
    r"\b(?:now|next|then|first(?: up)?|here.?s|here (?:is|are|comes?|goes?)|in goes?|goes?|start with|with|i put"
    r"|that.?s|last thing,?|last(?: of all)?|finally),?"
    r"(?: (?:the|my|our|your|in|is|a|this|some|comes)){1,2}(?: \w+)? $"
    r"|\b(?:and|so),?(?: (?:the|my|our|your|in|this|comes)){1,2}(?: \w+)? $"  # "and a preservative" is of a list
)
_SOON = re.compile(r"\b(?:now|next|then|here.?s|in goes?|i.?m (?:gonna|going to))\b")
#: What cleans a vessel is none of the batch, nor is what stands on a label: "sixty per cent alcohol".
_ASIDE = re.compile(
    r"\b(?:rinse|wipe|wiping|clean|swill|swab|spritz|steril|write|wrote|sticker|label)\w*\b"
    r"|(?:\bper ?cent|%)(?: of)? ?$"
    r"|\b(?:half|a third|a quarter|a tenth|double|twice) (?:of )?(?:everything|it all|all of it)\b"
    r"|\blike (?:\w+ ){0,3}$"  # "like milk with water"
    # "let it down with a splash of warm water", if need be
    r"|\b(?:a|another|one more) (?:splash|dash|touch|glug|drop) (?:more )?of (?:warm |hot |cold |boiling |the )*$"
)


@dataclass(frozen=True, slots=True)
class Told:
    """A line named in a text at ``start``, and how much that looks like its pour: 0 listed, 1 named, 2 poured.

    ``target`` where something else goes into it: it stood there before.
    """

    line: int
    start: int
    score: float
    target: bool = False


def done_at(plain: str, told: Sequence[Told]) -> dict[int, Told]:
    """For each line of a long account the place where it is done; a line that is only listed is in none.

    >>> text = "you need salt and soap. " + "it rains a lot here. " * 30 + "now the soap goes in, then the salt."
    >>> told = [Told(0, text.index("salt"), 1.0), Told(1, text.index("soap"), 1.0)]
    >>> told += [Told(1, text.rindex("soap"), 2.0), Told(0, text.rindex("salt"), 2.0)]
    >>> [one.start > 100 for one in done_at(text, told).values()]
    [True, True]
    """
    if len(told) > _MOST:
        return {}
    poured = [(one, _worth(plain, one, told)) for one in told if one.score >= 1.0 and not _aside(plain, one)]
    best: dict[int, Told] = {}
    most = 0.0
    for at, (begin, _) in enumerate(poured):
        found: dict[int, tuple[float, Told]] = {}
        whole = 0.0
        for one, worth in poured[at:]:
            span = one.start - begin.start
            if span > _STRETCH:
                break
            before = found[one.line][0] if one.line in found else 0.0
            if worth <= before:
                continue
            found[one.line] = worth, one
            whole += worth - before
            if whole - span / _POINT > most:
                most = whole - span / _POINT
                best = {line: one for line, (_, one) in found.items()}
    return best


def _worth(plain: str, one: Told, told: Sequence[Told]) -> float:
    """How much it looks like a pour: more where it comes now, less in a list or where something goes into it."""
    before = _before(plain, one)
    comes = 1.5 if _NOW.search(before) else 0.5 if _SOON.search(before) else 0.0
    close = {other.line for other in told if abs(other.start - one.start) < _CLOSE} - {one.line}
    return one.score + comes - (1.5 if one.target else 0.0) - (1.0 if len(close) >= _MANY else 0.0)


def _aside(plain: str, one: Told) -> bool:
    """True for what only cleans or is written down: "wiped with a drop of the alcohol"."""
    return _ASIDE.search(_before(plain, one)) is not None


def _before(plain: str, one: Told) -> str:
    """What stands before it in its sentence."""
    return re.split(r"[.!?\n]", plain[max(0, one.start - _BEFORE) : one.start])[-1]
