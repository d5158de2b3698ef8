"""How a line goes in: in so many additions, slowly or in drops, until a look or a reading."""

import re
from dataclasses import dataclass
from functools import cache

from firkin.core.plan.clauses import Clause
from firkin.core.plan.numbers import NUMBERS, number_of
from firkin.core.plan.words import kinds, phrases

_NUMBER = rf"\d{{1,3}}|{'|'.join(sorted((re.escape(word) for word in NUMBERS), key=len, reverse=True))}"
_THIRDS = {"halves": 2, "thirds": 3, "quarters": 4}
#: "Until it clears" is a look; "until the soda is in" is none.
_UNTIL = re.compile(
    r"\b(?:until|till|'til)\s+(?!(?:\w+ ){0,4}(?:is|are|has gone|have gone|goes|went) in\b)"
    r"(?!(?:the|your|my|all the)\s*$|(?:the )?(?:next |\w+day\b|morning|evening|tomorrow|noon|night))([^,.;!\n]{3,60})"
)
_TIMES = re.compile(r"\b(\d{1,2}) ?[x×] ?\d|[x×] ?(\d{1,2}) (?:additions?|portions?|goes|lots|parts)\b")
#: A handful of something is an amount of it, and no way of adding it.
_OF = re.compile(r"\s*of\b(?! it)")
#: "Tip it over a few times" adds nothing.
_TURNED = re.compile(
    r"\b(?:tip|turn|roll|shake|swirl|rotate|invert|rinse|swill|stir|pump|press|wash|whisk|beat|fold|flip|spin)"
    r"(?:ed|s|ing)?\b"
)
#: "Split the salt into three and add it one part at a time".
_SPLIT = re.compile(
    rf"\b(?:split|divide)s? (?:[^,.;]{{0,40}}? )?(?:in|into) (?P<number>{_NUMBER})\b"
    r"(?=[^.;]{0,30}\b(?:add|pour|stir|put|at a time|each|one by one|one after)\b|,?\s*(?:and)?\s*$)"
)
#: "..., stir gently.": so it is stirred, and not how a thing goes in.
_STIRRED = re.compile(r"\b(?:stir|swirl|mix|whisk|shake|blend|fold|roll|turn|rock|tilt)(?:\w*ing)?(?: it)? $")
_NO_MORE = re.compile(r"\s*(?:[,.;:!)\n]|$|(?:and|until|till|for|so|to) )")
_NEAR = 40
_MOST = 60


@dataclass(frozen=True, slots=True)
class Manner:
    """How a line goes in. ``portions`` is 1 for at once, 0 for a little at a time."""

    portions: int = 1
    how: str = ""
    until: str = ""


def manner_of(plain: str, clause: Clause, start: int, end: int) -> Manner:
    """How what is named in a clause goes in, by its words from ``start`` to ``end``, which lie in it.

    >>> from firkin.core.plan.clauses import clauses_of
    >>> text = "stir in the soap flakes a handful at a time, 4 handfuls, till it is smooth."
    >>> manner_of(text, clauses_of(text)[0], 0, len(text))
    Manner(portions=4, how='', until='it is smooth')
    """
    until = _UNTIL.search(plain, start, end)
    return Manner(portions_in(plain, start, end), _how(plain, start, end), until[1].strip() if until else "")


def portions_in(plain: str, start: int, end: int) -> int:
    """In how many additions: 1 for at once, 0 for a little at a time.

    >>> portions_in("the alcohol in eight goes", 0, 25), portions_in("two handfuls of salt", 0, 20)
    (8, 1)
    """
    times = _TIMES.search(plain, start, end)
    if times is not None:
        return int(times[1] or times[2])
    split = _SPLIT.search(plain, start, end)
    if split is not None and 2 <= (many := int(number_of(split["number"]))) <= _MOST:
        return many
    for one in _counted().finditer(plain, start, end):
        unit, number = one["unit"], one["number"]
        if unit == "times" and _TURNED.search(plain, max(start, one.start() - _NEAR), one.start()):
            continue
        if number is None:
            if unit in _THIRDS and one["by"]:
                return _THIRDS[unit]
            continue
        many = int(number_of(number))
        bare = one["by"] is None and unit not in (
            "handfuls",
            "spoonfuls",
            "pinches",
            "bits",
            "goes",
            "additions",
            "portions",
        )
        if 2 <= many <= _MOST and not _OF.match(plain, one.end()) and not bare:
            return many
    return 0 if phrases("portions", "several").search(plain, start, end) else 1


def counted_off(plain: str, start: int, end: int) -> int:
    """How many additions somebody counts while they go in; 1 where nobody does.

    >>> told = "first cup, pour it in, shake. now the second cup."
    >>> counted_off(told, 0, len(told))
    2
    """
    found = {_ORDINALS[one[1]] for one in _ORDINAL.finditer(plain, start, end)}
    many = max(found, default=1)
    return many if found >= set(range(1, many + 1)) else 1


#: The first and the second of something that is poured, and no second of time.
_ORDINALS = {word: number for number, word in enumerate(("first", "second", "third", "fourth", "fifth", "sixth"), 1)}
_ORDINAL = re.compile(
    rf"\b({'|'.join(_ORDINALS)})[ ,]+(?:one|cup|cupful|half|lot|bit|go|jug|glass|portion|handful|spoon|spoonful|scoop|"
    r"part|lit(?:re|er)|pint|quarter|third|addition|batch|about|and|,|\.)"
)


@cache
def _counted() -> re.Pattern[str]:
    """A number of portions: "in eight goes", "by thirds", "6 handfuls"."""
    units = "|".join(kinds("portions")["each"])
    return re.compile(
        rf"(?P<by>\b(?:in|by|over|as)\s+(?:about\s+)?)?(?:\b(?P<number>{_NUMBER})\s+)?"
        rf"(?:(?:equal|small|even|little|separate|good)\s+)?\b(?P<unit>{units})\b"
    )


def portion_words() -> frozenset[str]:
    """The words for a portion, in which a thing goes in: no names of things.

    >>> {"goes", "handfuls"} <= portion_words()
    True
    """
    return frozenset(re.findall(r"[a-z]+", " ".join(kinds("portions")["each"])))


def _how(plain: str, start: int, end: int) -> str:
    for how in ("dropwise", "slowly"):
        for one in phrases("how", how).finditer(plain, start, end):
            stirred = _STIRRED.search(plain, max(start, one.start() - _NEAR), one.start())
            if stirred is None or _NO_MORE.match(plain, one.end()) is None:
                return how
    return ""
